'use client';

import { useState } from 'react';

/** One number of a form: empty is off where that may be. */
export function useNumber(start: number | null, least: number, most: number, mayBeOff: boolean) {
  const [text, setText] = useState(start === null ? '' : String(start));
  const value = text.trim() === '' ? null : Number(text.replaceAll(',', ''));
  const bad = value === null ? !mayBeOff : !(value >= least && value <= most);
  return {
    text,
    setText,
    value,
    bad,
    says: `${mayBeOff ? 'Empty for none, or a' : 'A'} number from ${least} to ${most.toLocaleString('en-US')}`,
  };
}
export type NumberField = ReturnType<typeof useNumber>;

export function NumberInput({ f, label, now }: { f: NumberField; label: string; now?: string }) {
  return (
    <label className="block">
      <span className="block text-[13px] text-quiet">{label}</span>
      <input
        className="field num w-28"
        inputMode="decimal"
        value={f.text}
        placeholder="none"
        aria-invalid={f.bad}
        onChange={(e) => f.setText(e.target.value)}
      />
      {now && <span className="num ml-2 text-[13px] text-quiet">{now}</span>}
      {f.bad && <span className="block text-[13px]">⚠ {f.says}</span>}
    </label>
  );
}

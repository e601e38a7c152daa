'use client';

import { useState } from 'react';
import { type Exits, type TradeRecord, wrongExit } from '@/core/review';
import { PRICE_SCALE, parsePrice } from '@/core/units';

const NAMES = { stop: 'Planned stop', target: 'Planned target' } as const;

/** Where an imported trade was planned to end: prices that can be told beside the candles of its day. */
export function PlannedExits({ trade, keep }: { trade: TradeRecord; keep(change: Partial<Exits>): void }) {
  return (
    <div className="col-span-2 grid grid-cols-2 gap-2">
      <One trade={trade} which="stop" keep={keep} />
      <One trade={trade} which="target" keep={keep} />
    </div>
  );
}

function One({
  trade,
  which,
  keep,
}: {
  trade: TradeRecord;
  which: keyof Exits;
  keep(change: Partial<Exits>): void;
}) {
  const now = trade.exits?.[which] ?? null;
  const [text, setText] = useState(now === null ? '' : String(now / PRICE_SCALE));
  const at = text.trim() === '' ? null : parsePrice(text.trim());
  const wrong =
    text.trim() === '' ? null : at === null ? 'A price such as 5.20, or empty' : wrongExit(trade, which, at);
  return (
    <label>
      <span className="block text-quiet">{NAMES[which]}</span>
      <input
        className="field num w-full"
        inputMode="decimal"
        placeholder="none"
        value={text}
        aria-invalid={wrong !== null}
        onChange={(e) => setText(e.target.value)}
        onBlur={() => {
          if (wrong === null && at !== now) keep({ [which]: at });
        }}
      />
      {wrong && <span className="block">⚠ {wrong}</span>}
    </label>
  );
}

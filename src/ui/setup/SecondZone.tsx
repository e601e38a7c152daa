'use client';

import { useId, useMemo, useState } from 'react';
import { useSettings } from '../settings';

/** The zone of the second clock: typed, with the browser's own list to choose from. */
export function SecondZone() {
  const zone = useSettings((s) => s.secondZone);
  const set = useSettings((s) => s.set);
  const [text, setText] = useState<string | null>(null);
  const zones = useMemo(() => Intl.supportedValuesOf('timeZone'), []);
  const id = useId();
  const bad = text !== null && text !== '' && !zones.includes(text);
  return (
    <label className="flex items-baseline gap-2">
      <span>Zone</span>
      <input
        className="field w-56"
        list={id}
        placeholder="none, or Europe/Berlin"
        aria-invalid={bad}
        value={text ?? zone}
        onChange={(e) => {
          setText(e.target.value);
          if (e.target.value === '' || zones.includes(e.target.value)) set({ secondZone: e.target.value });
        }}
        onBlur={() => !bad && setText(null)}
      />
      <datalist id={id}>
        {zones.map((z) => (
          <option key={z} value={z} />
        ))}
      </datalist>
      {bad && <span className="text-[13px] text-quiet">No such zone; one is “Europe/Berlin”.</span>}
    </label>
  );
}

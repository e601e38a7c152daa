'use client';

import { useState } from 'react';
import { READY } from '@/core/library';
import type { SavedScript } from '@/store/settings';

/** Ready scripts in groups that follow the day: when each is used, what it risks; a copy is taken. */
export function Library({ take }: { take(made: Pick<SavedScript, 'name' | 'text' | 'tags'>): void }) {
  const [group, setGroup] = useState(READY[0]?.group ?? '');
  const shown = READY.find((g) => g.group === group);
  return (
    <div className="grid h-[440px] w-[680px] grid-cols-[180px_1fr]">
      <ul className="overflow-auto border-r border-line p-1.5" aria-label="Groups">
        {READY.map((g) => (
          <li key={g.group}>
            <button
              type="button"
              aria-pressed={g.group === group}
              className={`w-full rounded px-2 py-1 text-left hover:bg-line ${g.group === group ? 'bg-line font-semibold' : ''}`}
              onClick={() => setGroup(g.group)}
            >
              {g.group}
            </button>
          </li>
        ))}
      </ul>
      <ul className="overflow-auto p-2" aria-label={group}>
        {shown?.scripts.map((s) => (
          <li
            key={s.name}
            className="grid grid-cols-[1fr_auto] gap-x-3 border-b border-line py-1.5 last:border-0"
          >
            <b>{s.name}</b>
            <button
              type="button"
              className="btn px-2 py-0 text-[13px]"
              aria-label={`Take a copy of ${s.name}`}
              onClick={() => take({ name: s.name, text: s.text, tags: [group.toLowerCase()] })}
            >
              Take a copy
            </button>
            <pre className="num col-span-2 text-[13px] whitespace-pre-wrap text-quiet">{s.text}</pre>
            <span className="col-span-2 text-[13px]">
              {s.use} <span className="text-quiet">{s.risk}</span>
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}

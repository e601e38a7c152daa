'use client';

import { useRef, useState } from 'react';
import {
  type Arrangement,
  freeChart,
  PANEL_NAMES,
  PANELS,
  panelsOf,
  panelTab,
  SHIPPED,
} from '@/store/arrangement';
import { rearrange, shownOf } from '../arrangement';
import { download } from '../download';
import { chordName, NEXT_ARRANGEMENT } from '../hands/chords';
import { useHands } from '../hands/hands';
import { useSettings } from '../settings';

interface Props {
  add(panel: string): void;
  done(): void;
}
const small = 'btn px-2 py-0.5 text-[13px]';

/** While the Desk is being arranged: what can be added, named, copied, kept in a file, brought back. */
export function ArrangeBar({ add, done }: Props) {
  const second = useHands((s) => s.second);
  const shown = useSettings(shownOf);
  const all = useSettings((s) => s.arrangements);
  const set = useSettings((s) => s.set);
  const [trouble, setTrouble] = useState('');
  const file = useRef<HTMLInputElement>(null);
  const taken = [...panelsOf(shown.layout), ...panelsOf(shown.second)];
  const chart = freeChart(taken);
  const free = PANELS.filter((p) => p !== 'chart' && !taken.includes(p));
  const shipped = SHIPPED.find((a) => a.id === shown.id);
  const put = (a: Arrangement) => {
    set({ arrangements: [...all, a], arrangement: a.id });
    setTrouble('');
  };
  const read = async (f: File | undefined) => {
    if (!f) return;
    const { readArrangementFile } = await import('@/store/arrangement-file');
    const got = readArrangementFile(await f.text());
    if (!got.ok) return setTrouble(got.why);
    put({ ...got.arrangement, id: freeId(all), name: freeName(all, got.arrangement.name) });
  };
  return (
    <section
      className="panel flex flex-wrap items-center gap-1.5 px-3 py-1.5 text-[13px]"
      aria-label="Arrange the Desk"
    >
      <label className="flex items-center gap-1.5">
        Name
        <input
          className="field w-40 px-1.5 py-0.5"
          value={shown.name}
          maxLength={40}
          aria-invalid={shown.name.trim() === ''}
          onChange={(e) => rearrange((a) => ({ ...a, name: e.target.value || ' ' }))}
        />
      </label>
      <span className="flex items-center gap-1" role="group" aria-label="Add a panel">
        <span className="text-quiet">add</span>
        {chart && (
          <button type="button" className={small} onClick={() => add(chart)}>
            {panelTab(chart).title}
          </button>
        )}
        {free.map((p) => (
          <button key={p} type="button" className={small} onClick={() => add(p)}>
            {PANEL_NAMES[p]}
          </button>
        ))}
        {!chart && free.length === 0 && <span className="text-quiet">everything is there</span>}
      </span>
      <button
        type="button"
        className={small}
        aria-pressed={shown.trade}
        onClick={() => rearrange((a) => ({ ...a, trade: !a.trade }))}
      >
        trade on top
      </button>
      <button
        type="button"
        className={small}
        aria-pressed={shown.rack}
        onClick={() => rearrange((a) => ({ ...a, rack: !a.rack }))}
      >
        rack below
      </button>
      <button
        type="button"
        className={small}
        disabled={second}
        onClick={() => useHands.setState({ second: true })}
      >
        Second window
      </button>
      <button
        type="button"
        className={small}
        onClick={() => put({ ...shown, id: freeId(all), name: freeName(all, shown.name) })}
      >
        Copy
      </button>
      <button
        type="button"
        className={small}
        onClick={async () => {
          const { arrangementFile } = await import('@/store/arrangement-file');
          download(`${shown.name.trim() || 'arrangement'}.json`, 'application/json', arrangementFile(shown));
        }}
      >
        Export
      </button>
      <button type="button" className={small} onClick={() => file.current?.click()}>
        Import
      </button>
      <input
        ref={file}
        type="file"
        accept=".json,application/json"
        className="hidden"
        aria-label="File of an arrangement"
        onChange={(e) => {
          void read(e.target.files?.[0]);
          e.target.value = '';
        }}
      />
      {shipped && (
        <button type="button" className={small} onClick={() => rearrange(() => shipped)}>
          As it came
        </button>
      )}
      {!shipped && (
        <button
          type="button"
          className={small}
          onClick={() => {
            const left = all.filter((a) => a.id !== shown.id);
            set({ arrangements: left.length > 0 ? left : [...SHIPPED], arrangement: left[0]?.id ?? 'one' });
          }}
        >
          Delete
        </button>
      )}
      <button type="button" className={`${small} ml-auto font-semibold`} onClick={done}>
        Done
      </button>
      <p className="w-full text-[12px] text-quiet">
        Drag a tab beside or onto another panel; drag the gaps, or give them the focus and use the arrow keys;
        Delete closes the tab that has the focus. {chordName(NEXT_ARRANGEMENT)} goes to the next arrangement.
        {trouble !== '' && (
          <span className="ml-2 font-semibold text-down" role="alert">
            {trouble}
          </span>
        )}
      </p>
    </section>
  );
}

const freeId = (all: readonly Arrangement[]): string => {
  for (let n = 1; ; n++) if (!all.some((a) => a.id === `own-${n}`)) return `own-${n}`;
};
/** A name that no other has. */
function freeName(all: readonly Arrangement[], wanted: string): string {
  if (!all.some((a) => a.name === wanted)) return wanted;
  const base = wanted.replace(/ \d+$/, '').slice(0, 36);
  for (let n = 2; ; n++) if (!all.some((a) => a.name === `${base} ${n}`)) return `${base} ${n}`;
}

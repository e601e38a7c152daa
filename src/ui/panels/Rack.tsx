'use client';

import { Pencil } from 'lucide-react';
import dynamic from 'next/dynamic';
import { Fragment, useMemo, useState } from 'react';
import { keysInUse, rackShown } from '@/store/keys';
import type { SavedScript } from '@/store/settings';
import type { Peeked } from '@/worker/session/slices';
import { act, peekAt, usePeeks, useSession } from '../client';
import { chordName } from '../hands/chords';
import { useHands } from '../hands/hands';
import { PURPOSES } from '../primitives/purposes';
import { useSettings } from '../settings';
import { shortPeek } from '../trade/short-peek';

const RackEditor = dynamic(() => import('./RackEditor').then((m) => m.RackEditor), {
  ssr: false,
  loading: () => <section className="panel p-3 text-quiet">The rack is being opened.</section>,
});

/** The rack: scripts as buttons in rows, each with its key and what it would do at this moment. */
export function Rack() {
  const scripts = useSettings((s) => s.scripts);
  const rack = useSettings(rackShown);
  const racks = useSettings((s) => s.racks);
  const set = useSettings((s) => s.set);
  const [editing, setEditing] = useState(false);
  const rows = useMemo(() => {
    const byId = new Map(scripts.map((s) => [s.id, s]));
    return rack.rows.map((row) =>
      row.flatMap((b) => {
        const script = byId.get(b.script);
        return script ? [{ script, wide: b.wide, group: b.group }] : [];
      }),
    );
  }, [rack, scripts]);
  const peeks = usePeeks(rows.flat().map((b) => ({ text: b.script.text, symbol: null })));
  if (editing) return <RackEditor done={() => setEditing(false)} />;
  return (
    <section className="panel grid grid-cols-[1fr_auto] gap-1.5 p-1.5" aria-label="Rack">
      <div className="grid min-w-0 gap-1.5">
        {rows.every((row) => row.length === 0) && (
          <p className="px-1.5 py-1.5 text-quiet">The rack is empty. The pencil puts scripts on it.</p>
        )}
        {rows.map((row, k) => (
          <div key={k} className="flex min-w-0 gap-1.5">
            {row.map((b) => (
              <Fragment key={b.script.id}>
                {b.group && (
                  <span className="max-w-20 self-center truncate border-line border-l pl-1.5 text-[12px] text-quiet first:border-0">
                    {b.group}
                  </span>
                )}
                <RackButton
                  script={b.script}
                  wide={b.wide}
                  peeked={peeks?.find((p) => p.text === b.script.text)}
                />
              </Fragment>
            ))}
          </div>
        ))}
      </div>
      <div className="flex flex-col items-end gap-1">
        <button
          type="button"
          className="btn px-1.5 py-0.5 text-quiet"
          aria-label="Change the rack"
          onClick={() => setEditing(true)}
        >
          <Pencil size={14} aria-hidden />
        </button>
        {racks.length > 1 && (
          <div role="tablist" aria-label="Racks" className="flex gap-1">
            {racks.map((r) => (
              <button
                key={r.id}
                type="button"
                role="tab"
                aria-selected={r.id === rack.id}
                className="btn px-1.5 py-0 text-[12px]"
                data-on={r.id === rack.id}
                onClick={() => set({ rack: r.id })}
              >
                {r.name}
              </button>
            ))}
          </div>
        )}
      </div>
    </section>
  );
}

function RackButton({
  script,
  wide,
  peeked,
}: {
  script: SavedScript;
  wide: boolean;
  peeked: Peeked | undefined;
}) {
  const chord = useSettings((s) => keysInUse(s).keys.find((k) => k.script === script.id)?.chord ?? '');
  const keysOn = useSettings((s) => s.keysOn);
  const printed = useHands((s) => s.printed);
  const purpose = peeked?.purpose ?? 'see';
  const { color, sign } = PURPOSES[purpose];
  // A size button shows whether it is what the ticket is loaded with.
  const loaded = useSession((s) => purpose === 'size' && peeked?.sayBack[0] === s.desk?.loaded);
  return (
    <button
      type="button"
      className={`btn relative min-w-0 px-2 py-1 pl-3 text-left ${wide ? 'flex-[2]' : 'flex-1'} ${peeked?.problem ? 'border-dashed' : ''}`}
      title={peeked?.problem ?? undefined}
      data-on={loaded}
      aria-pressed={purpose === 'size' ? loaded : undefined}
      onClick={() => void act(script.text, 'buttons', script.name)}
      onMouseEnter={() =>
        useSession.getState().sayBack.kind === 'peek' && void peekAt(script.text, script.name)
      }
    >
      <span aria-hidden className="absolute inset-y-1 left-1 w-[3px] rounded" style={{ background: color }} />
      <span className="flex items-baseline gap-1.5">
        {chord && (
          <kbd
            className={`num rounded border px-1.5 font-bold ${keysOn ? 'border-focus text-focus' : 'border-line text-quiet line-through'}`}
          >
            {chordName(chord, printed)}
          </kbd>
        )}
        <span className="truncate font-semibold">{script.name}</span>
        <span aria-hidden className="ml-auto text-[12px]" style={{ color }}>
          {sign}
        </span>
      </span>
      <span className="num mt-0.5 block truncate text-[13px] text-quiet">{shortPeek(peeked)}</span>
    </button>
  );
}

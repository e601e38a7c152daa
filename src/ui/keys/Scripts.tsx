'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState } from 'react';
import { keysInUse, rackShown } from '@/store/keys';
import type { SavedScript } from '@/store/settings';
import { chordName } from '../hands/chords';
import { useHands } from '../hands/hands';
import { Choice } from '../primitives/Choice';
import { Pop } from '../primitives/Pop';
import { useSettings } from '../settings';
import { Library } from './Library';
import { Retired } from './Retired';
import { ScriptFiles } from './ScriptFiles';

type By = 'as made' | 'name' | 'key' | 'tag';
const ORDERS: readonly By[] = ['as made', 'name', 'key', 'tag'];
type Line = { kind: 'group'; name: string } | { kind: 'script'; script: SavedScript };

/** All scripts: searched, sorted, in groups by their first tag. */
export function Scripts({
  chosen,
  choose,
  add,
}: {
  chosen: string;
  choose(id: string): void;
  add(made: Pick<SavedScript, 'name' | 'text' | 'tags'>): void;
}) {
  const scripts = useSettings((s) => s.scripts);
  const keys = useSettings((s) => keysInUse(s).keys);
  const rack = useSettings(rackShown);
  const printed = useHands((s) => s.printed);
  const [find, setFind] = useState('');
  const [by, setBy] = useState<By>('as made');
  const [library, setLibrary] = useState(false);
  const chords = useMemo(() => new Map(keys.map((k) => [k.script, k.chord])), [keys]);
  const onRack = useMemo(() => new Set(rack.rows.flat().map((b) => b.script)), [rack]);
  const lines = useMemo(() => linesOf(scripts, chords, find, by), [scripts, chords, find, by]);
  const box = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => box.current,
    estimateSize: () => 30,
    overscan: 8,
  });
  return (
    <section className="panel flex min-h-0 flex-col" aria-label="Scripts">
      <h1 className="sr-only">Keys</h1>
      <div className="flex gap-1.5 p-1.5">
        <input
          className="field min-w-0 grow py-0.5"
          aria-label="Find a script"
          placeholder={`find in ${scripts.length} scripts`}
          value={find}
          onChange={(e) => setFind(e.target.value)}
        />
        <Choice<By>
          label="Order of the scripts"
          className="w-32 py-0.5"
          value={by}
          options={ORDERS.map((o) => [o, o] as const)}
          change={setBy}
        />
      </div>
      <Retired />
      <div ref={box} className="min-h-0 grow overflow-auto">
        {lines.length === 0 && (
          <p className="px-3 py-2 text-quiet">
            {scripts.length === 0 ? 'No scripts yet.' : `No script has “${find}” in its name, tags or text.`}
          </p>
        )}
        <ul className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map((item) => {
            const line = lines[item.index] as Line;
            return (
              <li
                key={item.key}
                className="absolute inset-x-0"
                style={{ height: item.size, transform: `translateY(${item.start}px)` }}
              >
                {line.kind === 'group' ? (
                  <span className="heading block px-3 pt-2">{line.name}</span>
                ) : (
                  <button
                    type="button"
                    aria-pressed={line.script.id === chosen}
                    onClick={() => choose(line.script.id)}
                    className={`flex h-full w-full items-center gap-2 px-3 text-left hover:bg-raised ${line.script.id === chosen ? 'bg-raised' : ''}`}
                  >
                    <kbd className="num w-16 shrink-0 truncate text-[13px] font-bold text-focus">
                      {chordName(chords.get(line.script.id) ?? '', printed) || '–'}
                    </kbd>
                    <span className="min-w-0 grow truncate">{line.script.name}</span>
                    <span className="shrink-0 text-[12px] text-quiet">
                      {onRack.has(line.script.id) ? 'rack' : ''}
                    </span>
                  </button>
                )}
              </li>
            );
          })}
        </ul>
      </div>
      <div className="flex gap-1.5 p-1.5">
        <button
          type="button"
          className="btn grow"
          onClick={() =>
            add({ name: 'New script', text: 'buy 100 at ask + 2c extended\n  stop 20c', tags: [] })
          }
        >
          New script
        </button>
        <Pop
          title="Library of ready scripts"
          label="Library"
          className="btn grow"
          open={library}
          onOpenChange={setLibrary}
        >
          <Library
            take={(made) => {
              setLibrary(false);
              add(made);
            }}
          />
        </Pop>
        <ScriptFiles />
      </div>
    </section>
  );
}

/** What is shown: those that have what is looked for, in their order, under their tags where that is asked. */
function linesOf(
  scripts: readonly SavedScript[],
  chords: ReadonlyMap<string, string>,
  find: string,
  by: By,
): Line[] {
  const wanted = find.trim().toLowerCase();
  const found = scripts.filter((s) =>
    `${s.name} ${s.tags.join(' ')} ${s.text}`.toLowerCase().includes(wanted),
  );
  const named = (a: SavedScript, b: SavedScript) => a.name.localeCompare(b.name);
  const key = (s: SavedScript) => chords.get(s.id) ?? '\uffff';
  if (by === 'name') found.sort(named);
  if (by === 'key') found.sort((a, b) => (key(a) < key(b) ? -1 : key(a) > key(b) ? 1 : named(a, b)));
  if (by !== 'tag') return found.map((script) => ({ kind: 'script', script }));
  const groups = new Map<string, SavedScript[]>();
  for (const s of found) {
    const name = s.tags[0] ?? 'without a tag';
    groups.set(name, [...(groups.get(name) ?? []), s]);
  }
  return [...groups]
    .sort(([a], [b]) => a.localeCompare(b))
    .flatMap(([name, list]): Line[] => [
      { kind: 'group', name },
      ...list.sort(named).map((script): Line => ({ kind: 'script', script })),
    ]);
}

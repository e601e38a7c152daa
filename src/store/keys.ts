// What is bound to which key and stands on which rack: questions and changes, as values.
import { LANGUAGE_VERSION } from '../core/language/index.ts';
import type { KeptRack, KeySet, SavedScript, Settings } from './settings.ts';

type Bound = Pick<Settings, 'scripts' | 'keySets' | 'keySet' | 'racks' | 'rack'>;

/** The set of keys in use. */
export const keysInUse = (s: Bound): KeySet =>
  s.keySets.find((k) => k.id === s.keySet) ?? (s.keySets[0] as KeySet);

/** The rack that is shown. */
export const rackShown = (s: Bound): KeptRack =>
  s.racks.find((r) => r.id === s.rack) ?? (s.racks[0] as KeptRack);

/** The key of a script in the set in use; '' for none. */
export const keyOf = (s: Bound, script: string): string =>
  keysInUse(s).keys.find((k) => k.script === script)?.chord ?? '';

/** The script at a key of the set in use. */
export function scriptAt(s: Bound, chord: string): SavedScript | undefined {
  const id = keysInUse(s).keys.find((k) => k.chord === chord)?.script;
  return id === undefined ? undefined : s.scripts.find((x) => x.id === id);
}

/** A script at another key of the set in use, or at none (''); whatever was at that key gives way. */
export const bound = (s: Bound, script: string, chord: string): Pick<Settings, 'keySets'> => ({
  keySets: s.keySets.map((set) =>
    set.id !== keysInUse(s).id
      ? set
      : {
          ...set,
          keys: [
            ...set.keys.filter((k) => k.script !== script && k.chord !== chord),
            ...(chord === '' ? [] : [{ chord, script }]),
          ],
        },
  ),
});

/** Whether a script stands on the rack that is shown. */
export const isOnRack = (s: Bound, script: string): boolean =>
  rackShown(s).rows.some((row) => row.some((b) => b.script === script));

/** The rack that is shown, changed. */
export const rackChanged = (
  s: Bound,
  change: (rows: KeptRack['rows']) => KeptRack['rows'],
): Pick<Settings, 'racks'> => ({
  racks: s.racks.map((r) => (r.id === rackShown(s).id ? { ...r, rows: change(r.rows) } : r)),
});

/** A script put onto the rack that is shown, at the end of its last row, or taken from it. */
export const onRack = (s: Bound, script: string, on: boolean): Pick<Settings, 'racks'> =>
  rackChanged(s, (rows) => {
    const others = rows.map((row) => row.filter((b) => b.script !== script));
    return on
      ? others.map((row, k) => (k === others.length - 1 ? [...row, { script, wide: false }] : row))
      : others;
  });

/** Where a script is used, in words. */
export const usesOf = (s: Bound, script: string, keyName: (chord: string) => string): string[] => [
  ...s.keySets.flatMap((set) =>
    set.keys.filter((k) => k.script === script).map((k) => `key ${keyName(k.chord)} of “${set.name}”`),
  ),
  ...s.racks
    .filter((r) => r.rows.some((row) => row.some((b) => b.script === script)))
    .map((r) => `rack “${r.name}”`),
];

/** Everything without a script: its keys and buttons go with it. */
export const withoutScript = (s: Bound, script: string): Pick<Settings, 'scripts' | 'keySets' | 'racks'> => ({
  scripts: s.scripts.filter((x) => x.id !== script),
  keySets: s.keySets.map((set) => ({ ...set, keys: set.keys.filter((k) => k.script !== script) })),
  racks: s.racks.map((r) => ({ ...r, rows: r.rows.map((row) => row.filter((b) => b.script !== script)) })),
});

const SIZES = ['size 100', 'size 200', 'size 500', 'size risk 0.5R', 'size risk 1R'];

/** The rack that is shown with a row of buttons that load the ticket; scripts for it that are there already are taken. */
export function withSizes(s: Bound, newId: () => string): Pick<Settings, 'scripts' | 'racks'> {
  const made = SIZES.flatMap((text): SavedScript[] =>
    s.scripts.some((x) => x.text.trim() === text)
      ? []
      : [{ id: newId(), name: text.replace('size ', ''), text, language: LANGUAGE_VERSION, tags: ['size'] }],
  );
  const scripts = [...s.scripts, ...made];
  const row = SIZES.map((text, k) => ({
    script: (scripts.find((x) => x.text.trim() === text) as SavedScript).id,
    wide: false,
    ...(k === 0 ? { group: 'size' } : {}),
  }));
  const taken = new Set(row.map((b) => b.script));
  return {
    scripts,
    ...rackChanged(s, (rows) => [...rows.map((r) => r.filter((b) => !taken.has(b.script))), row]),
  };
}

import fc from 'fast-check';
import { bound, keyOf, onRack, scriptAt, usesOf, withoutScript } from './keys.ts';
import { clashesOf, type FiledScript, readScriptFile, scriptFile, takenIn } from './script-file.ts';
import { DEFAULT_SETTINGS, readSettings, type SavedScript, type Settings } from './settings.ts';

const ids = () => {
  let n = 0;
  return () => `new-${n++}`;
};
const name = fc.oneof(
  fc.string({ minLength: 1, maxLength: 40 }),
  fc.constantFrom('Köpa hälften', '買い注文', 'اشترِ', '🦊 half off', '"quoted"', '__proto__', 'constructor'),
);
const script: fc.Arbitrary<Omit<SavedScript, 'id'>> = fc.record({
  name,
  text: fc.string({ minLength: 1, maxLength: 200, unit: 'binary' }),
  language: fc.constantFrom(1, 2),
  tags: fc.uniqueArray(fc.string({ minLength: 1, maxLength: 30 }), { maxLength: 4 }),
});

test('scripts that are exported and imported into nothing are the same, keys too, in any writing', () => {
  fc.assert(
    fc.property(fc.uniqueArray(script, { maxLength: 30, selector: (s) => s.name }), (list) => {
      const scripts = list.map((s, k) => ({ id: `s${k}`, ...s }));
      const keys = scripts.flatMap((s, k) => (k % 2 ? [{ chord: `Key${k}`, script: s.id }] : []));
      const found = readScriptFile(scriptFile(scripts, keys));
      if (!found.ok) throw new Error(found.why);
      const empty = {
        ...DEFAULT_SETTINGS,
        scripts: [],
        keySets: [{ id: 'a', name: 'A', keys: [] }],
        keySet: 'a',
      };
      const then = { ...empty, ...takenIn(empty, found.scripts, 'both', false, ids()) };
      const bare = (s: Pick<Settings, 'scripts' | 'keySets' | 'keySet' | 'racks' | 'rack'>) =>
        s.scripts.map(({ id, ...x }) => ({ ...x, key: keyOf(s, id) }));
      expect(bare(then)).toEqual(bare({ ...empty, scripts, keySets: [{ id: 'a', name: 'A', keys }] }));
    }),
    { numRuns: 200 },
  );
});

const filed = (over: Partial<FiledScript>): FiledScript => ({
  name: 'Flatten',
  text: 'flatten everything',
  tags: [],
  language: 1,
  key: '',
  ...over,
});

test('a clash of names or keys is told, and done as it is wished; what the trader has is never lost unasked', () => {
  const { scripts, keySets } = DEFAULT_SETTINGS;
  const file = [filed({ key: 'KeyQ' }), filed({ name: 'Fresh', key: 'KeyG' })];
  expect(clashesOf(file, scripts, keySets[0]?.keys ?? [])).toEqual({
    names: ['Flatten'],
    keys: [{ chord: 'KeyQ', now: 'Buy 1R', wants: 'Flatten' }],
  });
  const after = (clash: 'both' | 'replace' | 'skip', take: boolean) => ({
    ...DEFAULT_SETTINGS,
    ...takenIn(DEFAULT_SETTINGS, file, clash, take, ids()),
  });
  const textsOf = (s: Settings) => s.scripts.filter((x) => x.name === 'Flatten').map((x) => x.text);
  expect(textsOf(after('both', false))).toEqual(['flatten', 'flatten everything']);
  expect(textsOf(after('replace', false))).toEqual(['flatten everything']);
  expect(textsOf(after('skip', false))).toEqual(['flatten']);
  expect(scriptAt(after('both', false), 'KeyQ')?.name).toBe('Buy 1R');
  expect(scriptAt(after('both', true), 'KeyQ')?.text).toBe('flatten everything');
  expect(scriptAt(after('skip', true), 'KeyG')?.name).toBe('Fresh');
});

test.each([
  ['', 'no JSON'],
  ['<html>', 'no JSON'],
  ['[1,2]', 'no "format"'],
  ['{"name":"another program","hotkeys":[]}', 'no "format"'],
  ['{"format":"keen-fox-scripts","version":9,"scripts":[]}', 'version 9'],
  [
    '{"format":"keen-fox-scripts","version":1,"scripts":[{"name":"x","text":"flatten","language":99}]}',
    'version 99',
  ],
  ['{"format":"keen-fox-scripts","version":1,"scripts":[{"name":7}]}', 'scripts[0]'],
  ['{"format":"keen-fox-scripts","version":1,"scripts":{"length":1e9}}', 'scripts'],
  ['x'.repeat(8_000_001), '8 million'],
])('the file %.60s is refused in words', (text, says) => {
  const found = readScriptFile(text);
  expect(found).toMatchObject({ ok: false });
  expect(found.ok ? '' : found.why).toContain(says);
});

test('a key has one script and a script one key in a set, whatever is bound; a script that goes leaves nothing behind', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.tuple(fc.nat(10), fc.constantFrom('KeyA', 'KeyB', 'Mouse3', 'Alt+KeyA', ''), fc.boolean()),
        {
          maxLength: 40,
        },
      ),
      (moves) => {
        let s: Settings = DEFAULT_SETTINGS;
        for (const [n, chord, rack] of moves) {
          const id = DEFAULT_SETTINGS.scripts[n]?.id as string;
          s = { ...s, ...bound(s, id, chord) };
          s = { ...s, ...onRack(s, id, rack) };
          expect(keyOf(s, id)).toBe(chord);
          const keys = s.keySets[0]?.keys ?? [];
          expect(new Set(keys.map((k) => k.chord)).size).toBe(keys.length);
          expect(new Set(keys.map((k) => k.script)).size).toBe(keys.length);
          const buttons = s.racks[0]?.rows.flat().map((b) => b.script) ?? [];
          expect(new Set(buttons).size).toBe(buttons.length);
        }
        expect(s.keySets[1]).toBe(DEFAULT_SETTINGS.keySets[1]);
        const gone = DEFAULT_SETTINGS.scripts[0]?.id as string;
        const after = { ...s, ...withoutScript(s, gone) };
        expect(usesOf(after, gone, String)).toEqual([]);
        expect(JSON.stringify(after).includes(`"${gone}"`)).toBe(false);
      },
    ),
    { numRuns: 200 },
  );
});

// What was bound before there were sets and racks stays bound.
test('keys, rack and confirmations of earlier settings become a set, a rack, and one choice a source', async () => {
  const { keySets: _s, keySet: _k, racks: _r, rack: _n, ...others } = DEFAULT_SETTINGS;
  const mine = { id: 'mine', name: 'Mine', text: 'flatten', language: 2, chord: 'KeyJ', onRack: true };
  const now = await readSettings({
    ...others,
    scripts: [mine, { ...mine, id: 'other', chord: '', onRack: false }],
    confirm: { keys: false, buttons: true, drags: true },
  });
  expect(scriptAt(now, 'KeyJ')).toEqual({ id: 'mine', name: 'Mine', text: 'flatten', language: 2, tags: [] });
  expect(usesOf(now, 'mine', String)).toEqual(['key KeyJ of “Left hand”', 'rack “Day”']);
  expect(usesOf(now, 'other', String)).toEqual([]);
  expect(now.confirm).toEqual({
    keys: 'never',
    buttons: 'risk',
    ticket: 'risk',
    drags: 'always',
    pair: 'risk',
  });
  // Kept once as they are now, they stay.
  expect(await readSettings(structuredClone(now))).toEqual(now);
});

import 'fake-indexeddb/auto';
import { gzipSync } from 'node:zlib';
import fc from 'fast-check';
import { openDB } from 'idb';
import { tradeRecord } from '../../tests/trade-record.ts';
import { tagged, untagged } from '../core/formats/index.ts';
import { noRemark } from '../core/review/index.ts';
import { writeArchive } from './archive.ts';
import { type Names, PIECE } from './archive-places.ts';
import { checkArchive, layReady } from './archive-read.ts';
import { type Damaged, damagedText, findDamaged, setAside } from './damaged.ts';
import { idbStore } from './idb-store.ts';
import { canGiveBack, giveBack, settleIncoming, takeIncoming } from './incoming.ts';
import { openReview } from './review.ts';

const names = (n: string): Names => ({ 'keen-fox': n, 'keen-fox-rehearsals': `${n}-rehearsals` });
const attempt = (id: number) => ({
  id,
  day: { kind: 'own' as const, id: 'own 1' },
  from: id > 1 ? { attempt: id - 1, at: 36_000_000 } : null,
  reached: 40_000_000,
  net: 0,
  r: 0,
  trades: 1,
});
const trade = (id: number) =>
  tradeRecord({
    net: id,
    ref: `a${id}.1`,
    day: '["own","own 1"]',
    source: { kind: 'attempt', attempt: id, trade: 1, at: { opened: 35_000_000, closed: 36_000_000 } },
  });

/** A profile with some of everything. */
async function filled(n: string, attempts: number) {
  const store = await idbStore(n);
  for (let id = 1; id <= attempts; id++) {
    await store.begin(attempt(id), []);
    // The last has a log of more than one piece.
    const lines = Array.from({ length: id === attempts ? 2 * PIECE + 1 : 1 }, (_, k) => k + 1);
    const entry = (seq: number) => ({ seq, at: 35_000_000, happened: 0, input: null, events: [] });
    await store.append(id, lines.map(entry), [trade(id)]);
  }
  await store.keepSettings({ theme: 'dawn' });
  await store.keepOwnDay({ id: 'own 1', title: n, symbols: [] });
  const review = await openReview(n);
  await review.keepRemark({
    ref: 'a1.1',
    setup: 'gap',
    tags: [],
    grade: 'A',
    kept: true,
    broke: '',
    words: n,
  });
  await review.keepImport(
    { file: 'x.csv', made: '', executions: 2, trades: 1 },
    { changed: [], gone: [], fresh: [tradeRecord({ net: 9 })] },
  );
  await review.keepPage({ of: '2027-03-09', words: n });
  return { store, review };
}
const all = async (n: string) => {
  const db = await openDB(n);
  const out: Record<string, unknown> = {};
  for (const s of db.objectStoreNames) out[s] = [await db.getAllKeys(s), await db.getAll(s)];
  db.close();
  return out;
};

test('an archive moved to a clean profile is everything again, record for record', async () => {
  await filled('one', 3);
  const parts: number[] = [];
  const archive = await writeArchive('2026-01-02 03:04', (p) => parts.push(p), names('one'));
  expect(parts.at(-1)).toBe(1);
  expect(await checkArchive(archive)).toMatchObject({
    made: '2026-01-02 03:04',
    counts: { attempts: 3, entries: 2 * PIECE + 3, trades: 4, remarks: 1 },
  });
  await layReady(archive, 'replace', () => {}, names('two'));
  expect(await takeIncoming(names('two'))).toBe('replace');
  expect(await all('two')).toEqual(await all('one'));
  expect(await takeIncoming(names('two'))).toBeNull();
});

test('an archive put beside what is there gets numbers of its own; choices and words that are there stay', async () => {
  await filled('mine', 2);
  await filled('theirs', 3);
  await layReady(await writeArchive('', () => {}, names('theirs')), 'merge', () => {}, names('mine'));
  await takeIncoming(names('mine'));
  const review = await openReview('mine');
  expect((await review.trades()).map((t) => t.ref).sort()).toEqual([
    'a1.1',
    'a2.1',
    'a3.1',
    'a4.1',
    'a5.1',
    'i1.1',
  ]);
  const moved = (await review.trades()).find((t) => t.ref === 'a5.1');
  expect(moved).toMatchObject({ net: 30_000, day: '["own","own 2"]', source: { attempt: 5, trade: 1 } });
  expect((await review.attempts()).map((a) => [a.id, a.from?.attempt ?? null, a.day.id])).toEqual([
    [1, null, 'own 1'],
    [2, 1, 'own 1'],
    [3, null, 'own 2'],
    [4, 3, 'own 2'],
    [5, 4, 'own 2'],
  ]);
  expect((await review.remarks()).map((r) => [r.ref, r.words])).toEqual([
    ['a1.1', 'mine'],
    ['a3.1', 'theirs'],
  ]);
  expect(await review.page('2027-03-09')).toBe('mine');
  expect((await review.log(4)).length).toBe(1);
});

const EXECUTION = {
  id: '1',
  date: '2027-03-09',
  at: 35_000_000,
  side: 'buy',
  qty: 1,
  price: 1,
  better: 0,
  costs: tradeRecord({ net: 0 }).costs,
};
const HEAD = '{"format":"keen-fox archive","version":1,"made":""}';
const blob = (lines: readonly string[]) => new Blob([gzipSync(`${lines.join('\n')}\n`)]);
const line = (store: string, value: unknown) =>
  JSON.stringify({ db: 'keen-fox', store, value: tagged(value) });

test.each<[string, () => Blob, RegExp]>([
  ['no gzip', () => new Blob(['PK\u0003\u0004']), /no archive, or it is cut off/],
  ['another format', () => blob(['{"format":"zip"}']), /does not begin as an archive/],
  ['a version to come', () => blob([HEAD.replace('1', '9')]), /version 9; this app reads version 1/],
  [
    'cut off in the middle',
    () => new Blob([gzipSync(`${HEAD}\n${'x'.repeat(9_999)}`).subarray(0, 60)]),
    /cannot be unpacked/,
  ],
  ['without its end', () => blob([HEAD, line('attempts', attempt(1))]), /its last line is missing/],
  [
    'with another count',
    () => blob([HEAD, line('attempts', attempt(1)), '{"end":2}']),
    /should hold 2 records, and holds 1/,
  ],
  ['with more after its end', () => blob([HEAD, '{"end":0}', line('attempts', attempt(1))]), /after its end/],
  [
    'a place that is none',
    () => blob([HEAD, '{"db":"constructor","store":"attempts","value":1}', '{"end":1}']),
    /no place of this app/,
  ],
  [
    'a prototype key',
    () =>
      blob([
        HEAD,
        '{"db":"keen-fox","store":"settings","key":"settings","value":{"__proto__":{"x":1}}}',
        '{"end":1}',
      ]),
    /__proto__/,
  ],
  [
    'a trade that is none',
    () => blob([HEAD, line('trades', { ...trade(1), executions: 'none' }), '{"end":1}']),
    /no fitting “executions”/,
  ],
  ...(
    [
      ['executions', [null]],
      ['executions', [{ ...EXECUTION, price: 'dear' }]],
      ['opened', { date: 7, at: 0 }],
      ['closed', { date: '2027-03-09' }],
      ['costs', { commission: Number.NaN }],
      ['source', { kind: 'wish' }],
      ['averageEntry', null],
    ] as const
  ).map(([field, value]): [string, () => Blob, RegExp] => [
    `a trade whose ${field} are ${JSON.stringify(value)}`,
    () => blob([HEAD, line('trades', { ...trade(1), [field]: value }), '{"end":1}']),
    new RegExp(`no fitting “${field}”`),
  ]),
  [
    'a remark with a tag that is none',
    () => blob([HEAD, line('remarks', { ...noRemark('a1.1'), tags: [1] }), '{"end":1}']),
    /no fitting “tags”/,
  ],
  [
    'a session of another app',
    () =>
      blob([HEAD, '{"db":"keen-fox","store":"keep","key":"session","value":{"version":99}}', '{"end":1}']),
    /another version of the app/,
  ],
  ['not JSON', () => blob([HEAD, '{', '{"end":1}']), /Line 2 of the archive: it is no JSON/],
  ['a bomb', () => new Blob([gzipSync(`${HEAD}\n${'0'.repeat(60_000_000)}`)]), /far longer than an archive/],
])('%s: refused in words, and nothing is laid ready', async (_, make, words) => {
  await expect(layReady(make(), 'replace', () => {}, names('hostile'))).rejects.toThrow(words);
  expect(await takeIncoming(names('hostile'))).toBeNull();
});

test('an archive merged twice, or into the profile that it was made of, changes nothing', async () => {
  await filled('other', 3);
  await filled('twice', 2);
  const merge = async (from: string) => {
    await layReady(await writeArchive('', () => {}, names(from)), 'merge', () => {}, names('twice'));
    expect(await takeIncoming(names('twice'))).toBe('merge');
    await settleIncoming(names('twice'));
    return all('twice');
  };
  const before = await all('twice');
  expect(await merge('twice')).toEqual(before);
  const once = await merge('other');
  expect(once).not.toEqual(before);
  expect(await merge('other')).toEqual(once);
  // What came since is taken in beside it, under the numbers that its session has here.
  const { store, review } = await filled('other', 4);
  await review.keepRemark({ ...noRemark('a2.1'), words: 'later' });
  await store.keepOwnDay({ id: 'own 2', title: 'more', symbols: [] });
  await merge('other');
  const merged = await openReview('twice');
  expect((await merged.remarks()).map((r) => r.ref).sort()).toEqual(['a1.1', 'a3.1', 'a4.1']);
  expect((await merged.ownDays()).map((d) => d.title).sort()).toEqual(['more', 'other', 'twice']);
});

test('what was here stays until the new has started once, and is gone back to by one press until then', async () => {
  await filled('old', 2);
  await filled('new', 1);
  const before = await all('old');
  await layReady(await writeArchive('', () => {}, names('new')), 'replace', () => {}, names('old'));
  expect(await canGiveBack(names('old'))).toBe(false);
  await takeIncoming(names('old'));
  expect(await all('old')).toEqual(await all('new'));
  // Loaded again, it is not taken in again.
  expect(await takeIncoming(names('old'))).toBeNull();
  expect(await canGiveBack(names('old'))).toBe(true);
  await giveBack(names('old'));
  expect(await all('old')).toEqual(before);
  expect(await canGiveBack(names('old'))).toBe(false);
});

test('what cannot be opened is not laid ready; what cannot be written leaves everything as it was', async () => {
  await filled('stays', 2);
  const before = await all('stays');
  const archive = await writeArchive('', () => {}, names('stays'));
  const fails = async () => {
    throw new Error('Its session cannot be opened');
  };
  await expect(layReady(archive, 'merge', () => {}, names('stays'), fails)).rejects.toThrow('Its session');
  expect(await takeIncoming(names('stays'))).toBeNull();
  await layReady(archive, 'replace', () => {}, names('stays'));
  await expect(
    takeIncoming(names('stays'), (part) => {
      if (part > 0 && part < 1) throw new Error('The power went');
    }),
  ).rejects.toThrow('The power went');
  expect(await takeIncoming(names('stays'))).toBeNull();
  expect(await all('stays')).toEqual(before);
});

test('a record that cannot be read is left out, found, and set aside; the others are read', async () => {
  const { store } = await filled('hurt', 2);
  const db = await openDB('hurt');
  await db.put('trades', { ref: 'a2.9', executions: 'none' });
  await db.put('own', { id: 'own 3', title: 7, symbols: [] });
  db.close();
  const review = await openReview('hurt');
  expect((await review.trades()).map((t) => t.ref)).toEqual(['a1.1', 'a2.1', 'i1.1']);
  expect((await store.ownDays()).map((d) => d.id)).toEqual(['own 1']);
  const found = await findDamaged(undefined, names('hurt'));
  expect(found.map((d) => [d.store, d.key])).toEqual([
    ['own', 'own 3'],
    ['trades', 'a2.9'],
  ]);
  expect(JSON.parse(await damagedText(found[1] as Damaged, names('hurt')))).toMatchObject({
    key: 'a2.9',
    value: { executions: 'none' },
  });
  for (const d of found) await setAside(d, names('hurt'));
  expect(await findDamaged(undefined, names('hurt'))).toEqual([]);
  expect((await all('hurt-aside')).records).toMatchObject([
    expect.anything(),
    [{ key: 'own 3' }, { key: 'a2.9' }],
  ]);
});

test('whatever a record holds comes back from its line the same', () => {
  const leaf = fc.oneof(
    fc.anything({
      withBigInt: true,
      withTypedArray: true,
      withSparseArray: true,
      withMap: false,
      withSet: false,
      withNullPrototype: false,
      key: fc.string().filter((k) => k !== '__proto__'),
    }),
    fc.constant({ $: 'NaN' }),
    fc.constant(new Map([[1, new Set(['a'])]])),
  );
  fc.assert(
    fc.property(leaf, (x) => {
      // Gaps in lists, zeros below zero and what is no number included.
      expect(untagged(JSON.parse(JSON.stringify(tagged(x))))).toEqual(x);
    }),
  );
});

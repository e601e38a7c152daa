import 'fake-indexeddb/auto';
import { openDB } from 'idb';
import type { AttemptInfo, LogEntry, SavedSession } from '../session/log.ts';
import type { Store } from '../session/ports.ts';
import { idbStore } from './idb-store.ts';
import { memoryStore } from './memory-store.ts';
import { DEFAULT_SETTINGS, loadSettings, type Settings, saveSettings } from './settings.ts';

/** What any store must do; each implementation passes the same tests. */
const entry = (seq: number): LogEntry => ({ seq, at: 1000 * seq, input: { kind: 'run', text: 'flatten', focus: null }, events: [] });
const saved = { version: 2, seq: 2, now: 2000, state: { seq: 2 }, market: { tape: new Int32Array([1, 2, 3]) } } as unknown as SavedSession;
const attempt = (id: number): AttemptInfo => ({ id, day: { kind: 'practice', id: 'gap-and-go', seed: 7 }, from: null, reached: 0, net: 0, r: 0, trades: 0 });
let names = 0;

describe.each<[string, () => Promise<Store>]>([
  ['memory', async () => memoryStore()],
  ['IndexedDB', () => idbStore(`test-${++names}`)],
])('the store in %s', (_name, make) => {
  test('starts empty', async () => {
    expect(await (await make()).load()).toEqual({ attempt: null, saved: null, log: [], heartbeat: null });
  });

  test('gives back in order what was appended, whatever the order of writing, and each number once', async () => {
    const store = await make();
    await store.begin(attempt(1), []);
    await store.append(1, [entry(2), entry(3)]);
    await store.append(1, [entry(1), entry(3)]);
    expect((await store.load()).log).toEqual([entry(1), entry(2), entry(3)]);
  });

  test('keeps a state by value: later changes to it do not reach the store', async () => {
    const store = await make();
    const mine = structuredClone(saved);
    await store.save(mine);
    await store.beat(4321);
    mine.now = 9;
    const kept = await store.load();
    expect(kept.saved).toEqual(saved);
    expect(kept.heartbeat).toBe(4321);
  });

  test('a new attempt starts from the log it is given; the one before it stays readable, in full', async () => {
    const store = await make();
    await store.begin(attempt(1), []);
    await store.append(1, [entry(1), entry(2), entry(3)]);
    await store.save(saved);
    await store.begin({ ...attempt(2), from: { attempt: 1, at: 2000 } }, [entry(1), entry(2)]);
    await store.append(2, [entry(3)]);
    await store.note({ ...attempt(1), net: 77 });
    expect(await store.load()).toEqual({
      attempt: { ...attempt(2), from: { attempt: 1, at: 2000 } },
      saved: null,
      log: [entry(1), entry(2), entry(3)],
      heartbeat: null,
    });
    expect(await store.log(1)).toEqual([entry(1), entry(2), entry(3)]);
    expect((await store.attempts()).map((a) => [a.id, a.net])).toEqual([
      [1, 77],
      [2, 0],
    ]);
  });

  test('keeps imported days until they are dropped', async () => {
    const store = await make();
    const own = { id: 'a', title: 'A', symbols: [] };
    await store.keepOwnDay(own);
    expect(await store.ownDays()).toEqual([own]);
    await store.dropOwnDay('a');
    expect(await store.ownDays()).toEqual([]);
  });
});

test('a setting that does not fit the schema is not believed, the others are', async () => {
  await saveSettings({ ...DEFAULT_SETTINGS, theme: 'dawn' });
  expect((await loadSettings()).theme).toBe('dawn');
  await saveSettings({ ...DEFAULT_SETTINGS, theme: 'dawn', chartMinutes: 7, focus: 'QUOLS' });
  // Only the part that does not fit is left out: nothing else of the trader's is lost.
  expect(await loadSettings()).toEqual({ ...DEFAULT_SETTINGS, theme: 'dawn', focus: 'QUOLS' });
});

test('the one scan and the one shortlist of before become a scan and a watchlist beside the new ones', async () => {
  const { scans: _scans, lists: _lists, shown: _shown, ...others } = DEFAULT_SETTINGS;
  const before = { ...others, scan: { rule: 'gap > 12% and float < 9M', rankBy: 'float turnover' }, shortlist: ['VULPN', 'ORBNT'] };
  await saveSettings(before as unknown as Settings);
  const now = await loadSettings();
  expect(now.scans[0]).toMatchObject({ name: 'My scan', rule: 'gap > 12% and float < 9M', ranking: [{ field: 'float turnover', weight: 1 }] });
  expect(now.scans).toHaveLength(DEFAULT_SETTINGS.scans.length + 1);
  expect(now.shown).toBe(`scan:${now.scans[0]?.id}`);
  expect(now.lists.map((l) => l.rows.map((r) => r.symbol))).toEqual([['VULPN', 'ORBNT']]);
  // Kept once as they are now, they stay.
  await saveSettings({ ...now, scans: DEFAULT_SETTINGS.scans });
  expect((await loadSettings()).scans).toEqual(DEFAULT_SETTINGS.scans);
});

test('a log of the first version is kept to be read, and no state of it is gone on with', async () => {
  const old = await openDB('old-one', 1, {
    upgrade(db) {
      db.createObjectStore('log', { keyPath: 'seq' });
      db.createObjectStore('keep');
    },
  });
  await old.put('log', entry(1));
  await old.put('keep', { version: 1 }, 'session');
  old.close();
  const store = await idbStore('old-one');
  expect(await store.load()).toEqual({ attempt: null, saved: null, log: [], heartbeat: null });
  expect(await store.log(0)).toEqual([entry(1)]);
});

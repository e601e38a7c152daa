import 'fake-indexeddb/auto';
import { openDB } from 'idb';
import { at } from '../core/units/index.ts';
import { advance, apply, createEngine } from '../session/engine.ts';
import type { AttemptInfo, LogEntry, SavedSession } from '../session/log.ts';
import type { Store } from '../session/ports.ts';
import { save } from '../session/saving.ts';
import { simMarket } from '../session/sim-market.ts';
import { idbStore } from './idb-store.ts';
import { memoryStore } from './memory-store.ts';
import { DEFAULT_SETTINGS, readSettings } from './settings.ts';

/** What any store must do; each implementation passes the same tests. */
const entry = (seq: number): LogEntry => ({
  seq,
  at: 1000 * seq,
  happened: 0,
  input: { kind: 'run', text: 'flatten', focus: null },
  events: [],
});
const saved = {
  version: 7,
  seq: 2,
  now: 2000,
  state: { seq: 2 },
  market: { tape: new Int32Array([1, 2, 3]) },
} as unknown as SavedSession;
const attempt = (id: number): AttemptInfo => ({
  id,
  day: { kind: 'practice', id: 'fresh-headlines', seed: 7 },
  from: null,
  reached: 0,
  net: 0,
  r: 0,
  trades: 0,
});
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
    await store.begin({ ...attempt(2), reached: 2000, from: { attempt: 1, at: 2000 } }, [entry(1), entry(2)]);
    await store.append(2, [entry(3)]);
    await store.note({ ...attempt(1), net: 77 });
    expect(await store.load()).toEqual({
      attempt: { ...attempt(2), reached: 2000, from: { attempt: 1, at: 2000 } },
      saved: null,
      log: [entry(1), entry(2), entry(3)],
      // Where it went back to, whenever the page is loaded again.
      heartbeat: 2000,
    });
    expect(await store.log(1)).toEqual([entry(1), entry(2), entry(3)]);
    expect((await store.attempts()).map((a) => [a.id, a.net])).toEqual([
      [1, 77],
      [2, 0],
    ]);
  });

  test('keeps what was chosen for the interface, the last choice of many', async () => {
    const store = await make();
    expect(await store.settings()).toBeUndefined();
    await Promise.all(['a', 'b', 'c'].map((theme) => store.keepSettings({ theme })));
    expect(await store.settings()).toEqual({ theme: 'c' });
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
  expect((await readSettings({ ...DEFAULT_SETTINGS, theme: 'dawn' })).theme).toBe('dawn');
  // Only the part that does not fit is left out: nothing else of the trader's is lost.
  expect(
    await readSettings({ ...DEFAULT_SETTINGS, theme: 'dawn', chartMinutes: 700, focus: 'QUOLS' }),
  ).toEqual({
    ...DEFAULT_SETTINGS,
    theme: 'dawn',
    focus: 'QUOLS',
  });
  expect(await readSettings('nonsense')).toEqual(DEFAULT_SETTINGS);
});

test('the one scan and the one shortlist of before become a scan and a watchlist beside the new ones', async () => {
  const { scans: _scans, lists: _lists, shown: _shown, ...others } = DEFAULT_SETTINGS;
  const now = await readSettings({
    ...others,
    scan: { rule: 'gap > 12% and float < 9M', rankBy: 'float turnover' },
    shortlist: ['VULPN', 'ORBNT'],
  });
  expect(now.scans[0]).toMatchObject({
    name: 'My scan',
    rule: 'gap > 12% and float < 9M',
    ranking: [{ field: 'float turnover', weight: 1 }],
  });
  expect(now.scans).toHaveLength(DEFAULT_SETTINGS.scans.length + 1);
  expect(now.shown).toBe(`scan:${now.scans[0]?.id}`);
  expect(now.lists.map((l) => l.rows.map((r) => r.symbol))).toEqual([['VULPN', 'ORBNT']]);
  // Kept once as they are now, they stay.
  expect((await readSettings({ ...now, scans: DEFAULT_SETTINGS.scans })).scans).toEqual(
    DEFAULT_SETTINGS.scans,
  );
});

const EMPTY = { attempt: null, saved: null, log: [], heartbeat: null };

test('a log of the first version is put aside to be read, and said once', async () => {
  const old = await openDB('old-one', 1, {
    upgrade(db) {
      db.createObjectStore('log', { keyPath: 'seq' });
      db.createObjectStore('keep');
    },
  });
  await old.put('log', {
    seq: 1,
    at: 5_000,
    input: null,
    events: [{ at: 4_000, text: 'Entry: bought 100 VULPN at 7.40' }],
  });
  await old.put('keep', { version: 1 }, 'session');
  old.close();
  const store = await idbStore('old-one');
  expect(await store.load()).toEqual(EMPTY);
  expect(await store.putAside()).toMatchObject([
    { reached: 5_000, journal: [{ at: 4_000, text: 'Entry: bought 100 VULPN at 7.40' }] },
  ]);
  expect([await store.putAside(), (await store.past()).length]).toEqual([[], 1]);
});

test('scripts of before the language had versions are kept, and one that does not fit takes none of the others along', async () => {
  const [first] = DEFAULT_SETTINGS.scripts;
  const { language: _, ...old } = { ...first, id: 'mine', name: 'Mine', text: 'x'.repeat(12_000) };
  const kept = { ...DEFAULT_SETTINGS, scripts: [old, { id: 7 }, null, first] };
  const { scripts } = await readSettings(structuredClone(kept));
  expect(scripts).toEqual([{ ...old, language: 1 }, first]);
});

test('a session and settings of the second version: trades and journal are carried over, the day begins anew, settings move in', async () => {
  const old = await openDB('old-two', 2, {
    upgrade(db) {
      db.createObjectStore('entries', { keyPath: ['attempt', 'seq'] });
      db.createObjectStore('attempts', { keyPath: 'id' });
      db.createObjectStore('own', { keyPath: 'id' });
      db.createObjectStore('keep');
    },
  });
  const trade = {
    id: 1,
    symbol: 'VULPN',
    sign: 1,
    status: 'closed',
    entered: 100,
    entryNotional: 7_000_000,
    exited: 100,
    exitNotional: 7_300_000,
    commission: 20_000,
    risk: 300_000,
    openedAt: 1,
    closedAt: 2,
    best: 74_000,
    worst: 69_000,
    sentence: 'buy 100',
  };
  const fill = {
    id: 1,
    orderId: 1,
    tradeId: 1,
    symbol: 'VULPN',
    side: 'buy',
    role: 'entry',
    at: 1,
    price: 70_000,
    qty: 100,
    liquidity: 'removed',
    venue: 'LIT',
    better: 0,
    commission: 10_000,
  };
  await old.put('attempts', attempt(4));
  await old.put('own', { id: 'own x', title: 'Mine', symbols: [] });
  await old.put('entries', {
    seq: 1,
    attempt: 4,
    at: 9,
    input: { kind: 'run', text: 'buy 100', focus: 'VULPN' },
    events: [{ at: 9, text: 'Entry: bought 100 VULPN at 7.00' }],
  });
  await old.put('keep', 4, 'current');
  await old.put(
    'keep',
    { version: 2, seq: 1, now: 9, state: { broker: { trades: { 1: trade }, fills: [fill] } }, market: {} },
    'session',
  );
  old.close();
  const settings = await openDB('old-two-settings', 1, {
    upgrade: (db) => void db.createObjectStore('settings'),
  });
  await settings.put('settings', { ...DEFAULT_SETTINGS, theme: 'dawn' }, 'settings');
  settings.close();

  const store = await idbStore('old-two');
  expect(await store.load()).toEqual(EMPTY);
  const [aside] = await store.putAside();
  expect(aside).toMatchObject({
    id: 4,
    trades: [{ symbol: 'VULPN', gross: 300_000, net: 280_000, fills: [{ id: 1 }] }],
    journal: [{ text: 'Entry: bought 100 VULPN at 7.00' }],
  });
  expect(aside?.trades[0]?.r).toBeCloseTo(28 / 30, 9);
  expect((await store.ownDays()).map((o) => o.id)).toEqual(['own x']);
  expect((await store.attempts()).map((a) => a.id)).toEqual([4]);
  expect((await readSettings(await store.settings())).theme).toBe('dawn');
  // Opened again, nothing is taken over twice, and a choice made since stands.
  await store.keepSettings({ ...DEFAULT_SETTINGS, theme: 'night' });
  const again = await idbStore('old-two');
  expect([(await again.putAside()).length, (await readSettings(await again.settings())).theme]).toEqual([
    0,
    'night',
  ]);
});

// Version 3 kept sessions on a market that is gone: the day begins anew, and what was done stays readable.
test('a session of the third version: its trades and its journal are put aside, every attempt’s', async () => {
  const e = createEngine(
    simMarket({ ref: { kind: 'practice', id: 'fresh-headlines', seed: 7, size: 24 }, own: null }),
  );
  advance(e, at(9, 31));
  const { entries } = apply(e, {
    kind: 'run',
    text: 'buy 100 at 5c through\n stop 50c\nflatten',
    focus: 'VULPN',
  });
  const old = await openDB('old-three', 3, {
    upgrade(db) {
      db.createObjectStore('entries', { keyPath: ['attempt', 'seq'] });
      for (const [name, keyPath] of [
        ['attempts', 'id'],
        ['own', 'id'],
        ['past', 'id'],
      ] as const)
        db.createObjectStore(name, { keyPath });
      for (const name of ['keep', 'settings']) db.createObjectStore(name);
    },
  });
  for (const id of [1, 2]) {
    await old.put('attempts', attempt(id));
    for (const entry of entries) await old.put('entries', { ...entry, attempt: id });
  }
  await old.put('keep', 2, 'current');
  await old.put('keep', { ...save(e), version: 6 }, 'session');
  await old.put('settings', { ...DEFAULT_SETTINGS, theme: 'dawn' }, 'settings');
  old.close();

  const store = await idbStore('old-three');
  expect(await store.load()).toEqual(EMPTY);
  const aside = await store.putAside();
  const bought = { text: expect.stringMatching(/^Entry: bought 100 VULPN at /) };
  expect(aside.map((p) => [p.id, p.trades.length])).toEqual([
    [1, 0],
    [2, 1],
  ]);
  for (const p of aside) expect(p.journal).toContainEqual(expect.objectContaining(bought));
  expect([aside[1]?.trades[0]?.symbol, (aside[1]?.trades[0]?.fills.length ?? 0) > 1]).toEqual([
    'VULPN',
    true,
  ]);
  expect((await readSettings(await store.settings())).theme).toBe('dawn');
});

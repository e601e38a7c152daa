import 'fake-indexeddb/auto';
import type { LogEntry, SavedSession } from '../session/log.ts';
import type { Store } from '../session/ports.ts';
import { idbStore } from './idb-store.ts';
import { memoryStore } from './memory-store.ts';
import { DEFAULT_SETTINGS, loadSettings, saveSettings } from './settings.ts';

/** What any store must do; each implementation passes the same tests. */
const entry = (seq: number): LogEntry => ({ seq, at: 1000 * seq, input: { kind: 'run', text: 'flatten', focus: null }, events: [] });
const saved = { version: 1, seq: 2, now: 2000, state: { seq: 2 }, market: { tape: new Int32Array([1, 2, 3]) } } as unknown as SavedSession;
let names = 0;

describe.each<[string, () => Promise<Store>]>([
  ['memory', async () => memoryStore()],
  ['IndexedDB', () => idbStore(`test-${++names}`)],
])('the store in %s', (_name, make) => {
  test('starts empty', async () => {
    expect(await (await make()).load()).toEqual({ saved: null, log: [], heartbeat: null });
  });

  test('gives back in order what was appended, whatever the order of writing, and each number once', async () => {
    const store = await make();
    await store.append([entry(2), entry(3)]);
    await store.append([entry(1), entry(3)]);
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

  test('forgets everything when cleared', async () => {
    const store = await make();
    await store.append([entry(1)]);
    await store.save(saved);
    await store.clear();
    expect(await store.load()).toEqual({ saved: null, log: [], heartbeat: null });
  });
});

test('settings that do not fit the schema are not believed', async () => {
  await saveSettings({ ...DEFAULT_SETTINGS, theme: 'dawn' });
  expect((await loadSettings()).theme).toBe('dawn');
  await saveSettings({ ...DEFAULT_SETTINGS, chartMinutes: 7 });
  expect(await loadSettings()).toEqual(DEFAULT_SETTINGS);
});

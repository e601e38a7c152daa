import 'fake-indexeddb/auto';
import type { LogEntry, SavedSession } from '../session/log.ts';
import type { Clock } from '../session/ports.ts';
import { memoryStore } from './memory-store.ts';
import { isNoRoom, patientStore, type RoomTold, storageWords } from './room.ts';

const full = () => Object.assign(new Error('The quota has been exceeded.'), { name: 'QuotaExceededError' });

/** A disk that can be filled, and a clock that goes by hand. */
function disk() {
  const kept = memoryStore();
  const state = { full: false };
  const guard =
    <A extends unknown[], T>(write: (...args: A) => Promise<T>) =>
    async (...args: A) => {
      if (state.full) throw full();
      return write(...args);
    };
  const tasks = new Set<() => void>();
  const clock: Clock = {
    now: () => 0,
    every(_ms, task) {
      tasks.add(task);
      return () => void tasks.delete(task);
    },
    breathe: async () => {},
  };
  const told: RoomTold[] = [];
  const store = patientStore(
    { ...kept, append: guard(kept.append), save: guard(kept.save), beat: guard(kept.beat) },
    clock,
    (m) => told.push(m),
  );
  const settle = () => new Promise((done) => setImmediate(done));
  return {
    kept,
    store,
    state,
    told,
    /** Time passes until what waits is tried again. */
    async later() {
      for (const task of [...tasks]) task();
      await settle();
    },
    settle,
  };
}
const entry = (seq: number): LogEntry => ({ seq, at: 0, happened: 0, input: null, events: [] });

test('what is to be acknowledged waits for room, says so, and is kept then, once', async () => {
  const d = disk();
  d.state.full = true;
  let acknowledged = false;
  const append = d.store.append(1, [entry(1)]).then(() => {
    acknowledged = true;
  });
  await d.settle();
  await d.later();
  expect([acknowledged, d.store.waits(), d.told.at(-1)]).toEqual([
    false,
    true,
    { kind: 'no room', waits: true },
  ]);
  d.state.full = false;
  await d.later();
  await append;
  expect(d.told.at(-1)).toEqual({ kind: 'room' });
  expect((await d.kept.log(1)).map((e) => e.seq)).toEqual([1]);
});

test('the whole state and the time hold nothing up: the newest of them is kept once there is room', async () => {
  const d = disk();
  d.state.full = true;
  const saved = (seq: number) =>
    ({ version: 7, seq, now: 0, state: {}, market: null }) as unknown as SavedSession;
  await d.store.save(saved(1));
  await d.store.save(saved(2));
  await d.store.beat(7);
  expect([d.told, (await d.kept.load()).saved]).toEqual([[{ kind: 'no room', waits: false }], null]);
  d.state.full = false;
  await d.later();
  const back = await d.kept.load();
  expect([back.saved?.seq, back.heartbeat, d.told.at(-1)]).toEqual([2, 7, { kind: 'room' }]);
});

test('any other failure is no want of room', async () => {
  expect(isNoRoom(new Error('x'))).toBe(false);
  expect(storageWords(full())).toContain('no room on disk');
});

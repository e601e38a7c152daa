import type { Clock, Store } from '../../session/ports.ts';
import { REAL } from '../../store/archive-places.ts';
import { idbStore } from '../../store/idb-store.ts';
import { settleIncoming, takeIncoming } from '../../store/incoming.ts';
import { memoryStore } from '../../store/memory-store.ts';
import { patientStore } from '../../store/room.ts';
import { startFromServer } from './day-start.ts';
import { host } from './host.ts';
import { type FromWorker, isByHand, type ToWorker } from './session-messages.ts';
import { createSettingsDesk } from './settings-desk.ts';

const tell = (m: FromWorker) => postMessage(m);
const clock: Clock = {
  now: () => performance.now(),
  every(ms, task) {
    const timer = setInterval(task, ms);
    return () => clearInterval(timer);
  },
  breathe: () => new Promise((resolve) => setTimeout(resolve, 0)),
};

const early: ToWorker[] = [];
let handle = (m: ToWorker): void => {
  if (!isByHand(m.request)) early.push(m);
  else
    tell({
      kind: 'failed',
      id: m.id,
      message: 'The session is not ready yet: nothing was done. Press it again once the market is there.',
    });
};
let settings = (_m: ToWorker): boolean => false;
self.onmessage = (e: MessageEvent<ToWorker>) => {
  if (!settings(e.data)) handle(e.data);
};

/** One writer: the lock is held as long as this worker lives; a second tab waits for it. */
async function start(): Promise<void> {
  await navigator.locks.request('keen-fox session', { ifAvailable: true }, async (lock) => {
    if (lock) await hold();
    else tell({ kind: 'waiting', why: 'another tab' });
  });
  await navigator.locks.request('keen-fox session', hold);
}

async function hold(): Promise<void> {
  try {
    await takeIncoming(REAL, (part) => tell({ kind: 'taking in', part }));
  } catch (e) {
    const why = e instanceof Error ? e.message : String(e);
    tell({ kind: 'notice', text: `The archive could not be taken in, and nothing has changed: ${why}` });
  }
  const store = patientStore(await anyStore(), clock, tell);
  settings = createSettingsDesk(store, tell);
  // Settings are answered while the day is still being set up.
  for (const m of early.splice(0)) if (!settings(m)) early.push(m);
  handle = await host({ store, clock, tell, starts: startFromServer });
  // What an archive brought has started: what was here before it goes.
  await settleIncoming().catch(() => {});
  for (const m of early.splice(0)) handle(m);
  await new Promise(() => {});
}

/** Where the session is kept; in memory where the browser keeps nothing (private windows, blocked storage), which is said first. */
async function anyStore(): Promise<Store> {
  try {
    return await idbStore();
  } catch (e) {
    tell({ kind: 'not kept', why: e instanceof Error ? e.message : String(e) });
    return memoryStore();
  }
}

start().catch((e: unknown) => tell({ kind: 'broken', message: e instanceof Error ? e.message : String(e) }));

import { dayOf, formatTime } from '../../core/units/index.ts';
import type { DayRef } from '../../session/day-ref.ts';
import type { PastSession } from '../../session/log.ts';
import { recordTeller } from '../../session/records.ts';
import { comingOf, openAttempt } from './attempts.ts';
import { answer } from './handlers.ts';
import { FIRST_DAY, type Hosted, type Outside } from './hosted.ts';
import { keepTrades, NotStored, publish } from './keeping.ts';
import { Stopped } from './long-work.ts';
import { PAUSED } from './pace.ts';
import { arrive } from './run-on.ts';
import { isPress, type Request, type ToWorker, takesLong } from './session-messages.ts';
import { createSubscriptions } from './subscriptions.ts';
import { tick } from './ticking.ts';

/** Wall time between two turns of the clock, in ms. */
const TICK = 40;
const FIRST_SAVE = 1_000;

/** What may be asked while everything else waits for room. */
const FREES_ROOM: ReadonlySet<Request['kind']> = new Set(['days', 'drop own day', 'stop work']);

/**
 * Hosts one session: paces time, obeys requests one after another, stores what happened, and only then tells the
 * interface. Everything outside comes in as a port; `firstDay` is where a new trader starts.
 * @returns what hears requests, once the session is ready.
 */
export async function host(outside: Outside, firstDay: DayRef = FIRST_DAY): Promise<(m: ToWorker) => void> {
  const h = await started(outside, firstDay);
  const enqueue = createQueue(h);
  let ticks = false;
  h.clock.every(TICK, () => {
    if (ticks) return;
    ticks = true;
    enqueue(async () => {
      ticks = false;
      await tick(h);
    });
  });
  return (m) => hear(h, m, enqueue);
}

/** starting → ready. What was kept is opened, or a first day is made; then everything is told. */
async function started(outside: Outside, firstDay: DayRef): Promise<Hosted> {
  const records = recordTeller();
  const { engine, attempt } = await openAttempt(outside, firstDay, (log) => records.hear(log));
  const h: Hosted = {
    ...outside,
    phase: { k: 'ready' },
    engine,
    attempt,
    pace: PAUSED,
    focus: engine.market.instruments[0]?.symbol ?? '',
    subscriptions: createSubscriptions(),
    proposals: new Map(),
    coming: await comingOf(outside, attempt, engine.market.now()),
    work: null,
    records,
    due: { beat: 0, save: outside.clock.now() + FIRST_SAVE },
    fresh: true,
  };
  h.tell({ kind: 'ready' });
  await keepTrades(h);
  // A page that was left while many sessions were run stands where it had come to.
  if (engine.market.still) await arrive(h);
  await publish(h);
  for (const step of engine.aside ?? [])
    h.tell({
      kind: 'notice',
      text: `One step of this session could not be done again and was put aside: ${step}. The rest goes on.`,
    });
  for (const p of await h.store.putAside()) h.tell({ kind: 'notice', text: asideText(p) });
  return h;
}

function asideText({ reached, trades }: PastSession): string {
  const day = dayOf(reached) > 0 ? `, day ${dayOf(reached) + 1}` : '';
  return `A session of an earlier version (up to ${formatTime(reached, 'minutes')}${day}) cannot be gone on with. Its ${trades.length} ${trades.length === 1 ? 'trade' : 'trades'} and its journal are in Review; the day begins anew.`;
}

type Enqueue = (task: () => Promise<void>) => void;

/** Tasks one after another; a task that fails stops the host. */
function createQueue(h: Hosted): Enqueue {
  let queue = Promise.resolve();
  return (task) => {
    queue = queue
      .then(() => (h.phase.k === 'stopped' ? undefined : task()))
      .catch((e: unknown) => {
        h.phase = { k: 'stopped' };
        h.tell({ kind: 'broken', message: e instanceof Error ? e.message : String(e) });
      });
  };
}

/** A request comes in: it is refused at once, goes past the queue, or waits in it. */
function hear(h: Hosted, m: ToWorker, enqueue: Enqueue): void {
  const why = refusal(h, m.request);
  if (why !== null) return h.tell({ kind: 'failed', id: m.id, message: why });
  // The queue waits for room: what makes some goes past it.
  if (h.store.waits?.() && FREES_ROOM.has(m.request.kind)) return void reply(h, m).catch(() => {});
  // Goes past the queue: what it stops is what the queue waits for.
  if (m.request.kind === 'stop work' && h.work) h.work.stopped = true;
  const long = takesLong(m.request);
  if (long) workQueued(h);
  enqueue(async () => {
    try {
      await reply(h, m);
    } finally {
      if (long) workOver(h);
    }
  });
}

/** Why a request is refused before it is queued: what is pressed was meant for the moment at which it was pressed. */
function refusal(h: Hosted, request: Request): string | null {
  if (!isPress(request)) return null;
  if (h.phase.k === 'working')
    return 'The market is being run to another moment: nothing was done. Press it again once it is there.';
  return h.store.waits?.()
    ? 'There is no room on disk: nothing was done. Press it again once there is some.'
    : null;
}

/** ready or working → working. */
function workQueued(h: Hosted): void {
  if (h.phase.k !== 'stopped')
    h.phase = { k: 'working', queued: h.phase.k === 'working' ? h.phase.queued + 1 : 1 };
}

/** working → ready, when the last of the long work is over. */
function workOver(h: Hosted): void {
  if (h.phase.k !== 'working') return;
  const queued = h.phase.queued - 1;
  h.phase = queued > 0 ? { k: 'working', queued } : { k: 'ready' };
}

async function reply(h: Hosted, m: ToWorker): Promise<void> {
  try {
    h.tell({ kind: 'answer', id: m.id, answer: await answer(h, m.request) });
  } catch (e) {
    if (e instanceof Stopped) h.tell({ kind: 'answer', id: m.id, answer: { kind: 'done' } });
    else h.tell({ kind: 'failed', id: m.id, message: e instanceof Error ? e.message : String(e) });
    if (e instanceof NotStored) throw e;
  }
}

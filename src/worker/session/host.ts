import { everything } from '../../core/orders/index.ts';
import { reviewTrade } from '../../core/review/index.ts';
import { ownDates, PRACTICE_DAYS } from '../../core/sim/index.ts';
import { dayOf, formatTime } from '../../core/units/index.ts';
import type { DayRef, KeptMarket } from '../../session/day-ref.ts';
import { account, apply, dayEnd, type Engine, save, setupsOf } from '../../session/engine.ts';
import type { AttemptInfo, LogEntry, SessionInput } from '../../session/log.ts';
import type { Clock, Store } from '../../session/ports.ts';
import { dayKey, recordTeller } from '../../session/records.ts';
import { type Handled, handlers } from './handlers.ts';
import type { Desk, Hosted } from './hosted.ts';
import { PIECE, Stopped, type Work } from './long-work.ts';
import { type Outside, openKept, rebuild, sourceOf } from './opening.ts';
import { goalOf, PAUSED, speedOf, turn } from './pace.ts';
import { arrive } from './run-on.ts';
import {
  type Answer,
  type DayChoice,
  type FromWorker,
  isPress,
  type Request,
  type ToWorker,
  takesLong,
} from './session-messages.ts';
import { createSlices } from './slices.ts';
import { rewatch } from './watch.ts';
import { passTo } from './watch-again.ts';

const TICK = 40;
const BEAT_EVERY = 200;
const SAVE_EVERY = 60_000;
const FIRST_SAVE = 1_000;
const FIRST_DAY: DayRef = { kind: 'practice', id: 'fresh-headlines', seed: 7 };

/** What may be asked while everything else waits for room. */
const FREES_ROOM: ReadonlySet<Request['kind']> = new Set(['days', 'drop own day', 'stop work']);

class NotStored extends Error {}

/**
 * Hosts one session: paces time, obeys requests one after another, stores what happened, and only
 * then tells the interface. Everything outside comes in as a port; `firstDay` is where a new trader starts,
 * and `starts` has days that were made elsewhere.
 */
export async function host(
  store: Store,
  clock: Clock,
  tell: (m: FromWorker) => void,
  firstDay: DayRef = FIRST_DAY,
  starts: (day: DayRef) => Promise<KeptMarket | null> = async () => null,
): Promise<(m: ToWorker) => void> {
  let records = recordTeller();
  const outside: Outside = { store, clock, tell, starts };
  const opened = await open();
  const h: Hosted = {
    ...opened,
    pace: PAUSED,
    focus: opened.engine.market.instruments[0]?.symbol ?? '',
    watches: new Map(),
    table: null,
    proposals: new Map(),
    slices: createSlices(),
    work: null,
    coming: [],
  };
  h.coming = await comingOf(h.attempt);
  // A day that was set up anew is kept a moment later: the trader sees it first, and it can be made again.
  const due = { beat: 0, save: clock.now() + FIRST_SAVE };
  let fresh = true;
  let queue: Promise<void> = Promise.resolve();
  let pendingTick = false;
  /** After a failure to store, nothing more may happen: what was shown is what is kept. */
  let stopped = false;
  const desk: Desk = {
    h,
    store,
    clock,
    tell,
    append,
    publish,
    lookAgain,
    longWork,
    keep,
    standing,
    begin,
    choices,
    sourceOf: (ref) => sourceOf(store, ref),
    obey,
    takeOver,
  };

  tell({ kind: 'ready' });
  await keepTrades();
  // A page that was left while many sessions were run stands where it had come to.
  if (h.engine.market.still) await arrive(desk);
  await publish([]);
  for (const step of h.engine.aside ?? [])
    tell({
      kind: 'notice',
      text: `One step of this session could not be done again and was put aside: ${step}. The rest goes on.`,
    });
  for (const p of await store.putAside())
    tell({
      kind: 'notice',
      text: `A session of an earlier version (up to ${formatTime(p.reached, 'minutes')}${dayOf(p.reached) > 0 ? `, day ${dayOf(p.reached) + 1}` : ''}) cannot be gone on with. Its ${p.trades.length} ${p.trades.length === 1 ? 'trade' : 'trades'} and its journal are in Review; the day begins anew.`,
    });
  clock.every(TICK, () => {
    if (pendingTick) return;
    pendingTick = true;
    enqueue(async () => {
      pendingTick = false;
      await tick();
    });
  });

  let underway = 0;
  return (m) => {
    // What is pressed while the market is taken somewhere else was meant for where it stood.
    if (underway > 0 && isPress(m.request)) {
      tell({
        kind: 'failed',
        id: m.id,
        message:
          'The market is being run to another moment: nothing was done. Press it again once it is there.',
      });
      return;
    }
    if (store.waits?.()) {
      // The queue waits for room: what makes some goes past it, what is pressed now was meant for now.
      if (FREES_ROOM.has(m.request.kind)) return void reply(m).catch(() => {});
      if (isPress(m.request)) {
        const message = 'There is no room on disk: nothing was done. Press it again once there is some.';
        tell({ kind: 'failed', id: m.id, message });
        return;
      }
    }
    const long = takesLong(m.request);
    if (long) underway++;
    // Goes past the queue: what it stops is what the queue waits for.
    if (m.request.kind === 'stop work' && h.work) h.work.stopped = true;
    enqueue(async () => {
      try {
        await reply(m);
      } finally {
        if (long) underway--;
      }
    });
  };

  async function reply(m: ToWorker): Promise<void> {
    try {
      tell({ kind: 'answer', id: m.id, answer: await answer(m.request) });
    } catch (e) {
      if (e instanceof Stopped) tell({ kind: 'answer', id: m.id, answer: { kind: 'done' } });
      else tell({ kind: 'failed', id: m.id, message: e instanceof Error ? e.message : String(e) });
      if (e instanceof NotStored) throw e;
    }
  }

  function enqueue(task: () => Promise<void>): void {
    queue = queue
      .then(() => (stopped ? undefined : task()))
      .catch((e: unknown) => {
        stopped = true;
        tell({ kind: 'broken', message: e instanceof Error ? e.message : String(e) });
      });
  }

  async function answer(r: Request): Promise<Answer> {
    const handle = handlers[r.kind as Handled] as (d: Desk, r: Request) => Answer | Promise<Answer>;
    return handle(desk, r);
  }

  async function tick(): Promise<void> {
    const wall = clock.now();
    const moving = h.pace.k !== 'paused';
    const long = h.pace.k === 'jumping' || h.pace.k === 'seeking';
    const entries: LogEntry[] = [];
    do {
      const { until, after } = turn(h.pace, wall, h.engine.market.now(), dayEnd(h.engine));
      const before = { stops: h.engine.market.stops().length, fired: h.engine.state.alerts.fireSeq };
      const more = passTo(h, until);
      entries.push(...more);
      h.pace = h.pace.k === 'seeking' && isOfInterest(h.pace.symbols, more, before) ? PAUSED : after;
    } while (long && h.pace.k !== 'paused' && clock.now() - wall < PIECE);
    await publish(entries);
    if (moving && h.pace.k === 'paused') await keep();
    else if (moving && wall >= due.beat) {
      due.beat = wall + BEAT_EVERY;
      await store.beat(h.engine.market.now());
    }
    if ((moving || fresh) && wall >= due.save) {
      fresh = false;
      await keep();
    }
  }

  /** What is still to come of an attempt that is watched. */
  async function comingOf({ watches }: AttemptInfo): Promise<LogEntry[]> {
    const now = h.engine.market.now();
    if (watches === undefined) return [];
    return (await store.log(watches)).filter((x) => x.input !== null && x.at > now);
  }

  async function takeOver(): Promise<void> {
    if (h.attempt.watches === undefined) return;
    const { watches: _, ...mine } = h.attempt;
    h.attempt = mine;
    h.coming = [];
    await store.note(standing());
    await publish([]);
  }

  /** Daily losses that were reached later on the same day in another attempt: going back does not undo them. */
  async function locksOn(day: DayRef, e: Engine): Promise<SessionInput[]> {
    const out: SessionInput[] = [];
    for (const a of await store.attempts()) {
      if (dayKey(a.day) !== dayKey(day)) continue;
      for (const { events } of await store.log(a.id))
        for (const x of events)
          if (
            x.kind === 'locked' &&
            dayOf(x.at) === dayOf(e.market.now()) &&
            !e.state.broker.accounts[x.account]?.locked
          )
            out.push({ kind: 'lock', account: x.account, loss: x.loss });
    }
    return out;
  }

  function isOfInterest(
    symbols: readonly string[],
    entries: readonly LogEntry[],
    before: { stops: number; fired: number },
  ): boolean {
    return (
      h.engine.state.alerts.fireSeq > before.fired ||
      entries.some((x) => x.events.some((e) => e.exec === 'Trade')) ||
      h.engine.market
        .stops()
        .slice(before.stops)
        .some((s) => symbols.includes(s.symbol))
    );
  }

  async function keep(): Promise<void> {
    due.save = clock.now() + SAVE_EVERY;
    await store.save(save(h.engine));
    await store.beat(h.engine.market.now());
    await store.note(standing());
  }

  /** The attempt as it stands now. */
  function standing(): AttemptInfo {
    const { trades } = everything(h.engine.state.broker);
    const summed = trades.flatMap((t) => reviewTrade(t, []) ?? []);
    const a = account(h.engine);
    h.attempt = {
      ...h.attempt,
      reached: h.engine.market.now(),
      net: a.realized + a.unrealized - a.costs,
      r: summed.reduce((sum, t) => sum + (t.r ?? 0), 0),
      trades: summed.length,
    };
    return h.attempt;
  }

  async function append(entries: readonly LogEntry[]): Promise<void> {
    if (entries.length === 0) return;
    records.hear(entries);
    const trades = records.changes(h.engine, h.attempt);
    await store.append(h.attempt.id, entries, trades).catch((e: unknown) => {
      throw new NotStored(
        `The browser could not store this: ${e instanceof Error ? e.message : String(e)}. Free some disk space, then load the page again.`,
      );
    });
  }

  /** All trades of the attempt, where it has come from somewhere else than its own log growing. */
  async function keepTrades(): Promise<void> {
    const trades = records.changes(h.engine, h.attempt);
    if (trades.length > 0) await store.append(h.attempt.id, [], trades);
  }

  function lookAgain(): void {
    if (!h.engine.market.has(h.focus)) h.focus = h.engine.market.instruments[0]?.symbol ?? '';
    h.slices = createSlices();
    rewatch(h);
  }

  /** Stores first, tells after: what is shown as accepted is durable. */
  async function publish(entries: readonly LogEntry[]): Promise<void> {
    await append(entries);
    const { engine, focus, watches, attempt, pace } = h;
    const update = h.slices.changes(
      {
        engine,
        focus,
        watches,
        attempt: attempt.id,
        watching:
          attempt.watches === undefined ? null : { attempt: attempt.watches, coming: h.coming.length },
        speed: speedOf(pace),
        jumpingTo: goalOf(pace, dayEnd(engine)),
      },
      clock.now(),
    );
    if (update) tell({ kind: 'update', update });
  }

  /** Obeys an input of the trader, stores it and tells what came of it. */
  async function obey(input: SessionInput): ReturnType<Desk['obey']> {
    // Whoever acts has taken over.
    if (input.kind === 'run') await takeOver();
    const { entries, result } = apply(h.engine, input);
    await publish(entries);
    return result;
  }

  /** Long work that the trader can end; each has its own end. */
  async function longWork<T>(work: (w: Work) => Promise<T>): Promise<T> {
    const mine: Work = { stopped: false };
    h.work = mine;
    try {
      return await work(mine);
    } finally {
      h.work = null;
      tell({ kind: 'worked' });
    }
  }

  // --- days and attempts

  /** Starts an attempt and makes it the one under way; until then nothing of the old one has changed. */
  async function begin(
    day: DayRef,
    from: AttemptInfo['from'],
    inputs: readonly LogEntry[],
    to: number | null,
    {
      accounts: given,
      watch = false,
      known,
    }: { accounts?: AttemptInfo['accounts']; watch?: boolean; known?: number | undefined } = {},
  ): Promise<void> {
    h.pace = PAUSED;
    // Going back lives through the same again; a fresh day begins with the accounts as they have been set up.
    const accounts = given ?? (from ? h.attempt.accounts : setupsOf(h.engine));
    const fresh = await longWork((work) =>
      rebuild(outside, {
        work,
        day,
        inputs,
        to,
        what: from ? 'Running the day again up to there' : 'Setting up the day',
        accounts,
      }),
    );
    const id = 1 + Math.max(0, ...(await store.attempts()).map((a) => a.id));
    if (!watch)
      for (const input of await locksOn(day, fresh.engine))
        fresh.log.push(...apply(fresh.engine, input).entries);
    h.engine = fresh.engine;
    h.attempt = {
      id,
      day,
      from,
      reached: fresh.engine.market.now(),
      net: 0,
      r: 0,
      trades: 0,
      ...(accounts ? { accounts } : {}),
      ...(watch && from ? { watches: from.attempt } : {}),
      ...(known === undefined ? {} : { known }),
    };
    h.coming = await comingOf(h.attempt);
    await store.begin(h.attempt, fresh.log);
    records = recordTeller();
    records.hear(fresh.log);
    await keepTrades();
    // Brings on what stood still at that moment, where many sessions were being run.
    await arrive(desk);
  }

  async function choices(): Promise<DayChoice> {
    const own = await store.ownDays();
    const title = (d: DayRef) =>
      d.kind === 'practice'
        ? (PRACTICE_DAYS.find((p) => p.id === d.id)?.title ?? d.id)
        : (own.find((o) => o.id === d.id)?.title ?? 'removed data');
    const now = standing();
    const attempts = (await store.attempts()).map((a) => (a.id === now.id ? now : a));
    return {
      practice: PRACTICE_DAYS.map(({ id, title: t, character, date, startAt }) => ({
        id,
        title: t,
        character,
        date,
        startAt,
      })),
      own: own.map((o) => ({ id: o.id, title: o.title, symbols: o.symbols.length, dates: ownDates(o) })),
      attempts: attempts.map((a) => ({ ...a, title: title(a.day) })),
      current: now.id,
    };
  }

  async function open(): Promise<{ engine: Engine; attempt: AttemptInfo }> {
    const kept = await openKept(outside, (log) => records.hear(log));
    if (kept) return kept;
    const id = 1 + Math.max(0, ...(await store.attempts()).map((a) => a.id));
    const fresh = await rebuild(outside, {
      work: { stopped: false },
      day: firstDay,
      inputs: [],
      to: null,
      what: 'Setting up the day',
      accounts: undefined,
    });
    tell({ kind: 'worked' });
    const first: AttemptInfo = {
      id,
      day: firstDay,
      from: null,
      reached: fresh.engine.market.now(),
      net: 0,
      r: 0,
      trades: 0,
    };
    await store.begin(first, fresh.log);
    await store.beat(fresh.engine.market.now());
    return { engine: fresh.engine, attempt: first };
  }
}

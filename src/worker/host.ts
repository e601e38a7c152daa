import { DEFAULT_ACCOUNT } from '../core/account/index.ts';
import { barsOf } from '../core/market/index.ts';
import { reviewTrade } from '../core/review/index.ts';
import { explain } from '../core/script/index.ts';
import { ownDates, PRACTICE_DAYS } from '../core/sim/index.ts';
import { at, MINUTE, SECOND, unreachable } from '../core/units/index.ts';
import { type DayRef, type DaySource, scenarioOf } from '../session/day-ref.ts';
import { account, advance, apply, createEngine, dayEnd, type Engine, restore, save } from '../session/engine.ts';
import type { AttemptInfo, LogEntry } from '../session/log.ts';
import type { Clock, Store } from '../session/ports.ts';
import { simMarket } from '../session/sim-market.ts';
import type { Answer, DayChoice, FromWorker, Request, ToWorker } from './protocol.ts';
import { sheetOf } from './sheet.ts';
import { createSlices, peekedAt } from './slices.ts';
import { readTable, sparkOf, type Table, valuesOf, whyOf } from './table.ts';

const TICK = 40;
const BEAT_EVERY = 200;
const SAVE_EVERY = 60_000;
/** Most simulated time taken in one tick, so that a request never waits long. */
const SLICE = 5_000;
/** Wall time that one piece of long work may take, in ms. */
const PIECE = 100;
const FIRST_DAY: DayRef = { kind: 'practice', id: 'gap-and-go', seed: 7 };

class NotStored extends Error {}
class Stopped extends Error {}

/**
 * Hosts one session: paces time, obeys requests one after another, stores what happened, and only
 * then tells the interface. Everything outside comes in as a port; `firstDay` is where a new trader starts.
 */
export async function host(store: Store, clock: Clock, tell: (m: FromWorker) => void, firstDay: DayRef = FIRST_DAY): Promise<(m: ToWorker) => void> {
  let stopWork = false;
  let { engine, attempt } = await open();
  let speed = 0;
  let jumpingTo: number | null = null;
  /** Symbols whose halts end a run to the next event; null when none is under way. */
  let seeking: string[] | null = null;
  /** Fraction of simulated time owed since the last tick, in ms. */
  let owed = 0;
  let lastWall = clock.now();
  let focus = engine.market.instruments[0]?.symbol ?? '';
  let table: Table | null = null;
  let rack: string[] = [];
  const due = { beat: 0, save: clock.now() + SAVE_EVERY };
  let slices = createSlices();
  let queue: Promise<void> = Promise.resolve();
  let pendingTick = false;
  /** After a failure to store, nothing more may happen: what was shown is what is kept. */
  let stopped = false;

  tell({ kind: 'ready' });
  await publish([]);
  // A day that was set up anew is kept only now: the trader sees it first, and it can be made again.
  enqueue(keep);
  clock.every(TICK, () => {
    if (pendingTick) return;
    pendingTick = true;
    enqueue(async () => {
      pendingTick = false;
      await tick();
    });
  });

  return (m) => {
    // Goes past the queue: what it stops is what the queue waits for.
    if (m.request.kind === 'stop work') stopWork = true;
    enqueue(async () => {
      try {
        tell({ kind: 'answer', id: m.id, answer: await answer(m.request) });
      } catch (e) {
        if (e instanceof Stopped) tell({ kind: 'answer', id: m.id, answer: { kind: 'done' } });
        else tell({ kind: 'failed', id: m.id, message: e instanceof Error ? e.message : String(e) });
        if (e instanceof NotStored) throw e;
      }
    });
  };

  function enqueue(task: () => Promise<void>): void {
    queue = queue
      .then(() => (stopped ? undefined : task()))
      .catch((e: unknown) => {
        stopped = true;
        tell({ kind: 'broken', message: e instanceof Error ? e.message : String(e) });
      });
  }

  async function tick(): Promise<void> {
    const wall = clock.now();
    const passed = Math.min(250, wall - lastWall);
    lastWall = wall;
    const now = engine.market.now();
    const end = dayEnd(engine);
    let entries: LogEntry[] = [];
    if (jumpingTo !== null) {
      const until = Math.min(jumpingTo, end);
      const step = seeking ? SECOND : 10 * SECOND;
      const stops = engine.market.stops().length;
      const fired = engine.state.alerts.fireSeq;
      for (const started = clock.now(); engine.market.now() < until && jumpingTo !== null && clock.now() - started < PIECE; ) {
        entries.push(...advance(engine, Math.min(engine.market.now() + step, until)));
        if (seeking && (isOfInterest(entries, stops) || engine.state.alerts.fireSeq > fired)) jumpingTo = null;
      }
      if (jumpingTo !== null && engine.market.now() >= until) jumpingTo = null;
      if (jumpingTo === null) {
        seeking = null;
        await keep();
      }
    } else if (speed > 0) {
      owed += passed * speed;
      const step = Math.floor(Math.min(owed, SLICE));
      owed -= step;
      entries = advance(engine, Math.min(now + step, end));
      if (engine.market.now() >= end) speed = 0;
    }
    await publish(entries);
    if (wall >= due.beat && (speed > 0 || jumpingTo !== null)) {
      due.beat = wall + BEAT_EVERY;
      await store.beat(engine.market.now());
    }
    if (wall >= due.save && speed > 0) await keep();
  }

  function numberOf(symbol: string): number {
    if (!engine.market.has(symbol)) throw new Error(`“${symbol}” does not trade today.`);
    return engine.market.number(symbol);
  }

  function isOfInterest(entries: readonly LogEntry[], stopsBefore: number): boolean {
    const fills = entries.some((x) => x.events.some((e) => e.exec === 'Trade'));
    return (
      fills ||
      engine.market
        .stops()
        .slice(stopsBefore)
        .some((s) => seeking?.includes(s.symbol))
    );
  }

  async function keep(): Promise<void> {
    due.save = clock.now() + SAVE_EVERY;
    await store.save(save(engine));
    await store.beat(engine.market.now());
    await store.note(standing());
  }

  /** The attempt as it stands now. */
  function standing(): AttemptInfo {
    const { broker } = engine.state;
    const trades = Object.values(broker.trades).flatMap((t) => reviewTrade(t, broker.fills) ?? []);
    const a = account(engine);
    attempt = {
      ...attempt,
      reached: engine.market.now(),
      net: a.realized + a.unrealized - a.commission,
      r: trades.reduce((sum, t) => sum + (t.r ?? 0), 0),
      trades: trades.length,
    };
    return attempt;
  }

  async function answer(r: Request): Promise<Answer> {
    switch (r.kind) {
      case 'run': {
        const { entry, result } = apply(engine, { kind: 'run', text: r.text, focus, cursor: r.cursor ?? null });
        await publish(entry ? [entry] : []);
        return { kind: 'run', result };
      }
      case 'peek':
        return { kind: 'peek', peeked: peekedAt(engine, r.text, focus, r.cursor ?? null) };
      case 'focus':
        if (!engine.market.has(r.symbol)) throw new Error(`“${r.symbol}” does not trade today.`);
        focus = r.symbol;
        await publish([]);
        return { kind: 'done' };
      case 'table': {
        const read = readTable(r.table);
        if (!read.ok) return { kind: 'table', ok: false, problem: explain(read.problem), ...read.problem.span };
        table = read.table;
        slices.soon();
        await publish([]);
        return { kind: 'table', ok: true };
      }
      case 'why':
        return { kind: 'why', ...whyOf(engine.market, table, numberOf(r.symbol)) };
      case 'values':
        return { kind: 'values', values: valuesOf(engine.market, numberOf(r.symbol)) };
      case 'sparks':
        return { kind: 'sparks', lines: r.who.map((i) => sparkOf(engine.market, i)) };
      case 'day start':
        return { kind: 'day start', source: await sourceOf(attempt.day), start: engine.market.start() };
      case 'sheet':
        return { kind: 'sheet', sheet: sheetOf(engine, engine.market.instruments[numberOf(r.symbol)]?.symbol ?? '') };
      case 'speed':
        speed = engine.market.now() >= dayEnd(engine) ? 0 : r.speed;
        jumpingTo = null;
        seeking = null;
        owed = 0;
        lastWall = clock.now();
        if (speed === 0) await keep();
        await publish([]);
        return { kind: 'done' };
      case 'jump':
        speed = 0;
        jumpingTo = r.to;
        return { kind: 'done' };
      case 'next event':
        speed = 0;
        seeking = [
          ...r.symbols,
          ...Object.values(engine.state.broker.trades).flatMap((t) => (t.status === 'open' || t.status === 'pending' ? [t.symbol] : [])),
        ];
        jumpingTo = dayEnd(engine);
        return { kind: 'done' };
      case 'step': {
        speed = 0;
        jumpingTo = null;
        const now = engine.market.now();
        const tape = engine.market.tape(focus);
        const prints = tape.prints;
        const until = r.what === 'print' ? dayEnd(engine) : r.what === 'second' ? now - (now % SECOND) + SECOND : now - (now % MINUTE) + MINUTE;
        await publish(advance(engine, until, () => r.what === 'print' && tape.prints > prints));
        await keep();
        return { kind: 'done' };
      }
      case 'next day': {
        speed = 0;
        jumpingTo = null;
        await publish(await runTo(engine, dayEnd(engine), 'Running to the end of the day'));
        const { entry } = apply(engine, { kind: 'next day' });
        if (!engine.market.has(focus)) focus = engine.market.instruments[0]?.symbol ?? '';
        slices = createSlices();
        await publish(entry ? [entry] : []);
        await keep();
        return { kind: 'done' };
      }
      case 'go back': {
        if (r.to >= engine.market.now()) throw new Error('That moment is still to come. Jump there instead.');
        const log = await store.log(attempt.id);
        await store.note(standing());
        await begin(attempt.day, { attempt: attempt.id, at: r.to }, log, r.to);
        return { kind: 'done' };
      }
      case 'start day':
        await store.note(standing());
        await begin(r.day, null, [], null);
        return { kind: 'done' };
      case 'days':
        return { kind: 'days', days: await choices() };
      case 'keep own day':
        await store.keepOwnDay(r.day);
        return { kind: 'done' };
      case 'drop own day':
        if (attempt.day.kind === 'own' && attempt.day.id === r.id) throw new Error('This day is under way. Start another day before you remove it.');
        await store.dropOwnDay(r.id);
        return { kind: 'done' };
      case 'history': {
        const { market } = engine;
        if (!market.has(r.symbol)) throw new Error(`“${r.symbol}” does not trade today.`);
        const bars = r.what === 'bars' ? barsOf(market.tape(r.symbol), 1) : [];
        return { kind: 'history', date: market.date, bars, prints: r.what === 'prints' ? market.history(r.symbol) : [] };
      }
      case 'risk unit': {
        const { entry } = apply(engine, { kind: 'set risk unit', dollars: r.dollars });
        slices.soon();
        await publish(entry ? [entry] : []);
        return { kind: 'done' };
      }
      case 'alert': {
        const { entry } = apply(engine, { kind: 'alert', id: r.id, change: r.change });
        await publish(entry ? [entry] : []);
        return { kind: 'done' };
      }
      case 'rack':
        rack = r.scripts;
        slices.soon();
        await publish([]);
        return { kind: 'done' };
      case 'stop work':
        return { kind: 'done' };
      default:
        return unreachable(r);
    }
  }

  /** Stores first, tells after: what is shown as accepted is durable. */
  async function publish(entries: LogEntry[]): Promise<void> {
    if (entries.length > 0) {
      await store.append(attempt.id, entries).catch((e: unknown) => {
        throw new NotStored(`The browser could not store this: ${e instanceof Error ? e.message : String(e)}. Free some disk space, then load the page again.`);
      });
    }
    const update = slices.changes({ engine, speed, jumpingTo, focus, table, rack, attempt: attempt.id }, clock.now());
    if (update) tell({ kind: 'update', update });
  }

  // --- days and attempts

  async function sourceOf(ref: DayRef): Promise<DaySource> {
    return { ref, own: ref.kind === 'own' ? ((await store.ownDays()).find((d) => d.id === ref.id) ?? null) : null };
  }

  /** Runs on in pieces, telling how far it has come; the trader can end it. */
  async function runTo(e: Engine, to: number, what: string): Promise<LogEntry[]> {
    const out: LogEntry[] = [];
    const from = e.market.now();
    let piece = clock.now();
    const until = () => Math.min(to, dayEnd(e));
    while (e.market.now() < until()) {
      out.push(...advance(e, Math.min(e.market.now() + 10 * SECOND, until())));
      if (clock.now() - piece < PIECE) continue;
      tell({ kind: 'working', what, at: e.market.now(), from, to: until() });
      await clock.breathe();
      if (stopWork) throw new Stopped();
      piece = clock.now();
    }
    return out;
  }

  /** An engine that stands at `to` with the trader's inputs up to then obeyed again at their own times. */
  async function rebuild(ref: DayRef, inputs: readonly LogEntry[], to: number | null, what: string): Promise<{ engine: Engine; log: LogEntry[] }> {
    stopWork = false;
    const source = await sourceOf(ref);
    const startAt = scenarioOf(source, 0, null).startAt;
    const e = createEngine(simMarket(source), DEFAULT_ACCOUNT);
    const log: LogEntry[] = [];
    const goal = to ?? startAt;
    try {
      for (const { at: when, input } of inputs) {
        if (input === null || when > goal) continue;
        log.push(...(await runTo(e, when, what)));
        const { entry } = apply(e, input);
        if (entry) log.push(entry);
      }
      log.push(...(await runTo(e, goal, what)));
    } finally {
      tell({ kind: 'worked' });
    }
    return { engine: e, log };
  }

  /** Starts an attempt and makes it the one under way; until then nothing of the old one has changed. */
  async function begin(day: DayRef, from: AttemptInfo['from'], inputs: readonly LogEntry[], to: number | null): Promise<void> {
    speed = 0;
    jumpingTo = null;
    seeking = null;
    const fresh = await rebuild(day, inputs, to, from ? 'Running the day again up to there' : 'Setting up the day');
    const id = 1 + Math.max(0, ...(await store.attempts()).map((a) => a.id));
    engine = fresh.engine;
    attempt = { id, day, from, reached: engine.market.now(), net: 0, r: 0, trades: 0 };
    await store.begin(attempt, fresh.log);
    if (!engine.market.has(focus)) focus = engine.market.instruments[0]?.symbol ?? '';
    slices = createSlices();
    await keep();
    await publish([]);
  }

  async function choices(): Promise<DayChoice> {
    const own = await store.ownDays();
    const title = (d: DayRef) =>
      d.kind === 'practice' ? (PRACTICE_DAYS.find((p) => p.id === d.id)?.title ?? d.id) : (own.find((o) => o.id === d.id)?.title ?? 'removed data');
    standing();
    const attempts = (await store.attempts()).map((a) => (a.id === attempt.id ? attempt : a));
    return {
      practice: PRACTICE_DAYS.map(({ id, title: t, character, date, startAt }) => ({ id, title: t, character, date, startAt: at(...startAt) })),
      own: own.map((o) => ({ id: o.id, title: o.title, symbols: o.symbols.length, dates: ownDates(o) })),
      attempts: attempts.map((a) => ({ ...a, title: title(a.day) })),
      current: attempt.id,
    };
  }

  async function open(): Promise<{ engine: Engine; attempt: AttemptInfo }> {
    const kept = await store.load();
    if (kept.attempt) {
      const source = await sourceOf(kept.attempt.day);
      if (kept.saved) return { engine: restore(kept.saved, simMarket(source, kept.saved.market), kept.log, kept.heartbeat), attempt: kept.attempt };
      const again = await rebuild(kept.attempt.day, kept.log, Math.max(kept.heartbeat ?? 0, ...kept.log.map((l) => l.at)) || null, 'Bringing the session back');
      return { engine: again.engine, attempt: kept.attempt };
    }
    const id = 1 + Math.max(0, ...(await store.attempts()).map((a) => a.id));
    const fresh = await rebuild(firstDay, [], null, 'Setting up the day');
    const first: AttemptInfo = { id, day: firstDay, from: null, reached: fresh.engine.market.now(), net: 0, r: 0, trades: 0 };
    await store.begin(first, fresh.log);
    await store.beat(fresh.engine.market.now());
    return { engine: fresh.engine, attempt: first };
  }
}

import { DEFAULT_ACCOUNT } from '../core/account/index.ts';
import { barsOf, minuteOf, vwapOf } from '../core/market/index.ts';
import { reviewTrade } from '../core/review/index.ts';
import { clauseCounts, rank, rowOf, SCAN_FIELDS, type ScanRow } from '../core/scan/index.ts';
import { explain, parseRule, printRule, type ScanRule } from '../core/script/index.ts';
import { demoDay } from '../core/sim/index.ts';
import { AFTER_CLOSE, MINUTE, unreachable } from '../core/units/index.ts';
import { account, advance, apply, createEngine, type Engine, peek, restore, save } from '../session/engine.ts';
import type { LogEntry } from '../session/log.ts';
import type { Clock, Store } from '../session/ports.ts';
import { simMarket } from '../session/sim-market.ts';
import type { Answer, FocusSlice, FromWorker, Peeked, Request, ToWorker, Update } from './protocol.ts';

const TICK = 40;
const SCAN_EVERY = 250;
const RACK_EVERY = 400;
const BEAT_EVERY = 200;
const SAVE_EVERY = 8_000;
/** Most simulated time taken in one tick, so that a request never waits long. */
const SLICE = 5_000;

/**
 * Hosts one session: paces time, obeys requests one after another, stores what happened, and only
 * then tells the interface. Everything outside comes in as a port.
 */
export async function host(store: Store, clock: Clock, tell: (m: FromWorker) => void): Promise<(m: ToWorker) => void> {
  let engine = await open(store);
  let speed = 0;
  let jumpingTo: number | null = null;
  /** Fraction of simulated time owed since the last tick, in ms. */
  let owed = 0;
  let lastWall = clock.now();
  let focus = engine.market.instruments[0]?.symbol ?? '';
  let scan: { rule: ScanRule; rankBy: string } | null = null;
  let rack: string[] = [];
  const due = { scan: 0, rack: 0, beat: 0, save: clock.now() + SAVE_EVERY };
  const shown = { book: null as unknown, barMinute: -1, barSymbol: '', clock: '', rackFor: '' };
  let queue: Promise<void> = Promise.resolve();
  let pendingTick = false;

  tell({ kind: 'ready' });
  await publish([]);
  clock.every(TICK, () => {
    if (pendingTick) return;
    pendingTick = true;
    enqueue(async () => {
      pendingTick = false;
      await tick();
    });
  });

  return (m) =>
    enqueue(async () => {
      try {
        tell({ kind: 'answer', id: m.id, answer: await answer(m.request) });
      } catch (e) {
        tell({ kind: 'failed', id: m.id, message: e instanceof Error ? e.message : String(e) });
      }
    });

  function enqueue(task: () => Promise<void>): void {
    queue = queue.then(task).catch((e: unknown) => tell({ kind: 'broken', message: e instanceof Error ? e.message : String(e) }));
  }

  async function tick(): Promise<void> {
    const wall = clock.now();
    const passed = Math.min(250, wall - lastWall);
    lastWall = wall;
    const now = engine.market.now();
    let entries: LogEntry[] = [];
    if (jumpingTo !== null) {
      const until = Math.min(jumpingTo, now + 60 * MINUTE, AFTER_CLOSE - 1);
      const started = clock.now();
      for (let t = now + 10_000; engine.market.now() < until && clock.now() - started < 120; t += 10_000) entries.push(...advance(engine, Math.min(t, until)));
      if (engine.market.now() >= Math.min(jumpingTo, AFTER_CLOSE - 1)) jumpingTo = null;
    } else if (speed > 0) {
      owed += passed * speed;
      const step = Math.floor(Math.min(owed, SLICE));
      owed -= step;
      entries = advance(engine, Math.min(now + step, AFTER_CLOSE - 1));
      if (engine.market.now() >= AFTER_CLOSE - 1) speed = 0;
    }
    await publish(entries);
    if (wall >= due.beat && (speed > 0 || jumpingTo !== null)) {
      due.beat = wall + BEAT_EVERY;
      await store.beat(engine.market.now());
    }
    if (wall >= due.save && speed > 0) await keep();
  }

  async function keep(): Promise<void> {
    due.save = clock.now() + SAVE_EVERY;
    await store.save(save(engine));
    await store.beat(engine.market.now());
  }

  async function answer(r: Request): Promise<Answer> {
    switch (r.kind) {
      case 'run': {
        const { entry, result } = apply(engine, { kind: 'run', text: r.text, focus });
        if (entry) await store.beat(entry.at);
        await publish(entry ? [entry] : []);
        return { kind: 'run', result };
      }
      case 'peek':
        return { kind: 'peek', peeked: peeked(r.text) };
      case 'focus':
        if (!engine.market.has(r.symbol)) throw new Error(`“${r.symbol}” does not trade today.`);
        focus = r.symbol;
        shown.barSymbol = '';
        due.rack = 0;
        await publish([]);
        return { kind: 'done' };
      case 'scan': {
        const parsed = parseRule(r.rule, SCAN_FIELDS);
        if (!parsed.ok) return { kind: 'scan', ok: false, problem: explain(parsed.problem), ...parsed.problem.span };
        scan = { rule: parsed.rule, rankBy: r.rankBy };
        due.scan = 0;
        await publish([]);
        return { kind: 'scan', ok: true, tidy: printRule(parsed.rule) };
      }
      case 'speed':
        speed = r.speed;
        jumpingTo = null;
        owed = 0;
        lastWall = clock.now();
        if (speed === 0) await keep();
        await publish([]);
        return { kind: 'done' };
      case 'jump':
        jumpingTo = r.to;
        return { kind: 'done' };
      case 'risk unit': {
        const { entry } = apply(engine, { kind: 'set risk unit', dollars: r.dollars });
        due.rack = 0;
        await publish(entry ? [entry] : []);
        return { kind: 'done' };
      }
      case 'rack':
        rack = r.scripts;
        due.rack = 0;
        await publish([]);
        return { kind: 'done' };
      case 'start again':
        await store.clear();
        speed = 0;
        jumpingTo = null;
        engine = await open(store);
        Object.assign(shown, { book: null, barSymbol: '', clock: '' });
        Object.assign(due, { scan: 0, rack: 0 });
        await publish([]);
        return { kind: 'done' };
      default:
        return unreachable(r);
    }
  }

  /** Stores first, tells after: what is shown as accepted is durable. */
  async function publish(entries: LogEntry[]): Promise<void> {
    if (entries.length > 0) await store.append(entries);
    const wall = clock.now();
    const update: Update = {};
    const { market, state } = engine;
    const now = market.now();
    const moved = `${now} ${speed} ${state.session} ${jumpingTo}`;
    if (moved !== shown.clock) {
      shown.clock = moved;
      update.clock = { now, session: state.session, speed, date: market.date, title: 'Demo day', jumpingTo };
      update.focus = focusSlice();
      update.account = { ...account(engine), riskUnit: state.rules.riskUnit, name: state.rules.name };
      update.marks = marks();
    }
    const minute = minuteOf(now);
    if (shown.barMinute !== minute || shown.barSymbol !== focus) {
      if (shown.barMinute !== minute) update.news = market.news.filter((n) => n.at <= now);
      shown.barMinute = minute;
      shown.barSymbol = focus;
      update.bars = { symbol: focus, bars: barsOf(market.tape(focus), 1).filter((b) => minuteOf(b.start) < minute) };
      update.focus = focusSlice();
    }
    if (shown.book !== state.broker) {
      shown.book = state.broker;
      const { broker } = state;
      const reviews = Object.values(broker.trades).flatMap((t) => reviewTrade(t, broker.fills) ?? []);
      update.book = {
        trades: Object.values(broker.trades),
        orders: Object.values(broker.orders),
        groups: Object.values(broker.groups),
        events: state.events,
        reviews,
      };
      update.account = { ...account(engine), riskUnit: state.rules.riskUnit, name: state.rules.name };
      update.marks = marks();
      due.rack = 0;
    }
    if (scan && wall >= due.scan) {
      due.scan = wall + SCAN_EVERY;
      const rows = scanRows();
      const clauses = clauseCounts(rows, scan.rule).map((c) => ({ ...c.span, passing: c.passing }));
      update.scan = { total: rows.length, rows: rank(rows, scan.rule, scan.rankBy), clauses };
    }
    if (rack.length > 0 && wall >= due.rack) {
      due.rack = wall + RACK_EVERY;
      const peeks = rack.map(peeked);
      const text = JSON.stringify(peeks);
      if (text !== shown.rackFor) update.rack = peeks;
      shown.rackFor = text;
    }
    if (Object.keys(update).length > 0) tell({ kind: 'update', update });
  }

  function scanRows(): ScanRow[] {
    const { market } = engine;
    const now = market.now();
    return market.instruments
      .filter((i) => i.kind === 'stock')
      .map((instrument) => {
        const news = market.news.filter((n) => n.symbol === instrument.symbol && n.at <= now);
        return rowOf({
          instrument,
          tape: market.tape(instrument.symbol),
          quote: market.quote(instrument.symbol),
          now,
          newsAt: news[news.length - 1]?.at ?? null,
        });
      });
  }

  function marks(): NonNullable<Update['marks']> {
    const { broker } = engine.state;
    const last: Record<string, number | null> = {};
    for (const t of Object.values(broker.trades)) last[t.symbol] = engine.market.tape(t.symbol).last;
    const ahead: Record<number, number> = {};
    for (const o of Object.values(broker.orders)) {
      const n = o.venueId === null ? null : engine.market.ahead(o.symbol, o.venueId);
      if (n !== null) ahead[o.id] = n;
    }
    return { last, ahead };
  }

  function focusSlice(): FocusSlice {
    const { market } = engine;
    const tape = market.tape(focus);
    const instrument = market.instruments.find((i) => i.symbol === focus) as FocusSlice['instrument'];
    const minute = minuteOf(market.now());
    const [forming] = tape.barVolume[minute] ? barsOf(tape, 1, minute) : [];
    return {
      symbol: focus,
      instrument,
      quote: market.quote(focus),
      last: tape.last,
      change: tape.last === null ? null : (tape.last / instrument.priorClose - 1) * 100,
      volume: tape.volume,
      vwap: vwapOf(tape),
      premarketHigh: tape.premarketHigh,
      premarketLow: tape.premarketLow,
      dayHigh: tape.high,
      dayLow: tape.low,
      ...market.depth(focus, 5),
      prints: tape.recent.slice(-24).reverse(),
      forming: forming ?? null,
    };
  }

  function peeked(text: string): Peeked {
    const { readings, problem } = peek(engine, text, focus);
    return {
      text,
      problem,
      sayBack: readings.map((r) => r.sayBack),
      warnings: readings.flatMap((r) => r.warnings),
      facts: readings[0]?.facts ?? null,
      addsRisk: readings.some((r) => r.addsRisk),
      staged: readings.some((r) => r.staged),
    };
  }
}

async function open(store: Store): Promise<Engine> {
  const { saved, log, heartbeat } = await store.load();
  if (saved) return restore(saved, simMarket({ saved: saved.market }), log, heartbeat);
  const scenario = demoDay();
  const market = simMarket({ scenario });
  const engine = createEngine(market, DEFAULT_ACCOUNT);
  advance(engine, scenario.startAt);
  await store.save(save(engine));
  await store.beat(engine.market.now());
  return engine;
}

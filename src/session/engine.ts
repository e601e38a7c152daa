import { type AccountRules, type AccountView, accountView, DEFAULT_FEES } from '../core/account/index.ts';
import { changeAlert, looksAtSeconds, NO_ALERTS, newDay, onSecond, onTrade, setAlert, watchesTrades } from '../core/alerts/index.ts';
import { lastFinishedBar, lastPremarketBar, openingRange, vwapOf } from '../core/market/index.ts';
import {
  averageEntry,
  type BrokerContext,
  type BrokerInput,
  createBroker,
  liveOrders,
  type OrderEvent,
  openOf,
  positionOf,
  profitOf,
  stepBroker,
  stopPriceOf,
  watches,
} from '../core/orders/index.ts';
import { sift } from '../core/scan/index.ts';
import { explain, parseScript, type Reading, type RunContext, readStatement, type SymbolView } from '../core/script/index.ts';
import { moneyFromDollars, REGULAR_OPEN, SECOND, sessionAt } from '../core/units/index.ts';
import type { LogEntry, SavedSession, SessionInput } from './log.ts';
import type { DayMarket } from './ports.ts';
import type { State } from './state.ts';
import { marketView, sceneOf } from './view.ts';

/** What running a script came to. */
export interface RunResult {
  ok: boolean;
  /** What was done, one say-back a line. */
  done: string[];
  /** Why it stopped, when it did. */
  problem: string | null;
  warnings: string[];
}

/**
 * A session: the trader's state bound to a market. `advance` lets time pass, `apply` obeys one
 * input; both hand back log entries, which the host stores before anyone is told. The same market
 * and the same inputs at the same times give the same state, bit for bit, however time is cut up.
 */
export interface Engine {
  state: State;
  market: DayMarket;
}

export function createEngine(market: DayMarket, rules: AccountRules): Engine {
  return {
    market,
    state: { seq: 0, session: sessionAt(market.now(), market.hours), broker: createBroker(DEFAULT_FEES), rules, alerts: NO_ALERTS, events: [] },
  };
}

const EVENTS_KEPT = 200;

/** The last moment of the day that is on. */
export const dayEnd = ({ market }: Engine): number => market.dayStart + market.hours.end;

/** Lets the market run to `until` (a session time), with everything that it triggers; never past the end of its day, and no further than `enough` says. */
export function advance(e: Engine, until: number, enough: () => boolean = () => false): LogEntry[] {
  const last = Math.min(until, dayEnd(e));
  const out: LogEntry[] = [];
  while (looksAtSeconds(e.state.alerts) && e.market.now() < last) {
    // Alerts that are not on a price are looked at after each whole second.
    const now = e.market.now();
    const second = now - (now % SECOND) + SECOND;
    let ended = false;
    out.push(
      ...runOn(e, Math.min(second, last), () => {
        ended = enough();
        return ended;
      }),
    );
    if (ended) return out;
    if (e.market.now() === second) e.state = { ...e.state, alerts: onSecond(e.state.alerts, sceneOf(e.market)) };
  }
  out.push(...runOn(e, last, enough));
  return out;
}

function runOn(e: Engine, until: number, enough: () => boolean): LogEntry[] {
  const out: LogEntry[] = [];
  const { dayStart, hours } = e.market;
  const bounds = [REGULAR_OPEN, hours.close, hours.end].map((b) => dayStart + b);
  const last = Math.min(until, dayStart + hours.end);
  for (;;) {
    const from = e.market.now();
    const bound = bounds.find((b) => b > from) ?? Number.POSITIVE_INFINITY;
    const stop = Math.min(last, bound - 1);
    for (let step = e.market.next(stop); step; step = e.market.next(stop)) {
      const events = drain(e);
      if (step.traded) traded(e, step.symbol, events);
      if (events.length > 0) out.push(write(e, null, events));
      if (enough()) return out;
    }
    if (last < bound) return out;
    // A due deed exactly at the bound happens after the session has changed.
    e.state = { ...e.state, session: sessionAt(bound, hours) };
    const events: OrderEvent[] = [];
    feedBroker(e, { kind: 'session' }, events, bound);
    if (events.length > 0) out.push(write(e, null, events, bound));
    for (let edge = e.market.next(bound); edge; edge = e.market.next(bound)) {
      const more = drain(e);
      if (edge.traded) traded(e, edge.symbol, more);
      if (more.length > 0) out.push(write(e, null, more));
    }
  }
}

/** Obeys one input now. A script that cannot run changes nothing and says why. */
export function apply(e: Engine, input: SessionInput): { entry: LogEntry | null; result: RunResult } {
  switch (input.kind) {
    case 'set risk unit':
      e.state = { ...e.state, rules: { ...e.state.rules, riskUnit: moneyFromDollars(input.dollars) } };
      return { entry: write(e, input, []), result: { ok: true, done: [`1R is now $${input.dollars}`], problem: null, warnings: [] } };
    case 'next day':
      return goOn(e, input);
    case 'alert':
      e.state = { ...e.state, alerts: changeAlert(e.state.alerts, input.id, input.change, (s) => (e.market.has(s) ? e.market.last(s) : null)) };
      return { entry: write(e, input, []), result: { ok: true, done: [], problem: null, warnings: [] } };
    case 'run':
      return runScript(e, input);
  }
}

/** Ends the day that is on and goes on to the next trading day at 04:00: day orders have ended, GTC orders wait for their session. */
function goOn(e: Engine, input: SessionInput): { entry: LogEntry | null; result: RunResult } {
  const events: OrderEvent[] = [];
  e.market.nextDay();
  for (const t of Object.values(e.state.broker.trades)) if ((t.status === 'open' || t.status === 'pending') && e.market.has(t.symbol)) e.market.watch(t.symbol);
  for (const a of e.state.alerts.list) if (a.on.kind === 'price' && a.symbol !== null && e.market.has(a.symbol)) e.market.watch(a.symbol);
  e.state = { ...e.state, session: sessionAt(e.market.now(), e.market.hours), alerts: newDay(e.state.alerts, sceneOf(e.market)) };
  feedBroker(e, { kind: 'session' }, events);
  return { entry: write(e, input, events), result: { ok: true, done: [`Next day: ${e.market.date}`], problem: null, warnings: [] } };
}

function runScript(e: Engine, input: Extract<SessionInput, { kind: 'run' }>): { entry: LogEntry | null; result: RunResult } {
  const { script, problems } = parseScript(input.text);
  const wrong = problems[0];
  if (wrong) return { entry: null, result: { ok: false, done: [], problem: explain(wrong), warnings: [] } };
  const events: OrderEvent[] = [];
  const result: RunResult = { ok: true, done: [], problem: null, warnings: [] };
  let alerted = false;
  for (const line of script.lines) {
    const reading = readStatement(line.statement, runContext(e, input.focus, input.cursor ?? null));
    const refused = reading.problems[0];
    if (refused) {
      result.ok = false;
      result.problem = refused.text;
      break;
    }
    for (const intent of reading.intents) feedBroker(e, { kind: 'intent', intent }, events);
    if (reading.alert) {
      alerted = true;
      const { symbol, on } = reading.alert;
      if (on.kind === 'price' && symbol !== null) e.market.watch(symbol);
      e.state = { ...e.state, alerts: setAlert(e.state.alerts, reading.alert, reading.sayBack, sceneOf(e.market)) };
    }
    result.done.push(reading.sayBack);
    result.warnings.push(...reading.warnings);
  }
  return { entry: events.length > 0 || alerted ? write(e, input, events) : null, result };
}

/** What a script would do now, without doing it: the same function that runs it. */
export function peek(e: Engine, text: string, focus: string | null, cursor: number | null = null): { readings: Reading[]; problem: string | null } {
  const { script, problems } = parseScript(text);
  const wrong = problems[0];
  if (wrong) return { readings: [], problem: explain(wrong) };
  const context = runContext(e, focus, cursor);
  const readings = script.lines.map((l) => readStatement(l.statement, context));
  return { readings, problem: readings.flatMap((r) => r.problems)[0]?.text ?? null };
}

/** The whole session, to be kept; bring it back with {@link restore}. */
export function save(e: Engine): SavedSession {
  return { version: 2, seq: e.state.seq, now: e.market.now(), state: e.state, market: e.market.save() };
}

/**
 * Brings a session back from what was kept and the log after it: each input is obeyed again at its
 * own time, then time runs on to the last heartbeat.
 */
export function restore(saved: SavedSession, market: DayMarket, log: readonly LogEntry[], heartbeat: number | null): Engine {
  const e: Engine = { state: { ...saved.state, alerts: saved.state.alerts ?? NO_ALERTS }, market };
  for (const entry of log) {
    if (entry.seq <= saved.seq || entry.input === null) continue;
    advance(e, entry.at);
    apply(e, entry.input);
  }
  advance(e, Math.max(heartbeat ?? 0, ...log.map((l) => l.at), saved.now));
  return e;
}

/** The account at this moment. */
export function account(e: Engine): AccountView {
  const { broker, rules } = e.state;
  const positions = Object.values(broker.trades)
    .filter((t) => t.entered > 0)
    .map((t) => {
      const mark = positionOf(t) === 0 ? null : e.market.last(t.symbol);
      const shares = positionOf(t);
      return { shares, value: shares * (mark ?? averageEntry(t) ?? 0), ...profitOf(t, mark), commission: t.commission };
    });
  const working = liveOrders(broker)
    .filter((o) => o.role === 'entry')
    .reduce((a, o) => a + openOf(o) * (o.limit ?? o.stop ?? e.market.last(o.symbol) ?? 0), 0);
  return accountView(rules, positions, working);
}

/** What a script may know of a symbol now, or null when it does not trade. */
export function symbolView(e: Engine, symbol: string): SymbolView | null {
  if (!e.market.has(symbol)) return null;
  const instrument = e.market.instrument(symbol);
  const tape = e.market.tape(symbol);
  const trade = Object.values(e.state.broker.trades).find((t) => t.symbol === symbol && t.status === 'open');
  const group =
    trade &&
    Object.values(e.state.broker.groups)
      .filter((g) => g.tradeId === trade.id)
      .pop();
  return {
    symbol,
    instrument,
    quote: e.market.quote(symbol),
    last: tape.last,
    status: e.market.status(symbol),
    restricted: e.market.restricted(symbol),
    vwap: vwapOf(tape),
    open: tape.open,
    dayHigh: tape.high,
    dayLow: tape.low,
    premarketHigh: tape.premarketHigh,
    premarketLow: tape.premarketLow,
    candle: (minutes) => lastFinishedBar(tape, minutes, e.market.now()),
    premarketCandle: lastPremarketBar(tape, e.market.now()),
    openingRange: (minutes) => openingRange(tape, minutes, e.market.now()),
    cursor: null,
    trade: trade
      ? { sign: trade.sign, averageEntry: averageEntry(trade) as number, stop: group ? stopPriceOf(group) : null, riskPerShare: group?.riskPerShare ?? null }
      : null,
  };
}

function runContext(e: Engine, focus: string | null, cursor: number | null): RunContext {
  const { broker, rules, session } = e.state;
  return {
    now: e.market.now(),
    session,
    hours: e.market.hours,
    focus,
    view(s) {
      const view = symbolView(e, s);
      return view && s === focus ? { ...view, cursor } : view;
    },
    passes: (s, rule) => e.market.has(s) && sift(rule, marketView(e.market), Int32Array.of(e.market.number(s)), 1) === 1,
    broker,
    rules,
    account: account(e),
    fees: broker.fees,
  };
}

function traded(e: Engine, symbol: string, events: OrderEvent[]): void {
  if (watches(e.state.broker, symbol)) priceMoved(e, symbol, events);
  if (!watchesTrades(e.state.alerts, symbol)) return;
  const { last, lastAt } = e.market.tape(symbol);
  if (last !== null) e.state = { ...e.state, alerts: onTrade(e.state.alerts, symbol, last, lastAt) };
}

function priceMoved(e: Engine, symbol: string, events: OrderEvent[]): void {
  const last = e.market.tape(symbol).last;
  if (last !== null) feedBroker(e, { kind: 'price', symbol, last }, events);
}

/** Hands one input to the broker and carries on until nothing more comes of it. */
function feedBroker(e: Engine, input: BrokerInput, events: OrderEvent[], at = e.market.now()): void {
  const context: BrokerContext = {
    now: at,
    session: e.state.session,
    quote: (s) => e.market.quote(s),
    last: (s) => (e.market.has(s) ? e.market.tape(s).last : null),
  };
  const [broker, effects] = stepBroker(e.state.broker, input, context);
  e.state = { ...e.state, broker };
  if (input.kind === 'intent' && input.intent.kind === 'entry') e.market.watch(input.intent.symbol);
  events.push(...effects.events);
  const touched = new Set<string>();
  for (const command of effects.venue) {
    e.market.carryOut(command);
    if (command.kind === 'send') touched.add(command.symbol);
  }
  const filled = drain(e, events);
  for (const symbol of touched) if (filled.has(symbol)) priceMoved(e, symbol, events);
}

/** Takes in what the exchange reports, in its order. @returns the events, and remembers the symbols that filled. */
function drain(e: Engine): OrderEvent[];
function drain(e: Engine, events: OrderEvent[]): Set<string>;
function drain(e: Engine, events?: OrderEvent[]): OrderEvent[] | Set<string> {
  const out = events ?? [];
  const filled = new Set<string>();
  for (const r of e.market.drain()) {
    if (r.kind === 'fill') {
      filled.add(r.symbol);
      feedBroker(e, { kind: 'fill', venueId: r.id, price: r.price, qty: r.qty, liquidity: r.liquidity, venue: r.venue, better: r.better }, out);
    } else feedBroker(e, { kind: 'out', venueId: r.id, why: r.why }, out);
  }
  return events ? filled : out;
}

function write(e: Engine, input: SessionInput | null, events: OrderEvent[], at = e.market.now()): LogEntry {
  const seq = e.state.seq + 1;
  e.state = { ...e.state, seq, events: [...e.state.events, ...events].slice(-EVENTS_KEPT) };
  return { seq, at, input, events };
}

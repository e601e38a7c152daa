import { type AccountRules, type AccountView, DEFAULT_FEES, MAIN } from '../core/account/index.ts';
import { type AlertChange, changeAlert, dueAlerts, lookAt, NO_ALERTS, newDay, onTrade, setAlert, watchesTrades } from '../core/alerts/index.ts';
import { lastFinishedBar, lastPremarketBar, openingRange, vwapOf } from '../core/market/index.ts';
import {
  accountNow,
  admit,
  averageEntry,
  createBroker,
  eventText,
  holdingOf,
  liveOrders,
  type OrderEvent,
  openTrade,
  refusalText,
  stopPriceOf,
  watches,
  watchesQuotes,
  wireOf,
} from '../core/orders/index.ts';
import { sift } from '../core/scan/index.ts';
import { explain, parseScript, type Reading, type RunContext, readStatement, type SymbolView } from '../core/script/index.ts';
import { moneyFromDollars, REGULAR_OPEN, sessionAt } from '../core/units/index.ts';
import { brokerContext, type Engine, feed, takeIn } from './circuit.ts';
import { gotOf } from './got.ts';
import type { Deed, LogEntry, SavedSession, SessionInput } from './log.ts';
import type { DayMarket } from './ports.ts';
import { marketView, sceneOf } from './view.ts';

export type { Engine } from './circuit.ts';

/** What running a script came to. */
export interface RunResult {
  ok: boolean;
  /** What was done, one say-back a line. */
  done: string[];
  /** What was traded at once, one order a line, with the price it got. */
  got: string[];
  /** What trades that it ended came to. */
  ended: string[];
  /** Session time at which it ran. */
  at: number;
  /** Why it stopped, when it did. */
  problem: string | null;
  warnings: string[];
}

const DONE: RunResult = { ok: true, done: [], got: [], ended: [], at: 0, problem: null, warnings: [] };

/**
 * `advance` lets time pass, `apply` obeys one input; both hand back log entries, which the host stores
 * before anyone is told. The same market and the same inputs at the same times give the same state, bit
 * for bit, however time is cut up.
 */
export function createEngine(market: DayMarket, rules: AccountRules): Engine {
  return {
    market,
    state: { seq: 0, session: sessionAt(market.now(), market.hours), broker: createBroker(rules, DEFAULT_FEES), alerts: NO_ALERTS, events: [] },
  };
}

const EVENTS_KEPT = 200;

/** The last moment of the day that is on. */
export const dayEnd = ({ market }: Engine): number => market.dayStart + market.hours.end;

/** Lets the market run to `until` (a session time), with everything that it triggers; never past the end of its day, and no further than `enough` says. */
export function advance(e: Engine, until: number, enough: () => boolean = () => false): LogEntry[] {
  const last = Math.min(until, dayEnd(e));
  const out: LogEntry[] = [];
  for (;;) {
    const due = dueAlerts(e.state.alerts, e.market.news);
    const to = due === null ? last : Math.min(due, last);
    if (!runOn(e, to, enough, out)) return out;
    if (due === null || due > last) return out;
    e.state = { ...e.state, alerts: lookAt(e.state.alerts, sceneOf(e.market)) };
  }
}

/** @returns whether it came to `until`: false when `enough` ended it before. */
function runOn(e: Engine, until: number, enough: () => boolean, out: LogEntry[]): boolean {
  const { dayStart, hours } = e.market;
  const bounds = [REGULAR_OPEN, hours.close, hours.end].map((b) => dayStart + b);
  const last = Math.min(until, dayStart + hours.end);
  for (;;) {
    const from = e.market.now();
    const bound = bounds.find((b) => b > from) ?? Number.POSITIVE_INFINITY;
    if (!step(e, Math.min(last, bound - 1), enough, out)) return false;
    if (last < bound) return true;
    // A due deed exactly at the bound happens after the session has changed.
    e.state = { ...e.state, session: sessionAt(bound, hours) };
    const events: OrderEvent[] = [];
    feed(e, { kind: 'session' }, events, bound);
    if (events.length > 0) out.push(write(e, null, events, {}, bound));
    if (!step(e, bound, () => false, out)) return false;
  }
}

function step(e: Engine, until: number, enough: () => boolean, out: LogEntry[]): boolean {
  for (let s = e.market.next(until); s; s = e.market.next(until)) {
    const events: OrderEvent[] = [];
    takeIn(e, events);
    if (s.traded || watchesQuotes(e.state.broker, s.symbol)) priced(e, s.symbol, s.traded, events);
    if (events.length > 0) out.push(write(e, null, events));
    if (enough()) return false;
  }
  return true;
}

function priced(e: Engine, symbol: string, traded: boolean, events: OrderEvent[]): void {
  if (watches(e.state.broker, symbol)) feed(e, { kind: 'price', symbol }, events);
  if (!traded || !watchesTrades(e.state.alerts, symbol)) return;
  const { last, lastAt } = e.market.tape(symbol);
  if (last !== null) e.state = { ...e.state, alerts: onTrade(e.state.alerts, symbol, last, lastAt) };
}

/** What came of an input: log entries (what the market still had to do in this millisecond first) and the answer to the trader. */
export interface Applied {
  entries: LogEntry[];
  result: RunResult;
}

/**
 * Obeys one input now: after everything that happens in this millisecond, so that its time says where it
 * stands among the happenings. Every input has its entry, also one that is refused. `deeds` are
 * those that the log has of it, to be obeyed instead of reading it again.
 */
export function apply(e: Engine, input: SessionInput, deeds: Deed[] | null = null): Applied {
  const entries = advance(e, e.market.now());
  const events: OrderEvent[] = [];
  const done = (result: Partial<RunResult> = {}, more: Pick<LogEntry, 'deeds' | 'problem'> = {}): Applied => {
    entries.push(write(e, input, events, more));
    return { entries, result: { ...DONE, ...result, at: e.market.now() } };
  };
  switch (input.kind) {
    case 'set risk unit':
      feed(e, { kind: 'risk unit', account: MAIN, units: moneyFromDollars(input.dollars) }, events);
      return done({ done: [`1R is now $${input.dollars}`] });
    case 'next day':
      goOn(e, events);
      return done({ done: [`Next day: ${e.market.date}`] });
    case 'alert':
      change(e, input.id, input.change);
      return done();
    case 'line':
      e.market.changeLine(input.change);
      takeIn(e, events);
      return done();
    case 'run': {
      const ran = deeds ? again(e, deeds, events) : runScript(e, input, events);
      return done(ran.result, { deeds: ran.deeds, ...(ran.result.problem === null ? {} : { problem: ran.result.problem }) });
    }
  }
}

const change = (e: Engine, id: number, c: AlertChange): void => {
  e.state = { ...e.state, alerts: changeAlert(e.state.alerts, id, c, (s) => (e.market.has(s) ? e.market.last(s) : null)) };
};

/** Ends the day that is on and goes on to the next trading day at 04:00: day orders have ended, GTC orders and exits wait for their session. */
function goOn(e: Engine, events: OrderEvent[]): void {
  e.market.nextDay();
  for (const { symbol } of Object.values(e.state.broker.holdings)) if (e.market.has(symbol)) e.market.watch(symbol);
  for (const a of e.state.alerts.list) if (a.on.kind === 'price' && a.symbol !== null && e.market.has(a.symbol)) e.market.watch(a.symbol);
  e.state = { ...e.state, session: sessionAt(e.market.now(), e.market.hours), alerts: newDay(e.state.alerts, sceneOf(e.market)) };
  takeIn(e, events);
  feed(e, { kind: 'session' }, events);
}

interface Ran {
  result: RunResult;
  deeds: Deed[];
}

function runScript(e: Engine, input: Extract<SessionInput, { kind: 'run' }>, events: OrderEvent[]): Ran {
  const { script, problems } = parseScript(input.text);
  const wrong = problems[0];
  if (wrong) return { result: { ...DONE, ok: false, problem: explain(wrong) }, deeds: [] };
  const result: RunResult = { ...DONE, done: [], warnings: [] };
  const deeds: Deed[] = [];
  for (const line of script.lines) {
    const problem = runLine(e, line.statement, input, events, deeds, result);
    if (problem === null) continue;
    result.ok = false;
    result.problem = problem;
    break;
  }
  result.got = gotOf(events);
  result.warnings.push(...unanswered(e, deeds));
  result.ended = events.filter((x) => x.kind === 'trade over').map(eventText);
  return { result, deeds };
}

/** What was asked and could not be sent, or has not been answered, is not done yet. */
function unanswered({ state: { broker } }: Engine, deeds: readonly Deed[]): string[] {
  const sent = deeds.some((d) => d.kind === 'intent');
  if (sent && !broker.linked) return ['The line to the exchange is cut: this waits here and goes when the line stands again.'];
  const waits = sent && liveOrders(broker).some((o) => wireOf(o)?.pending);
  return waits ? ['Waits for the exchange’s answer.'] : [];
}

/** @returns why it was not done. What lines before it did stands, also when this one fails for a reason that only a bug can cause. */
function runLine(
  e: Engine,
  statement: Parameters<typeof readStatement>[0],
  input: Extract<SessionInput, { kind: 'run' }>,
  events: OrderEvent[],
  deeds: Deed[],
  result: RunResult,
): string | null {
  try {
    const reading = readStatement(statement, runContext(e, input.focus, input.cursor ?? null));
    const refused = reading.problems[0];
    if (refused) return refused.text;
    const asked: Deed[] = reading.intents.map((intent) => ({ kind: 'intent', intent }));
    if (reading.alert) asked.push({ kind: 'alert', asked: reading.alert, text: reading.sayBack });
    for (const deed of asked) {
      const no = perform(e, deed, events);
      deeds.push(deed);
      if (no !== null) return no;
    }
    result.done.push(reading.sayBack);
    result.warnings.push(...reading.warnings);
    return null;
  } catch (err) {
    return `This line could not be worked out: ${err instanceof Error ? err.message : String(err)}. Nothing of it was sent.`;
  }
}

function perform(e: Engine, deed: Deed, events: OrderEvent[]): string | null {
  if (deed.kind === 'intent') {
    if (deed.intent.kind === 'entry') e.market.watch(deed.intent.symbol);
    const refused = feed(e, deed, events);
    return refused && refusalText(refused);
  }
  const { symbol, on } = deed.asked;
  if (on.kind === 'price' && symbol !== null) e.market.watch(symbol);
  e.state = { ...e.state, alerts: setAlert(e.state.alerts, deed.asked, deed.text, sceneOf(e.market)) };
  return null;
}

/** What the log says that a script did, done again. */
function again(e: Engine, deeds: Deed[], events: OrderEvent[]): Ran {
  const result: RunResult = { ...DONE };
  for (const deed of deeds) result.problem = perform(e, deed, events);
  return { result, deeds };
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
  return { version: 3, seq: e.state.seq, now: e.market.now(), state: e.state, market: e.market.save() };
}

/**
 * Brings a session back from what was kept and the log after it: each input is obeyed again at its
 * own time, then time runs on to the last heartbeat.
 */
export function restore(saved: SavedSession, market: DayMarket, log: readonly LogEntry[], heartbeat: number | null): Engine {
  const e: Engine = { state: saved.state, market };
  for (const entry of log) {
    if (entry.seq <= saved.seq || entry.input === null) continue;
    advance(e, entry.at);
    apply(e, entry.input, entry.deeds ?? null);
  }
  advance(e, Math.max(heartbeat ?? 0, ...log.map((l) => l.at), saved.now));
  return e;
}

/** The account at this moment. */
export const account = (e: Engine): AccountView => accountNow(e.state.broker, MAIN, brokerContext(e).last);

/** The rules of the account in use. */
export const rulesOf = (e: Engine): AccountRules => (e.state.broker.accounts[MAIN] as { rules: AccountRules }).rules;

/** What a script may know of a symbol now, or null when it does not trade. */
export function symbolView(e: Engine, symbol: string): SymbolView | null {
  if (!e.market.has(symbol)) return null;
  const tape = e.market.tape(symbol);
  const holding = holdingOf(e.state.broker, MAIN, symbol);
  const trade = openTrade(holding);
  const scope = trade && holding.scopes.filter((s) => s.tradeId === trade.id).pop();
  return {
    symbol,
    instrument: e.market.instrument(symbol),
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
      ? { sign: trade.sign, averageEntry: averageEntry(trade) as number, stop: scope ? stopPriceOf(scope) : null, riskPerShare: scope?.riskPerShare ?? null }
      : null,
  };
}

function runContext(e: Engine, focus: string | null, cursor: number | null): RunContext {
  const { broker, session } = e.state;
  const seen = brokerContext(e);
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
    account: MAIN,
    admit: (intent) => admit(broker, intent, seen),
  };
}

function write(e: Engine, input: SessionInput | null, events: OrderEvent[], more: Pick<LogEntry, 'deeds' | 'problem'> = {}, at = e.market.now()): LogEntry {
  const seq = e.state.seq + 1;
  e.state = { ...e.state, seq, events: [...e.state.events, ...events].slice(-EVENTS_KEPT) };
  return { seq, at, happened: e.market.happened(), input, ...more, events };
}

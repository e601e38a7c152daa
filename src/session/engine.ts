import type { Account, AccountSetup, AccountView } from '../core/account/index.ts';
import {
  type Alert,
  type AlertChange,
  changeAlert,
  dueAlerts,
  lookAt,
  NO_ALERTS,
  newDay,
  onTrade,
  watchesTrades,
} from '../core/alerts/index.ts';
import { isOption, legsOf, rootOf } from '../core/instruments/index.ts';
import {
  accountNow,
  createBroker,
  dueOrders,
  type Expired,
  type OrderEvent,
  optionsHeld,
  watches,
  watchesQuotes,
} from '../core/orders/index.ts';
import { type Deed, overNight } from '../core/reading/index.ts';
import { symbolsOf } from '../core/triggers/index.ts';
import { CENT, moneyFromDollars, type Price, REGULAR_OPEN, sessionAt } from '../core/units/index.ts';
import { brokerContext, type Engine, feed, takeIn } from './circuit.ts';
import type { LogEntry, SavedSession, SessionInput } from './log.ts';
import { dueOptions, goesFarther, optionsOn } from './options-held.ts';
import type { DayMarket } from './ports.ts';
import { again, DONE, type RunResult, runScript } from './scripts.ts';
import { EMPTY_DESK } from './state.ts';
import { sceneOf } from './view.ts';
import { type Came, dueWaits, firingKey, runChains, tellClock, tellTick, waitsOn } from './waits.ts';

export type { Engine } from './circuit.ts';

/**
 * `advance` lets time pass, `apply` obeys one input; both hand back log entries, which the host stores
 * before anyone is told. The same market and the same inputs at the same times give the same state, bit
 * for bit, however time is cut up.
 */
export function createEngine(market: DayMarket, accounts?: readonly AccountSetup[]): Engine {
  return {
    market,
    state: {
      seq: 0,
      session: sessionAt(market.now(), market.hours),
      broker: createBroker(accounts),
      alerts: NO_ALERTS,
      desk: EMPTY_DESK,
      told: {},
      reach: {},
      events: [],
    },
  };
}

const EVENTS_KEPT = 200;

/** The last moment of the day that is on. */
export const dayEnd = ({ market }: Engine): number => market.dayStart + market.hours.end;

/** Lets the market run to `until` (a session time), with everything that it triggers; never past the end of its day, and no further than `enough` says. */
export function advance(
  e: Engine,
  until: number,
  enough: (entries: readonly LogEntry[]) => boolean = () => false,
): LogEntry[] {
  const last = Math.min(until, dayEnd(e));
  const out: LogEntry[] = [];
  for (;;) {
    const never = Number.POSITIVE_INFINITY;
    const orders = dueOrders(e.state.broker, e.market.now()) ?? never;
    const alerts = dueAlerts(e.state.alerts, e.market.news) ?? never;
    const waits = dueWaits(e) ?? never;
    const options = dueOptions(e);
    const due = Math.min(orders, alerts, waits, options);
    if (!runOn(e, Math.min(due, last), enough, out)) {
      if (e.market.now() < due) {
        if (enough(out)) return out;
        // Something has changed, and with it what is due next.
        continue;
      }
      finishMoment(e, out);
    }
    if (due > last) return out;
    tellDue(
      e,
      { orders: orders === due, alerts: alerts === due, options: options === due, waits: waits === due },
      out,
    );
    if (enough(out)) return out;
  }
}

/** What is due is told, orders first. */
function tellDue(
  e: Engine,
  due: { orders: boolean; alerts: boolean; options: boolean; waits: boolean },
  out: LogEntry[],
): void {
  if (due.orders) tellTime(e, out);
  if (due.alerts) e.state = { ...e.state, alerts: lookAt(e.state.alerts, sceneOf(e.market)) };
  if (due.options) tellOptions(e, out);
  if (due.waits) follow(e, tellClock(e), out);
}

/** Lets happen what else happens in this millisecond. */
function finishMoment(e: Engine, out: LogEntry[]): void {
  while (!runOn(e, e.market.now(), () => false, out));
}

/** Writes down what came of what waited, and lets orders go whose turn has come by it. */
function follow(e: Engine, first: readonly Came[], out: LogEntry[]): void {
  for (let came = [...first, ...runChains(e)]; came.length > 0; came = runChains(e))
    for (const { of, deeds, problem, events } of came)
      out.push(write(e, null, events, { fired: of, deeds, ...(problem === undefined ? {} : { problem }) }));
}

function tellOptions(e: Engine, out: LogEntry[]): void {
  const events: OrderEvent[] = [];
  for (const symbol of optionsHeld(e.state.broker)) feed(e, { kind: 'price', symbol }, events);
  if (events.length > 0) out.push(write(e, null, events));
  follow(e, [], out);
}

/** The broker is told of a time that it waited for. */
function tellTime(e: Engine, out: LogEntry[]): void {
  const events: OrderEvent[] = [];
  feed(e, { kind: 'clock' }, events);
  if (events.length > 0) out.push(write(e, null, events));
  follow(e, [], out);
}

/** @returns whether it came to `until`: false when `enough` ended it before, or something changed what is due. */
function runOn(
  e: Engine,
  until: number,
  enough: (entries: readonly LogEntry[]) => boolean,
  out: LogEntry[],
): boolean {
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
    const over = bound === dayStart + hours.close ? expiring(e) : [];
    if (over.length > 0) feed(e, { kind: 'expiry', of: over }, events, bound);
    if (events.length > 0) out.push(write(e, null, events, {}, bound));
    follow(e, [], out);
    if (!step(e, bound, () => false, out)) return false;
    // Another session, and with it what is due next.
    if (last > bound) return false;
  }
}

/** What is held or ordered of options whose last day this is, by where their underlyings closed. */
function expiring({ state, market }: Engine): Expired[] {
  return optionsHeld(state.broker).flatMap((symbol) => {
    const legs = legsOf(symbol);
    const root = rootOf(symbol);
    const spot = market.last(root);
    if (legs[0]?.contract.expiry !== market.date || spot === null) return [];
    let [worth, shares] = [0, 0];
    for (const { sign, contract } of legs) {
      const way = contract.right === 'call' ? 1 : -1;
      const inside = Math.max(0, way * (spot - contract.strike));
      worth += sign * inside;
      if (inside >= CENT) shares += sign * way;
    }
    return [{ symbol, root, spot: spot as Price, worth, shares }];
  });
}

function step(
  e: Engine,
  until: number,
  enough: (entries: readonly LogEntry[]) => boolean,
  out: LogEntry[],
): boolean {
  for (let s = e.market.next(until); s; s = e.market.next(until)) {
    const { broker, alerts, desk } = e.state;
    const events: OrderEvent[] = [];
    takeIn(e, events);
    if (s.traded || watchesQuotes(e.state.broker, s.symbol)) priced(e, s.symbol, s.traded, events);
    if (goesFarther(e, s.symbol))
      for (const name of optionsOn(e, s.symbol)) feed(e, { kind: 'price', symbol: name }, events);
    if (events.length > 0) out.push(write(e, null, events));
    // A level that moves with the time is looked at with every tick.
    const waits = waitsOn(e, s.symbol);
    const same = waits && quoteTold(e, s.symbol) && !s.traded && events.length === 0 && !slopes(e);
    follow(e, waits && !same ? tellTick(e, s.symbol) : [], out);
    if (enough(out)) return false;
    const now = e.state;
    if (now.broker !== broker || now.alerts !== alerts || now.desk !== desk) return false;
  }
  return true;
}

/** Whether the trader has named a price that moves with the time. */
const slopes = ({ state }: Engine): boolean => {
  for (const symbol in state.desk.levels)
    for (const name in state.desk.levels[symbol])
      if (typeof state.desk.levels[symbol]?.[name] === 'object') return true;
  return false;
};

/** Whether bid and ask are as when conditions on a symbol were last told: sizes alone are nothing that a condition looks at. */
function quoteTold(e: Engine, symbol: string): boolean {
  const { bid, ask } = e.market.quote(symbol);
  const before = e.state.told[symbol];
  if (before && before.bid === bid && before.ask === ask) return true;
  e.state = { ...e.state, told: { ...e.state.told, [symbol]: { bid, ask } } };
  return false;
}

function priced(e: Engine, symbol: string, traded: boolean, events: OrderEvent[]): void {
  if (watches(e.state.broker, symbol)) feed(e, { kind: 'price', symbol }, events);
  if (!traded || isOption(symbol) || !watchesTrades(e.state.alerts, symbol)) return;
  const { last, lastAt } = e.market.tape(symbol);
  if (last !== null) e.state = { ...e.state, alerts: onTrade(e.state.alerts, symbol, last, lastAt) };
}

/** What came of an input: log entries (what the market still had to do in this millisecond first) and the answer to the trader. */
interface Applied {
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
    follow(e, [], entries);
    return { entries, result: { ...DONE, ...result, at: e.market.now() } };
  };
  switch (input.kind) {
    case 'set risk unit':
      feed(
        e,
        { kind: 'risk unit', account: e.state.desk.account, units: moneyFromDollars(input.dollars) },
        events,
      );
      return done({ done: [`1R is now $${input.dollars}`] });
    case 'next day':
      goOn(e, events);
      return done({ done: [`Next day: ${e.market.date}`] });
    case 'others':
      if (input.run === 'in full') e.market.catchUp();
      else {
        // What stands still cannot be looked at: what a rule looks at goes on.
        watchOwn(e, (a) => a.status === 'armed');
        e.market.standStill();
      }
      return done();
    case 'alert':
      change(e, input.id, input.change);
      return done();
    case 'plans':
      e.state = { ...e.state, desk: { ...e.state.desk, plans: input.book } };
      return done();
    case 'account':
      feed(e, { kind: 'account', id: input.id, rules: input.rules, fees: input.fees }, events);
      return done({ done: [`Account “${input.rules.name}” is set up`] });
    case 'lock':
      feed(e, { kind: 'lock', account: input.account, loss: input.loss }, events);
      return done();
    case 'line':
      e.market.changeLine(input.change);
      takeIn(e, events);
      return done();
    case 'run': {
      const ran = deeds ? again(e, deeds, events) : runScript(e, input, events);
      return done(ran.result, {
        deeds: ran.deeds,
        ...(ran.result.problem === null ? {} : { problem: ran.result.problem }),
      });
    }
  }
}

const change = (e: Engine, id: number, c: AlertChange): void => {
  e.state = {
    ...e.state,
    alerts: changeAlert(e.state.alerts, id, c, (s) => (e.market.has(s) ? e.market.last(s) : null)),
  };
};

/** Full books for what the trader holds, orders, waits for, and is to be told of. */
function watchOwn({ market, state }: Engine, of: (a: Alert) => boolean): void {
  const symbols = [
    ...Object.values(state.broker.holdings).map((h) => h.symbol),
    ...state.alerts.list.flatMap((a) => (a.symbol !== null && of(a) ? [a.symbol] : [])),
    ...state.desk.waiting.flatMap((w) => symbolsOf(w.trigger)),
  ];
  for (const s of symbols) if (market.has(rootOf(s))) market.watch(rootOf(s));
}

/** Ends the day that is on and goes on to the next trading day at 04:00: day orders have ended, GTC orders and exits wait for their session. */
function goOn(e: Engine, events: OrderEvent[]): void {
  e.market.nextDay();
  watchOwn(e, (a) => a.on.kind === 'price' || (e.market.still && a.status === 'armed'));
  e.state = {
    ...e.state,
    session: sessionAt(e.market.now(), e.market.hours),
    alerts: newDay(e.state.alerts, sceneOf(e.market)),
    desk: { ...e.state.desk, waiting: e.state.desk.waiting.map(overNight) },
  };
  takeIn(e, events);
  feed(e, { kind: 'session' }, events);
}

/** The whole session, to be kept; bring it back with {@link restore}. */
export function save(e: Engine): SavedSession {
  return { version: 7, seq: e.state.seq, now: e.market.now(), state: e.state, market: e.market.save() };
}

/**
 * Brings a session back from what was kept and the log after it: each input is obeyed again at its
 * own time, then time runs on to the last heartbeat.
 */
export function restore(
  saved: SavedSession,
  market: DayMarket,
  log: readonly LogEntry[],
  heartbeat: number | null,
): Engine {
  const recorded = new Map<string, LogEntry[]>();
  for (const entry of log) {
    // What the saved state has seen already is not done again.
    if (!entry.fired || entry.seq <= saved.seq) continue;
    const key = firingKey(entry.fired, entry.at);
    recorded.set(key, [...(recorded.get(key) ?? []), entry]);
  }
  const e: Engine = { state: saved.state, market, recorded };
  const aside: string[] = [];
  for (const entry of log) {
    if (entry.seq <= saved.seq || entry.input === null) continue;
    const { input } = entry;
    surely(e, aside, 'time', () => advance(e, entry.at));
    surely(e, aside, input.kind === 'run' ? input.text : input.kind, () =>
      apply(e, input, entry.deeds ?? null),
    );
  }
  const reached = Math.max(heartbeat ?? 0, ...log.map((l) => l.at), saved.now);
  surely(e, aside, 'time', () => advance(e, reached));
  return { state: e.state, market, ...(aside.length > 0 ? { aside } : {}) };
}

/** How often time that cannot pass is tried again before a session is given up. */
const TRIES = 100;

/**
 * Does a step of a session that is brought back. What fails is put aside and said, and the rest goes on: nothing
 * that happened once keeps a session from opening.
 */
function surely(e: Engine, aside: string[], what: string, step: () => unknown): void {
  for (let k = 0; k < TRIES; k++) {
    const before = e.state;
    try {
      step();
      return;
    } catch (err) {
      aside.push(`${what}: ${err instanceof Error ? err.message : String(err)}`);
      // An input is tried once; what happened in the market is behind it, and time goes on from there.
      e.state = before;
      if (what !== 'time') return;
    }
  }
}

/** The account at this moment. */
export const account = (e: Engine): AccountView =>
  accountNow(e.state.broker, e.state.desk.account, brokerContext(e).last);

/** The account in use, as the broker keeps it. */
export const accountInUse = (e: Engine): Account => e.state.broker.accounts[e.state.desk.account] as Account;

/** What the accounts of a session are set up from, for another attempt: their rules as they will be, and their fees. */
export const setupsOf = (e: Engine): AccountSetup[] =>
  Object.values(e.state.broker.accounts).map(({ id, rules, next, fees }) => ({
    id,
    rules: next ?? rules,
    fees,
  }));

function write(
  e: Engine,
  input: SessionInput | null,
  events: OrderEvent[],
  more: Pick<LogEntry, 'deeds' | 'problem' | 'fired'> = {},
  at = e.market.now(),
): LogEntry {
  const seq = e.state.seq + 1;
  e.state = { ...e.state, seq, events: [...e.state.events, ...events].slice(-EVENTS_KEPT) };
  return { seq, at, happened: e.market.happened(), input, ...more, events };
}

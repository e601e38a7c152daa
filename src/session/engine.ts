import type { Account, AccountSetup, AccountView } from '../core/account/index.ts';
import {
  type Alert,
  type AlertChange,
  changeAlert,
  dueAlerts,
  lookAt,
  NO_ALERTS,
  newDay,
} from '../core/alerts/index.ts';
import { rootOf } from '../core/instruments/index.ts';
import { accountNow, createBroker, dueOrders, type OrderEvent } from '../core/orders/index.ts';
import { type Deed, overNight } from '../core/reading/index.ts';
import { symbolsOf } from '../core/triggers/index.ts';
import { moneyFromDollars, sessionAt } from '../core/units/index.ts';
import { brokerContext, type Engine, feed, takeIn } from './circuit.ts';
import { tellOptions, tellTime } from './happenings.ts';
import type { LogEntry, SessionInput } from './log.ts';
import { follow, write } from './log-entries.ts';
import { dueOptions } from './options-held.ts';
import { runOn } from './pass-time.ts';
import type { DayMarket } from './ports.ts';
import { DONE, type RunResult } from './run-result.ts';
import { again, runScript } from './scripts.ts';
import { EMPTY_DESK } from './state.ts';
import { sceneOf } from './view.ts';
import { dueWaits, tellClock } from './waits.ts';

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

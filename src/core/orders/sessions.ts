// What the bounds of sessions do to orders: day orders end, GTC orders and exits sleep and wake.

import { settleBy } from '../account/index.ts';
import { isOption } from '../instruments/index.ts';
import { dayOf, roundToTick, signOf, type Ticks, tickSize } from '../units/index.ts';
import { admitOrder } from './admit.ts';
import { activate, addOrder, collar, end, fallAsleep, reprice, say, worksIn } from './changes.ts';
import { accountNow, type Broker, type Holding } from './desk.ts';
import { openOfScope, type Scope } from './exit-plan.ts';
import { isAtWork, isStaying, leavingOf, type Order, openOf, type Works } from './order.ts';
import { PLAIN_TERMS } from './order-terms.ts';
import { askAt } from './reconcile.ts';
import type { Why } from './refusal.ts';
import { exitSide } from './rules.ts';
import { type BrokerStep, type HoldingStep, workOn } from './step.ts';

/** The session has changed. Exits live as long as the shares they protect, whatever the life of their entry. */
export function onSession(d: BrokerStep): void {
  for (const id in d.accounts) {
    const a = d.accounts[id] as BrokerStep['accounts'][string];
    const day = dayOf(d.context.now);
    const ledger = settleBy(a.ledger, day);
    if (ledger !== a.ledger) d.accounts[id] = { ...a, ledger };
    if (day > a.day.day) newDay(d, id, day);
  }
  for (const key in d.before.holdings) {
    const h = d.before.holdings[key];
    if (!h) continue;
    const w = workOn(d, h.account, h.symbol);
    w.decideAnew();
    for (const s of w.scopes)
      if (s.outFailed) {
        const { outFailed: _, ...again } = s;
        w.putScope(again);
      }
    for (const o of h.orders) if (isStaying(o)) turn(w, o);
  }
}

/** A trading day begins: locks end, locates are given back, and what loosens a guard holds. */
function newDay(d: BrokerStep, id: string, day: number): void {
  const a = d.accounts[id] as BrokerStep['accounts'][string];
  const { equity } = accountNow({ ...d.before, accounts: d.accounts }, id, d.context.last);
  d.accounts[id] = {
    ...a,
    rules: a.next ?? a.rules,
    next: null,
    locked: null,
    locates: [],
    recent: [],
    day: { day, equity },
  };
}

function turn(w: HoldingStep, o: Order): void {
  const { session } = w.step.context;
  const to = leavingOf(o)?.to;
  const leaving = to === 'asleep' || to === 'armed';
  if (worksIn(o, session)) {
    if (o.phase.k === 'asleep' && !o.afterFlat) wake(w, o);
    return;
  }
  // Exits are good till they are canceled.
  const lasts =
    o.timeInForce === 'GoodTillCancel' ||
    o.timeInForce === 'GoodTillDate' ||
    dayOf(w.step.context.now) < (o.lastDay ?? 0);
  if (!lasts && session === 'closed') end(w, o, 'Expired', 'day over');
  else if (!lasts && session === 'after hours') end(w, o, 'Expired', 'session over');
  else if (o.phase.k !== 'asleep' && !leaving) fallAsleep(w, o);
}

/** Orders that are good till a time end then, and what a plan wants out by a time goes; shares that come later go at once. */
export function runClock(w: HoldingStep): void {
  const { now } = w.step.context;
  for (const o of w.orders)
    if (o.until !== null && o.until <= now && isStaying(o)) end(w, o, 'Expired', 'time over');
  for (const o of w.orders) if (o.works && isStaying(o)) workOnPrice(w, o);
  for (const s of w.scopes) if (s.outBy !== null && s.outBy <= now && openOfScope(s) > 0) goOut(w, s);
}

/** How often, in ms, an order that works its price may be replaced at most. */
const LEAST_STEP = 250;

/** The even steps of an order that works its price: how many, and how many ms each takes. */
function stepsOf({ from, to, within }: Works, grid?: Ticks): { steps: number; each: number } {
  const ticks = Math.round(Math.abs(to - from) / tickSize(from, grid));
  const steps = Math.max(1, Math.min(ticks, Math.floor(within / LEAST_STEP)));
  return { steps, each: within / steps };
}

/** Moves an order that works its price on to where it should be by now; it never goes back, and never beyond its end. */
function workOnPrice(w: HoldingStep, o: Order): void {
  const works = o.works as Works;
  if (!isAtWork(o) || o.limit === null) return;
  if (works.since === null) {
    w.putOrder({ ...o, works: { ...works, since: w.step.context.now } });
    return;
  }
  const { steps, each } = stepsOf(works, w.ticks);
  const done = Math.min(steps, Math.floor((w.step.context.now - works.since + 1e-6) / each));
  const exact = works.from + ((works.to - works.from) * done) / steps;
  const to = done === steps ? works.to : roundToTick(exact, o.side === 'buy' ? 'down' : 'up', w.ticks);
  if (signOf(o.side) * (to - o.limit) <= 0) return;
  w.step.moved.set(`order ${o.id}`, 'works');
  reprice(w, o, to, 'works');
}

/** When an order that works its price is to be moved next. */
function nextStep(o: Order, now: number, grid?: Ticks): number | null {
  if (!o.works || o.works.since === null || o.limit === o.works.to) return null;
  const { each } = stepsOf(o.works, grid);
  return Math.ceil(o.works.since + (Math.floor((now - o.works.since + 1e-6) / each) + 1) * each);
}

/** All that is left of a scope goes: at market, or outside the regular session within the collar. */
function goOut(w: HoldingStep, s: Scope): void {
  const going = w.orders
    .filter((o) => o.scopeId === s.id && o.role === 'close' && isStaying(o))
    .reduce((a, o) => a + openOf(o), 0);
  const qty = openOfScope(s) - going;
  if (qty <= 0) return;
  const side = exitSide(s);
  if (s.outFailed) {
    const there = w.step.context.quote(s.symbol)[side === 'sell' ? 'bid' : 'ask'];
    if (s.outFailed.until === 'session' || s.outFailed.at === w.step.context.now || there === null) return;
  }
  const regular = w.step.context.session === 'regular' || isOption(w.symbol);
  const limit = regular
    ? null
    : collar(side, w.step.context.quote(w.symbol), w.step.context.last(w.symbol), w.ticks);
  addOrder(w, {
    ...PLAIN_TERMS,
    account: w.account,
    symbol: w.symbol,
    side,
    type: regular ? 'Market' : 'Limit',
    qty,
    limit,
    stop: null,
    on: 'last',
    extended: !regular,
    tradeId: s.tradeId,
    role: 'close',
    scopeId: s.id,
    leg: null,
  });
}

/** When the clock next has something to tell the broker after `now`; null: never. */
export function dueOrders(b: Broker, now: number): number | null {
  let due: number | null = null;
  const earlier = (at: number | null | undefined) => {
    if (at != null && at > now && (due === null || at < due)) due = at;
  };
  for (const key in b.holdings) {
    const h = b.holdings[key] as Holding;
    for (const o of h.orders) {
      earlier(askAt(o));
      if (!isStaying(o)) continue;
      earlier(o.until);
      earlier(nextStep(o, now, h.ticks));
    }
    for (const s of h.scopes) earlier(s.outBy);
  }
  return due;
}

/** An entry that wakes is asked about once more: prices and power may not be what they were. */
export function wake(w: HoldingStep, o: Order): void {
  const refused = o.role === 'entry' && o.stop === null ? admitOrder(w.step, o) : null;
  if (!refused) {
    activate(w, o);
    return;
  }
  const why: Why = { guard: refused };
  const ended = w.putOrder({ ...o, phase: { k: 'ended', status: 'Rejected', why } });
  say(w, ended, { exec: 'Rejected', kind: 'rejected', why, bare: 0 });
}

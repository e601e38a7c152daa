// The small moves of one record of a step, and what is said of them.

import { NO_COSTS } from '../account/index.ts';
import { isOption } from '../instruments/index.ts';
import type { Quote } from '../market/index.ts';
import {
  type AccountId,
  dayOf,
  type OrderId,
  type Price,
  roundToTick,
  type SessionKind,
  type Side,
  type Sign,
  sideOf,
  type Ticks,
  type TradeId,
} from '../units/index.ts';
import { collarFrom } from './desk.ts';
import type { Leg, Scope } from './exit-plan.ts';
import {
  isAtWork,
  type Leaving,
  type Order,
  openOf,
  type Phase,
  priceOf,
  protects,
  statusOf,
  wireOf,
} from './order.ts';
import type { About, OrderEvent } from './order-event.ts';
import type { Terms } from './order-terms.ts';
import type { Why } from './refusal.ts';
import type { BrokerStep, HoldingStep } from './step.ts';
import type { Trade } from './trade.ts';

/** How far a market order may pay: 10 % or 10 ticks from the quote, whichever is wider. */
export function collar(side: Side, quote: Quote, last: Price | null, ticks?: Ticks): Price | null {
  const from = (side === 'buy' ? quote.ask : quote.bid) ?? last;
  return from === null ? null : collarFrom(side, from as Price, ticks);
}

/** Sends shares of a trade out ahead of everything else: at market, or outside the regular session at a limit within the collar. Options wait for the session. */
export function takeOut(w: HoldingStep, t: Trade, qty: number, limit: Price | null = null): void {
  const side = sideOf(-t.sign as Sign);
  const regular = w.step.context.session === 'regular' || isOption(w.symbol);
  const within =
    limit ?? collar(side, w.step.context.quote(w.symbol), w.step.context.last(w.symbol), w.ticks);
  addOrder(w, {
    account: w.account,
    symbol: w.symbol,
    side,
    type: regular ? 'Market' : 'Limit',
    qty,
    limit: regular ? null : within,
    stop: null,
    on: 'last',
    extended: !regular,
    timeInForce: 'Day',
    route: 'lit',
    postOnly: false,
    until: null,
    tradeId: t.id,
    role: 'close',
    scopeId: null,
    leg: null,
    flat: true,
  });
}

/** Changes one leg of a scope. */
export const changeLeg = (w: HoldingStep, s: Scope, index: number, change: Partial<Leg>): Scope =>
  w.putScope({ ...s, legs: s.legs.map((l, i) => (i === index ? { ...l, ...change } : l)) });

/** An order as the step has it now, or undefined when it has ended. */
export const current = (w: HoldingStep, id: OrderId): Order | undefined => w.orders.find((o) => o.id === id);
/** A scope by its id, as the step has it now. */
export const scopeOf = (w: HoldingStep, id: number | null): Scope | undefined =>
  id === null ? undefined : w.scopes.find((s) => s.id === id);

/** Which target an order is, from 1; null where it is none. */
export const nthOf = (w: HoldingStep, o: Order): number | null => {
  const legs = o.role === 'target' ? (scopeOf(w, o.scopeId)?.legs ?? []) : [];
  return o.role === 'target'
    ? legs.slice(0, (o.leg ?? 0) + 1).filter((l) => l.kind === 'target').length || 1
    : null;
};

const aboutOrder = (w: HoldingStep, o: Order): About => ({
  orderId: o.id,
  role: o.role,
  nth: nthOf(w, o),
  side: o.side,
  open: o.qty - o.filled,
});

type What = OrderEvent extends infer E
  ? E extends OrderEvent
    ? Omit<E, keyof About | 'id' | 'at' | 'account' | 'symbol' | 'tradeId' | 'status'>
    : never
  : never;

/** Says something of an order. */
export function say(w: HoldingStep, o: Order, what: What): void {
  const head = {
    id: w.step.next.event++,
    at: w.step.context.now,
    account: o.account,
    symbol: o.symbol,
    tradeId: o.tradeId,
    status: statusOf(o),
  };
  w.step.effects.events.push({ ...head, ...aboutOrder(w, o), ...what } as OrderEvent);
}

/** Says something of a trade, or of the line to the exchange (`trade` null). */
export function sayOf(
  d: BrokerStep,
  trade: Trade | null,
  what: What,
  { account, symbol }: { account?: AccountId; symbol?: string } = {},
): void {
  const head = {
    id: d.next.event++,
    at: d.context.now,
    account: trade?.account ?? account ?? '',
    symbol: trade?.symbol ?? symbol ?? '',
    tradeId: trade?.id ?? 0,
    status: null,
    orderId: null,
    role: null,
    nth: null,
    side: null,
    open: 0,
  };
  d.effects.events.push({ ...head, ...what } as OrderEvent);
}

/** Whether an order may be at work in a session. One for an auction joins it before. */
export const worksIn = (o: Order, session: SessionKind): boolean =>
  session === 'regular' ||
  (session !== 'closed' &&
    (o.extended || o.timeInForce === 'AtTheOpening' || o.timeInForce === 'AtTheClose'));

/** Starts an order, or starts it again: asleep until its session, armed with its trigger, or to work. */
export function activate(w: HoldingStep, o: Order): Order {
  if (o.afterFlat || !worksIn(o, w.step.context.session)) return fallAsleep(w, o);
  if (o.stop !== null) {
    const armed = w.putOrder({ ...o, phase: { k: 'armed' } });
    sayWorking(w, armed);
    return armed;
  }
  return w.putOrder({ ...o, phase: toWork(w.step) });
}

/** The phase of an order that goes to work now. */
export const toWork = (d: BrokerStep): Phase => ({
  k: 'working',
  wire: null,
  went: d.next.turn,
  at: null,
});

/** Says that an order works, and where. */
export function sayWorking(w: HoldingStep, o: Order): void {
  say(w, o, {
    exec: 'New',
    kind: 'working',
    type: o.type,
    limit: o.limit,
    stop: o.phase.k === 'armed' ? o.stop : null,
    route: o.route,
    timeInForce: o.timeInForce,
  });
}

/** Calls an order back from the exchange, or says where one that is on its way goes; null where it has nothing there. */
export function callBack(w: HoldingStep, o: Order, to: Leaving): Order | null {
  if (!isAtWork(o) || o.phase.wire === null) return null;
  const { wire, went, at } = o.phase;
  return w.putOrder({
    ...o,
    phase: { k: (o as Order).phase.k === 'owed' ? 'owed' : 'leaving', wire, to, went, at },
  });
}

/** An order that is not at the exchange sleeps at once; one that is there is called back first. */
export function fallAsleep(w: HoldingStep, o: Order): Order {
  const called = callBack(w, o, { to: 'asleep' });
  if (called) return called;
  const asleep = w.putOrder({ ...o, phase: { k: 'asleep' } });
  say(w, asleep, {
    exec: 'Suspended',
    kind: 'asleep',
    until: o.afterFlat ? 'flat' : o.extended ? 'next' : 'regular',
  });
  return asleep;
}

/** Ends an order: at once when it is not at the exchange, otherwise once the exchange has let go of it. */
export function end(w: HoldingStep, o: Order, status: 'Canceled' | 'Expired', why: Why): void {
  const leaving: Leaving = { to: 'ended', status, why };
  if (!callBack(w, o, leaving)) left(w, o, leaving);
}

/** The exchange has let go of an order (or never had it): it is where it was going. */
export function left(w: HoldingStep, o: Order, leaving: Leaving): void {
  // All that was left of it has filled on its way.
  if (o.filled > 0 && o.filled >= o.qty) {
    w.putOrder({ ...o, phase: { k: 'ended', status: 'Filled', why: null } });
    return;
  }
  switch (leaving.to) {
    case 'work':
      w.putOrder(o);
      return;
    case 'asleep':
      // Known late to have left, it may be in a session again in which it works.
      activate(w, { ...o, phase: { k: 'asleep' } });
      return;
    case 'armed': {
      const armed: Order = { ...o, phase: { k: 'armed' } };
      if (worksIn(o, w.step.context.session)) w.putOrder(armed);
      else fallAsleep(w, armed);
      return;
    }
    case 'ended': {
      const bare = bareAfter(w, o, leaving.why);
      const ended = w.putOrder({ ...o, phase: { k: 'ended', status: leaving.status, why: leaving.why } });
      if (leaving.status === 'Expired')
        say(w, ended, { exec: 'Expired', kind: 'expired', why: leaving.why, bare });
      else say(w, ended, { exec: 'Canceled', kind: 'canceled', why: leaving.why, bare });
    }
  }
}

/** An order that was to take a scope out by its time has ended with shares left: it is not sent again in the same moment, and that is said once. */
export function notOut(w: HoldingStep, o: Order, until: 'quote' | 'session'): void {
  const s = o.role === 'close' ? scopeOf(w, o.scopeId) : undefined;
  if (!s || o.filled >= o.qty) return;
  w.putScope({ ...s, outFailed: { at: w.step.context.now, until } });
  const t = w.trades.find((x) => x.id === s.tradeId);
  if (!s.outFailed && t)
    sayOf(w.step, t, { exec: 'OrderStatus', kind: 'not out', shares: o.qty - o.filled, until });
}

/** Shares that the end of a protecting order leaves without a stop. */
function bareAfter(w: HoldingStep, o: Order, why: Why): number {
  const held = w.trades.some((t) => t.id === o.tradeId && t.status === 'open' && t.entered > t.exited);
  const closed = why === 'position closed' || (typeof why === 'object' && 'closedBy' in why);
  return protects(o) && held && why !== 'no shares' && !closed && why !== 'flatten' ? openOf(o) : 0;
}

/** The order joined with this one, where it is of the other side in the same symbol: only one of the two may ever work. */
export function opposite(w: HoldingStep, o: Order): Order | undefined {
  const same = o.pair?.symbol === o.symbol && o.pair.account === o.account;
  const other = same && o.pair ? current(w, o.pair.id) : undefined;
  return other && other.side !== o.side ? other : undefined;
}

type NewOrder = Pick<
  Order,
  | 'account'
  | 'symbol'
  | 'side'
  | 'type'
  | 'qty'
  | 'limit'
  | 'stop'
  | 'on'
  | 'extended'
  | 'tradeId'
  | 'role'
  | 'scopeId'
  | 'leg'
> &
  Terms & { flat?: boolean; afterFlat?: boolean; works?: Order['works'] & object };

/** The trading day that a day order is good for: today while a session is left in which it works, else the next. */
function lastDayOf(o: Pick<NewOrder, 'extended'>, d: BrokerStep): number {
  const { session, now } = d.context;
  const over = session === 'closed' || (session === 'after hours' && !o.extended);
  return dayOf(now) + (over ? 1 : 0);
}

/** Adds an order and starts it. */
export function addOrder(w: HoldingStep, n: NewOrder): Order {
  const o: Order = {
    ...n,
    id: w.step.next.order++ as OrderId,
    filled: 0,
    notional: 0,
    flat: n.flat ?? false,
    afterFlat: n.afterFlat ?? false,
    phase: { k: 'asleep' },
    wires: 0,
    bounced: { times: 0, at: -1 },
    at: w.step.context.now,
    costs: NO_COSTS,
    added: 0,
    lastDay: lastDayOf(n, w.step),
  };
  return activate(w, w.putOrder(o));
}

/** A trade that waits for its first fill. */
export function newTrade(w: HoldingStep, sign: Sign, sentence: string): Trade {
  return w.putTrade({
    id: w.step.next.trade++ as TradeId,
    account: w.account,
    symbol: w.symbol,
    sign,
    status: 'pending',
    entered: 0,
    entryNotional: 0,
    exited: 0,
    exitNotional: 0,
    costs: NO_COSTS,
    risk: null,
    lots: {},
    openedAt: null,
    closedAt: null,
    best: null,
    worst: null,
    sentence,
  });
}

/** Sets the price of an order that is not at the exchange, or the one it shall have there; a stop takes its limit along. */
export function reprice(w: HoldingStep, o: Order, to: Price, why: Why): Order {
  const from = priceOf(o);
  if (from === to) return o;
  if (isAtWork(o))
    return w.putOrder(
      o.stop === null ? { ...o, limit: to } : ({ ...o, phase: { ...o.phase, at: to } } as Order),
    );
  if (o.stop === null) return w.putOrder({ ...o, limit: to });
  const along =
    o.limit === null
      ? null
      : roundToTick(Math.max(1, o.limit + to - o.stop), o.side === 'buy' ? 'up' : 'down', w.ticks);
  const moved = w.putOrder({ ...o, stop: to, limit: along });
  say(w, moved, { exec: 'Replaced', kind: 'moved', from: from as Price, to, why });
  return moved;
}

/** Sets how many shares an order is still for. */
export function resize(w: HoldingStep, o: Order, open: number): Order {
  const was = o.qty - o.filled;
  if (was === open) return o;
  const next = w.putOrder({ ...o, qty: o.filled + open });
  if (wireOf(o) === null) say(w, next, { exec: 'Replaced', kind: 'resized', from: was, to: open });
  return next;
}

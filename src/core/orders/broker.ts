import { commissionFor, type FeeTable } from '../account/index.ts';
import type { Quote } from '../market/index.ts';
import {
  formatPrice,
  type Money,
  money,
  opposite,
  type Price,
  roundToTick,
  type SessionKind,
  type Side,
  type Sign,
  sideOf,
  signOf,
  tickSize,
  unreachable,
} from '../units/index.ts';
import { allot, exitPrice, openOfGroup, stopPriceOf, wantedExits } from './exits.ts';
import {
  averageEntry,
  type ExecType,
  type ExitGroup,
  type Fill,
  type Intent,
  isLive,
  type Order,
  type OrderEvent,
  type OrderType,
  openOf,
  positionOf,
  type Role,
  type Trade,
  type VenueCommand,
} from './types.ts';

/** Everything the broker knows. Records in it are replaced, never changed. */
export interface Broker {
  nextOrder: number;
  nextTrade: number;
  nextFill: number;
  /** The exchange knows an order by an odd number that is never used again. */
  nextVenue: number;
  /** Which order every number at the exchange belonged to, so that a late report still finds it. */
  byVenue: Readonly<Record<number, number>>;
  orders: Readonly<Record<number, Order>>;
  groups: Readonly<Record<number, ExitGroup>>;
  trades: Readonly<Record<number, Trade>>;
  fills: readonly Fill[];
  fees: FeeTable;
}

export const createBroker = (fees: FeeTable): Broker => ({
  nextOrder: 1,
  nextTrade: 1,
  nextFill: 1,
  nextVenue: 1,
  byVenue: {},
  orders: {},
  groups: {},
  trades: {},
  fills: [],
  fees,
});

/** What the broker may look at while it decides. */
export interface BrokerContext {
  now: number;
  session: SessionKind;
  quote(symbol: string): Quote;
  last(symbol: string): Price | null;
}

export type BrokerInput =
  | { kind: 'intent'; intent: Intent }
  | { kind: 'fill'; venueId: number; price: Price; qty: number; liquidity: 'added' | 'removed' }
  | { kind: 'out'; venueId: number; why: string }
  | { kind: 'price'; symbol: string; last: Price }
  | { kind: 'session' };

export interface Effects {
  events: OrderEvent[];
  venue: VenueCommand[];
}

/**
 * The broker's one step: `(state, input) → [state, effects]`. Venue commands are to be carried
 * out in their order before anything else happens; what they report comes back as inputs.
 */
export function stepBroker(before: Broker, input: BrokerInput, context: BrokerContext): [Broker, Effects] {
  const d: Draft = {
    b: { ...before, orders: { ...before.orders }, groups: { ...before.groups }, trades: { ...before.trades }, byVenue: { ...before.byVenue } } as Draft['b'],
    context,
    effects: { events: [], venue: [] },
  };
  switch (input.kind) {
    case 'intent':
      onIntent(d, input.intent);
      break;
    case 'fill':
      onFill(d, input.venueId, input.price, input.qty, input.liquidity);
      break;
    case 'out':
      onOut(d, input.venueId, input.why);
      break;
    case 'price':
      onPrice(d, input.symbol, input.last);
      break;
    case 'session':
      onSession(d);
      break;
    default:
      unreachable(input);
  }
  return [d.b, d.effects];
}

/** Whether anything of the trader's waits on a symbol's price, so that quiet symbols cost nothing. */
export function watches(b: Broker, symbol: string): boolean {
  for (const id in b.trades) {
    const t = b.trades[id] as Trade;
    if (t.symbol === symbol && (t.status === 'open' || t.status === 'pending')) return true;
  }
  return false;
}

export const liveOrders = (b: Broker): Order[] => Object.values(b.orders).filter(isLive);

interface Draft {
  b: { -readonly [K in keyof Broker]: Broker[K] } & {
    byVenue: Record<number, number>;
    orders: Record<number, Order>;
    groups: Record<number, ExitGroup>;
    trades: Record<number, Trade>;
  };
  context: BrokerContext;
  effects: Effects;
}

/** How far a market order may pay: 10 % or 10 ticks from the quote, whichever is wider. */
export function collar(side: Side, quote: Quote, last: Price | null): Price | null {
  const from = (side === 'buy' ? quote.ask : quote.bid) ?? last;
  if (from === null) return null;
  const reach = Math.max(from * 0.1, 10 * tickSize(from));
  return side === 'buy' ? roundToTick(from + reach, 'down') : roundToTick(Math.max(1, from - reach), 'up');
}

// --- intents

function onIntent(d: Draft, intent: Intent): void {
  switch (intent.kind) {
    case 'entry': {
      const trade = tradeFor(d, intent.symbol, signOf(intent.side), intent.sentence);
      const order = addOrder(d, { ...intent, tradeId: trade.id, role: 'entry', groupId: null, targetIndex: null });
      if (intent.plan) {
        const n = intent.plan.targets.length;
        d.b.groups[order.id] = {
          entryId: order.id,
          tradeId: trade.id,
          symbol: intent.symbol,
          sign: signOf(intent.side),
          plan: intent.plan,
          entered: 0,
          notional: 0,
          targetFilled: new Array<number>(n).fill(0),
          stopFilled: 0,
          byHand: 0,
          stopMoved: null,
          targetMoved: new Array<Price | null>(n).fill(null),
          targetDropped: new Array<boolean>(n).fill(false),
          stopDropped: false,
          breakevenDone: false,
          triggered: false,
          riskPerShare: null,
        };
      }
      activate(d, order.id);
      return;
    }
    case 'close': {
      const trade = openTrade(d, intent.symbol);
      if (!trade) return;
      const held = ordersOf(d, trade.id)
        .filter((o) => o.role === 'close' || (o.role === 'stop' && o.venueId !== null))
        .reduce((a, o) => a + openOf(o), 0);
      const qty = Math.min(intent.qty, positionOf(trade) - held);
      if (qty <= 0) return;
      const order = addOrder(d, { ...intent, side: sideOf(-trade.sign as Sign), qty, tradeId: trade.id, role: 'close', groupId: null, targetIndex: null });
      reconcile(d, trade.id);
      activate(d, order.id);
      return;
    }
    case 'move':
      moveOrder(d, intent.orderId, intent.to);
      return;
    case 'cancel':
      for (const id of intent.orderIds) cancelByTrader(d, id);
      return;
    default:
      unreachable(intent);
  }
}

function moveOrder(d: Draft, id: number, to: Price): void {
  const o = d.b.orders[id];
  if (!o || !isLive(o)) return;
  const g = o.groupId === null ? undefined : d.b.groups[o.groupId];
  if (g && o.role === 'stop') d.b.groups[g.entryId] = { ...g, stopMoved: to };
  if (g && o.role === 'target') d.b.groups[g.entryId] = { ...g, targetMoved: g.targetMoved.map((p, i) => (i === o.targetIndex ? to : p)) };
  reprice(d, id, to, 'moved by you');
}

function reprice(d: Draft, id: number, to: Price, why: string): void {
  const o = d.b.orders[id] as Order;
  const was = o.venueId === null ? (o.stop ?? o.limit) : o.limit;
  if (was === to) return;
  const working = o.venueId !== null;
  if (working) pull(d, o);
  put(d, { ...o, ...(o.venueId === null && o.stop !== null ? { stop: to } : { limit: to }), venueId: null });
  say(d, id, 'Replaced', `${roleName(o)} of ${openOf(o)} ${o.symbol} ${why}: ${formatPrice(was ?? 0)} → ${formatPrice(to)}`);
  if (working) send(d, id);
}

function cancelByTrader(d: Draft, id: number): void {
  const o = d.b.orders[id];
  if (!o || !isLive(o)) return;
  const g = o.groupId === null ? undefined : d.b.groups[o.groupId];
  if (g && o.role === 'stop') d.b.groups[g.entryId] = { ...g, stopDropped: true };
  if (g && o.role === 'target') d.b.groups[g.entryId] = { ...g, targetDropped: g.targetDropped.map((x, i) => x || i === o.targetIndex) };
  cancelOrder(d, id, o.role === 'stop' ? `canceled by you: ${openOf(o)} ${o.symbol} are now without a stop` : 'canceled by you');
  reconcile(d, o.tradeId);
}

// --- what the venue reports

function onFill(d: Draft, venueId: number, at: Price, qty: number, liquidity: 'added' | 'removed'): void {
  const o = d.b.orders[d.b.byVenue[venueId] ?? -1];
  if (!o) return;
  const filled = o.filled + qty;
  const notional = o.notional + at * qty;
  const commission = commissionFor(d.b.fees, filled, notional);
  const charged = money(commission - o.commission);
  const done = filled === o.qty;
  put(d, { ...o, filled, notional, commission, status: done ? 'Filled' : 'PartiallyFilled', venueId: done ? null : o.venueId });
  d.b.fills = [
    ...d.b.fills,
    {
      id: d.b.nextFill++,
      orderId: o.id,
      tradeId: o.tradeId,
      symbol: o.symbol,
      side: o.side,
      role: o.role,
      at: d.context.now,
      price: at,
      qty,
      liquidity,
      commission: charged,
    },
  ];
  bookTrade(d, o, at, qty, charged);
  bookGroup(d, o, at, qty);
  const verb = o.side === 'buy' ? 'bought' : 'sold';
  say(d, o.id, 'Trade', `${roleName(o)}: ${verb} ${qty} ${o.symbol} at ${formatPrice(at)}${done ? '' : `, ${o.qty - filled} left`}`);
  if (o.role === 'target') breakevenAfterTarget(d, o);
  settle(d, o.tradeId);
}

function bookTrade(d: Draft, o: Order, at: Price, qty: number, charged: Money): void {
  const t = d.b.trades[o.tradeId] as Trade;
  const commission = money(t.commission + charged);
  if (o.role === 'entry') {
    d.b.trades[t.id] = {
      ...t,
      status: 'open',
      entered: t.entered + qty,
      entryNotional: t.entryNotional + at * qty,
      commission,
      openedAt: t.openedAt ?? d.context.now,
      best: t.best ?? at,
      worst: t.worst ?? at,
    };
  } else d.b.trades[t.id] = { ...t, exited: t.exited + qty, exitNotional: t.exitNotional + at * qty, commission };
}

function bookGroup(d: Draft, o: Order, at: Price, qty: number): void {
  if (o.role === 'close') return bookByHand(d, o.tradeId, qty);
  const g = d.b.groups[o.role === 'entry' ? o.id : (o.groupId ?? -1)];
  if (!g) return;
  if (o.role === 'entry') {
    const entered = g.entered + qty;
    const notional = g.notional + at * qty;
    const next: ExitGroup = { ...g, entered, notional };
    const first = g.plan.stop;
    const average = notional / entered;
    next.riskPerShare = first === null ? null : first.kind === 'distance' ? first.units : Math.abs(average - first.price);
    d.b.groups[g.entryId] = next;
    const t = d.b.trades[g.tradeId] as Trade;
    const risk = Object.values(d.b.groups)
      .filter((x) => x.tradeId === t.id)
      .reduce((a, x) => a + (x.riskPerShare ?? 0) * x.entered, 0);
    d.b.trades[t.id] = { ...t, risk: risk > 0 ? money(Math.round(risk)) : null };
  } else if (o.role === 'target') {
    d.b.groups[g.entryId] = { ...g, targetFilled: g.targetFilled.map((f, i) => (i === o.targetIndex ? f + qty : f)) };
  } else d.b.groups[g.entryId] = { ...g, stopFilled: g.stopFilled + qty };
}

/** A hand close uses up shares without exits first, then those of the newest group. */
function bookByHand(d: Draft, tradeId: number, qty: number): void {
  const t = d.b.trades[tradeId] as Trade;
  const groups = groupsOf(d, tradeId);
  const covered = groups.reduce((a, g) => a + openOfGroup(g), 0);
  let left = qty - Math.max(0, positionOf(t) + qty - covered);
  for (const g of groups.reverse()) {
    const part = Math.min(Math.max(0, left), openOfGroup(g));
    if (part > 0) d.b.groups[g.entryId] = { ...g, byHand: g.byHand + part };
    left -= part;
  }
}

function onOut(d: Draft, venueId: number, why: string): void {
  const o = d.b.orders[d.b.byVenue[venueId] ?? -1];
  if (o?.venueId !== venueId) return;
  put(d, { ...o, venueId: null, status: 'Canceled', reason: why });
  say(d, o.id, 'Canceled', `${roleName(o)} of ${o.qty - o.filled} ${o.symbol} canceled: ${why}`);
  settle(d, o.tradeId);
}

/** After any change of a trade: ends it when it is flat, otherwise brings its exits in line. */
function settle(d: Draft, tradeId: number): void {
  const t = d.b.trades[tradeId] as Trade;
  if (t.status === 'open' && positionOf(t) === 0) {
    const untouched: Order[] = [];
    for (const o of ordersOf(d, tradeId).filter(isLive)) {
      if (o.role === 'entry' && o.filled === 0) untouched.push(o);
      else cancelOrder(d, o.id, o.role === 'entry' ? 'the trade is flat; the rest of its entry ends' : 'the position is closed');
    }
    d.b.trades[tradeId] = { ...t, status: 'closed', closedAt: d.context.now };
    if (untouched.length > 0) {
      const next = newTrade(d, t.symbol, t.sign, t.sentence);
      for (const o of untouched) {
        put(d, { ...o, tradeId: next.id });
        const g = d.b.groups[o.id];
        if (g) d.b.groups[o.id] = { ...g, tradeId: next.id };
      }
    }
    return;
  }
  if (t.status === 'pending' && !ordersOf(d, tradeId).some(isLive)) d.b.trades[tradeId] = { ...t, status: 'canceled' };
  if (t.status === 'open') reconcile(d, tradeId);
}

// --- exits

/**
 * Makes the working exits of a trade what {@link wantedExits} says: whatever shrinks goes first,
 * so that working exits never add up to more than the position.
 */
function reconcile(d: Draft, tradeId: number): void {
  const t = d.b.trades[tradeId] as Trade;
  if (t.status !== 'open') return;
  const groups = groupsOf(d, tradeId);
  const covered = groups.reduce((a, g) => a + openOfGroup(g), 0);
  const byHand = ordersOf(d, tradeId)
    .filter((o) => o.role === 'close')
    .reduce((a, o) => a + openOf(o), 0);
  let toReserve = Math.max(0, byHand - Math.max(0, positionOf(t) - covered));
  const later: (() => void)[] = [];
  for (const g of [...groups].reverse()) {
    const reserved = Math.min(toReserve, openOfGroup(g));
    toReserve -= reserved;
    const wanted = wantedExits(g, reserved);
    const mine = ordersOf(d, tradeId).filter((o) => o.groupId === g.entryId && isLive(o));
    wanted.targets.forEach((w, i) => {
      const o = mine.find((x) => x.role === 'target' && x.targetIndex === i);
      align(d, g, o, 'target', i, w.open, w.price, later);
    });
    const stop = mine.find((x) => x.role === 'stop');
    if (!g.triggered) align(d, g, stop, 'stop', null, wanted.stop?.open ?? 0, wanted.stop?.price ?? null, later);
    else if (stop && stop.qty - stop.filled > openOfGroup(g)) resize(d, stop, openOfGroup(g));
  }
  for (const grow of later) grow();
}

function align(
  d: Draft,
  g: ExitGroup,
  o: Order | undefined,
  role: 'target' | 'stop',
  index: number | null,
  open: number,
  at: Price | null,
  later: (() => void)[],
): void {
  if (open === 0 || at === null) {
    if (o) cancelOrder(d, o.id, g.triggered ? 'its stop was triggered' : 'no shares are left for it');
    return;
  }
  if (!o) {
    later.push(() => {
      const order = addOrder(d, {
        symbol: g.symbol,
        side: opposite(sideOf(g.sign)),
        type: role === 'target' ? 'Limit' : 'Stop',
        qty: open,
        limit: role === 'target' ? at : null,
        stop: role === 'stop' ? at : null,
        extended: g.plan.extended,
        tradeId: g.tradeId,
        role,
        groupId: g.entryId,
        targetIndex: index,
      });
      activate(d, order.id);
    });
    return;
  }
  const now = o.qty - o.filled;
  if (open < now) resize(d, o, open);
  else if (open > now) later.push(() => resize(d, d.b.orders[o.id] as Order, open));
  const fixed = role === 'stop' ? o.stop : o.limit;
  if (fixed !== at) later.push(() => reprice(d, o.id, at, 'follows the average entry'));
}

/** A smaller size keeps its place in the queue; a larger one loses it (common practice). */
function resize(d: Draft, o: Order, open: number): void {
  const was = o.qty - o.filled;
  const next = { ...o, qty: o.filled + open };
  if (o.venueId !== null && open < was) d.effects.venue.push({ kind: 'shrink', venueId: o.venueId, symbol: o.symbol, qty: open });
  if (o.venueId !== null && open > was) {
    pull(d, o);
    put(d, { ...next, venueId: null });
    send(d, o.id);
  } else put(d, next);
  say(d, o.id, 'Replaced', `${roleName(o)} of ${o.symbol} now for ${open}, was ${was}`);
}

function breakevenAfterTarget(d: Draft, o: Order): void {
  const g = d.b.groups[o.groupId ?? -1];
  const after = g?.plan.breakeven?.after;
  if (!g || g.breakevenDone || after?.kind !== 'target' || after.index !== o.targetIndex) return;
  const due = allot(
    g.plan.targets.map((t) => t.part),
    g.entered,
  )[after.index] as number;
  if ((g.targetFilled[after.index] as number) >= due) toBreakeven(d, g);
}

/** Moves the stop to average entry (or with costs), rounded so that it never loses; only tightens. */
function toBreakeven(d: Draft, g: ExitGroup): void {
  const t = d.b.trades[g.tradeId] as Trade;
  const stop = stopPriceOf(g);
  const costs = g.plan.breakeven?.plusCosts ? (2 * t.commission) / t.entered : 0;
  const target = roundToTick(g.notional / g.entered + g.sign * costs, g.sign === 1 ? 'up' : 'down');
  const tighter = stop === null || g.sign * (target - stop) > 0;
  d.b.groups[g.entryId] = { ...g, breakevenDone: true, stopMoved: tighter ? target : g.stopMoved };
  const o = ordersOf(d, g.tradeId).find((x) => x.role === 'stop' && x.groupId === g.entryId && isLive(x));
  if (o && tighter) reprice(d, o.id, target, 'moved to breakeven');
}

// --- prices and sessions

function onPrice(d: Draft, symbol: string, last: Price): void {
  const regular = d.context.session === 'regular';
  for (const t of Object.values(d.b.trades)) {
    if (t.symbol !== symbol || t.status !== 'open') continue;
    const better = t.best === null || t.sign * (last - t.best) > 0;
    const worse = t.worst === null || t.sign * (last - t.worst) < 0;
    if (better || worse) d.b.trades[t.id] = { ...t, best: better ? last : t.best, worst: worse ? last : t.worst };
  }
  for (const { id } of Object.values(d.b.orders)) {
    const o = d.b.orders[id] as Order;
    if (o.symbol !== symbol || o.stop === null || o.venueId !== null || !isLive(o) || o.status === 'Suspended' || (!regular && !o.extended)) continue;
    if (o.side === 'buy' ? last >= o.stop : last <= o.stop) trigger(d, o, last);
  }
  for (const g of Object.values(d.b.groups)) {
    const after = g.plan.breakeven?.after;
    if (g.symbol !== symbol || g.breakevenDone || g.triggered || !after || after.kind === 'target' || openOfGroup(g) === 0) continue;
    if (g.sign * (last - exitPrice(g, after, g.notional / g.entered, 1)) >= 0) toBreakeven(d, g);
  }
}

/** A stop that is touched first takes out whatever else would close the same shares, then goes. */
function trigger(d: Draft, o: Order, last: Price): void {
  const g = o.groupId === null ? undefined : d.b.groups[o.groupId];
  if (g) {
    d.b.groups[g.entryId] = { ...g, triggered: true };
    for (const x of ordersOf(d, o.tradeId)) if (x.role === 'close' && isLive(x)) cancelOrder(d, x.id, 'a stop was triggered');
    reconcile(d, o.tradeId);
  } else if (o.role === 'close') reconcile(d, o.tradeId);
  put(d, { ...(d.b.orders[o.id] as Order), status: o.filled > 0 ? 'PartiallyFilled' : 'New' });
  say(d, o.id, 'TriggeredOrActivatedBySystem', `${roleName(o)} triggered: ${o.symbol} traded at ${formatPrice(last)}, stop ${formatPrice(o.stop ?? 0)}`);
  send(d, o.id);
}

function onSession(d: Draft): void {
  for (const o of Object.values(d.b.orders)) {
    if (!isLive(o)) continue;
    if (d.context.session === 'regular' && o.status === 'Suspended') activate(d, o.id);
    else if (d.context.session === 'after hours' && !o.extended) {
      if (o.role === 'entry' || o.role === 'close') expire(d, o, 'good for the regular session, which has ended');
      else if (o.venueId !== null) sleep(d, o);
    } else if (d.context.session === 'closed') expire(d, o, 'a day order; the day has ended');
  }
}

function expire(d: Draft, o: Order, why: string): void {
  if (o.venueId !== null) pull(d, o);
  put(d, { ...o, status: 'Expired', venueId: null, reason: why });
  say(d, o.id, 'Expired', `${roleName(o)} of ${o.symbol} expired: ${why}`);
  settle(d, o.tradeId);
}

function sleep(d: Draft, o: Order): void {
  if (o.venueId !== null) pull(d, o);
  put(d, { ...o, status: 'Suspended', venueId: null });
  say(d, o.id, 'Suspended', `${roleName(o)} of ${openOf(o)} ${o.symbol} waits for the regular session at 09:30`);
}

// --- small parts

/** Starts an order: to the venue, to the watch for its stop, or to sleep until its session. */
function activate(d: Draft, id: number): void {
  const o = d.b.orders[id] as Order;
  if (!o.extended && d.context.session !== 'regular') return sleep(d, o);
  put(d, { ...o, status: o.filled > 0 ? 'PartiallyFilled' : 'New' });
  const where = o.stop !== null ? `stop ${formatPrice(o.stop)}` : o.type === 'Market' ? 'at market' : `limit ${formatPrice(o.limit ?? 0)}`;
  say(d, id, 'New', `${roleName(o)}: ${o.side} ${openOf(o)} ${o.symbol} ${where}`);
  if (o.stop === null) send(d, id);
}

function send(d: Draft, id: number): void {
  const o = d.b.orders[id] as Order;
  const triggered = o.type === 'Stop';
  const limit = o.type === 'Market' || triggered ? collar(o.side, d.context.quote(o.symbol), d.context.last(o.symbol)) : o.limit;
  if (limit === null) {
    put(d, { ...o, status: 'Rejected', reason: 'no price to trade at' });
    say(d, id, 'Rejected', `${roleName(o)} of ${o.symbol} rejected: the other side of the book is empty and nothing has traded`);
    return;
  }
  const venueId = d.b.nextVenue;
  d.b.nextVenue += 2;
  d.b.byVenue[venueId] = id;
  put(d, { ...o, venueId, limit: triggered || o.type === 'Market' ? limit : o.limit });
  d.effects.venue.push({ kind: 'send', venueId, symbol: o.symbol, side: o.side, limit, qty: o.qty - o.filled, rest: o.type !== 'Market' });
}

function pull(d: Draft, o: Order): void {
  if (o.venueId !== null) d.effects.venue.push({ kind: 'pull', venueId: o.venueId, symbol: o.symbol });
}

function cancelOrder(d: Draft, id: number, why: string): void {
  const o = d.b.orders[id] as Order;
  pull(d, o);
  put(d, { ...o, status: 'Canceled', venueId: null, reason: why });
  say(d, id, 'Canceled', `${roleName(o)} of ${o.qty - o.filled} ${o.symbol} canceled: ${why}`);
  const t = d.b.trades[o.tradeId] as Trade;
  if (t.status === 'pending' && !ordersOf(d, t.id).some(isLive)) d.b.trades[t.id] = { ...t, status: 'canceled' };
}

type NewOrder = {
  symbol: string;
  side: Side;
  type: OrderType;
  qty: number;
  limit: Price | null;
  stop: Price | null;
  extended: boolean;
  tradeId: number;
  role: Role;
  groupId: number | null;
  targetIndex: number | null;
};

function addOrder(d: Draft, n: NewOrder): Order {
  const order: Order = {
    id: d.b.nextOrder++,
    tradeId: n.tradeId,
    groupId: n.groupId,
    targetIndex: n.targetIndex,
    symbol: n.symbol,
    side: n.side,
    role: n.role,
    type: n.type,
    qty: n.qty,
    filled: 0,
    notional: 0,
    limit: n.limit,
    stop: n.stop,
    extended: n.extended,
    status: 'New',
    venueId: null,
    at: d.context.now,
    reason: '',
    commission: money(0),
  };
  put(d, order);
  return order;
}

function put(d: Draft, o: Order): void {
  d.b.orders[o.id] = o;
}

function say(d: Draft, id: number, exec: ExecType, text: string): void {
  const o = d.b.orders[id] as Order;
  d.effects.events.push({ at: d.context.now, exec, status: o.status, orderId: id, tradeId: o.tradeId, symbol: o.symbol, text });
}

const ordersOf = (d: Draft, tradeId: number): Order[] => Object.values(d.b.orders).filter((o) => o.tradeId === tradeId);
const groupsOf = (d: Draft, tradeId: number): ExitGroup[] => Object.values(d.b.groups).filter((g) => g.tradeId === tradeId);
const openTrade = (d: Draft, symbol: string): Trade | undefined => Object.values(d.b.trades).find((t) => t.symbol === symbol && t.status === 'open');

function tradeFor(d: Draft, symbol: string, sign: Sign, sentence: string): Trade {
  const now = Object.values(d.b.trades).find((t) => t.symbol === symbol && t.sign === sign && (t.status === 'open' || t.status === 'pending'));
  return now ?? newTrade(d, symbol, sign, sentence);
}

function newTrade(d: Draft, symbol: string, sign: Sign, sentence: string): Trade {
  const trade: Trade = {
    id: d.b.nextTrade++,
    symbol,
    sign,
    status: 'pending',
    entered: 0,
    entryNotional: 0,
    exited: 0,
    exitNotional: 0,
    commission: money(0),
    risk: null,
    openedAt: null,
    closedAt: null,
    best: null,
    worst: null,
    sentence,
  };
  d.b.trades[trade.id] = trade;
  return trade;
}

function roleName(o: Order): string {
  switch (o.role) {
    case 'entry':
      return 'Entry';
    case 'close':
      return 'Close';
    case 'target':
      return `Target ${(o.targetIndex ?? 0) + 1}`;
    case 'stop':
      return 'Stop';
    default:
      return unreachable(o.role);
  }
}

/** P&L of a trade in 1/10,000 dollar: realized on what is closed, unrealized on what is open at `mark`. */
export function profitOf(t: Trade, mark: number | null): { realized: number; unrealized: number } {
  const average = averageEntry(t) ?? 0;
  return {
    realized: t.sign * (t.exitNotional - average * t.exited),
    unrealized: mark === null ? 0 : t.sign * (mark - average) * positionOf(t),
  };
}

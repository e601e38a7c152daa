import type { FeeTable } from '../account/index.ts';
import type { PrintVenue, Quote } from '../market/index.ts';
import { formatPrice, money, type Price, roundToTick, type SessionKind, type Side, type Sign, tickSize, unreachable } from '../units/index.ts';
import {
  type ExecType,
  type ExitGroup,
  type Fill,
  type Intent,
  isLive,
  type Order,
  type OrderEvent,
  openOf,
  type Terms,
  type Trade,
  type VenueCommand,
} from './types.ts';

/**
 * What the broker knows, and one step's draft of it: records are replaced in copies of its tables, and
 * what is to be said and sent is collected. The small moves of one order are here.
 */
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

/** What the broker may look at while it decides. */
export interface BrokerContext {
  now: number;
  session: SessionKind;
  quote(symbol: string): Quote;
  last(symbol: string): Price | null;
}

export type BrokerInput =
  | { kind: 'intent'; intent: Intent }
  | { kind: 'fill'; venueId: number; price: Price; qty: number; liquidity: 'added' | 'removed'; venue: PrintVenue; better: number }
  | { kind: 'out'; venueId: number; why: string }
  | { kind: 'price'; symbol: string; last: Price }
  | { kind: 'session' };

export interface Effects {
  events: OrderEvent[];
  venue: VenueCommand[];
}

export interface Draft {
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

export function reprice(d: Draft, id: number, to: Price, why: string): void {
  const o = d.b.orders[id] as Order;
  const was = o.venueId === null ? (o.stop ?? o.limit) : o.limit;
  if (was === to) return;
  const working = o.venueId !== null;
  if (working) pull(d, o);
  put(d, { ...o, ...(o.venueId === null && o.stop !== null ? { stop: to } : { limit: to }), venueId: null });
  say(d, id, 'Replaced', `${roleName(o)} of ${openOf(o)} ${o.symbol} ${why}: ${formatPrice(was ?? 0)} → ${formatPrice(to)}`);
  if (working) send(d, id);
}

/** A smaller size keeps its place in the queue; a larger one loses it (common practice). */
export function resize(d: Draft, o: Order, open: number): void {
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

export function sleep(d: Draft, o: Order): void {
  if (o.venueId !== null) pull(d, o);
  put(d, { ...o, status: 'Suspended', venueId: null });
  say(d, o.id, 'Suspended', `${roleName(o)} of ${openOf(o)} ${o.symbol} waits for ${o.extended ? 'the next session' : 'the regular session at 09:30'}`);
}

/** Starts an order: to the venue, to the watch for its stop, or to sleep until its session. */
export function activate(d: Draft, id: number): void {
  const o = d.b.orders[id] as Order;
  const { session } = d.context;
  if (session === 'closed' || (!o.extended && session !== 'regular' && !atAuction(o))) return sleep(d, o);
  put(d, { ...o, status: o.filled > 0 ? 'PartiallyFilled' : 'New' });
  const where =
    o.stop !== null ? `stop ${formatPrice(o.stop)}` : o.limit !== null ? `limit ${formatPrice(o.limit)}` : o.route === 'mid' ? 'at the midpoint' : 'at market';
  const joins = o.timeInForce === 'AtTheOpening' ? ', in the opening auction' : o.timeInForce === 'AtTheClose' ? ', in the closing auction' : '';
  say(d, id, 'New', `${roleName(o)}: ${o.side} ${openOf(o)} ${o.symbol} ${where}${joins}`);
  if (o.stop === null) send(d, id);
}

const atAuction = (o: Order): boolean => o.timeInForce === 'AtTheOpening' || o.timeInForce === 'AtTheClose';

export function send(d: Draft, id: number): void {
  const o = d.b.orders[id] as Order;
  const triggered = o.type === 'Stop';
  const auction = atAuction(o);
  const open = auction || o.route === 'mid';
  const limit = !open && (o.type === 'Market' || triggered) ? collar(o.side, d.context.quote(o.symbol), d.context.last(o.symbol)) : o.limit;
  if (limit === null && !open) {
    put(d, { ...o, status: 'Rejected', reason: 'no price to trade at' });
    say(d, id, 'Rejected', `${roleName(o)} of ${o.symbol} rejected: the other side of the book is empty and nothing has traded`);
    return;
  }
  const venueId = d.b.nextVenue;
  d.b.nextVenue += 2;
  d.b.byVenue[venueId] = id;
  put(d, { ...o, venueId, limit: triggered || (o.type === 'Market' && !auction) ? limit : o.limit });
  d.effects.venue.push({
    kind: 'send',
    venueId,
    symbol: o.symbol,
    side: o.side,
    limit,
    qty: o.qty - o.filled,
    life: o.timeInForce === 'FillOrKill' ? 'fok' : o.timeInForce === 'ImmediateOrCancel' || o.type === 'Market' ? 'ioc' : 'day',
    route: o.timeInForce === 'AtTheOpening' ? 'open' : o.timeInForce === 'AtTheClose' ? 'close' : o.route,
    postOnly: o.postOnly,
    short: o.role === 'entry' && o.side === 'sell',
  });
}

export function pull(d: Draft, o: Order): void {
  if (o.venueId !== null) d.effects.venue.push({ kind: 'pull', venueId: o.venueId, symbol: o.symbol });
}

export function cancelOrder(d: Draft, id: number, why: string): void {
  const o = d.b.orders[id] as Order;
  pull(d, o);
  put(d, { ...o, status: 'Canceled', venueId: null, reason: why });
  say(d, id, 'Canceled', `${roleName(o)} of ${o.qty - o.filled} ${o.symbol} canceled: ${why}`);
  const t = d.b.trades[o.tradeId] as Trade;
  if (t.status === 'pending' && !ordersOf(d, t.id).some(isLive)) d.b.trades[t.id] = { ...t, status: 'canceled' };
}

export type NewOrder = Pick<Order, 'symbol' | 'side' | 'type' | 'qty' | 'limit' | 'stop' | 'extended' | 'tradeId' | 'role' | 'groupId' | 'targetIndex'> & Terms;

export function addOrder(d: Draft, n: NewOrder): Order {
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
    timeInForce: n.timeInForce,
    route: n.route,
    postOnly: n.postOnly,
    status: 'New',
    venueId: null,
    at: d.context.now,
    reason: '',
    commission: money(0),
  };
  put(d, order);
  return order;
}

export function put(d: Draft, o: Order): void {
  d.b.orders[o.id] = o;
}

export function say(d: Draft, id: number, exec: ExecType, text: string): void {
  const o = d.b.orders[id] as Order;
  d.effects.events.push({ at: d.context.now, exec, status: o.status, orderId: id, tradeId: o.tradeId, symbol: o.symbol, text });
}

export const ordersOf = (d: Draft, tradeId: number): Order[] => Object.values(d.b.orders).filter((o) => o.tradeId === tradeId);
export const groupsOf = (d: Draft, tradeId: number): ExitGroup[] => Object.values(d.b.groups).filter((g) => g.tradeId === tradeId);
export const openTrade = (d: Draft, symbol: string): Trade | undefined => Object.values(d.b.trades).find((t) => t.symbol === symbol && t.status === 'open');

export function tradeFor(d: Draft, symbol: string, sign: Sign, sentence: string): Trade {
  const now = Object.values(d.b.trades).find((t) => t.symbol === symbol && t.sign === sign && (t.status === 'open' || t.status === 'pending'));
  return now ?? newTrade(d, symbol, sign, sentence);
}

export function newTrade(d: Draft, symbol: string, sign: Sign, sentence: string): Trade {
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

export function roleName(o: Order): string {
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

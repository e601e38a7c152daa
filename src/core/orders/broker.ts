import type { FeeTable } from '../account/index.ts';
import { formatPrice, type Price, type Sign, sideOf, signOf, unreachable } from '../units/index.ts';
import {
  activate,
  addOrder,
  type Broker,
  type BrokerContext,
  type BrokerInput,
  cancelOrder,
  type Draft,
  type Effects,
  openTrade,
  ordersOf,
  pull,
  put,
  reprice,
  roleName,
  say,
  send,
  sleep,
  tradeFor,
} from './draft.ts';
import { exitPrice, openOfGroup } from './exits.ts';
import { onFill, onOut, settle } from './fills.ts';
import { reconcile, toBreakeven } from './reconcile.ts';
import { averageEntry, type Intent, isLive, type Order, openOf, positionOf, type Trade } from './types.ts';

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
      onFill(d, input.venueId, input.price, input.qty, input.liquidity, input.venue, input.better);
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

function cancelByTrader(d: Draft, id: number): void {
  const o = d.b.orders[id];
  if (!o || !isLive(o)) return;
  dropFromPlan(d, o);
  cancelOrder(d, id, o.role === 'stop' ? `canceled by you: ${openOf(o)} ${o.symbol} are now without a stop` : 'canceled by you');
  reconcile(d, o.tradeId);
}

/** An exit that has ended for good is not made anew. */
function dropFromPlan(d: Draft, o: Order): void {
  const g = o.groupId === null ? undefined : d.b.groups[o.groupId];
  if (g && o.role === 'stop') d.b.groups[g.entryId] = { ...g, stopDropped: true };
  if (g && o.role === 'target') d.b.groups[g.entryId] = { ...g, targetDropped: g.targetDropped.map((x, i) => x || i === o.targetIndex) };
}

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
    else if (d.context.session === 'pre-market' && o.status === 'Suspended' && o.extended) activate(d, o.id);
    else if (d.context.session === 'after hours' && !o.extended) {
      if ((o.role === 'entry' || o.role === 'close') && o.timeInForce !== 'GoodTillCancel') expire(d, o, 'good for the regular session, which has ended');
      else if (o.venueId !== null) sleep(d, o);
    } else if (d.context.session === 'closed') {
      if (o.timeInForce === 'GoodTillCancel') sleep(d, o);
      else
        expire(d, o, o.role === 'stop' ? `a day order; the day has ended, and ${openOf(o)} ${o.symbol} are without a stop` : 'a day order; the day has ended');
    }
  }
}

function expire(d: Draft, o: Order, why: string): void {
  if (o.venueId !== null) pull(d, o);
  dropFromPlan(d, o);
  put(d, { ...o, status: 'Expired', venueId: null, reason: why });
  say(d, o.id, 'Expired', `${roleName(o)} of ${o.symbol} expired: ${why}`);
  settle(d, o.tradeId);
}

/** P&L of a trade in 1/10,000 dollar: realized on what is closed, unrealized on what is open at `mark`. */
export function profitOf(t: Trade, mark: number | null): { realized: number; unrealized: number } {
  const average = averageEntry(t) ?? 0;
  return {
    realized: t.sign * (t.exitNotional - average * t.exited),
    unrealized: mark === null ? 0 : t.sign * (mark - average) * positionOf(t),
  };
}

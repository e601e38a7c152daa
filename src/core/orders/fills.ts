import { commissionFor } from '../account/index.ts';
import type { PrintVenue } from '../market/index.ts';
import { formatPrice, type Money, money, type Price } from '../units/index.ts';
import { cancelOrder, type Draft, groupsOf, newTrade, ordersOf, put, roleName, say } from './draft.ts';
import { openOfGroup } from './exits.ts';
import { breakevenAfterTarget, reconcile } from './reconcile.ts';
import { type ExitGroup, isLive, type Order, positionOf, type Trade } from './types.ts';

export function onFill(d: Draft, venueId: number, at: Price, qty: number, liquidity: 'added' | 'removed', venue: PrintVenue, better: number): void {
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
      venue,
      better,
      commission: charged,
    },
  ];
  bookTrade(d, o, at, qty, charged);
  bookGroup(d, o, at, qty);
  const verb = o.side === 'buy' ? 'bought' : 'sold';
  say(
    d,
    o.id,
    'Trade',
    `${roleName(o)}: ${verb} ${qty} ${o.symbol} at ${formatPrice(at)}${better > 0 ? `, ${formatPrice(better)} better than ${venue === 'MID' ? 'the quote' : 'asked'}` : ''}${done ? '' : `, ${o.qty - filled} left`}`,
  );
  if (o.role === 'target') breakevenAfterTarget(d, o);
  settle(d, o.tradeId);
}

export function bookTrade(d: Draft, o: Order, at: Price, qty: number, charged: Money): void {
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

export function bookGroup(d: Draft, o: Order, at: Price, qty: number): void {
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

/** A hand close uses up shares without exits first, then those of the newest group; shares of a triggered stop last. */
export function bookByHand(d: Draft, tradeId: number, qty: number): void {
  const t = d.b.trades[tradeId] as Trade;
  const groups = groupsOf(d, tradeId);
  const covered = groups.reduce((a, g) => a + openOfGroup(g), 0);
  let left = qty - Math.max(0, positionOf(t) + qty - covered);
  const newestFirst = groups.reverse();
  for (const g of [...newestFirst.filter((x) => !x.triggered), ...newestFirst.filter((x) => x.triggered)]) {
    const part = Math.min(Math.max(0, left), openOfGroup(g));
    if (part > 0) d.b.groups[g.entryId] = { ...g, byHand: g.byHand + part };
    left -= part;
  }
}

export function onOut(d: Draft, venueId: number, why: string): void {
  const o = d.b.orders[d.b.byVenue[venueId] ?? -1];
  if (o?.venueId !== venueId) return;
  put(d, { ...o, venueId: null, status: 'Canceled', reason: why });
  say(d, o.id, 'Canceled', `${roleName(o)} of ${o.qty - o.filled} ${o.symbol} canceled: ${why}`);
  settle(d, o.tradeId);
}

/** After any change of a trade: ends it when it is flat, otherwise brings its exits in line. */
export function settle(d: Draft, tradeId: number): void {
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

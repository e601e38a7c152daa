import type { OrderEvent } from '../core/orders/index.ts';
import { formatPrice } from '../core/units/index.ts';

/** What traded in these events, an order a line, with the price it got: `bought 200 VULPN at 7.4125`. */
export function gotOf(events: readonly OrderEvent[]): string[] {
  const orders = new Map<
    number,
    { verb: string; symbol: string; qty: number; notional: number; left: number }
  >();
  for (const e of events) {
    if (e.kind !== 'fill' || e.orderId === null) continue;
    const o = orders.get(e.orderId) ?? {
      verb: e.side === 'buy' ? 'bought' : 'sold',
      symbol: e.symbol,
      qty: 0,
      notional: 0,
      left: 0,
    };
    orders.set(e.orderId, { ...o, qty: o.qty + e.qty, notional: o.notional + e.qty * e.price, left: e.open });
  }
  return [...orders.values()].map(
    (o) =>
      `${o.verb} ${o.qty} ${o.symbol} at ${formatPrice(Math.round(o.notional / o.qty))}${o.left > 0 ? `, ${o.left} still to go` : ''}`,
  );
}

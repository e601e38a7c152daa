import type { Broker, Fill, Holding, OrderEvent } from '../../core/orders/index.ts';
import { reviewTrade } from '../../core/review/index.ts';
import { shelf } from '../../core/units/index.ts';
import type { BookSlice } from './slices.ts';

/** Changes of the trader's orders and trades since the last call, so that a step costs what it changed, not what has been; the first time, all there are. */
export function bookChanges(): (b: Broker, events: readonly OrderEvent[]) => BookSlice {
  let last: Broker | null = null;
  let eventId = 0;
  const fills = new Map<number, Fill[]>();
  return (b, events) => {
    const before = last;
    last = b;
    for (const f of shelf.changed(before?.past.fills ?? null, b.past.fills)) {
      const list = fills.get(f.tradeId);
      if (list) list.push(f);
      else fills.set(f.tradeId, [f]);
    }
    const out: BookSlice = {
      whole: before === null,
      trades: [],
      orders: [],
      scopes: [],
      reviews: [],
      events: events.filter((e) => e.id > eventId),
    };
    eventId = events[events.length - 1]?.id ?? eventId;
    const fresh = <T extends { id: number }>(now: readonly T[], old: readonly T[] | undefined) =>
      now.filter((x) => !old?.includes(x));
    for (const key in b.holdings) {
      const now = b.holdings[key] as Holding;
      const old = before?.holdings[key];
      if (now === old) continue;
      out.trades.push(...fresh(now.trades, old?.trades));
      out.orders.push(...fresh(now.orders, old?.orders));
      out.scopes.push(...fresh(now.scopes, old?.scopes));
    }
    out.trades.push(...shelf.changed(before?.past.trades ?? null, b.past.trades));
    out.orders.push(...shelf.changed(before?.past.orders ?? null, b.past.orders));
    out.scopes.push(...shelf.changed(before?.past.scopes ?? null, b.past.scopes));
    for (const list of [out.trades, out.orders, out.scopes]) list.sort((x, y) => x.id - y.id);
    out.reviews = out.trades.flatMap((t) => reviewTrade(t, fills.get(t.id) ?? []) ?? []);
    return out;
  };
}

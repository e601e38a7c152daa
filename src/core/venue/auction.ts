import { type Price, roundToTick, type Side } from '../units/index.ts';

/** An order in a call auction; `limit` null is a market order. `seq` is its place in time. */
export interface AuctionOrder {
  id: number;
  side: Side;
  limit: Price | null;
  qty: number;
  seq: number;
}

/** Where an auction would clear now. */
export interface Cross {
  /** Null when nothing can pair. */
  price: Price | null;
  paired: number;
  /** Shares left over at the clearing price: above zero buyers, below zero sellers. */
  imbalance: number;
}

/**
 * The clearing price of a call auction: the price that pairs the most shares; among equals the one
 * that leaves the smallest imbalance; then the highest if only buyers are left over everywhere, the
 * lowest if only sellers; then the nearest to the reference price; then the lower one (common
 * practice: the usual tie rules of exchange auctions).
 */
export function crossOf(orders: readonly AuctionOrder[], reference: Price): Cross {
  // What pairs changes only at a limit, and one tick beyond it, where its order has dropped out.
  const limits = orders.flatMap((o) => {
    if (o.limit === null) return [];
    return o.side === 'buy'
      ? [o.limit, roundToTick(o.limit + 1, 'up')]
      : o.limit > 1
        ? [o.limit, roundToTick(o.limit - 1, 'down')]
        : [o.limit];
  });
  const candidates = [...new Set([...limits, roundToTick(reference)])].sort((a, b) => a - b);
  let best: { price: Price; paired: number; imbalance: number }[] = [];
  for (const price of candidates) {
    let buys = 0;
    let sells = 0;
    for (const o of orders) {
      if (o.side === 'buy' && (o.limit === null || o.limit >= price)) buys += o.qty;
      if (o.side === 'sell' && (o.limit === null || o.limit <= price)) sells += o.qty;
    }
    const now = { price, paired: Math.min(buys, sells), imbalance: buys - sells };
    const [top] = best;
    if (
      !top ||
      now.paired > top.paired ||
      (now.paired === top.paired && Math.abs(now.imbalance) < Math.abs(top.imbalance))
    )
      best = [now];
    else if (now.paired === top.paired && Math.abs(now.imbalance) === Math.abs(top.imbalance)) best.push(now);
  }
  const pick =
    pressure(best) ??
    [...best].sort(
      (a, b) => Math.abs(a.price - reference) - Math.abs(b.price - reference) || a.price - b.price,
    )[0];
  return pick && pick.paired > 0 ? pick : { price: null, paired: 0, imbalance: pick?.imbalance ?? 0 };
}

function pressure<T extends { imbalance: number }>(ties: readonly T[]): T | undefined {
  if (ties.every((t) => t.imbalance > 0)) return ties[ties.length - 1];
  return ties.every((t) => t.imbalance < 0) ? ties[0] : undefined;
}

/**
 * Shares each order gets at the clearing price: market orders first, then the better limit, then
 * the earlier order. What both sides get is equal. Orders that get nothing are not listed.
 */
export function allotCross(orders: readonly AuctionOrder[], cross: Cross): { id: number; qty: number }[] {
  const { price } = cross;
  if (price === null) return [];
  const out: { id: number; qty: number }[] = [];
  for (const side of ['buy', 'sell'] as const) {
    const sign = side === 'buy' ? 1 : -1;
    const key = (o: AuctionOrder) => (o.limit === null ? Number.POSITIVE_INFINITY : sign * o.limit);
    const mine = orders
      .filter((o) => o.side === side && key(o) >= sign * price)
      .sort((a, b) => (key(a) === key(b) ? a.seq - b.seq : key(b) > key(a) ? 1 : -1));
    let left = cross.paired;
    for (const o of mine) {
      const qty = Math.min(o.qty, left);
      if (qty > 0) out.push({ id: o.id, qty });
      left -= qty;
    }
  }
  return out;
}

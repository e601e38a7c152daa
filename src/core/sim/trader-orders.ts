// The trader’s orders on a floor: in the lit book, at the midpoint, and what they do to the price.
import type { Price, Side, WireId } from '../units/index.ts';
import { available, bestAsk, bestBid, cancel, lowestShortPrice, reduce, submit } from '../venue/index.ts';
import { match, out, print, tell } from './executions.ts';
import type { Floor, FloorContext, Standing } from './floor-types.ts';
import { remove, takenAt } from './refill.ts';

/** Takes an order of the trader into the lit book. */
export function enterLit(f: Floor, c: FloorContext, o: Standing): void {
  const limit = allowed(f, c, o);
  const touch = o.side === 'buy' ? bestAsk(f.book) : bestBid(f.book);
  const marketable = touch !== null && (o.side === 'buy' ? limit >= touch : limit <= touch);
  if (o.postOnly && marketable) return out(f, c, o.id, 'would take liquidity, and was post only');
  if (o.life === 'fok' && available(f.book, o.side, limit, 1) < o.open)
    return out(f, c, o.id, 'not all could fill at once');
  const left = match(f, c, { aggressor: o.side, taker: o, reference: touch }, (sink) =>
    submit(f.book, { side: o.side, limit, qty: o.open, owner: 1, rest: o.life === 'day' }, sink),
  );
  o.place = f.book.placed;
  if (left < 0) return out(f, c, o.id, 'too far');
  if (left > 0 && o.life !== 'day') out(f, c, o.id, 'unfilled rest');
}

/** No order trades beyond the price bands, and no short sale at or below the bid while shorts are restricted. */
function allowed(f: Floor, c: FloorContext, o: Standing): Price {
  let limit = o.limit as Price;
  const upper = c.sketches.upper[f.i] as Price;
  const lower = c.sketches.lower[f.i] as Price;
  if (upper > 0 && o.side === 'buy' && limit > upper) limit = upper;
  if (lower > 0 && o.side === 'sell' && limit < lower) limit = lower;
  const bid = bestBid(f.book);
  if (o.short && c.restricted() && bid !== null && limit <= bid) limit = lowestShortPrice(bid);
  return limit;
}

/** Takes an order out. @returns whether it was still there. */
export function leave(f: Floor, id: WireId): boolean {
  const o = f.orders.get(id);
  if (!o) return false;
  f.orders.delete(id);
  if (o.where === 'book') cancel(f.book, o.place);
  return true;
}

/**
 * Changes an order: `qty` in all, what has filled included. Less at the same price keeps its place in
 * the queue; anything else goes to the back of it, and may trade at once.
 * @returns whether it was there.
 */
export function amend(f: Floor, c: FloorContext, id: WireId, qty: number, limit: Price | null): boolean {
  const o = f.orders.get(id);
  if (!o) return false;
  const filled = o.qty - o.open;
  const open = qty - filled;
  const acknowledge = (total: number) =>
    c.reports.push({ kind: 'replaced', id, symbol: f.symbol, at: c.now, qty: total, limit });
  if (open <= 0) {
    leave(f, id);
    acknowledge(filled);
    return true;
  }
  const smaller = limit === o.limit && open <= o.open;
  if (o.where === 'book' && smaller && open < o.open) reduce(f.book, o.place, open);
  o.qty = qty;
  o.open = open;
  o.limit = limit;
  acknowledge(qty);
  if (smaller) return true;
  o.seq = f.seq++;
  if (o.where === 'midpoint')
    o.ahead = Math.max(0, (c.sketches.midpoint[f.i] as number) * (o.side === 'buy' ? 1 : -1));
  if (o.where !== 'book') return true;
  cancel(f.book, o.place);
  enterLit(f, c, o);
  return true;
}

const middle = (f: Floor): Price | null => {
  const [bid, ask] = [bestBid(f.book), bestAsk(f.book)];
  return bid === null || ask === null ? null : (Math.floor((bid + ask) / 2) as Price);
};

const accepts = (o: Standing, mid: Price): boolean =>
  o.limit === null || (o.side === 'buy' ? o.limit >= mid : o.limit <= mid);

/** The trader's order meets what the crowd has waiting unseen at the midpoint. */
export function takeMidpoint(f: Floor, c: FloorContext, o: Standing): void {
  const mid = middle(f);
  if (mid === null || !accepts(o, mid)) return;
  const taken = takenAt(f, c, o.side, -1);
  const waiting = Math.max(0, (c.sketches.midpoint[f.i] as number) * (o.side === 'buy' ? -1 : 1) - taken);
  const qty = Math.min(o.open, waiting);
  if (qty <= 0 || (o.life === 'fok' && qty < o.open)) return;
  o.open -= qty;
  remove(f, c, o.side, -1, qty);
  tell(f, c, o, { price: mid, qty, liquidity: 'removed', venue: 'MID', reference: touchOf(f, o) });
  print(f, c, { price: mid, qty, aggressor: o.side, venue: 'MID', condition: 'regular' });
}

/**
 * The crowd comes to the midpoint with `side`: it meets the trader's orders there in their turn,
 * and, where the plan says so (with the price it `planned`), its own. @returns the shares that the trader's orders took.
 */
export function crowdAtMidpoint(
  f: Floor,
  c: FloorContext,
  side: Side,
  qty: number,
  planned: number | null,
): number {
  const mid = middle(f);
  if (mid === null) return 0;
  let left = qty;
  let mine = 0;
  for (const o of [...f.orders.values()]
    .filter((x) => x.where === 'midpoint' && x.side !== side && accepts(x, mid))
    .sort((a, b) => a.seq - b.seq)) {
    const before = Math.min(left, o.ahead);
    o.ahead -= before;
    const fill = Math.min(left - before, o.open);
    if (fill <= 0) continue;
    left -= fill;
    mine += fill;
    o.open -= fill;
    tell(f, c, o, { price: mid, qty: fill, liquidity: 'added', venue: 'MID', reference: touchOf(f, o) });
  }
  const crossed = { aggressor: side, venue: 'MID', condition: 'regular' } as const;
  if (planned !== null) print(f, c, { price: mine > 0 ? mid : planned, qty, ...crossed });
  else if (mine > 0) print(f, c, { price: mid, qty: mine, ...crossed });
  return mine;
}

/** The best price on the other side of the book. */
const touchOf = (f: Floor, o: Standing): Price | null =>
  o.side === 'buy' ? bestAsk(f.book) : bestBid(f.book);

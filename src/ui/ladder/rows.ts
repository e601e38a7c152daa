// The ladder: every price of the book, one row a tick, around a price in the middle.
import { type Price, roundToTick, tickSize } from '@/core/units';
import type { OrderLine } from '../trade/trade-view';

export interface LadderRow {
  price: Price;
  bid: number;
  ask: number;
  /** Own orders at this price. */
  own: OrderLine[];
}

/** The price so many ticks above (or below) another. */
function stepped(price: Price, ticks: number): Price {
  let p = price;
  for (let k = 0; k < Math.abs(ticks); k++) {
    // A tick below a dollar is a hundredth of one above it.
    const step = ticks > 0 ? tickSize(p) : tickSize((p - 1) as Price);
    p = roundToTick(Math.max(1, p + Math.sign(ticks) * step));
  }
  return p;
}

/** Rows from the highest price down: `count` of them with `centre` in the middle; none below the least price. */
export function ladderRows(
  centre: Price,
  count: number,
  book: {
    bids: readonly { price: number; qty: number }[];
    asks: readonly { price: number; qty: number }[];
  },
  own: readonly OrderLine[],
): LadderRow[] {
  const at = (list: readonly { price: number; qty: number }[]) =>
    list.reduce((m, l) => m.set(l.price, (m.get(l.price) ?? 0) + l.qty), new Map<number, number>());
  const [bids, asks] = [at(book.bids), at(book.asks)];
  const rows: LadderRow[] = [];
  let price = stepped(centre, Math.floor(count / 2));
  for (let k = 0; k < count; k++) {
    rows.push({
      price,
      bid: bids.get(price) ?? 0,
      ask: asks.get(price) ?? 0,
      own: own.filter((l) => roundToTick(l.price) === price),
    });
    const next = stepped(price, -1);
    if (next === price) break;
    price = next;
  }
  return rows;
}

/** Whether a price stands so far from the middle that the ladder has to follow it. */
export const strayed = (rows: readonly LadderRow[], price: number | null): boolean => {
  if (price === null || rows.length === 0) return false;
  const margin = Math.floor(rows.length / 5);
  const [top, bottom] = [rows[margin], rows[rows.length - 1 - margin]];
  return top !== undefined && bottom !== undefined && (price > top.price || price < bottom.price);
};

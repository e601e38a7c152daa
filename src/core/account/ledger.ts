import { type Money, money, type OrderId, type Shelf, shelf } from '../units/index.ts';

/** One movement of cash. `settles` is the trading day of the session (0 is the first) from which it is settled. */
interface Posting {
  id: number;
  at: number;
  settles: number;
  cash: Money;
  why: 'trade' | 'costs' | 'locate';
  orderId: OrderId | null;
}

/** Cash as a list of postings; the sums are kept beside it, so that nothing has to be added up anew. */
export interface Ledger {
  /** Sum of all postings. */
  cash: Money;
  /** Sum of those that have settled; the others wait in `unsettled`. */
  settled: Money;
  unsettled: readonly Posting[];
  postings: Shelf<Posting>;
}

/** A ledger without postings. */
export const emptyLedger = (): Ledger => ({
  cash: money(0),
  settled: money(0),
  unsettled: [],
  postings: shelf.emptyShelf(),
});

/** Books a movement of cash. */
export function post(l: Ledger, p: Omit<Posting, 'id'>): Ledger {
  const posting = { ...p, id: l.postings.count + 1 };
  return {
    ...l,
    cash: money(l.cash + p.cash),
    unsettled: [...l.unsettled, posting],
    postings: shelf.put(l.postings, posting),
  };
}

/** What is due by a trading day settles. Settled cash is the sum of all postings that settle by today. */
export function settleBy(l: Ledger, day: number): Ledger {
  const due = l.unsettled.filter((p) => p.settles <= day);
  if (due.length === 0) return l;
  return {
    ...l,
    settled: money(l.settled + due.reduce((a, p) => a + p.cash, 0)),
    unsettled: l.unsettled.filter((p) => p.settles > day),
  };
}

/**
 * Cash that may be spent: what has settled, less what has been spent and not settled yet. What a sale costs is
 * paid from what it brings.
 */
export function settledCash(l: Ledger, start: number): number {
  let spent = 0;
  let one = 0;
  let of: OrderId | null = null;
  for (const p of l.unsettled) {
    if (p.orderId === null || p.orderId !== of) {
      spent += Math.min(0, one);
      one = 0;
    }
    of = p.orderId;
    one += p.cash;
  }
  return start + l.settled + spent + Math.min(0, one);
}

import { type Money, moneyFromDollars } from '../units/index.ts';

/** What keeps the trader from harm at the broker's door; money in 1/10,000 dollar, null is off. Closing always works. */
export interface Guards {
  /** Loss of a day, open positions at their last price, from which on no new risk is taken that day. */
  dailyLoss: Money | null;
  /** Most that all stops together may lose; with it, what has no stop is not let in. */
  openRisk: Money | null;
  /** Most shares, and most money, of one symbol. */
  mostShares: number;
  mostMoney: Money | null;
  /** New orders that may open risk within a second. */
  ordersPerSecond: number;
  /** The same order again within a second is refused. */
  duplicates: boolean;
  /** How far through the quote a limit may reach, in percent. */
  collarPercent: number;
  blocked: readonly { symbol: string; side: 'both' | 'long' | 'short' }[];
}

export const PLAIN_GUARDS: Guards = {
  dailyLoss: moneyFromDollars(600),
  openRisk: null,
  mostShares: 5_000,
  mostMoney: null,
  ordersPerSecond: 10,
  duplicates: false,
  collarPercent: 10,
  blocked: [],
};

const above = (a: number | null, b: number | null): boolean =>
  (a ?? Number.POSITIVE_INFINITY) > (b ?? Number.POSITIVE_INFINITY);

/**
 * What of new guards holds at once, and what only from the next day on: a guard may be tightened at any
 * time, and is loosened only for the next session.
 */
export function tightened(now: Guards, wanted: Guards): { now: Guards; loosens: boolean } {
  const least = <T extends number | null>(a: T, b: T): T => (above(a, b) ? b : a);
  const unblocked = now.blocked.filter(
    (x) => !wanted.blocked.some((y) => y.symbol === x.symbol && (y.side === 'both' || y.side === x.side)),
  );
  const both: Guards = {
    dailyLoss: least(now.dailyLoss, wanted.dailyLoss),
    openRisk: least(now.openRisk, wanted.openRisk),
    mostShares: Math.min(now.mostShares, wanted.mostShares),
    mostMoney: least(now.mostMoney, wanted.mostMoney),
    ordersPerSecond: Math.min(now.ordersPerSecond, wanted.ordersPerSecond),
    duplicates: now.duplicates || wanted.duplicates,
    collarPercent: Math.min(now.collarPercent, wanted.collarPercent),
    blocked: [...wanted.blocked, ...unblocked],
  };
  return { now: both, loosens: JSON.stringify(both) !== JSON.stringify(wanted) };
}

import { CENT, PRICE_SCALE, type Price } from '../units/index.ts';

/** Usual distances for stocks below a price, in price units: how far an order reaches through the quote or leaves room, and how far a stop stands away. */
export interface Band {
  /** Infinite in the last one. */
  below: number;
  reach: number;
  stop: number;
}

/** What `usual` stands for: a table by price, or parts of the average true range. */
export interface Usual {
  by: 'price' | 'atr';
  bands: readonly Band[];
  /** Parts of the 14-day average true range; the table holds where that is not known. */
  reachAtr: number;
  stopAtr: number;
}

const band = (below: number, reach: number, stop: number): Band => ({
  below: below * PRICE_SCALE,
  reach: reach * CENT,
  stop: stop * CENT,
});

/** Distances by price that suit most small stocks (common practice; in cents). */
export const PLAIN_USUAL: Usual = {
  by: 'price',
  bands: [
    band(1, 0.5, 2),
    band(2, 1, 5),
    band(5, 2, 15),
    band(10, 3, 30),
    band(20, 4, 40),
    band(50, 6, 60),
    band(Number.POSITIVE_INFINITY, 10, 120),
  ],
  reachAtr: 0.02,
  stopAtr: 0.15,
};

/** The band of a price. */
const bandOf = (table: readonly Band[], at: Price | number): Band =>
  (table.find((b) => at < b.below) ?? table[table.length - 1]) as Band;

/** A usual distance at a price, in price units; at least a hundredth of a cent. */
export function usualAt(u: Usual, which: 'reach' | 'stop', at: number, atr: number | null): number {
  const byAtr = which === 'reach' ? u.reachAtr : u.stopAtr;
  return u.by === 'atr' && atr !== null && atr > 0 ? Math.max(1, byAtr * atr) : bandOf(u.bands, at)[which];
}

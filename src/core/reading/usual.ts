import { PRICE_SCALE, type Price } from '../units/index.ts';

/** Usual distances for stocks below a price, in price units: how far an order reaches through the quote or leaves room, and how far a stop stands away. */
export interface Band {
  below: number;
  reach: number;
  stop: number;
}

const band = (below: number, reach: number, stop: number): Band => ({
  below: below * PRICE_SCALE,
  reach: reach * 100,
  stop: stop * 100,
});

/** Distances by price that suit most small stocks (common practice; in cents). */
export const USUAL: readonly Band[] = [
  band(1, 0.5, 2),
  band(2, 1, 5),
  band(5, 2, 10),
  band(10, 3, 20),
  band(20, 4, 30),
  band(50, 6, 50),
  band(Number.POSITIVE_INFINITY, 10, 100),
];

/** The band of a price. */
export const bandOf = (table: readonly Band[], at: Price | number): Band =>
  (table.find((b) => at < b.below) ?? table[table.length - 1]) as Band;

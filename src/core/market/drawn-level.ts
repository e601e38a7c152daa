import { type Price, roundToTick } from '../units/index.ts';

/** A price at a session time, in ms. */
export interface PricePoint {
  at: number;
  price: number;
}

/** A price that the trader has named: one that stays, or a trend line through two points, whose price moves with the time. */
export type DrawnLevel = Price | { from: PricePoint; to: PricePoint };

/** The price of the straight line through two points at a session time, not rounded (two-point form). Beyond the points it goes on. */
export const priceOnLine = (from: PricePoint, to: PricePoint, at: number): number =>
  from.at === to.at ? to.price : from.price + ((to.price - from.price) * (at - from.at)) / (to.at - from.at);

/** What a named price is at a session time: on a tick, and never below the least one. */
export const drawnPriceAt = (level: DrawnLevel, at: number): Price =>
  typeof level === 'number' ? level : roundToTick(Math.max(1, priceOnLine(level.from, level.to, at)));

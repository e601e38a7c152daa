// What is drawn on a chart, in numbers: retracements, extensions, distances, and prices that snap to levels.
import type { PricePoint } from '../market/index.ts';
import { MINUTE, type Price, roundToTick } from '../units/index.ts';

/** Parts of a move at which it is looked at how far it has come back: ratios of Fibonacci's numbers, and a half (common practice). */
const BACK = [0, 0.236, 0.382, 0.5, 0.618, 0.786, 1];
/** Parts of a move at which it is looked at how far the next one goes (common practice). */
const ON = [0, 0.618, 1, 1.272, 1.618, 2.618];

export interface RatioPrice {
  ratio: number;
  price: number;
}

/** Prices at which a move from one price to another has given back so much of itself: end − ratio × (end − start). */
export const retracements = (start: number, end: number): RatioPrice[] =>
  BACK.map((ratio) => ({ ratio, price: end - ratio * (end - start) }));

/** Prices that a move as long as so many times the first one would reach from where it was corrected to: third + ratio × (second − first). */
export const extensions = (first: number, second: number, third: number): RatioPrice[] =>
  ON.map((ratio) => ({ ratio, price: third + ratio * (second - first) }));

/**
 * How far it is from one point to another: in price units, percent of the first, candles of so many
 * minutes, and R where a share risks `perR` price units (null: not known).
 */
export function measured(
  from: PricePoint,
  to: PricePoint,
  minutes: number,
  perR: number | null,
): { units: number; percent: number; candles: number; r: number | null } {
  const units = to.price - from.price;
  return {
    units,
    percent: (units / from.price) * 100,
    candles: Math.round((to.at - from.at) / (minutes * MINUTE)),
    r: perR === null || perR === 0 ? null : units / perR,
  };
}

/** A price, or the level within `reach` of it that is nearest; on a tick, and never below the least one. */
export function snapped(price: number, levels: readonly number[], reach: number): Price {
  let best: number | null = null;
  for (const l of levels)
    if (Math.abs(l - price) <= reach && (best === null || Math.abs(l - price) < Math.abs(best - price)))
      best = l;
  return roundToTick(Math.max(1, best ?? price));
}

import { type Sign, unreachable } from '../units/index.ts';

/** How far a trailing stop stays behind: a distance, a share of the best price, a multiple of ATR, or the far side of a finished candle. */
export type Reach =
  | { kind: 'distance'; units: number }
  | { kind: 'percent'; percent: number }
  /** `atr` in price units, as it was when the stop was set. */
  | { kind: 'atr'; times: number; atr: number }
  | { kind: 'candle'; minutes: number; beyond: number };

/** A trail at work: the best price since it started. Its mark starts where the price stands when the trail is activated. */
export interface Trail {
  reach: Reach;
  mark: number | null;
}

/**
 * The trail after a price of the trade's symbol. `sign` +1 protects a long position: its mark only
 * rises; −1 a short one: it only falls.
 * @returns the same object when the price is not a new best.
 */
export function trailOn(t: Trail, sign: Sign, price: number): Trail {
  return t.mark !== null && sign * (price - t.mark) <= 0 ? t : { ...t, mark: price };
}

/**
 * Where the stop would stand, not rounded; null while it is not known. `candle` is the last finished
 * candle of so many minutes.
 */
export function trailLevel(
  t: Trail,
  sign: Sign,
  candle: (minutes: number) => { high: number; low: number } | null,
): number | null {
  const { reach, mark } = t;
  if (mark === null) return null;
  switch (reach.kind) {
    case 'distance':
      return mark - sign * reach.units;
    case 'percent':
      return mark * (1 - (sign * reach.percent) / 100);
    case 'atr':
      return mark - sign * reach.times * reach.atr;
    case 'candle': {
      const c = candle(reach.minutes);
      return c && (sign === 1 ? c.low : c.high) - sign * reach.beyond;
    }
    default:
      return unreachable(reach);
  }
}

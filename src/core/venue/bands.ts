import {
  CENT,
  clockOf,
  type Hours,
  MINUTE,
  PRICE_SCALE,
  type Price,
  roundToTick,
  SECOND,
} from '../units/index.ts';

/**
 * Limit up–limit down (National Market System Plan to Address Extraordinary Market Volatility). The
 * figures are from memory and kept as data. Tier 1 are index names and large funds.
 */
export const LULD = {
  /** Reference price: mean trade of so long, taken over when it has moved by so much. */
  window: 5 * MINUTE,
  referenceMove: 0.01,
  /** How long the quote may stand at a band before trading pauses, and how long the pause is. */
  limitState: 15 * SECOND,
  pause: 5 * MINUTE,
  /** Bands are doubled in the last minutes for tier 1, and for all at or below `mid`. */
  doubledLast: 25 * MINUTE,
  mid: 3 * PRICE_SCALE,
  low: 0.75 * PRICE_SCALE,
  percent: { tier1: 0.05, others: 0.1, midPriced: 0.2 },
  lowPriced: { units: 15 * CENT, fraction: 0.75 },
} as const;

interface Bands {
  lower: Price;
  upper: Price;
}

/** The price band around a reference price. Applies in the regular session only. */
export function bandsOf(reference: number, tier: 1 | 2, now: number, hours: Hours): Bands {
  const late = clockOf(now) >= hours.close - LULD.doubledLast;
  const doubled = late && (tier === 1 || reference <= LULD.mid) ? 2 : 1;
  let reach: number;
  if (reference > LULD.mid) reach = reference * (tier === 1 ? LULD.percent.tier1 : LULD.percent.others);
  else if (reference >= LULD.low) reach = reference * LULD.percent.midPriced;
  else reach = Math.min(LULD.lowPriced.units, reference * LULD.lowPriced.fraction);
  reach *= doubled;
  return {
    lower: roundToTick(Math.max(1, reference - reach), 'nearest'),
    upper: roundToTick(reference + reach, 'nearest'),
  };
}

/**
 * Whether a trade price puts a stock under the short-sale restriction: 10 % or more below the prior
 * close. It then holds for the rest of that day and the next. Source: Regulation SHO, Rule 201
 * (17 CFR 242.201).
 */
export const restrictsShorts = (last: number, priorClose: number): boolean => last * 10 <= priorClose * 9;

/** The lowest price at which a short sale may rest or trade under the restriction: one tick above the best bid (Rule 201). */
export const lowestShortPrice = (bestBid: Price): Price => roundToTick(bestBid + 1, 'up');

import type { Listing } from '../market/index.ts';
import {
  dateAfter,
  daysBetween,
  epochDay,
  isTradingDay,
  PRICE_SCALE,
  type Price,
  priorTradingDay,
} from '../units/index.ts';

/** How the options of a company are listed, by how much of it trades. */
export interface OptionClass {
  /** Quoted in cents below three dollars and nickels above, others in nickels and dimes (the penny program; common practice). */
  penny: boolean;
  /** Expiries each week for the next six weeks. */
  weeklies: boolean;
  /** Strikes stand half as far apart. */
  dense: boolean;
}

/** Dollars of a company that trade on a usual day. */
export const dollarsADay = (x: Listing): number => (x.averageVolume * x.priorClose) / PRICE_SCALE;

/** How the options of a company are listed. */
export function classOf(x: Listing): OptionClass {
  const dollars = dollarsADay(x);
  return { penny: dollars > 60e6, weeklies: dollars > 20e6, dense: dollars > 20e6 };
}

/** The last day on which contracts that expire on a Friday trade: it, or the trading day before. */
const expiryOf = (friday: string): string => (isTradingDay(friday) ? friday : priorTradingDay(friday));
const WEEKLIES = 6;
/** How far out contracts are listed, in days. */
const FARTHEST = 280;

/**
 * The expiries that are listed on a date, the nearest one first (it may be today): Fridays of the next six weeks where there are weeklies; the
 * third Fridays of this month and the next, and of the months of the quarterly cycle up to nine months out (common practice). A Friday
 * on which the exchange is closed gives way to the trading day before.
 */
export function expiriesOn(date: string, weeklies: boolean): string[] {
  // 1970-01-02 was a Friday.
  const first = dateAfter(date, (((1 - epochDay(date)) % 7) + 7) % 7);
  const out: string[] = [];
  let monthlies = 0;
  for (let k = 0; daysBetween(date, dateAfter(first, 7 * k)) <= FARTHEST; k++) {
    const friday = dateAfter(first, 7 * k);
    const expiry = expiryOf(friday);
    if (expiry < date) continue;
    const day = Number(friday.slice(8));
    const third = day >= 15 && day <= 21;
    if (third) monthlies++;
    const cycle = Number(friday.slice(5, 7)) % 3 === 0;
    if ((weeklies && k < WEEKLIES) || (third && (monthlies <= 2 || cycle))) out.push(expiry);
  }
  return out;
}

/** How far apart strikes stand below a price, in dollars: usually, and where they are dense (common practice). */
const SPACING: readonly [below: number, usual: number, dense: number][] = [
  [5, 0.5, 0.5],
  [25, 1, 0.5],
  [100, 2.5, 1],
  [200, 5, 2.5],
  [Number.POSITIVE_INFINITY, 10, 5],
];
function spacingAt(strike: number, dense: boolean): number {
  const row = SPACING.find(([below]) => strike < below * PRICE_SCALE) as (typeof SPACING)[number];
  return row[dense ? 2 : 1] * PRICE_SCALE;
}

/** Whether a strike is one that can be listed. */
export const isStrike = (strike: Price, dense: boolean): boolean =>
  strike > 0 && strike % spacingAt(strike, dense) === 0;

/**
 * The strikes that are listed around a price, rising: as far as three and a half deviations of what is still to come, at least five
 * on each side, at most sixty.
 */
export function strikesAround(around: number, deviation: number, dense: boolean): Price[] {
  const far = Math.max(0.12, 3.5 * deviation);
  const next = (k: number, up: boolean): number => {
    const step = spacingAt(up ? k : k - 1, dense);
    return up ? (Math.floor(k / step) + 1) * step : (Math.ceil(k / step) - 1) * step;
  };
  const above: number[] = [];
  for (
    let k = next(around, true);
    above.length < 30 && (k <= around * (1 + far) || above.length < 5);
    k = next(k, true)
  )
    above.push(k);
  const below: number[] = [];
  for (
    let k = next(around, false);
    k > 0 && below.length < 30 && (k >= around / (1 + far) || below.length < 5);
    k = next(k, false)
  )
    below.push(k);
  const step = spacingAt(around, dense);
  const at = around % step === 0 ? [around] : [];
  return [...below.reverse(), ...at, ...above] as Price[];
}

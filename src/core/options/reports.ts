import type { Listing } from '../market/index.ts';
import {
  dateAfter,
  daysBetween,
  epochDay,
  isTradingDay,
  keyOf,
  mix,
  nextTradingDay,
} from '../units/index.ts';

/** Reports come before the regular session, before this time of day in ms. */
export const REPORTED = 8 * 3_600_000;

/** A fifth of the companies report on known dates, four times a year, before the open: the dates from one on, so many days far. */
export function newsDates(symbol: string, from: string, days: number): string[] {
  const key = mix(keyOf(11, symbol), 4);
  if (key % 100 >= 20) return [];
  const out: string[] = [];
  const offset = (key >>> 8) % 91;
  for (let k = Math.floor((epochDay(from) - 3 - offset) / 91); ; k++) {
    const raw = dateAfter('1970-01-01', offset + 91 * k);
    const date = isTradingDay(raw) ? raw : nextTradingDay(raw);
    if (daysBetween(from, date) > days) return out;
    if (date >= from) out.push(date);
  }
}

type Band = Pick<NonNullable<Listing['options']>, 'ivLow' | 'ivHigh' | 'band'>;

/** Usual implied volatility of a company: the middle of what it wanders between, by its logarithm. */
export const usualVolatility = ({ ivLow, ivHigh, band }: Band): number =>
  band ? Math.sqrt(band.low * band.high) : Math.sqrt(ivLow * ivHigh);

/** How far a report moves a company whose usual implied volatility is known, one deviation, as a fraction: so many of its usual days. */
export const newsMove = (usual: number): number => (2.4 * usual) / Math.sqrt(252);

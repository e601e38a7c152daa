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
import { dollarsADay } from './contracts.ts';
import { exp } from './elementary.ts';
import { wander } from './implied-level.ts';

/** Interest a year that options are priced with, continuously compounded. No company of the invented market pays dividends. */
export const RATE = 0.04;
/** Days of a year, as options count them: actual days over 365. */
export const YEAR_DAYS = 365;

/**
 * What a company's options are priced by at a moment: implied variance by time and moneyness, after J. Gatheral and A. Jacquier, "Arbitrage-free SVI
 * volatility surfaces" (Quantitative Finance 14, 2014): with φ(θ) = η / √(θ(1 + θ)), η²(1 + |ρ|) ≤ 4 and θ that rises with time, neither a
 * butterfly nor a calendar has a free lunch in it.
 */
export interface Surface {
  /** Variance a year now, and where it tends to. */
  now: number;
  tends: number;
  /** What is known to come: after so many years, so much more variance. */
  events: readonly { years: number; variance: number }[];
  /** Skew (ρ) and how strongly the wings rise (η). */
  skew: number;
  wings: number;
}

/** How fast variance tends to its usual, a year. */
const PULL = 3.2;
const pulled = (years: number): number => (1 - exp(-PULL * years)) / PULL;

/** Variance at the money until so many years from now. */
export function varianceUntil(s: Surface, years: number): number {
  let v = s.tends * years + (s.now - s.tends) * pulled(years);
  for (const e of s.events) if (e.years <= years) v += e.variance;
  return v;
}

/** Implied volatility of a strike, by the logarithm of strike over forward. */
export function volatilityAt(s: Surface, moneyness: number, years: number): number {
  const theta = varianceUntil(s, years);
  const x = (s.wings / Math.sqrt(theta * (1 + theta))) * moneyness;
  const total = (theta / 2) * (1 + s.skew * x + Math.sqrt((x + s.skew) * (x + s.skew) + 1 - s.skew * s.skew));
  return Math.sqrt(total / years);
}

/** A fifth of the companies report on known dates, four times a year, before the open. */
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

const DATES = new Map<string, { date: string; dates: string[] }>();
/** The same, kept for the day that is on. */
function datesOf(symbol: string, date: string): string[] {
  const there = DATES.get(symbol);
  if (there?.date === date) return there.dates;
  const dates = newsDates(symbol, date, 300);
  DATES.set(symbol, { date, dates });
  return dates;
}

/** How far such news moves a company, one deviation, as a fraction: so many of its usual days. */
export const newsMove = (usual: number): number => (2.4 * usual) / Math.sqrt(252);

/** Usual implied volatility of a company: the middle of its range, as its variance tends there. */
const usualOf = ({ ivLow, ivHigh, band }: NonNullable<Listing['options']>): number =>
  band ? Math.sqrt(band.low * band.high) : Math.sqrt(ivLow * ivHigh);

/** Milliseconds of a year as options count it. */
const YEAR = YEAR_DAYS * 86_400_000;
/** Reports come before the regular session. */
const REPORTED = 8 * 3_600_000;

/** Years from a moment of a date to another. */
export const yearsBetween = (date: string, ms: number, to: string, toMs: number): number =>
  (daysBetween(date, to) * 86_400_000 + toMs - ms) / YEAR;

/**
 * A company's surface on a date, so many milliseconds after midnight, where it stands at a price. The implied volatility of its listing
 * is that of 30 days at its prior close; a move of the day beyond what is usual raises it, a small wave goes over it.
 */
export function surfaceOf(x: Listing, date: string, ms: number, at: number): Surface {
  const o = x.options ?? { iv: 0.5, ivLow: 0.4, ivHigh: 0.7 };
  const usual = usualOf(o);
  const tends = usual * usual;
  const key = keyOf(23, x.symbol);
  const moved = (at / x.priorClose - 1) / (o.iv / Math.sqrt(252));
  const day = epochDay(date);
  const wave =
    wander(mix(key, day), ms / 1_500_000) - 0.5 + 0.4 * (wander(mix(key, day + 1), ms / 240_000) - 0.5);
  // Up to three times its variance after a day of many usual ones; falls move it more than rises in what is large.
  const lean = x.tier === 1 ? -0.02 * Math.max(-4, Math.min(4, moved)) : 0;
  const level = (1 + Math.min(2, 0.06 * Math.max(0, moved * moved - 1)) + 0.05 * wave) * (1 + lean);
  const move = newsMove(usual);
  const all = datesOf(x.symbol, date).map((d) => ({
    years: yearsBetween(date, ms, d, REPORTED),
    variance: move * move,
  }));
  const events = all.filter((e) => e.years > 0);
  const month = 30 / YEAR_DAYS;
  const inMonth = events.reduce((a, e) => a + (e.years <= month ? e.variance : 0), 0);
  const now = tends + (o.iv * o.iv * month - inMonth - tends * month) / pulled(month);
  const own = (mix(key, 7) % 1_000) / 1_000;
  return {
    now: Math.max(0.2 * tends, now) * level,
    tends: tends * Math.sqrt(level),
    events,
    skew: (x.tier === 1 ? -0.5 : -0.28) + 0.3 * own,
    wings: 0.9 + 0.5 * ((mix(key, 8) % 1_000) / 1_000),
  };
}

/** Dollars that trade in a company's options on a usual day decide how near to one another its makers quote: in points of volatility. */
export function doubtOf(x: Listing): number {
  const millions = dollarsADay(x) / 1e6;
  return Math.max(0.0025, Math.min(0.08, 0.05 / Math.sqrt(0.3 + millions / 8)));
}

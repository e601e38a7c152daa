import type { Listing } from '../market/index.ts';
import { daysBetween, epochDay, keyOf, mix, REGULAR_CLOSE, REGULAR_OPEN } from '../units/index.ts';
import { dollarsADay } from './contracts.ts';
import { exp } from './elementary.ts';
import { impliedOn, wander } from './implied-level.ts';
import { marketYears } from './market-time.ts';
import { newsDates, newsMove, REPORTED, usualVolatility } from './reports.ts';

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
  /** What is known to come: after so many years of market time, so much more variance. */
  events: readonly { years: number; variance: number }[];
  /** What is livelier for a few days because of what has just happened: so much variance in all, most of it at once. */
  soon: number;
  /** Skew (ρ) and how strongly the wings rise (η). */
  skew: number;
  wings: number;
}

/** How fast variance tends to its usual, a year. */
const PULL = 3.2;
/** How long it stays livelier, in years: by e in one trading day and a quarter. */
const FADE = 1.25 / 252;
const pulled = (years: number): number => (1 - exp(-PULL * years)) / PULL;

/** Variance at the money until so many years of market time from now. */
export function varianceUntil(s: Surface, years: number): number {
  let v = s.tends * years + (s.now - s.tends) * pulled(years) + s.soon * (1 - exp(-years / FADE));
  for (const e of s.events) if (e.years <= years) v += e.variance;
  return v;
}

/** Implied volatility of a strike, by the logarithm of strike over forward, for so many years of the calendar that are so many of market time. */
export function volatilityAt(s: Surface, moneyness: number, years: number, market: number): number {
  const theta = varianceUntil(s, market);
  const x = (s.wings / Math.sqrt(theta * (1 + theta))) * moneyness;
  const total = (theta / 2) * (1 + s.skew * x + Math.sqrt((x + s.skew) * (x + s.skew) + 1 - s.skew * s.skew));
  return Math.sqrt(total / years);
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

/** Milliseconds of a year as options count it. */
const YEAR = YEAR_DAYS * 86_400_000;

/** Years from a moment of a date to another. */
export const yearsBetween = (date: string, ms: number, to: string, toMs: number): number =>
  (daysBetween(date, to) * 86_400_000 + toMs - ms) / YEAR;

/**
 * A company's surface on a date, so many milliseconds after midnight, where it stands at a price. It gives 30 days at the prior close the
 * volatility of the date, and on top what news in them is worth and what a busy day before it, or a large move of its own, leaves behind.
 */
export function surfaceOf(x: Listing, date: string, ms: number, at: number): Surface {
  const o = x.options ?? { iv: 0.5, ivLow: 0.4, ivHigh: 0.7 };
  const usual = usualVolatility(o);
  const tends = usual * usual;
  const key = keyOf(23, x.symbol);
  const day = epochDay(date);
  // A month's volatility apart from news that is known to come.
  const plain = o.band ? impliedOn(x.symbol, o.band.low, o.band.high, day) : o.iv;
  const wave =
    wander(mix(key, day), ms / 1_500_000) - 0.5 + 0.4 * (wander(mix(key, day + 1), ms / 240_000) - 0.5);
  const move = newsMove(usual);
  const daily = (plain * plain) / 252;
  const reports = datesOf(x.symbol, date);
  const today = reports[0] === date;
  // In deviations of what was to be expected of the day.
  const moved = (at / x.priorClose - 1) / Math.sqrt(daily + (today ? move * move : 0));
  // Falls move it more than rises in what is large.
  const lean = x.tier === 1 ? -0.008 * Math.max(-4, Math.min(4, moved)) : 0;
  const level = (1 + 0.02 * wave) * (1 + lean);
  const events = reports
    .map((d) => ({
      years: d === date && ms >= REPORTED ? 0 : marketYears(date, ms, d, REPORTED),
      variance: move * move + AFTER_NEWS * LASTS * daily,
    }))
    .filter((e) => e.years > 0);
  const heat = (o.heat ?? 0) * exp(-marketYears(date, REGULAR_OPEN, date, Math.max(ms, REGULAR_OPEN)) / FADE);
  const shock = Math.max(today ? AFTER_NEWS : 0, Math.min(2.2, 0.085 * (moved * moved - 9)), 0);
  // What has moved a small company far makes the rest of its own day livelier, by far more than the days after.
  const rest = 252 * marketYears(date, ms, date, REGULAR_CLOSE);
  const inPlay =
    x.tier === 2 && x.float < SMALL_FLOAT ? Math.max(0, Math.min(1, (moved * moved - 9) / 9)) : 0;
  const course = COURSE.least + COURSE.byMove * Math.abs(at / x.priorClose - 1);
  const month = 30 / YEAR_DAYS;
  const now = tends + ((plain * plain - tends) * month) / pulled(month);
  const own = (mix(key, 7) % 1_000) / 1_000;
  return {
    now: Math.max(0.2 * tends, now) * level,
    tends: tends * Math.sqrt(level),
    events,
    soon: LASTS * (heat + shock) * daily + inPlay * course * course * rest,
    skew: (x.tier === 1 ? -0.5 : -0.28) + 0.3 * own,
    wings: 0.45 + 0.3 * ((mix(key, 8) % 1_000) / 1_000),
  };
}

/** A mover's deviation over its day, by how far it had gone, as a fraction; those are companies with few shares to trade. */
const COURSE = { least: 0.055, byMove: 0.5 };
const SMALL_FLOAT = 90_000_000;

/** How much livelier the day after news is, in its usual variances; and all such days together, beside the first. */
const AFTER_NEWS = 0.4;
const LASTS = 1.8;

/** Dollars that trade in a company's options on a usual day decide how near to one another its makers quote: in points of volatility. */
export function doubtOf(x: Listing): number {
  const millions = dollarsADay(x) / 1e6;
  return Math.max(0.0025, Math.min(0.08, 0.05 / Math.sqrt(0.3 + millions / 8)));
}

// Days of companies with options are as lively as their implied volatility says: otherwise whoever sells them when they are dear, or buys them when
// they are cheap, would earn without a risk that is worth it.

import type { Listing } from '../market/index.ts';
import { impliedOn, usualVolatility } from '../options/index.ts';
import { epochDay, type Hours, MINUTE } from '../units/index.ts';
import type { Phase } from './plan.ts';
import { usualPhases } from './usual.ts';

/** Options count 252 such days a year. */
const SESSIONS = 252;
/** What of the variance of a company's own is between the close and 04:00. */
const GAP = 0.23;
/** What sectors add to the variance of the market (tides.ts). */
const SECTORS = 1.49;
/** News that nobody knew of comes to so many small companies a day out of so many, this far: variance a day of each. */
const SURPRISES = (36 * 0.055) / 5_158;

type Implied = NonNullable<Listing['options']>;

/** Volatility a year that a company's options say of a day, apart from scheduled news; null where nothing is known of its usual one. */
const saidOn = (symbol: string, o: Implied, date: string): number | null =>
  o.band ? impliedOn(symbol, o.band.low, o.band.high, epochDay(date)) : null;

/** Sum of variance of stretches, in squares of `vol` at 1 a minute. */
const varianceOf = (phases: readonly Phase[], end: number): number =>
  phases.reduce((sum, p, k) => sum + (p.vol * p.vol * ((phases[k + 1]?.from ?? end) - p.from)) / MINUTE, 0);

/** The market's mood on a day, livelier or calmer than usual as options on the index stand-in say. */
export function moodImplied(
  mood: readonly Phase[],
  symbol: string,
  options: Implied,
  date: string,
): readonly Phase[] {
  const by = (saidOn(symbol, options, date) ?? 0) / usualVolatility(options);
  return by === 0 ? mood : mood.map((p) => ({ ...p, vol: p.vol * by }));
}

/**
 * How a company moves on a day, so that its own course, the market and surprises together come to what its options say: `vol` of its own a minute and
 * one deviation of the night before, as fractions, and how much of the market's moves it follows; null where they say nothing.
 */
export function impliedCourse(
  { symbol, options }: Listing,
  { date, hours }: { date: string; hours: Hours },
  tide: { beta: number; mood: readonly Phase[] },
  small: boolean,
): { vol: number; gap: number; beta: number } | null {
  const said = options && saidOn(symbol, options, date);
  const phases = usualPhases(hours);
  if (!said) return null;
  const daily = (said * said) / SESSIONS;
  // A sixth at least is its own, and no more than two thirds are the market's.
  const market = SECTORS * varianceOf(tide.mood, hours.end);
  const beta = Math.min(tide.beta, Math.sqrt((daily * 2) / 3 / market));
  const own = Math.max(daily / 6, daily - beta * beta * market - (small ? SURPRISES : 0));
  return {
    vol: Math.sqrt(((1 - GAP) * own) / varianceOf(phases, hours.end)),
    gap: Math.sqrt(GAP * own),
    beta,
  };
}

import { dateAfter, daysBetween, epochDay, keyOf, mix } from '../units/index.ts';
import { exp, ln } from './elementary.ts';
import { newsDates, newsMove, usualVolatility } from './reports.ts';

/** A curve through drawn heights, one each step: between 0 and 1, smooth, without a memory longer than a step. */
export function wander(key: number, x: number): number {
  const at = Math.floor(x);
  const part = x - at;
  const [a, b] = [mix(key, at) / 4294967296, mix(key, at + 1) / 4294967296];
  return a + (b - a) * part * part * (3 - 2 * part);
}

/**
 * Where a company's implied volatility stands on a date between its usual low and high, 0 to 1: slow and fast waves
 * laid over one another, so that it lives through the days without anything being kept.
 */
export function moodOf(symbol: string, day: number): number {
  const key = keyOf(5, symbol);
  const wave = (period: number, n: number) => wander(mix(key, n), day / period) - 0.5;
  return Math.max(0, Math.min(1, 0.5 + 0.9 * wave(110, 1) + 0.55 * wave(27, 2) + 0.22 * wave(6, 3)));
}

/** Implied volatility of a month on a day apart from scheduled news, as a fraction a year, from its usual low and high. */
export const impliedOn = (symbol: string, low: number, high: number, day: number): number =>
  low * exp(ln(high / low) * moodOf(symbol, day));

/** Days of the month that implied volatility is told for. */
const MONTH_DAYS = 30;

/** How often it is looked at for its range of 52 weeks, in days. */
const SAMPLE = 7;

/**
 * Implied volatility of a month over the 52 weeks before a date, each week's, oldest first, and the date's own last: it rises when news that is
 * scheduled comes into the month, and falls when it is out.
 */
export function impliedYear(
  symbol: string,
  low: number,
  high: number,
  date: string,
): { day: number; iv: number }[] {
  const today = epochDay(date);
  const back = SAMPLE * 52;
  const news = newsDates(symbol, dateAfter(date, -back), back + MONTH_DAYS).map(
    (d) => today + daysBetween(date, d),
  );
  const move = newsMove(usualVolatility({ ivLow: low, ivHigh: high }));
  return Array.from({ length: 53 }, (_, k) => {
    const day = today - SAMPLE * (52 - k);
    const plain = impliedOn(symbol, low, high, day);
    const ahead = news.filter((d) => d > day && d <= day + MONTH_DAYS).length;
    return {
      day,
      iv: ahead === 0 ? plain : Math.sqrt(plain * plain + (ahead * move * move * 365) / MONTH_DAYS),
    };
  });
}

/** What is public of a company's implied volatility on a date: now, and the least and the most of the 52 weeks before it. */
export function impliedFacts(symbol: string, low: number, high: number, date: string) {
  const year = impliedYear(symbol, low, high, date).map((w) => w.iv);
  return {
    iv: year[52] as number,
    ivLow: Math.min(...year),
    ivHigh: Math.max(...year),
    band: { low, high },
  };
}

// Time as variance counts it: by sessions and nights between them, not by the calendar, so that nobody is paid for a weekend in which nothing happens.
import {
  at,
  dateAfter,
  epochDay,
  hoursOn,
  isTradingDay,
  REGULAR_CLOSE,
  REGULAR_OPEN,
} from '../units/index.ts';

/** Trading days of a year (common practice). */
const SESSIONS = 252;
/** What of a day's variance comes before its open. */
const NIGHT = 0.31;
/** Times of a session, and what of its variance is behind by then: that of the invented market's usual day. */
const BEHIND: readonly [time: number, part: number][] = [
  [REGULAR_OPEN, 0],
  [at(9, 35), 0.08],
  [at(10), 0.27],
  [at(11), 0.48],
  [at(12), 0.61],
  [at(13), 0.69],
  [at(14), 0.76],
  [at(15), 0.85],
  [REGULAR_CLOSE, 1],
];

function behind(ms: number): number {
  for (let k = 1; k < BEHIND.length; k++) {
    const [from, before] = BEHIND[k - 1] as [number, number];
    const [until, after] = BEHIND[k] as [number, number];
    if (ms < until) return ms <= from ? before : before + ((after - before) * (ms - from)) / (until - from);
  }
  return 1;
}

/** What of a full day's variance is behind at a time of a date. An early close leaves the hours before the last one out. */
function ofDay(date: string, ms: number): number {
  if (!isTradingDay(date)) return 0;
  if (ms < REGULAR_OPEN) return (NIGHT * ms) / REGULAR_OPEN;
  const { close } = hoursOn(date);
  const late = REGULAR_CLOSE - close;
  const last = close - 3_600_000;
  const session =
    ms <= last ? behind(ms) : behind(last) + behind(Math.min(ms, close) + late) - behind(last + late);
  return NIGHT + (1 - NIGHT) * session;
}

const FIRST = '1990-01-01';
/** Trading days' variance from the first date until the start of each later one. */
const SUMS: number[] = [0];
function until(date: string): number {
  const n = epochDay(date) - epochDay(FIRST);
  for (let k = SUMS.length; k <= n; k++)
    SUMS.push((SUMS[k - 1] as number) + ofDay(dateAfter(FIRST, k - 1), REGULAR_CLOSE));
  return SUMS[n] as number;
}

/** Years of market time from a moment of a date to one of another, neither before 1990: 252 full trading days are one. */
export const marketYears = (date: string, ms: number, to: string, toMs: number): number =>
  (until(to) + ofDay(to, toMs) - until(date) - ofDay(date, ms)) / SESSIONS;

// How sure an average is: intervals from resampling whole days, because trades of one day are not independent.
import { below, createRandom } from '../sim/index.ts';
import { studentQuantile } from './student.ts';

/** The results of one day: their sum and how many they are. */
export interface DaySum {
  sum: number;
  count: number;
}
/** Takes a result into the sum of its day. */
export function addTo(day: DaySum, result: number): void {
  day.sum += result;
  day.count++;
}
export interface Interval {
  low: number;
  high: number;
}

const RESAMPLES = 2_000;
/** Below so many days with a result nothing honest can be said. */
export const FEWEST_DAYS = 8;

/** Mean a result over days, and its standard error (ratio of sums, delta method; W. Cochran, Sampling Techniques, 1977, 6.3). */
export function meanOf(days: readonly DaySum[]): { mean: number; error: number } {
  const n = days.length;
  let [sum, count] = [0, 0];
  for (const d of days) {
    sum += d.sum;
    count += d.count;
  }
  if (count === 0) return { mean: Number.NaN, error: Number.NaN };
  const mean = sum / count;
  let squares = 0;
  for (const d of days) squares += (d.sum - mean * d.count) ** 2;
  return { mean, error: n < 2 ? Number.NaN : Math.sqrt((squares * n) / (n - 1)) / count };
}

/**
 * A 95 % interval of the mean by the studentized bootstrap (B. Efron and R. Tibshirani, An Introduction
 * to the Bootstrap, 1993, chapter 12), days drawn with replacement. Null below {@link FEWEST_DAYS} days
 * that have a result, or where all are the same. The same days give the same interval.
 */
export function intervalOf(days: readonly DaySum[]): Interval | null {
  const { mean, error } = meanOf(days);
  if (days.filter((d) => d.count > 0).length < FEWEST_DAYS || !(error > 0)) return null;
  const r = createRandom(days.length, 'resampled days');
  const drawn: DaySum[] = new Array(days.length);
  const t: number[] = [];
  for (let k = 0; k < RESAMPLES; k++) {
    for (let n = 0; n < days.length; n++) drawn[n] = days[below(r, days.length)] as DaySum;
    const again = meanOf(drawn);
    if (again.error > 0) t.push((again.mean - mean) / again.error);
  }
  t.sort((a, b) => a - b);
  const at = (q: number) => t[Math.min(t.length - 1, Math.floor(q * t.length))] as number;
  return { low: mean - at(0.975) * error, high: mean - at(0.025) * error };
}

/** Quantiles of the standard normal for a test at 5 % (two-sided) that finds a difference four times of five. */
const SURE = 1.96;
const FOUND = 0.8416;

/** How many days it takes to tell a mean difference a day from none, given its standard deviation; null where there is none. */
export const daysToTell = (mean: number, deviation: number): number | null =>
  mean === 0 || !(deviation > 0) ? null : Math.ceil((((SURE + FOUND) * deviation) / mean) ** 2);

/** The 95 % interval of a mean a trade from the sums of days, as trades of one day are not independent (Student's t over days; common practice). */
export function dayInterval(days: readonly DaySum[]): Interval | null {
  const some = days.filter((d) => d.count > 0);
  const { mean, error } = meanOf(some);
  if (some.length < FEWEST_DAYS || !(error > 0)) return null;
  const half = studentQuantile(0.975, some.length - 1) * error;
  return { low: mean - half, high: mean + half };
}

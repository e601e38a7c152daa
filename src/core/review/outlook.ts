// The law of large numbers made visible: what the next hundreds of trades may come to if they are like those before.
import { daysToTell, meanOf } from '../statistics/index.ts';

/** What is drawn from: results in R, day by day, as trades of one day are not independent. */
export type DrawnFrom = readonly (readonly number[])[];

export interface OutlookTerms {
  from: DrawnFrom;
  /** How many trades ahead, and how often it is tried. */
  trades: number;
  runs: number;
  /** The account: equity now, what is risked a trade, and the equity at which it is over; one unit of money. */
  equity: number;
  unit: number;
  ruin: number;
  seed: number;
}

/** What so many percent of the runs stay below. */
export interface Quantiles {
  p5: number;
  p25: number;
  p50: number;
  p75: number;
  p95: number;
}

export interface Outlook {
  /** After so many trades: the sum of R. */
  fan: ({ trades: number } & Quantiles)[];
  /** The deepest fall from a best, in R. */
  drawdown: Quantiles;
  /** Part of the runs that come to ruin on the way, and that stand below where they began after half and after all of the trades. */
  ruin: number;
  downHalf: number;
  down: number;
}

const POINTS = 24;

/** Results as they are drawn: all in one row, with where each day begins. */
function rowsOf(from: DrawnFrom) {
  const days = from.filter((d) => d.length > 0);
  const starts = new Int32Array(days.length + 1);
  days.forEach((d, k) => {
    starts[k + 1] = (starts[k] as number) + d.length;
  });
  return { r: Float64Array.from(days.flat()), starts, days: days.length };
}

const quantilesOf = (values: Float64Array): Quantiles => {
  const sorted = values.sort();
  const at = (q: number) => sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))] as number;
  return { p5: at(0.05), p25: at(0.25), p50: at(0.5), p75: at(0.75), p95: at(0.95) };
};

/** Draws whole days with replacement until there are enough trades, again and again. The same terms give the same outlook; null of no results. */
export function outlookOf({ from, trades, runs, equity, unit, ruin, seed }: OutlookTerms): Outlook | null {
  const { r, starts, days } = rowsOf(from);
  if (days === 0 || trades < 1 || runs < 1) return null;
  const points = Array.from({ length: Math.min(POINTS, trades) }, (_, k) =>
    Math.round(((k + 1) * trades) / Math.min(POINTS, trades)),
  );
  const sums = points.map(() => new Float64Array(runs));
  const falls = new Float64Array(runs);
  const over = (ruin - equity) / unit;
  let ruined = 0;
  // xorshift32 (G. Marsaglia, "Xorshift RNGs", Journal of Statistical Software 8, 2003): fast, and its period of 2³² is far more than is drawn.
  let x = (seed ^ 0x9e3779b9) >>> 0 || 1;
  for (let run = 0; run < runs; run++) {
    let [sum, best, fall, point] = [0, 0, 0, 0];
    let [i, end] = [0, 0];
    let gone = false;
    for (let n = 1; n <= trades; n++) {
      if (i === end) {
        x ^= x << 13;
        x ^= x >>> 17;
        x ^= x << 5;
        const day = Math.floor(((x >>> 0) / 4294967296) * days);
        i = starts[day] as number;
        end = starts[day + 1] as number;
      }
      sum += r[i++] as number;
      if (sum > best) best = sum;
      else if (best - sum > fall) fall = best - sum;
      if (sum <= over) gone = true;
      if (n === points[point]) (sums[point++] as Float64Array)[run] = sum;
    }
    falls[run] = fall;
    if (gone) ruined++;
  }
  const below = (list: Float64Array) => list.reduce((a, s) => a + (s < 0 ? 1 : 0), 0) / runs;
  // Before the quantiles, which sort what they are given.
  const [downHalf, down] = [(sums.length >> 1) - 1, sums.length - 1].map((k) =>
    below(sums[Math.max(0, k)] as Float64Array),
  ) as [number, number];
  return {
    fan: points.map((n, k) => ({ trades: n, ...quantilesOf(sums[k] as Float64Array) })),
    drawdown: quantilesOf(falls),
    ruin: ruined / runs,
    downHalf,
    down,
  };
}

/** Results of a rate and a payoff: 1,000 of them, each a day of its own; winners make `payoff` R, losers lose one. */
export const resultsOf = (winRate: number, payoff: number): DrawnFrom => {
  const won = Math.round(winRate * 1_000);
  return Array.from({ length: 1_000 }, (_, k) => [k < won ? payoff : -1]);
};

/** How many trades it takes until luck and skill can be told apart, if results go on like these; null where none would do. */
export function tradesToTell(from: DrawnFrom): number | null {
  const days = from.filter((d) => d.length > 0);
  const sums = days.map((d) => ({ sum: d.reduce((a, x) => a + x, 0), count: 1 }));
  const { mean, error } = meanOf(sums);
  const needed = daysToTell(mean, error * Math.sqrt(days.length));
  return needed === null ? null : Math.ceil((needed * days.flat().length) / days.length);
}

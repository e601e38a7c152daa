import {
  addTo,
  type DaySum,
  dayInterval,
  type Interval,
  meanOf,
  proportionInterval,
} from '../statistics/index.ts';
import { DIMENSION_LIST, type DimensionId } from './dimensions.ts';
import type { Ledger } from './ledger.ts';

/** What results are told in: multiples of what was risked, or money where too few trades say that. */
export type Unit = 'R' | '$';

/** Results of a group in one unit: their sum, their mean with its interval (null where there are too few days to tell), the mean over its standard error. */
export interface Results {
  sum: number;
  average: number;
  interval: Interval | null;
  t: number;
}

/** Trades that have something in common. */
export interface Group {
  name: string;
  trades: number;
  days: number;
  winRate: number;
  winRateInterval: Interval | null;
  /** Of those that say what was risked, in R; and of all, in 1/10,000 dollar. */
  r: Results;
  net: Results;
}

/** Sums a day, of the days that have some. */
function resultsOf(days: readonly DaySum[]): Results {
  const some = days.filter((d) => d.count > 0);
  const { mean, error } = meanOf(some);
  const interval = dayInterval(days);
  return {
    sum: some.reduce((a, d) => a + d.sum, 0),
    average: mean,
    interval,
    t: interval ? mean / error : Number.NaN,
  };
}

/** Of trades at some places, the groups of one dimension: in the dimension's own order, or what made most first. Trades that do not say are left out. */
export function groupsOf(l: Ledger, places: Int32Array, id: DimensionId): Group[] {
  const groups = l.groups.get(id);
  if (!groups) return [];
  const parts = groups.names.map(() => ({
    trades: 0,
    won: 0,
    last: -1,
    r: [] as DaySum[],
    net: [] as DaySum[],
  }));
  const book = (i: number, place: number): void => {
    const p = parts[place] as (typeof parts)[number];
    const [net, r, day] = [l.net[i] as number, l.r[i] as number, l.day[i] as number];
    p.trades++;
    if (net > 0) p.won++;
    if (p.last !== day) {
      p.last = day;
      p.r.push({ sum: 0, count: 0 });
      p.net.push({ sum: 0, count: 0 });
    }
    addTo(p.net[p.net.length - 1] as DaySum, net);
    if (!Number.isNaN(r)) addTo(p.r[p.r.length - 1] as DaySum, r);
  };
  for (const i of places) {
    const place = groups.of[i] as number;
    if (place < 0) continue;
    book(i, place);
    if (groups.also.size > 0) for (const other of groups.also.get(i) ?? []) book(i, other);
  }
  const order = DIMENSION_LIST.find((d) => d.id === id)?.order;
  return parts
    .map(
      (p, k): Group => ({
        name: groups.names[k] as string,
        trades: p.trades,
        days: p.net.length,
        winRate: p.won / p.trades,
        winRateInterval: proportionInterval(p.won, p.trades),
        r: resultsOf(p.r),
        net: resultsOf(p.net),
      }),
    )
    .filter((g) => g.trades > 0)
    .sort((a, b) =>
      order ? order.indexOf(a.name) - order.indexOf(b.name) : b.r.sum - a.r.sum || b.net.sum - a.net.sum,
    );
}

/** In what results of these trades are told: in R where at least half of them say what was risked. */
export function unitOf(l: Ledger, places: Int32Array): Unit {
  let known = 0;
  for (const i of places) if (!Number.isNaN(l.r[i] as number)) known++;
  return known * 2 >= places.length ? 'R' : '$';
}

/** The results of a group in a unit. */
export const inUnit = (g: Group, unit: Unit): Results => (unit === 'R' ? g.r : g.net);

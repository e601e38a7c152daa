import {
  type DaySum,
  FEWEST_DAYS,
  type Interval,
  meanOf,
  proportionInterval,
  studentQuantile,
} from '../statistics/index.ts';
import { DIMENSION_LIST, type DimensionId } from './dimensions.ts';
import type { Ledger } from './ledger.ts';

/** Trades that have something in common. */
export interface Group {
  name: string;
  trades: number;
  days: number;
  winRate: number;
  winRateInterval: Interval | null;
  net: number;
  /** Sum and mean of R of those that say what was risked; the interval of the mean is null where there are too few days to tell. */
  r: number;
  average: number;
  interval: Interval | null;
  /** Mean R over its standard error, over days; NaN where there are too few. */
  t: number;
}

/** Of trades at some places, the groups of one dimension: in the dimension's own order, or the most R first. Trades that do not say are left out. */
export function groupsOf(l: Ledger, places: Int32Array, id: DimensionId): Group[] {
  const groups = l.groups.get(id);
  if (!groups) return [];
  const parts = groups.names.map(() => ({
    trades: 0,
    won: 0,
    net: 0,
    r: 0,
    days: 0,
    last: -1,
    sums: [] as DaySum[],
  }));
  for (const i of places) {
    const place = groups.of[i] as number;
    if (place < 0) continue;
    const p = parts[place] as (typeof parts)[number];
    const [net, r, day] = [l.net[i] as number, l.r[i] as number, l.day[i] as number];
    p.trades++;
    p.net += net;
    if (net > 0) p.won++;
    if (p.last !== day) {
      p.last = day;
      p.days++;
      p.sums.push({ sum: 0, count: 0 });
    }
    if (Number.isNaN(r)) continue;
    p.r += r;
    const d = p.sums[p.sums.length - 1] as DaySum;
    d.sum += r;
    d.count++;
  }
  const order = DIMENSION_LIST.find((d) => d.id === id)?.order;
  return parts
    .map((p, k): Group => {
      const some = p.sums.filter((d) => d.count > 0);
      const { mean, error } = meanOf(some);
      const tells = some.length >= FEWEST_DAYS && error > 0;
      const half = tells ? studentQuantile(0.975, some.length - 1) * error : 0;
      return {
        name: groups.names[k] as string,
        trades: p.trades,
        days: p.days,
        winRate: p.won / p.trades,
        winRateInterval: proportionInterval(p.won, p.trades),
        net: p.net,
        r: p.r,
        average: mean,
        interval: tells ? { low: mean - half, high: mean + half } : null,
        t: tells ? mean / error : Number.NaN,
      };
    })
    .filter((g) => g.trades > 0)
    .sort((a, b) => (order ? order.indexOf(a.name) - order.indexOf(b.name) : b.r - a.r || b.net - a.net));
}

// Rehearsed trades taken apart: how results spread, and what they are by hour, price or kind of day.

import { meanOf } from '../statistics/index.ts';
import type { RehearsedTrade } from './figures.ts';

/** Some trades that have something in common. */
export interface Group {
  name: string;
  trades: number;
  winRate: number;
  /** Mean R a trade, and its standard error by days; NaN of a single day. */
  average: number;
  error: number;
}

/** Trades by a name, in the order in which names first come when `order` does not say otherwise. */
export function groupsOf(
  trades: readonly RehearsedTrade[],
  nameOf: (t: RehearsedTrade) => string,
  order: (a: RehearsedTrade, b: RehearsedTrade) => number = () => 0,
): Group[] {
  const by = new Map<string, RehearsedTrade[]>();
  for (const t of [...trades].sort(order)) {
    const name = nameOf(t);
    const there = by.get(name);
    if (there) there.push(t);
    else by.set(name, [t]);
  }
  return [...by].map(([name, list]) => {
    const days = new Map<number, { sum: number; count: number }>();
    for (const t of list) {
      const d = days.get(t.day) ?? { sum: 0, count: 0 };
      days.set(t.day, { sum: d.sum + t.r, count: d.count + 1 });
    }
    const { mean, error } = meanOf([...days.values()]);
    const winRate = list.filter((t) => t.r > 0).length / list.length;
    return { name, trades: list.length, winRate, average: mean, error };
  });
}

/** One bar of a spread: results from `from` on, up to the next bar's. */
export interface Bin {
  from: number;
  counts: number[];
}
const WIDTHS = [0.1, 0.25, 0.5, 1, 2.5, 5, 10];
const MOST_BINS = 32;

/** How results in R spread, for one or several hands on the same bars: as narrow as they fit, 0 always the border of two. */
export function spreadOf(hands: readonly (readonly number[])[]): Bin[] {
  const all = hands.flat();
  if (all.length === 0) return [];
  const low = all.reduce((a, x) => Math.min(a, x), 0);
  const high = all.reduce((a, x) => Math.max(a, x), 0);
  const last = WIDTHS[WIDTHS.length - 1] as number;
  const width =
    WIDTHS.find((w) => (high - low) / w <= MOST_BINS) ?? last * Math.ceil((high - low) / (last * MOST_BINS));
  const first = Math.floor(low / width);
  const bins = Array.from({ length: Math.floor(high / width) - first + 1 }, (_, k) => ({
    from: (first + k) * width,
    counts: hands.map(() => 0),
  }));
  hands.forEach((rs, h) => {
    for (const r of rs) {
      const bin = bins[Math.floor(r / width) - first] as Bin;
      bin.counts[h] = (bin.counts[h] as number) + 1;
    }
  });
  return bins;
}

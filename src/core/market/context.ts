import { fieldOf, type MarketView } from './fields.ts';
import { SECTORS } from './listing.ts';

/** How the whole market stands: changes in percent against the prior close. */
export interface MarketContext {
  /** The index stand-in, null before its first trade. */
  index: number | null;
  /** Median change of each sector's stocks that have traded, strongest first; sectors without a trade are left out. */
  sectors: { sector: string; change: number; stocks: number }[];
  /** Stocks above, below and at the prior close, of those that have traded. */
  up: number;
  down: number;
  unchanged: number;
  /** Share of the traded stocks that stand above their VWAP, 0 to 100; null when none has traded. */
  aboveVwap: number | null;
}

/** The market's context now. `stocks` are the symbols that count; `index` is the number of the index stand-in, −1 for none. */
export function contextOf(m: MarketView, stocks: Int32Array, index: number): MarketContext {
  const n = stocks.length;
  const change = new Float64Array(n);
  fieldOf('change').fill(m, stocks, n, change);
  const vwap = new Float64Array(n);
  fieldOf('from vwap').fill(m, stocks, n, vwap);
  const bySector: number[][] = SECTORS.map(() => []);
  const count = { up: 0, down: 0, unchanged: 0, above: 0 };
  for (let k = 0; k < n; k++) {
    const c = change[k] as number;
    if (Number.isNaN(c)) continue;
    count[c > 0 ? 'up' : c < 0 ? 'down' : 'unchanged']++;
    if ((vwap[k] as number) > 0) count.above++;
    bySector[m.facts.sector[stocks[k] as number] as number]?.push(c);
  }
  const traded = count.up + count.down + count.unchanged;
  const own = new Float64Array(1).fill(Number.NaN);
  if (index >= 0) fieldOf('change').fill(m, Int32Array.of(index), 1, own);
  return {
    index: Number.isNaN(own[0] as number) ? null : (own[0] as number),
    sectors: SECTORS.flatMap((sector, k) => {
      const list = bySector[k] as number[];
      return list.length === 0 ? [] : [{ sector, change: median(list), stocks: list.length }];
    }).sort((a, b) => b.change - a.change),
    up: count.up,
    down: count.down,
    unchanged: count.unchanged,
    aboveVwap: traded === 0 ? null : (count.above / traded) * 100,
  };
}

function median(list: number[]): number {
  const sorted = Float64Array.from(list).sort();
  const half = sorted.length >> 1;
  return sorted.length % 2
    ? (sorted[half] as number)
    : ((sorted[half - 1] as number) + (sorted[half] as number)) / 2;
}

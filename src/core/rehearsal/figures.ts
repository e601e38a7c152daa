// What rehearsed trades come to.
import { type DaySum, daysToTell, type Interval, intervalOf, meanOf } from '../statistics/index.ts';

/** One trade of a rehearsal. Results in R of its own first risk, money in 1/10,000 dollar, times of day in ms. */
export interface RehearsedTrade {
  /** Which of the rehearsed days. */
  day: number;
  symbol: string;
  side: 'long' | 'short';
  /** The key that it came of. */
  pressedAt: number;
  enteredAt: number;
  leftAt: number;
  /** Average entry, in price units. */
  price: number;
  shares: number;
  r: number;
  gross: number;
  costs: number;
  /** What was paid beyond the middle of the quote at the press, in and out. */
  slippage: number;
  /** What its first stop would have lost; without a stop, the account's 1R. */
  risk: number;
  /** It could not be left that day, and is worth its last price. */
  open: boolean;
}

/** The figures of some trades over some days. */
export interface Figures {
  trades: number;
  days: number;
  /** Mean R a trade after costs, and how sure that is; null: too few days to say. */
  average: number;
  interval: Interval | null;
  winRate: number;
  /** What winners made over what losers lost; null without a loser. */
  profitFactor: number | null;
  /** Mean money a trade after costs. */
  expectancy: number;
  /** Mean R a trade that costs, and that slippage, took. */
  costs: number;
  slippage: number;
  /** Deepest fall of the sum of R from its best so far. */
  drawdown: number;
  /** Most losers in a row, and what the worst such row lost in R. */
  worstRow: { trades: number; r: number };
  /** Mean time in a trade, in ms. */
  held: number;
}

/** Sums up trades; `days` is how many were rehearsed, those without a trade included. Trades in the order in which they were made. */
export function figuresOf(trades: readonly RehearsedTrade[], days: number): Figures {
  const n = trades.length;
  const mean = (f: (t: RehearsedTrade) => number) =>
    n === 0 ? Number.NaN : trades.reduce((a, t) => a + f(t), 0) / n;
  const won = trades.filter((t) => t.r > 0);
  const gained = won.reduce((a, t) => a + t.r, 0);
  const lost = trades.reduce((a, t) => a - Math.min(0, t.r), 0);
  return {
    trades: n,
    days,
    average: mean((t) => t.r),
    interval: intervalOf(byDay(trades, days)),
    winRate: n === 0 ? Number.NaN : won.length / n,
    profitFactor: lost === 0 ? null : gained / lost,
    expectancy: mean((t) => t.gross - t.costs),
    costs: mean((t) => t.costs / t.risk),
    slippage: mean((t) => t.slippage / t.risk),
    ...falls(trades),
    held: mean((t) => t.leftAt - t.enteredAt),
  };
}

function falls(trades: readonly RehearsedTrade[]): Pick<Figures, 'drawdown' | 'worstRow'> {
  let [sum, best, drawdown] = [0, 0, 0];
  let [row, rowR] = [0, 0];
  const worst = { trades: 0, r: 0 };
  for (const { r } of trades) {
    sum += r;
    best = Math.max(best, sum);
    drawdown = Math.max(drawdown, best - sum);
    [row, rowR] = r < 0 ? [row + 1, rowR + r] : [0, 0];
    worst.trades = Math.max(worst.trades, row);
    worst.r = Math.min(worst.r, rowR);
  }
  return { drawdown, worstRow: worst };
}

function byDay(trades: readonly RehearsedTrade[], days: number): DaySum[] {
  const out = Array.from({ length: days }, (): DaySum => ({ sum: 0, count: 0 }));
  for (const t of trades) {
    const d = out[t.day] as DaySum;
    d.sum += t.r;
    d.count++;
  }
  return out;
}

/** Two variants on the same days: the difference in R a day, first less second. */
export interface Difference {
  mean: number;
  interval: Interval | null;
  /** Days that it takes to tell them apart, as far as these days tell; null where they are the same. */
  needs: number | null;
}

/** Compares two variants day by day. */
export function differenceOf(
  first: readonly RehearsedTrade[],
  second: readonly RehearsedTrade[],
  days: number,
): Difference {
  const [a, b] = [byDay(first, days), byDay(second, days)];
  const each = a.map((d, k) => ({ sum: d.sum - (b[k] as DaySum).sum, count: 1 }));
  const { mean, error } = meanOf(each);
  return { mean, interval: intervalOf(each), needs: daysToTell(mean, error * Math.sqrt(days)) };
}

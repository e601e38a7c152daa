/**
 * Running volume-weighted average price after each bar: Σ(price × shares) ÷ Σ shares from the
 * first bar of the list on (common practice: one session at a time). Uses the exact turnover of
 * each bar, not its typical price. Null until something traded.
 */
export function vwapLine(bars: readonly { turnover: number; volume: number }[]): (number | null)[] {
  let turnover = 0;
  let volume = 0;
  return bars.map((bar) => {
    turnover += bar.turnover;
    volume += bar.volume;
    return volume === 0 ? null : turnover / volume;
  });
}

/**
 * Exponential moving average with weight 2 ÷ (n + 1), seeded with the simple average of the first
 * n values (common practice). The first n − 1 places are null.
 * @throws RangeError when n is not a positive whole number.
 */
export function emaLine(values: readonly number[], n: number): (number | null)[] {
  if (!Number.isInteger(n) || n < 1)
    throw new RangeError(`an average needs a whole number of values, not ${n}`);
  const k = 2 / (n + 1);
  let sum = 0;
  let ema: number | null = null;
  return values.map((value, i) => {
    if (i < n) sum += value;
    if (i === n - 1) ema = sum / n;
    else if (ema !== null) ema = (value - ema) * k + ema;
    return ema;
  });
}

/** A finished day of one symbol; prices in 1/10,000 dollar. */
export interface DailyBar {
  date: string;
  open: number;
  high: number;
  low: number;
  close: number;
  volume: number;
}

/** Largest of high − low and the distances of both from the close before (J. W. Wilder, New Concepts in Technical Trading Systems, 1978). */
export const trueRange = (bar: Pick<DailyBar, 'high' | 'low'>, closeBefore: number): number =>
  Math.max(bar.high, closeBefore) - Math.min(bar.low, closeBefore);

/**
 * Average true range after Wilder: the mean of the first n true ranges, then
 * (ATR × (n − 1) + true range) ÷ n. The first bar only gives a close. Null with fewer than n + 1 bars.
 */
export function atrOf(bars: readonly Pick<DailyBar, 'high' | 'low' | 'close'>[], n = 14): number | null {
  let atr = 0;
  for (let i = 1; i < bars.length; i++) {
    const range = trueRange(bars[i] as DailyBar, (bars[i - 1] as DailyBar).close);
    atr = i <= n ? atr + range / n : (atr * (n - 1) + range) / n;
  }
  return bars.length > n ? atr : null;
}

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
  if (!Number.isInteger(n) || n < 1) throw new RangeError(`an average needs a whole number of values, not ${n}`);
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

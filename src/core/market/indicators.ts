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

/** Simple moving average of the last n values; the first n − 1 places are null. @throws RangeError when n is not a positive whole number. */
export function smaLine(values: readonly number[], n: number): (number | null)[] {
  if (!Number.isInteger(n) || n < 1)
    throw new RangeError(`an average needs a whole number of values, not ${n}`);
  let sum = 0;
  return values.map((value, i) => {
    sum += value - (i >= n ? (values[i - n] as number) : 0);
    return i < n - 1 ? null : sum / n;
  });
}

/**
 * Relative strength index after Wilder: 100 − 100 ÷ (1 + mean gain ÷ mean loss); the means are those of the first n
 * changes, then (mean × (n − 1) + change) ÷ n (J. W. Wilder, New Concepts in Technical Trading Systems, 1978).
 * Without a loss it is 100, without any change 50. The first n places are null.
 */
export function rsiLine(closes: readonly number[], n = 14): (number | null)[] {
  let [gain, loss] = [0, 0];
  return closes.map((close, i) => {
    if (i === 0) return null;
    const change = close - (closes[i - 1] as number);
    const [up, down] = [Math.max(0, change), Math.max(0, -change)];
    gain = i <= n ? gain + up / n : (gain * (n - 1) + up) / n;
    loss = i <= n ? loss + down / n : (loss * (n - 1) + down) / n;
    if (i < n) return null;
    return gain === 0 && loss === 0 ? 50 : 100 - 100 / (1 + gain / loss);
  });
}

/**
 * {@link vwapLine} with the volume-weighted standard deviation of the bars' own average prices around it:
 * √(Σ shares × price² ÷ Σ shares − VWAP²) (common practice). What moves inside a bar is not in it.
 */
export function vwapBands(
  bars: readonly { turnover: number; volume: number }[],
): ({ vwap: number; deviation: number } | null)[] {
  let [volume, turnover, squares] = [0, 0, 0];
  return bars.map((bar) => {
    volume += bar.volume;
    turnover += bar.turnover;
    if (bar.volume > 0) squares += bar.turnover ** 2 / bar.volume;
    if (volume === 0) return null;
    const vwap = turnover / volume;
    return { vwap, deviation: Math.sqrt(Math.max(0, squares / volume - vwap ** 2)) };
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
export function atrLine(
  bars: readonly Pick<DailyBar, 'high' | 'low' | 'close'>[],
  n = 14,
): (number | null)[] {
  let atr = 0;
  return bars.map((bar, i) => {
    if (i === 0) return null;
    const range = trueRange(bar, (bars[i - 1] as DailyBar).close);
    atr = i <= n ? atr + range / n : (atr * (n - 1) + range) / n;
    return i < n ? null : atr;
  });
}

/** The last value of {@link atrLine}. */
export const atrOf = (bars: readonly Pick<DailyBar, 'high' | 'low' | 'close'>[], n = 14): number | null =>
  atrLine(bars, n)[bars.length - 1] ?? null;

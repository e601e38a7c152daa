import type { DailyBar, Listing } from '../market/index.ts';
import { type Price, priorTradingDay, roundToTick } from '../units/index.ts';
import { createRandom, normal, uniform } from './random.ts';

/** Days that a daily chart goes back. */
export const HISTORY_DAYS = 60;
const SMOOTHING = 14;

/**
 * The daily candles before a symbol's day, oldest first, made backwards from its prior candle: they
 * end in that candle, and their ATR(14) after Wilder is the instrument's. The same for a symbol and
 * date on every machine.
 * @param date the day itself; the last candle is of the trading day before it.
 */
export function dailyHistory(
  x: Pick<
    Listing,
    'symbol' | 'priorOpen' | 'priorHigh' | 'priorLow' | 'priorClose' | 'averageVolume' | 'atr'
  >,
  date: string,
): DailyBar[] {
  const r = createRandom(20_271, `${x.symbol} history`);
  const n = HISTORY_DAYS - 1;
  // True ranges by day, oldest first; the prior candle's own range stands at the end.
  const ranges = Array.from({ length: n }, () => Math.max(0.35, 1 + 0.4 * normal(r)));
  const own = x.priorHigh - x.priorLow;
  // Wilder's average is linear in the true ranges, so one factor brings it where it has to be. The first candle has none.
  const rest = smoothed([...ranges.slice(1), 0]);
  const factor = Math.max(0.05 * x.atr, x.atr - own / SMOOTHING) / rest;
  const out: DailyBar[] = [
    {
      date: priorTradingDay(date),
      open: x.priorOpen,
      high: x.priorHigh,
      low: x.priorLow,
      close: x.priorClose,
      volume: volume(x.averageVolume, r),
    },
  ];
  // The close before lies inside the later candle, so that its range is its true range.
  let close = x.priorLow + uniform(r) * own;
  for (let k = n - 1; k >= 0; k--) {
    const range = Math.min((ranges[k] as number) * factor, close * 0.6);
    const drift = (uniform(r) - 0.5) * 1.6;
    const before = close - drift * range * 0.5;
    const top = Math.max(close, before);
    const bottom = Math.min(close, before);
    const above = (range - (top - bottom)) * uniform(r);
    const high = top + above;
    const low = high - range;
    const price = (v: number) => roundToTick(Math.max(1, v) as Price);
    const bar = {
      open: price(low + range * uniform(r)),
      high: price(high),
      low: price(low),
      close: price(close),
    };
    const earliest = out[out.length - 1] as DailyBar;
    out.push({
      date: priorTradingDay(earliest.date),
      ...bar,
      high: Math.max(bar.high, bar.open, bar.close),
      low: Math.min(bar.low, bar.open, bar.close),
      volume: volume(x.averageVolume, r),
    });
    close = before;
  }
  return out.reverse();
}

/** Wilder's average of true ranges, the mean of the first ones first. */
function smoothed(ranges: readonly number[]): number {
  let average = 0;
  ranges.forEach((v, i) => {
    average = i < SMOOTHING ? average + v / SMOOTHING : (average * (SMOOTHING - 1) + v) / SMOOTHING;
  });
  return average;
}

const volume = (average: number, r: ReturnType<typeof createRandom>): number =>
  Math.round(average * (0.55 + 0.9 * uniform(r) * uniform(r) + 0.25 * uniform(r)));

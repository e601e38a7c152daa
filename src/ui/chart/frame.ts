import type { Bar } from '@/core/market';
import { MINUTE } from '@/core/units';

/** Where prices and candles lie in pixels, published by the chart for the layers above it. */
export interface Frame {
  x(index: number): number;
  y(price: number): number;
  priceAt(y: number): number;
  plot: { x: number; y: number; width: number; height: number };
  step: number;
}

/** The place of a session time among candles, with parts; before the first and beyond the last it goes on evenly. */
export function indexAt(candles: readonly Pick<Bar, 'start'>[], minutes: number, at: number): number {
  const width = minutes * MINUTE;
  const [first, last] = [candles[0], candles[candles.length - 1]];
  if (!first || !last) return 0;
  if (at < first.start) return (at - first.start) / width;
  if (at >= last.start) return candles.length - 1 + (at - last.start) / width;
  let [lo, hi] = [0, candles.length - 1];
  while (hi - lo > 1) {
    const mid = (lo + hi) >> 1;
    if ((candles[mid] as Bar).start <= at) lo = mid;
    else hi = mid;
  }
  // A gap without trades has no room: a time in it lies at the candle before.
  return lo + Math.min(1, (at - (candles[lo] as Bar).start) / width);
}

/** The session time of a place among candles. */
export function timeAt(candles: readonly Pick<Bar, 'start'>[], minutes: number, index: number): number {
  const width = minutes * MINUTE;
  const [first, last] = [candles[0], candles[candles.length - 1]];
  if (!first || !last) return 0;
  const i = Math.round(index);
  if (i < 0) return first.start + i * width;
  return candles[i]?.start ?? last.start + (i - candles.length + 1) * width;
}

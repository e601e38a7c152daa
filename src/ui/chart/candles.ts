import type { Bar } from '@/core/market';
import { MINUTE, PRICE_SCALE } from '@/core/units';

/** One-minute bars joined into candles of `minutes`, intervals counted from 04:00. */
export function joinBars(bars: readonly Bar[], minutes: number): Bar[] {
  if (minutes === 1) return [...bars];
  const out: Bar[] = [];
  const width = minutes * MINUTE;
  for (const b of bars) {
    const start = b.start - (b.start % width);
    const last = out[out.length - 1];
    if (last?.start === start) {
      last.high = Math.max(last.high, b.high);
      last.low = Math.min(last.low, b.low);
      last.close = b.close;
      last.volume += b.volume;
      last.turnover += b.turnover;
    } else out.push({ ...b, start });
  }
  return out;
}

/** Candles whose interval is over, and what has finished of the one that is forming. */
export function splitForming(
  slice: { bars: readonly Bar[]; formingFrom: number } | null,
  minutes: number,
): { closed: Bar[]; partial: Bar | null } {
  const closed = slice ? joinBars(slice.bars, minutes) : [];
  const last = closed[closed.length - 1];
  if (!slice || !last || last.start + minutes * MINUTE <= slice.formingFrom) return { closed, partial: null };
  return { closed: closed.slice(0, -1), partial: last };
}

/** The lowest and highest price of what is shown, with a margin; 5 % at either end. */
export function priceRange(
  candles: readonly Pick<Bar, 'high' | 'low'>[],
  also: readonly number[],
): [number, number] {
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  for (const c of candles) {
    low = Math.min(low, c.low);
    high = Math.max(high, c.high);
  }
  for (const p of also) {
    low = Math.min(low, p);
    high = Math.max(high, p);
  }
  if (low > high) return [0, PRICE_SCALE];
  const margin = Math.max((high - low) * 0.06, high * 0.002);
  return [low - margin, high + margin];
}

/** Round prices for the axis, about `count` of them: steps of 1, 2 or 5 times a power of ten. */
export function priceTicks([low, high]: [number, number], count: number): number[] {
  const raw = (high - low) / count;
  const power = 10 ** Math.floor(Math.log10(raw));
  const step = [1, 2, 5, 10].map((m) => m * power).find((s) => s >= raw) ?? power * 10;
  const out: number[] = [];
  for (let p = Math.ceil(low / step) * step; p <= high; p += step) out.push(Math.round(p));
  return out;
}

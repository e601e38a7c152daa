import { SECTORS } from '../market/index.ts';
import { AFTER_CLOSE, PRE_OPEN } from '../units/index.ts';
import type { Phase } from './plan.ts';
import { createRandom, normal } from './random.ts';

/** The index moves every three seconds, sectors every fifteen; in between they stand, so that no move tells of the next. */
const STEP = { index: 3_000, sector: 15_000 };
const MINUTE = 60_000;
/** How the variance clusters: it comes back to its mean over six minutes or so. */
const CALMS = 0.16;
const WANDERS = 0.24;

/** How the whole market and each sector have moved since 04:00, as factors on grids of time. */
export interface Tides {
  index: Float64Array;
  sectors: Readonly<Record<string, Float64Array>>;
}

/** The day's tides from the mood of the market. They have no drift: where a day goes, nobody knows. */
export function tidesOf(mood: readonly Phase[], seed: number): Tides {
  const course = (stream: string, scale: number, each: number): Float64Array => {
    const r = createRandom(seed, stream);
    const out = new Float64Array((AFTER_CLOSE - PRE_OPEN) / each + 2).fill(1);
    const minutes = each / MINUTE;
    const root = Math.sqrt(minutes);
    let phase = 0;
    let heat = 1;
    for (let k = 1; k < out.length; k++) {
      const t = PRE_OPEN + k * each;
      while ((mood[phase + 1]?.from ?? Number.POSITIVE_INFINITY) <= t) phase++;
      const z = normal(r);
      const step = (mood[phase]?.vol ?? 0) * scale * Math.sqrt(minutes * heat) * z;
      out[k] = (out[k - 1] as number) * (1 + step);
      heat = Math.max(
        0.3,
        Math.min(6, heat + (1 - heat) * CALMS * minutes + WANDERS * root * heat * (z * z - 1)),
      );
    }
    return out;
  };
  return {
    index: course('index', 1, STEP.index),
    sectors: Object.fromEntries(SECTORS.map((s) => [s, course(`sector ${s}`, 0.7, STEP.sector)])),
  };
}

const standsAt = (course: Float64Array, each: number, t: number): number =>
  course[Math.floor((t - PRE_OPEN) / each)] as number;

/** Whether the tides stand as they stood at an earlier time. */
export const sameTide = (before: number, now: number): boolean =>
  Math.floor(before / STEP.index) === Math.floor(now / STEP.index);

/** How far the market has carried a sector at a time of day: 1 at 04:00. */
export function tideAt(tides: Tides, sector: string, t: number): number {
  const own = tides.sectors[sector];
  return standsAt(tides.index, STEP.index, t) * (own ? standsAt(own, STEP.sector, t) : 1);
}

import { SECTORS } from '../market/index.ts';
import { AFTER_CLOSE, PRE_OPEN } from '../units/index.ts';
import type { Phase } from './plan.ts';
import { createRandom, normal } from './random.ts';

const STEP = 15_000;

/** How the whole market and each sector have moved since 04:00, as factors on a grid of 15 seconds. */
export interface Tides {
  index: Float64Array;
  sectors: Readonly<Record<string, Float64Array>>;
}

/** The day's tides from the mood of the market. */
export function tidesOf(mood: readonly Phase[], seed: number): Tides {
  const course = (stream: string, scale: number, drifts: boolean): Float64Array => {
    const r = createRandom(seed, stream);
    const out = new Float64Array((AFTER_CLOSE - PRE_OPEN) / STEP + 2).fill(1);
    let phase = 0;
    let heat = 1;
    for (let k = 1; k < out.length; k++) {
      const t = PRE_OPEN + k * STEP;
      while ((mood[phase + 1]?.from ?? Number.POSITIVE_INFINITY) <= t) phase++;
      const p = mood[phase];
      const z = normal(r);
      const minutes = STEP / 60_000;
      const step =
        (drifts ? (p?.drift ?? 0) * minutes : 0) + (p?.vol ?? 0) * scale * Math.sqrt(minutes * heat) * z;
      out[k] = (out[k - 1] as number) * (1 + step);
      heat = Math.max(0.3, Math.min(6, heat + (1 - heat) * 0.04 + 0.12 * heat * (z * z - 1)));
    }
    return out;
  };
  return {
    index: course('index', 1, true),
    sectors: Object.fromEntries(SECTORS.map((s) => [s, course(`sector ${s}`, 0.7, false)])),
  };
}

function along(course: Float64Array, t: number): number {
  const x = (t - PRE_OPEN) / STEP;
  const k = Math.floor(x);
  const from = course[k] as number;
  return from + ((course[k + 1] ?? from) - from) * (x - k);
}

/** How far the market has carried a sector at a time of day: 1 at 04:00. */
export function tideAt(tides: Tides, sector: string, t: number): number {
  const own = tides.sectors[sector];
  return along(tides.index, t) * (own ? along(own, t) : 1);
}

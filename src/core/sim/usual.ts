// The shape of a usual day, and how much of its movement is left at a time.
import { at, type Hours, MINUTE, REGULAR_CLOSE } from '../units/index.ts';
import type { Given, Phase } from './plan.ts';
import { decay, exp, normal, type Random } from './random.ts';

/** More happens near open and close (see market/usual-volume.ts), little outside. */
const USUAL: readonly [hour: number, minute: number, vol: number, pace: number][] = [
  [4, 0, 0.22, 0.012],
  [7, 0, 0.3, 0.045],
  [8, 0, 0.42, 0.1],
  [9, 0, 0.6, 0.24],
  [9, 30, 3, 3.1],
  [9, 32, 2.5, 2.9],
  [9, 35, 2.1, 2.3],
  [9, 45, 1.65, 1.75],
  [10, 0, 1.35, 1.4],
  [10, 30, 1.15, 1.15],
  [11, 0, 1.05, 1.05],
  [11, 30, 0.9, 0.84],
  [12, 0, 0.8, 0.72],
  [12, 30, 0.74, 0.64],
  [13, 0, 0.7, 0.6],
  [13, 30, 0.72, 0.62],
  [14, 0, 0.8, 0.72],
  [14, 30, 0.84, 0.8],
  [15, 0, 1, 1.05],
  [15, 30, 1.1, 1.5],
  [15, 50, 1.2, 2.4],
];
const REGULAR_FROM = 4;

const once = new WeakMap<Hours, readonly Phase[]>();

/** The shared stretches of every company of which nothing special is told. */
export function usualPhases(hours: Hours): readonly Phase[] {
  const there = once.get(hours);
  if (there) return there;
  const shift = REGULAR_CLOSE - hours.close;
  const list = USUAL.map(
    ([h, m, vol, pace]): Phase => ({ from: h >= 15 ? at(h, m) - shift : at(h, m), vol, pace }),
  )
    .filter((p, k) => k < REGULAR_FROM || p.from < hours.close)
    .sort((a, b) => a.from - b.from);
  list.push(
    { from: hours.close, vol: 0.3, pace: 0.1 },
    { from: hours.close + 60 * MINUTE, vol: 0.2, pace: 0.02 },
  );
  once.set(hours, list);
  return list;
}

/** Seconds of a full day weighted by pace: what a day's prints are spread over. */
export function weightedSeconds(phases: readonly Phase[], end: number): number {
  return phases.reduce((a, p, k) => a + (p.pace * ((phases[k + 1]?.from ?? end) - p.from)) / 1000, 0);
}

/** The heat of an hour or so, as one of the stretches has it: its logarithm wanders, with this deviation, over these ms. */
const HEAT = { deviation: 1.15, over: 45 * MINUTE };

/** Draws how hot each stretch is and where the course ends; `vol` is the symbol's usual change a minute. */
export function drawGiven(r: Random, phases: readonly Phase[], vol: number, hours: Hours): Given {
  const n = phases.length;
  const heats = new Float64Array(n);
  const left = new Float64Array(n + 1);
  let z = normal(r);
  phases.forEach((p, k) => {
    const kept = decay((p.from - (phases[k - 1]?.from ?? p.from)) / HEAT.over);
    z = z * kept + Math.sqrt(1 - kept * kept) * normal(r);
    heats[k] = Math.min(9, exp(HEAT.deviation * z - (HEAT.deviation * HEAT.deviation) / 2));
  });
  for (let k = n - 1; k >= 0; k--) {
    const p = phases[k] as Phase;
    const until = Math.min(hours.close, phases[k + 1]?.from ?? hours.close);
    const variance = (p.vol * p.vol * (heats[k] as number) * Math.max(0, until - p.from)) / MINUTE;
    left[k] = (left[k + 1] as number) + variance;
  }
  const course = Math.max(-4, Math.min(4, normal(r)));
  return { heats, left, ends: Math.max(-0.7, vol * Math.sqrt(left[0] as number) * course) };
}

/** Variance that a given course still has at a time in stretch `k`, in squares of `vol`. */
export function varianceLeft(given: Given, phases: readonly Phase[], k: number, now: number): number {
  const p = phases[k] as Phase;
  const gone = (p.vol * p.vol * (given.heats[k] as number) * (now - p.from)) / MINUTE;
  return Math.max(given.left[k + 1] as number, (given.left[k] as number) - gone);
}

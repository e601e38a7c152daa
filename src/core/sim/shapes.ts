import { at, type Hours, MINUTE, PRE_OPEN, REGULAR_CLOSE, REGULAR_OPEN } from '../units/index.ts';
import type { Phase } from './plan.ts';

type Stretch = [hour: number, minute: number, drift: number, vol: number, pace: number];

/**
 * How a mover's regular session goes, by character: drift and vol in % a minute, pace in multiples
 * of three happenings a second.
 */
const SHAPES = {
  'gap and go': [
    [9, 30, 0.95, 0.55, 3.2],
    [9, 42, -0.16, 0.45, 2.2],
    [9, 58, 0.34, 0.42, 1.8],
    [10, 20, -0.05, 0.3, 1],
    [11, 30, 0, 0.16, 0.6],
    [14, 30, 0.03, 0.22, 0.8],
  ],
  squeeze: [
    [9, 30, -0.4, 0.8, 3],
    [9, 36, 0.95, 0.95, 3.6],
    [9, 52, -0.5, 0.9, 2.6],
    [10, 15, 0.12, 0.5, 1.4],
    [11, 20, -0.06, 0.25, 0.7],
    [15, 0, -0.1, 0.35, 1],
  ],
  'halted squeeze': [
    [9, 30, 0.6, 0.8, 3.2],
    [9, 33, 7, 1.1, 4],
    [9, 37, 0.6, 0.9, 3],
    [9, 47, 8, 1.2, 4],
    [9, 51, -0.4, 1, 3],
    [10, 1, 7, 1.2, 3.8],
    [10, 5, -0.5, 1.1, 3],
    [10, 14, -8, 1.4, 4],
    [10, 19, -0.4, 1, 2.4],
    [10, 31, -5, 1.1, 2.6],
    [10, 35, 0.1, 0.7, 1.6],
    [11, 15, -0.08, 0.4, 0.9],
    [14, 40, 0.5, 0.6, 1.4],
    [15, 10, -0.15, 0.5, 1.1],
  ],
  'gap and fade': [
    [9, 30, 0.25, 0.55, 2.6],
    [9, 35, -0.42, 0.5, 2],
    [10, 5, -0.08, 0.32, 1.1],
    [11, 0, 0, 0.15, 0.6],
    [15, 0, 0.02, 0.2, 0.8],
  ],
  'late news': [
    [9, 30, 0.02, 0.35, 1.4],
    [10, 30, 0, 0.2, 0.8],
    [13, 10, 0.25, 0.4, 1.8],
    [13, 40, 0, 0.2, 0.8],
  ],
  'mid-morning news': [
    [9, 30, 0, 0.16, 0.5],
    [10, 42, 0.55, 0.75, 3],
    [11, 5, 0.15, 0.55, 2.2],
    [11, 40, -0.12, 0.35, 1.2],
    [13, 0, 0.02, 0.22, 0.7],
  ],
  offering: [
    [9, 30, 0.45, 0.6, 2.8],
    [9, 55, 0.2, 0.45, 2],
    [10, 25, -0.5, 0.9, 3],
    [10, 50, -0.12, 0.5, 1.6],
    [11, 40, -0.02, 0.25, 0.8],
  ],
  'thin grind': [
    [9, 30, 0.08, 0.16, 0.5],
    [10, 0, 0.06, 0.1, 0.3],
    [12, 0, 0.05, 0.08, 0.22],
    [15, 0, 0.08, 0.12, 0.4],
  ],
  slides: [
    [9, 30, -0.35, 0.55, 2.4],
    [9, 50, 0.1, 0.4, 1.4],
    [10, 40, -0.03, 0.22, 0.8],
  ],
  'breaks down': [
    [9, 30, -0.2, 0.5, 2],
    [10, 4, -0.75, 0.7, 2.8],
    [10, 22, -0.1, 0.5, 1.6],
    [11, 30, 0.04, 0.25, 0.8],
    [14, 30, -0.1, 0.35, 1],
  ],
  'strong close': [
    [9, 30, 0.1, 0.4, 1.4],
    [10, 30, 0, 0.2, 0.7],
    [14, 0, 0.12, 0.3, 1.2],
    [15, 20, 0.25, 0.4, 2],
  ],
} as const satisfies Record<string, readonly Stretch[]>;

export type Shape = keyof typeof SHAPES;
const PERCENT = 0.01;

/** The day of a mover: quiet until its first news, busy before the open, then its shape. */
export function moverPhases(shape: Shape, newsAt: number, hours: Hours): Phase[] {
  const early: Phase[] = [
    { from: PRE_OPEN, drift: 0, vol: 0.05 * PERCENT, pace: 0.05 },
    { from: newsAt, drift: 0.08 * PERCENT, vol: 0.42 * PERCENT, pace: 1 },
    { from: newsAt + 25 * MINUTE, drift: 0, vol: 0.26 * PERCENT, pace: 0.7 },
    { from: at(9, 5), drift: 0.05 * PERCENT, vol: 0.3 * PERCENT, pace: 1 },
  ];
  const regular = SHAPES[shape].map(
    ([h, m, drift, vol, pace]): Phase => ({
      from: at(h, m),
      drift: drift * PERCENT,
      vol: vol * PERCENT,
      pace,
    }),
  );
  const before = newsAt < REGULAR_OPEN ? early : [{ ...(early[0] as Phase), pace: 0.12, vol: 0.1 * PERCENT }];
  return [
    ...before,
    ...regular.filter((p) => p.from < hours.close),
    { from: hours.close, drift: 0, vol: 0.08 * PERCENT, pace: 0.12 },
  ];
}

/** The usual day of a company: more happens near open and close (see usual-volume.ts), little outside. */
const USUAL: readonly [hour: number, minute: number, vol: number, pace: number][] = [
  [4, 0, 0.3, 0.012],
  [7, 0, 0.4, 0.045],
  [8, 0, 0.5, 0.1],
  [9, 0, 0.6, 0.24],
  [9, 30, 2.4, 3.1],
  [9, 35, 2, 2.3],
  [9, 45, 1.65, 1.75],
  [10, 0, 1.35, 1.4],
  [10, 30, 1.1, 1.1],
  [11, 30, 0.85, 0.78],
  [12, 30, 0.72, 0.62],
  [14, 0, 0.82, 0.76],
  [15, 0, 1, 1.05],
  [15, 30, 1.1, 1.5],
  [15, 50, 1.2, 2.4],
];

const phasesOnce = new WeakMap<Hours, Phase[]>();

/** The shared phases of every company of which nothing special is told. */
export function usualPhases(hours: Hours): readonly Phase[] {
  const there = phasesOnce.get(hours);
  if (there) return there;
  const shift = REGULAR_CLOSE - hours.close;
  const list = USUAL.map(
    ([h, m, vol, pace]): Phase => ({ from: h >= 15 ? at(h, m) - shift : at(h, m), drift: 0, vol, pace }),
  )
    .filter((p, k) => k < 12 || p.from < hours.close)
    .sort((a, b) => a.from - b.from);
  list.push(
    { from: hours.close, drift: 0, vol: 0.3, pace: 0.1 },
    { from: hours.close + 60 * MINUTE, drift: 0, vol: 0.2, pace: 0.02 },
  );
  phasesOnce.set(hours, list);
  return list;
}

/** Seconds of a full usual day weighted by pace: what a day's happenings are spread over. */
export function weightedSeconds(phases: readonly Phase[], end: number): number {
  return phases.reduce((a, p, k) => a + (p.pace * ((phases[k + 1]?.from ?? end) - p.from)) / 1000, 0);
}

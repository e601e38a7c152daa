// How a mover's day may go: a mixture of courses, drawn. None of them has a direction.
import { at, type Hours, MINUTE, PRE_OPEN, REGULAR_OPEN } from '../units/index.ts';
import type { Jump, Phase, Rushes } from './plan.ts';
import { type Random, uniform } from './random.ts';

type Stretch = [hour: number, minute: number, vol: number, pace: number];

/** The regular session of a mover: `vol` and `pace` in multiples of its own. */
const REGULAR: readonly Stretch[] = [
  [9, 30, 3.4, 13],
  [9, 32, 2.8, 8],
  [9, 35, 2.3, 3.6],
  [9, 45, 1.8, 2.2],
  [10, 0, 1.4, 1.5],
  [10, 30, 1.05, 1],
  [11, 30, 0.75, 0.6],
  [12, 30, 0.6, 0.45],
  [14, 0, 0.65, 0.5],
  [15, 0, 0.8, 0.7],
  [15, 30, 0.9, 0.95],
  [15, 50, 1, 1.4],
];
/** After its news, by minutes since; and what a waking market adds. */
const AWAKE: readonly [minutes: number, vol: number, pace: number][] = [
  [0, 1.5, 0.55],
  [10, 0.85, 0.3],
  [40, 0.5, 0.14],
];

const COURSES = ['burst', 'steady', 'squeeze', 'second wind', 'announcement', 'late'] as const;
/** What makes a mover's day its own. */
export type CourseKind = (typeof COURSES)[number];

export interface Course {
  phases: Phase[];
  rushes: Rushes | null;
  /** News in mid-session, where the course has it. */
  news: Jump | null;
}

/** A step that on average is none: up or down, the rarer the larger. `up` and `down` are sizes as fractions. */
export const evenStep = (r: Random, up: number, down: number): number =>
  uniform(r) < down / (up + down) ? up : -down;

/** Between two values, evenly. */
export const between = (r: Random, from: number, to: number): number => from + (to - from) * uniform(r);

/** A course of the mixture, its times and sizes drawn. `newsAt`: when the symbol woke up, as a time of day. */
export function drawCourse(r: Random, newsAt: number, hours: Hours, wanted?: CourseKind): Course {
  const draw = Math.floor(uniform(r) * COURSES.length);
  const kind = wanted ?? (COURSES[draw] as CourseKind);
  const phases = awake(newsAt, hours);
  const lively = (from: number, until: number, vol: number, pace: number) =>
    multiply(phases, from, Math.min(until, hours.close), vol, pace);
  let rushes: Rushes | null = null;
  let news: Jump | null = null;
  switch (kind) {
    case 'burst':
      lively(at(10) + Math.floor(uniform(r) * 30) * MINUTE, hours.close, 0.7, 0.45);
      break;
    case 'squeeze': {
      const from = at(9, 33) + Math.floor(uniform(r) * 40) * MINUTE;
      rushes = {
        from,
        until: from + between(r, 40, 110) * MINUTE,
        untilPaused: false,
        perHour: between(r, 5, 14),
        up: uniform(r) < 0.6 ? 0.85 : 0.25,
        tilt: between(r, 0.14, 0.24),
        trades: Math.floor(between(r, 220, 520)),
      };
      break;
    }
    case 'second wind': {
      const from = at(10, 40) + Math.floor(uniform(r) * 210) * MINUTE;
      lively(from, from + between(r, 20, 60) * MINUTE, 2.2, 4);
      break;
    }
    case 'announcement': {
      const when = at(9, 50) + Math.floor(uniform(r) * 200 * MINUTE);
      if (when < hours.close - 20 * MINUTE)
        news = { at: when, by: evenStep(r, between(r, 0.06, 0.22), between(r, 0.08, 0.3)) };
      break;
    }
    case 'late':
      lively(hours.close - 75 * MINUTE, hours.close, 1.7, 2.4);
      break;
    case 'steady':
      lively(at(10, 30), hours.close, 1.15, 1.5);
  }
  return { phases, rushes, news };
}

function awake(newsAt: number, hours: Hours): Phase[] {
  const out: Phase[] = [{ from: PRE_OPEN, vol: 0.2, pace: 0.01 }];
  if (newsAt < REGULAR_OPEN)
    for (const [minutes, vol, pace] of AWAKE)
      if (newsAt + minutes * MINUTE < at(9)) out.push({ from: newsAt + minutes * MINUTE, vol, pace });
  const early = newsAt < at(9) ? 1 : 0.25;
  out.push(
    { from: at(9), vol: 0.7 * early, pace: 0.35 * early },
    { from: at(9, 20), vol: 0.9 * early, pace: 0.55 * early },
  );
  for (const [h, m, vol, pace] of REGULAR)
    if (at(h, m) < hours.close) out.push({ from: at(h, m), vol, pace });
  out.push(
    { from: hours.close, vol: 0.5, pace: 0.12 },
    { from: hours.close + 60 * MINUTE, vol: 0.25, pace: 0.03 },
  );
  return out;
}

/** Multiplies what happens from one time until another, cutting stretches where it has to. */
function multiply(phases: Phase[], from: number, until: number, vol: number, pace: number): void {
  for (const cut of [Math.floor(from), Math.floor(until)]) {
    const k = phases.findIndex(
      (p, n) => p.from < cut && (phases[n + 1]?.from ?? Number.POSITIVE_INFINITY) > cut,
    );
    const p = phases[k];
    if (p) phases.splice(k + 1, 0, { ...p, from: cut });
  }
  for (const p of phases)
    if (p.from >= Math.floor(from) && p.from < Math.floor(until)) {
      p.vol *= vol;
      p.pace *= pace;
    }
}

/** A company that wakes up at a time: usual until then, so many times as busy after, livelier at first, and beyond by `vol`. */
export function surge(phases: readonly Phase[], at: number, busy: number, end: number, vol = 1.6): Phase[] {
  const out = phases.map((p) => ({ ...p }));
  multiply(out, at, end, vol, busy);
  multiply(out, at, at + 40 * MINUTE, 1.5, 2.2);
  return out;
}

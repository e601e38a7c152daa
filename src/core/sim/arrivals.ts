// When a symbol trades: arrivals that feed on themselves, under a heat that clusters.
import { MINUTE, SECOND } from '../units/index.ts';
import { NEVER, type Sketches } from './columns.ts';
import type { SymbolPlan } from './plan.ts';
import { decay, exp, ln, normal, uniform } from './random.ts';

/**
 * A Hawkes process with two exponential kernels (A. Hawkes, Biometrika 58, 1971): each print brings
 * `share` further ones on average, at first at the rate `perSecond`, falling with it. Together four
 * of five prints are answers to others (V. Filimonov and D. Sornette, 2012, find 0.6–0.95).
 */
const SPURT = { share: 0.42, perSecond: 4 };
const SWELL = { share: 0.38, perSecond: 1 / 60 };
const ALONE = 1 - SPURT.share - SWELL.share;

/** The logarithm of the variance wanders: one part of minutes, one of most of an hour (standard deviations 0.7 and 1.2). */
const QUICK = { deviation: 0.7, over: 3 * MINUTE };
const SLOW = { deviation: 1.2, over: 45 * MINUTE };
/** Mean of the square root of the heat: activity takes half of it. */
const MEAN_ROOT = 0.79;
const HEAT_STEP = 5 * SECOND;
const BURST = 8 * MINUTE;

/** Lets excitement and news fade, and the heat wander on, over the time since the last step. @returns whether the heat has changed. */
export function cool(s: Sketches, i: number, plan: SymbolPlan, now: number): boolean {
  const dt = now - (s.movedAt[i] as number);
  if (dt > 0) {
    const seconds = dt / SECOND;
    s.spurt[i] = (s.spurt[i] as number) * decay(seconds * SPURT.perSecond);
    s.swell[i] = (s.swell[i] as number) * decay(seconds * SWELL.perSecond);
    const burst = s.burst[i] as number;
    if (burst > 0) s.burst[i] = burst < 0.01 ? 0 : (burst * BURST) / (BURST + dt);
  }
  const since = now - (s.heatAt[i] as number);
  if (since < HEAT_STEP) return false;
  s.heatAt[i] = now;
  s.quick[i] = wander(s, i, s.quick[i] as number, since / QUICK.over);
  if (!plan.given) s.slow[i] = wander(s, i, s.slow[i] as number, since / SLOW.over);
  warm(s, i, plan);
  return true;
}

/** The heat from its parts; where the course is given, the slow one is that of the stretch. */
export function warm(s: Sketches, i: number, plan: SymbolPlan): void {
  const quick = exp(QUICK.deviation * (s.quick[i] as number) - (QUICK.deviation * QUICK.deviation) / 2);
  const slow = plan.given
    ? (plan.given.heats[s.phase[i] as number] as number)
    : exp(SLOW.deviation * (s.slow[i] as number) - (SLOW.deviation * SLOW.deviation) / 2);
  s.heat[i] = Math.min(15, quick * slow);
}

/** One step of a standard Ornstein–Uhlenbeck process, exact for any time. */
function wander(s: Sketches, i: number, z: number, time: number): number {
  const kept = decay(time);
  return z * kept + Math.sqrt(1 - kept * kept) * normal(s.random, i * 4);
}

/** One print has come: others will answer it. */
export function excite(s: Sketches, i: number): void {
  s.spurt[i] = (s.spurt[i] as number) + SPURT.share * SPURT.perSecond;
  s.swell[i] = (s.swell[i] as number) + SWELL.share * SWELL.perSecond;
}

/**
 * Milliseconds until the next print at the present stretch and heat, exactly drawn part by part (A. Dassios
 * and H. Zhao, Electronic Communications in Probability 18, 2013).
 */
export function waitFor(s: Sketches, i: number, plan: SymbolPlan, pace: number): number {
  const o = i * 4;
  const draw = uniform(s.random, o);
  const base =
    (plan.rate * pace * ALONE * (1 + (s.burst[i] as number)) * Math.sqrt(s.heat[i] as number)) / MEAN_ROOT;
  let wait = base > 0 ? -ln(draw) / base : NEVER;
  wait = Math.min(wait, answer(s.spurt[i] as number, SPURT.perSecond, uniform(s.random, o)));
  wait = Math.min(wait, answer(s.swell[i] as number, SWELL.perSecond, uniform(s.random, o)));
  return wait >= NEVER ? NEVER : 1 + Math.floor(wait * SECOND);
}

/** Seconds until an excitement of `level` a second brings the next print, if it ever does. */
function answer(level: number, perSecond: number, draw: number): number {
  if (level < 1e-7) return NEVER;
  const left = 1 + (perSecond * ln(draw)) / level;
  return left > 0 ? -ln(left) / perSecond : NEVER;
}

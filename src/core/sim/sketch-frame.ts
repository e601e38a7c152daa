import type { Hours } from '../units/index.ts';
import type { Sketches } from './columns.ts';
import type { Phase, SymbolPlan } from './plan.ts';
import { SURPRISE } from './sides.ts';
import type { Tides } from './tides.ts';
import { varianceLeft } from './usual.ts';

/** How sure the tape can be of the next side at most: some trade always comes from the other one. */
export const MOST_SURE = 0.98;

/** What all symbols of a day share. */
export interface DayFrame {
  seed: number;
  hours: Hours;
  tides: Tides;
}

export const stretch = (s: Sketches, i: number, plan: SymbolPlan): Phase | undefined =>
  plan.phases[s.phase[i] as number];

export function setQuote(
  s: Sketches,
  i: number,
  bid: number,
  ask: number,
  bidSize: number,
  askSize: number,
): void {
  s.bid[i] = bid;
  s.ask[i] = ask;
  s.bidSize[i] = bidSize;
  s.askSize[i] = askSize;
}

// --- prints

/** How much more often than the tape says one side comes: a rush, the way to a given end, the market's move. */
export function tilted(s: Sketches, i: number, plan: SymbolPlan, now: number): number {
  const sigma = s.sigma[i] as number;
  let tilt = s.rush[i] as number;
  if (sigma === 0) return tilt;
  if (plan.given) {
    // A walk of which the end is known drifts there by its distance over the steps that are left.
    const left = varianceLeft(plan.given, plan.phases, s.phase[i] as number, now) * plan.vol * plan.vol;
    const away = (1 + plan.given.ends) / (s.own[i] as number) - 1;
    tilt += bounded((away * sigma * SURPRISE * 0.9) / Math.max(left, 4 * sigma * sigma), 0.35);
  }
  return tilt + after(s, i);
}

/** How much more often the side comes that the market's move asks for. */
export const after = (s: Sketches, i: number): number =>
  s.sigma[i] === 0 ? 0 : bounded((s.pending[i] as number) / (4 * (s.sigma[i] as number)), 0.25);

export const bounded = (x: number, by: number): number => Math.max(-by, Math.min(by, x));

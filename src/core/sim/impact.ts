// What trading does to the price: one measure for the crowd and for the trader.
import { MINUTE } from '../units/index.ts';
import type { Sketches } from './columns.ts';
import type { SymbolPlan } from './plan.ts';
import { decay } from './random.ts';
import { SURPRISE } from './sides.ts';

/**
 * A print of the crowd moves worth by `sigma` times the surprise of its side, for good: what was
 * expected of it had moved the price before (A. Madhavan, M. Richardson and M. Roomans, 1997; with
 * long memory F. Lillo and J. D. Farmer, 2004). So prices move by trades and yet nobody can tell where to.
 * Prints at the midpoint and off the exchange tell less.
 */
export const NEWS_OF = { lit: 1, hidden: 0.35 } as const;
/** Mean square and mean of that over all prints. */
const MEAN_SQUARE = 0.72;
export const MEAN_NEWS = 0.79;

/** Standard deviation of what a print says, as a fraction of price, so that a minute moves by `vol`. */
export const sigmaOf = (vol: number, printsPerSecond: number): number =>
  printsPerSecond > 0 ? vol / Math.sqrt(60 * printsPerSecond * SURPRISE * MEAN_SQUARE) : 0;

/**
 * The trader's shares count in mean prints of the symbol. A part of their effect fades over minutes,
 * a part stays; both bend with the square root of what came together (the square-root law, common
 * practice), counted over all orders, so that splitting one changes nothing. Each part alone admits no
 * round trip that earns (A. Alfonsi, A. Fruth and A. Schied, 2010; the part that stays depends on the sum
 * only, G. Huberman and W. Stanzl, 2004), and together they stay behind what taking the shares from the
 * book costs.
 */
const STAYS = 0.17;
const FADES = { share: 0.28, over: 4 * MINUTE };

const bend = (prints: number): number => prints / Math.sqrt(1 + Math.abs(prints));

/** What has not faded yet of what the trader took, in mean prints. */
const pressureLeft = (s: Sketches, i: number, now: number): number =>
  (s.pressure[i] as number) * decay((now - (s.pressedAt[i] as number)) / FADES.over);

/** How far the trader's own trades have moved the price by now, as a fraction. */
function traceOf(s: Sketches, i: number, plan: SymbolPlan, now: number): number {
  if (s.taken[i] === 0 && s.pressure[i] === 0) return 0;
  const fades = sigmaOf(plan.vol, plan.rate) * FADES.share * bend(pressureLeft(s, i, now));
  return lastingTrace(s, i, plan) + fades;
}

/** The trader has bought (or, below zero, sold) shares, by whatever order. */
export function press(s: Sketches, i: number, plan: SymbolPlan, shares: number, now: number): void {
  const prints = shares / plan.lot;
  s.pressure[i] = pressureLeft(s, i, now) + prints;
  s.pressedAt[i] = now;
  s.taken[i] = (s.taken[i] as number) + prints;
}

/** What of the trader's trace is there tomorrow. */
export const lastingTrace = (s: Sketches, i: number, plan: SymbolPlan): number =>
  sigmaOf(plan.vol, plan.rate) * STAYS * bend(s.taken[i] as number);

/** Price of a symbol now, the trader's trace in it. */
export const priceNow = (s: Sketches, i: number, plan: SymbolPlan, now: number): number =>
  (s.worth[i] as number) * (1 + traceOf(s, i, plan, now));

// What the trader took from a book comes back by and by.
import { SECOND, type Side } from '../units/index.ts';
import type { Floor, FloorContext } from './floor-types.ts';
import { decay } from './random.ts';

/** How long the crowd takes to come back to a price, in ms: a few prints, seconds in movers and up to most of a minute in thin names. */
function comesBack(c: FloorContext, i: number): number {
  const perSecond = c.plan.rate * (c.plan.phases[c.sketches.phase[i] as number]?.pace ?? 1);
  return Math.max(3, Math.min(40, 3 / Math.max(0.01, perSecond))) * SECOND;
}

/** What is still missing of shares taken a while ago: it comes back at a constant rate (exponential resilience). */
export const whatIsMissing = (t: { qty: number; at: number; over: number }, c: FloorContext): number =>
  Math.floor(t.qty * decay((c.now - t.at) / t.over));

/** Remembers what the trader has taken at a price. */
export function remove(f: Floor, c: FloorContext, side: Side, price: number, qty: number): void {
  f.taken.push({ price, side, qty, at: c.now, over: comesBack(c, f.i) });
}

/** Shares that the trader has taken at a price, as far as they have not come back. */
export const takenAt = (f: Floor, c: FloorContext, side: Side, price: number): number =>
  f.taken.reduce((a, t) => (t.price === price && t.side === side ? a + whatIsMissing(t, c) : a), 0);

import { type Part, type Price, roundToTick } from '../units/index.ts';
import type { ExitGroup, Place } from './types.ts';

/**
 * Shares of `total` for each target: whole shares, each rounded down; where the parts make up the
 * whole, the rest goes to the last target, so that the sum is exact. No part means all that is left.
 */
export function allot(parts: readonly (Part | null)[], total: number): number[] {
  const out: number[] = [];
  let used = 0;
  let share = 0;
  parts.forEach((part, i) => {
    const whole = part === null || part.kind === 'all';
    share += whole ? 1 - share : part.num / part.den;
    const takesRest = whole || (i === parts.length - 1 && share > 1 - 1e-9);
    const shares = takesRest ? total - used : Math.min(total - used, Math.floor((total * part.num) / part.den));
    out.push(shares);
    used += shares;
  });
  return out;
}

/** Shares of the group still open. */
export function openOfGroup(g: ExitGroup): number {
  return g.entered - g.stopFilled - g.byHand - g.targetFilled.reduce((a, b) => a + b, 0);
}

export interface WantedExits {
  /** Open shares and price of each target; 0 shares: it should not work. */
  targets: { open: number; price: Price | null }[];
  stop: { open: number; price: Price } | null;
}

/**
 * What should be working for a group now, from its fills alone (rules 1–5 of exits: reduce-only,
 * acting only for what the entry has filled). `reserved` are shares that the trader's own closing
 * orders hold: targets give way to them from the last one back, while the stop goes on covering
 * everything, because its trigger takes those orders out first.
 */
export function wantedExits(g: ExitGroup, reserved: number): WantedExits {
  const open = openOfGroup(g);
  const average = g.entered === 0 ? null : g.notional / g.entered;
  const allotted = allot(
    g.plan.targets.map((t) => t.part),
    g.entered,
  );
  let room = g.triggered ? 0 : Math.max(0, open - reserved);
  const targets = g.plan.targets.map((t, i) => {
    const wish = g.targetDropped[i] ? 0 : Math.max(0, (allotted[i] as number) - (g.targetFilled[i] as number));
    const shares = Math.min(wish, room);
    room -= shares;
    return { open: shares, price: g.targetMoved[i] ?? (average === null ? null : exitPrice(g, t.place, average, 1)) };
  });
  const stopPrice = stopPriceOf(g);
  return { targets, stop: stopPrice === null || g.stopDropped || open === 0 ? null : { open, price: stopPrice } };
}

/** Where the group's stop stands now, or null when it has none. */
export function stopPriceOf(g: ExitGroup): Price | null {
  if (g.stopMoved !== null) return g.stopMoved;
  if (g.plan.stop === null || g.entered === 0) return null;
  return exitPrice(g, g.plan.stop, g.notional / g.entered, -1);
}

/** Price of an exit: `way` +1 is the side of profit, −1 the side of loss. */
export function exitPrice(g: ExitGroup, place: Place, average: number, way: 1 | -1): Price {
  if (place.kind === 'at') return place.price;
  const units = place.kind === 'distance' ? place.units : place.r * (g.riskPerShare ?? 0);
  return roundToTick(Math.max(1, average + g.sign * way * units));
}

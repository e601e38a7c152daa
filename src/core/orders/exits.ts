import { type Part, type Price, roundToTick, unreachable } from '../units/index.ts';
import { type Gain, type Leg, openOfScope, type Place, type Scope } from './exit-plan.ts';
import type { Trade } from './trade.ts';

/**
 * Shares of `total` for each part: whole shares, each rounded down; where the parts make up the
 * whole, the rest goes to the last one, so that the sum is exact. No part means all that is left.
 */
export function allot(parts: readonly (Part | null)[], total: number): number[] {
  const out: number[] = [];
  let used = 0;
  let share = 0;
  parts.forEach((part, i) => {
    const whole = part === null || part.kind === 'all';
    share += whole ? 1 - share : part.num / part.den;
    const takesRest = whole || (i === parts.length - 1 && share > 1 - 1e-9);
    const shares = takesRest
      ? total - used
      : Math.min(total - used, Math.floor((total * part.num) / part.den));
    out.push(shares);
    used += shares;
  });
  return out;
}

/** Shares and price of a leg that should work now, or for a stop: wait for its trigger; 0 shares: none. */
interface WantedLeg {
  open: number;
  price: Price | null;
}

/**
 * What should work for a scope now, from its fills alone, leg by leg (rules 1–5 of exits: reduce-only,
 * acting only for what has been filled). `reserved` are shares that closing orders of the trader hold,
 * `going` those that the triggered stop of each leg holds: targets give way to both from the last one
 * back, while the stops that wait cover everything that no triggered one holds, because what triggers
 * takes out the others first.
 */
export function wantedExits(s: Scope, reserved: number, going: readonly number[]): WantedLeg[] {
  const open = openOfScope(s);
  const shares = new Array<number>(s.legs.length).fill(0);
  const of = (kind: Leg['kind']) => s.legs.flatMap((l, i) => (l.kind === kind ? [i] : []));
  const leg = (i: number) => s.legs[i] as Leg;
  const parts = (list: number[]) => list.map((i) => leg(i).part);

  const targets = of('target');
  const due = allot(parts(targets), s.basis.qty);
  const gone = going.reduce((a, b) => a + b, 0);
  let room = Math.max(0, open - reserved - gone);
  targets.forEach((i, k) => {
    const wish = leg(i).dropped ? 0 : Math.max(0, (due[k] as number) - leg(i).filled);
    shares[i] = Math.min(wish, room);
    room -= shares[i] as number;
  });

  // What others sold is nobody's any more, the part without a stop first: the stops share what is left and what they sold themselves.
  const stops = of('stop').filter((i) => !leg(i).dropped);
  const covered = open - bareOfScope(s);
  const parted = allot(wholeParts(s, stops), covered + stops.reduce((a, i) => a + leg(i).filled, 0));
  let left = Math.max(0, covered - gone);
  stops.forEach((i, k) => {
    const wish = Math.max(0, Math.min((parted[k] as number) - leg(i).filled - (going[i] ?? 0), left));
    left -= wish;
    shares[i] = wish;
  });
  const last = stops[stops.length - 1];
  // Where all is meant to be covered, no share is lost to rounding or to an order of fills that took more than one stop's part.
  if (left > 0 && last !== undefined) shares[last] = (shares[last] as number) + left;
  return s.legs.map((l, i) => ({
    open: l.kind === 'stop' && (l.dropped || legPrice(s, i) === null) ? 0 : (shares[i] as number),
    price: legPrice(s, i),
  }));
}

/** Shares of a scope that are open and that none of its stops is for: their stop was taken away, or there never was one. What is sold by others than stops goes from them first. */
export function bareOfScope(s: Scope): number {
  const stops = s.legs.filter((l) => l.kind === 'stop');
  const parts = stops.map((l) => l.part);
  const whole = stops.length === 0 || !coversAll(parts) ? [...parts, null] : parts;
  const bare = allot(whole, s.basis.qty).reduce((a, n, k) => a + (stops[k]?.dropped === false ? 0 : n), 0);
  const sold = s.out + s.legs.reduce((a, l) => a + (l.kind === 'stop' && !l.dropped ? 0 : l.filled), 0);
  return Math.min(openOfScope(s), Math.max(0, bare - sold));
}

/** The parts of some stops of a scope, so that together they make up the whole. */
function wholeParts(s: Scope, stops: readonly number[]): (Part | null)[] {
  const of = s.legs.filter((l) => l.kind === 'stop');
  const parts = stops.map((i) => s.legs[i]?.part ?? null);
  if (of.length === stops.length && coversAll(parts)) return parts;
  const weights = weightsOf(of.map((l) => l.part)).filter((_, k) => !of[k]?.dropped);
  const all = weights.reduce((a, b) => a + b, 0);
  return weights.map((w, k) =>
    k === weights.length - 1 ? null : { kind: 'fraction', num: Math.round((w / all) * SHARE), den: SHARE },
  );
}
/** Fine enough for a part of any position. */
const SHARE = 1e9;

/** What share of the whole each part is; no part means all that is left. */
export function weightsOf(parts: readonly (Part | null)[]): number[] {
  let used = 0;
  return parts.map((part) => {
    const weight = part === null || part.kind === 'all' ? Math.max(0, 1 - used) : part.num / part.den;
    used += weight;
    return weight;
  });
}

/** Whether parts make up the whole. */
export const coversAll = (parts: readonly (Part | null)[]): boolean =>
  parts.reduce((a, p) => (p === null || p.kind === 'all' ? 1 : a + p.num / p.den), 0) > 1 - 1e-9;

/** Where a leg stands now, or null while it has no price. */
export function legPrice(s: Scope, index: number): Price | null {
  const l = s.legs[index] as Leg;
  if (l.moved !== null) return l.moved;
  if (l.place === null || s.basis.qty === 0) return null;
  return exitPrice(s, l.place, s.basis.notional / s.basis.qty, l.kind === 'target' ? 1 : -1);
}

/** The scope that shares join that bring no exits of their own. */
export const newestScope = ({ scopes }: { scopes: readonly Scope[] }, t: Trade): Scope | null =>
  scopes.filter((s) => s.tradeId === t.id && openOfScope(s) > 0).pop() ?? null;

/** Price of an exit: `way` +1 is the side of profit, −1 the side of loss. */
export function exitPrice(
  s: Pick<Scope, 'sign' | 'riskPerShare' | 'ticks'>,
  place: Place,
  average: number,
  way: 1 | -1,
): Price {
  if (place.kind === 'at') return place.price;
  const units = place.kind === 'distance' ? place.units : place.r * (s.riskPerShare ?? 0);
  return roundToTick(Math.max(1, average + s.sign * way * units), 'nearest', s.ticks);
}

/** How far a share has to gain, in price units: of what is waited for in all, the share's part. */
export function gainUnits(after: Gain, perShare: number | null, shares: number, multiplier: number): number {
  switch (after.kind) {
    case 'distance':
      return after.units;
    case 'R':
      return after.r * (perShare ?? 0);
    case 'in all':
      return after.money / (shares * multiplier);
    default:
      return unreachable(after);
  }
}

/** The stop of a scope that is nearest to the market; null when it has none. */
export function stopPriceOf(s: Scope): Price | null {
  const prices = s.legs.flatMap((l, i) => (l.kind === 'stop' && !l.dropped ? (legPrice(s, i) ?? []) : []));
  return prices.length === 0
    ? null
    : s.sign === 1
      ? (Math.max(...prices) as Price)
      : (Math.min(...prices) as Price);
}

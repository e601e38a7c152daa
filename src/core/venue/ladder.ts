import { CENT, PRICE_SCALE, type Price } from '../units/index.ts';

/**
 * Dense tick numbering of the price axis: 1/10,000-dollar steps up to $1.00, cents above
 * (SEC Rule 612, 17 CFR 242.612). It is monotone, so comparing ticks compares prices.
 */
export function tickOf(p: Price): number {
  return p < PRICE_SCALE ? p : PRICE_SCALE + (p - PRICE_SCALE) / CENT;
}

/** The price of a tick number; inverse of {@link tickOf}. */
export function priceOfTick(tick: number): Price {
  return (tick < PRICE_SCALE ? tick : PRICE_SCALE + (tick - PRICE_SCALE) * CENT) as Price;
}

/** Widest window of ticks one book may span; an order further out is refused. */
export const MAX_WINDOW = 1 << 17;

/**
 * A window of price levels, one slot a tick:
 *
 *   slot:    0        1        2   …            (tick = base + slot)
 *   head/tail: first and last order of the queue at the level (−1: none)
 *   total:     shares at the level
 *   bits:      one bit a slot, set where the level has orders
 */
export interface Ladder {
  base: number;
  size: number;
  head: Int32Array;
  tail: Int32Array;
  total: Int32Array;
  bits: Int32Array;
}

/** A ladder of ticks around a price. */
export function createLadder(centreTick: number, size = 1024): Ladder {
  return {
    base: Math.max(1, centreTick - (size >> 1)),
    size,
    head: new Int32Array(size).fill(-1),
    tail: new Int32Array(size).fill(-1),
    total: new Int32Array(size),
    bits: new Int32Array(size >> 5),
  };
}

/** First occupied slot at or above `slot`, or −1. */
export function nextUp(l: Ladder, slot: number): number {
  if (slot >= l.size) return -1;
  let word = slot >> 5;
  let bits = (l.bits[word] as number) & (-1 << (slot & 31));
  while (bits === 0) {
    if (++word >= l.bits.length) return -1;
    bits = l.bits[word] as number;
  }
  return (word << 5) + 31 - Math.clz32(bits & -bits);
}

/** First occupied slot at or below `slot`, or −1. */
export function nextDown(l: Ladder, slot: number): number {
  if (slot < 0) return -1;
  let word = slot >> 5;
  const keep = slot & 31;
  let bits = (l.bits[word] as number) & (keep === 31 ? -1 : (1 << (keep + 1)) - 1);
  while (bits === 0) {
    if (--word < 0) return -1;
    bits = l.bits[word] as number;
  }
  return (word << 5) + 31 - Math.clz32(bits);
}

/**
 * Makes sure that `tick` has a slot, moving or widening the window when it must.
 * @returns by how much slots moved (add it to any kept slot number), or null when the window
 * would have to be wider than {@link MAX_WINDOW}.
 */
export function cover(l: Ladder, tick: number): number | null {
  if (tick >= l.base && tick < l.base + l.size) return 0;
  const lowest = nextUp(l, 0);
  const from = lowest < 0 ? tick : Math.min(tick, l.base + lowest);
  const to = lowest < 0 ? tick : Math.max(tick, l.base + nextDown(l, l.size - 1));
  let size = l.size;
  while (size < (to - from + 1) * 2) size *= 2;
  if (size > MAX_WINDOW) return null;
  const fresh = createLadder(0, size);
  fresh.base = Math.max(1, from - ((size - (to - from)) >> 1));
  const shift = l.base - fresh.base;
  for (let s = lowest; s >= 0; s = nextUp(l, s + 1)) {
    const slot = s + shift;
    fresh.head[slot] = l.head[s] as number;
    fresh.tail[slot] = l.tail[s] as number;
    fresh.total[slot] = l.total[s] as number;
    fresh.bits[slot >> 5] = (fresh.bits[slot >> 5] as number) | (1 << (slot & 31));
  }
  Object.assign(l, fresh);
  return shift;
}

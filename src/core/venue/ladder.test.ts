import fc from 'fast-check';
import { type Price, price } from '../units/index.ts';
import {
  cover,
  createLadder,
  type Ladder,
  MAX_WINDOW,
  nextDown,
  nextUp,
  priceOfTick,
  tickOf,
} from './ladder.ts';

/** Marks a tick as occupied the way the book does. */
function occupy(l: Ladder, tick: number, total: number): void {
  const slot = tick - l.base;
  l.bits[slot >> 5] = (l.bits[slot >> 5] as number) | (1 << (slot & 31));
  l.total[slot] = total;
}

const anyPrice = fc.oneof(
  fc.integer({ min: 1, max: 9_999 }),
  fc.integer({ min: 100, max: 900_000 }).map((cents) => cents * 100),
);

test('ticks number the price axis without gaps, in order, and back', () => {
  expect([9_998, 9_999, 10_000, 10_100].map((p) => tickOf(price(p)))).toEqual([9_998, 9_999, 10_000, 10_001]);
  fc.assert(
    fc.property(anyPrice, anyPrice, (a, b) => {
      expect(priceOfTick(tickOf(price(a)))).toBe(a);
      expect(Math.sign(tickOf(price(a)) - tickOf(price(b)))).toBe(Math.sign(a - b));
      expect(priceOfTick(tickOf(price(a)) + 1) - a).toBe(a < 10_000 ? 1 : 100);
    }),
  );
});

test('the next level up or down is what a search through all of them finds', () => {
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.integer({ min: 0, max: 1_023 }), { maxLength: 40 }),
      fc.array(fc.integer({ min: -1, max: 1_024 }), { minLength: 1, maxLength: 40 }),
      (occupied, from) => {
        const l = createLadder(5_000);
        for (const slot of occupied) occupy(l, l.base + slot, 1);
        const sorted = [...occupied].sort((a, b) => a - b);
        for (const f of from) {
          if (f >= 0) expect(nextUp(l, f)).toBe(sorted.find((s) => s >= f) ?? -1);
          if (f < 1_024) expect(nextDown(l, f)).toBe([...sorted].reverse().find((s) => s <= f) ?? -1);
        }
      },
    ),
  );
});

test('moving or widening the window keeps every level at its price; what would need too wide a window is refused', () => {
  fc.assert(
    fc.property(anyPrice, fc.array(anyPrice, { minLength: 1, maxLength: 12 }), (centre, prices) => {
      const l = createLadder(tickOf(price(centre)));
      const kept = new Map<number, number>();
      prices.forEach((p, i) => {
        const tick = tickOf(price(p));
        const known = [...kept.keys(), tick];
        const span = Math.max(...known) - Math.min(...known) + 1;
        const slotBefore = [...kept.keys()].map((t) => t - l.base);
        const shift = cover(l, tick);
        if (shift === null) {
          expect(span * 2).toBeGreaterThan(MAX_WINDOW);
          return;
        }
        [...kept.keys()].forEach((t, k) => {
          expect(t - l.base).toBe((slotBefore[k] as number) + shift);
        });
        occupy(l, tick, i + 1);
        kept.set(tick, i + 1);
      });
      for (const [tick, total] of kept) expect(l.total[tick - l.base]).toBe(total);
      const found: Price[] = [];
      for (let s = nextUp(l, 0); s >= 0; s = nextUp(l, s + 1)) found.push(priceOfTick(l.base + s));
      expect(found).toEqual([...kept.keys()].sort((a, b) => a - b).map(priceOfTick));
    }),
  );
});

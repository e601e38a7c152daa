import fc from 'fast-check';
import { drawnPriceAt, priceOnLine } from '../market/index.ts';
import { MINUTE, type Price } from '../units/index.ts';
import { extensions, measured, retracements, snapped } from './index.ts';

const cents = (list: { price: number }[]) => list.map((x) => Math.round(x.price));

test('a move from 10 to 20 gives back to 16.18 at 38.2 %, and to 13.82 at 61.8 %; one down gives back upwards', () => {
  expect(cents(retracements(100_000, 200_000))).toEqual([
    200_000, 176_400, 161_800, 150_000, 138_200, 121_400, 100_000,
  ]);
  expect(cents(retracements(200_000, 100_000))[2]).toBe(138_200);
});

test('a move of 4 from 10, corrected to 12, goes on to 16 at its own length and to 18.47 at 1.618 of it', () => {
  expect(cents(extensions(100_000, 140_000, 120_000))).toEqual([
    120_000, 144_720, 160_000, 170_880, 184_720, 224_720,
  ]);
});

test('a distance in price, percent, candles and R', () => {
  const from = { at: 0, price: 80_000 };
  expect(measured(from, { at: 30 * MINUTE, price: 82_000 }, 5, 1_000)).toEqual({
    units: 2_000,
    percent: 2.5,
    candles: 6,
    r: 2,
  });
  expect(measured(from, { at: -10 * MINUTE, price: 79_000 }, 1, null)).toMatchObject({
    candles: -10,
    r: null,
  });
});

test('a trend line goes through its points, evenly between and beyond them, and stands on ticks', () => {
  const point = fc.record({
    at: fc.integer({ min: 0, max: 10 ** 8 }),
    price: fc.integer({ min: 100, max: 10 ** 7 }),
  });
  fc.assert(
    fc.property(point, point, fc.integer({ min: -2, max: 3 }), (from, to, k) => {
      fc.pre(from.at !== to.at);
      const at = (n: number) => priceOnLine(from, to, from.at + n * (to.at - from.at));
      expect(at(1)).toBeCloseTo(to.price, 3);
      expect(at(k + 1) - at(k)).toBeCloseTo(to.price - from.price, 3);
      expect(drawnPriceAt({ from, to }, from.at + k * (to.at - from.at))).toBeGreaterThan(0);
    }),
  );
  expect(drawnPriceAt(65_000 as Price, 5)).toBe(65_000);
});

test('a price snaps to the nearest level within reach, and to a tick where there is none', () => {
  const price = fc.integer({ min: 20_000, max: 90_000 });
  fc.assert(
    fc.property(price, fc.array(price, { maxLength: 6 }), fc.nat(3_000), (p, levels, reach) => {
      const got = snapped(p, levels, reach);
      const near = levels.filter((l) => Math.abs(l - p) <= reach);
      const best = Math.min(...near.map((l) => Math.abs(l - p)), Number.POSITIVE_INFINITY);
      if (near.length === 0) expect(Math.abs(got - p)).toBeLessThanOrEqual(50);
      else expect(Math.abs(Math.abs(got - p) - best)).toBeLessThanOrEqual(50);
    }),
  );
});

import fc from 'fast-check';
import { addTo, type DaySum, dayInterval, daysToTell, intervalOf, meanOf } from './clusters.ts';
import { proportionInterval } from './proportion.ts';
import { studentBelow, studentQuantile } from './student.ts';

const day = (...results: number[]): DaySum => {
  const d = { sum: 0, count: 0 };
  for (const r of results) addTo(d, r);
  return d;
};
/** Days whose trades all come to the same, as a plain list. */
const days = (...means: number[]): DaySum[] => means.map((m) => day(m));

test('the mean is of results, not of days; its error follows from how days differ', () => {
  expect(meanOf([day(1, 2, 3), day(10)]).mean).toBe(4);
  // Of days with one result each it is the textbook’s: s / √n.
  const { mean, error } = meanOf(days(1, 2, 3, 4));
  expect(mean).toBe(2.5);
  expect(error).toBeCloseTo(Math.sqrt(5 / 3 / 4), 12);
  expect(meanOf([]).mean).toBeNaN();
  expect(meanOf([day(3, 5)])).toEqual({ mean: 4, error: Number.NaN });
});

test('results that go together within a day are less sure than the same results on days of their own', () => {
  const alone = meanOf(days(1, 1, 1, -1, -1, 2, 2, 2)).error;
  const together = meanOf([day(1, 1, 1), day(-1, -1), day(2, 2, 2)]).error;
  expect(together).toBeGreaterThan(alone);
});

test('an interval by Student’s t: half of it is the quantile times the error; too few days, or all the same, say nothing', () => {
  const ten = days(3, -1, 2, 0, 5, 1, -2, 4, 2, 1);
  const { mean, error } = meanOf(ten);
  const i = dayInterval(ten) as { low: number; high: number };
  // t(0.975, 9) = 2.262 (any table of Student’s t).
  expect((i.high - i.low) / 2 / error).toBeCloseTo(2.262, 3);
  expect((i.high + i.low) / 2).toBeCloseTo(mean, 12);
  expect(dayInterval([...ten, day(), day()])).toEqual(i);
  expect(dayInterval(ten.slice(0, 7))).toBeNull();
  expect(dayInterval(ten.slice(0, 8))).not.toBeNull();
  expect(dayInterval(days(...new Array(20).fill(1)))).toBeNull();
});

test('an interval by days drawn anew is the same each time, holds the mean, and moves and grows with the results', () => {
  const list = fc.array(fc.integer({ min: -50, max: 50 }), { minLength: 10, maxLength: 30 });
  fc.assert(
    fc.property(list, fc.integer({ min: -9, max: 9 }), (results, by) => {
      const i = intervalOf(days(...results));
      if (i === null) return expect(new Set(results).size).toBe(1);
      expect(intervalOf(days(...results))).toEqual(i);
      const { mean } = meanOf(days(...results));
      expect(i.low).toBeLessThanOrEqual(mean);
      expect(i.high).toBeGreaterThanOrEqual(mean);
      const moved = intervalOf(days(...results.map((r) => r + by))) as typeof i;
      expect(moved.low).toBeCloseTo(i.low + by, 6);
      const doubled = intervalOf(days(...results.map((r) => 2 * r))) as typeof i;
      expect(doubled.high).toBeCloseTo(2 * i.high, 6);
    }),
    { numRuns: 20 },
  );
  expect(intervalOf(days(1, 2, 3, 4, 5, 6, 7))).toBeNull();
});

test('days until a difference is told from none: the usual sum, rounded up, the same for a loss', () => {
  // ((1.96 + 0.8416) × 2 / 0.5)² = 125.6
  expect(daysToTell(0.5, 2)).toBe(126);
  expect(daysToTell(-0.5, 2)).toBe(126);
  expect([daysToTell(0, 2), daysToTell(1, 0)]).toEqual([null, null]);
});

test('a rate: Wilson’s interval lies within 0 and 1, holds the rate, and narrows as tries come', () => {
  // 8 of 10 (E. B. Wilson’s own form; worked out by hand): 0.490 to 0.943.
  const i = proportionInterval(8, 10) as { low: number; high: number };
  expect([i.low, i.high].map((x) => Number(x.toFixed(3)))).toEqual([0.49, 0.943]);
  expect(proportionInterval(0, 0)).toBeNull();
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 400 }), fc.nat(400), (tries, hit) => {
      const hits = Math.min(hit, tries);
      const { low, high } = proportionInterval(hits, tries) as { low: number; high: number };
      expect(low).toBeGreaterThanOrEqual(0);
      expect(high).toBeLessThanOrEqual(1);
      expect(low - 1e-12).toBeLessThanOrEqual(hits / tries);
      expect(high + 1e-12).toBeGreaterThanOrEqual(hits / tries);
      const more = proportionInterval(hits * 4, tries * 4) as { low: number; high: number };
      expect(more.high - more.low).toBeLessThan(high - low);
    }),
  );
});

test('Student’s t is symmetric, rises, and its quantile undoes it', () => {
  // t(0.975) with 1, 5 and 30 degrees of freedom: 12.706, 2.571, 2.042 (any table).
  expect([1, 5, 30].map((f) => Number(studentQuantile(0.975, f).toFixed(3)))).toEqual([12.706, 2.571, 2.042]);
  fc.assert(
    fc.property(fc.double({ min: -5, max: 5, noNaN: true }), fc.integer({ min: 1, max: 200 }), (t, f) => {
      expect(studentBelow(t, f) + studentBelow(-t, f)).toBeCloseTo(1, 10);
      expect(studentBelow(t + 0.1, f)).toBeGreaterThan(studentBelow(t, f));
      expect(studentQuantile(studentBelow(t, f), f)).toBeCloseTo(t, 4);
    }),
  );
});

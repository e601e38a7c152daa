import fc from 'fast-check';
import type { Part } from '../units/index.ts';
import { allot } from './index.ts';

const third: Part = { kind: 'fraction', num: 1, den: 3 };
const half: Part = { kind: 'fraction', num: 1, den: 2 };

test.each([
  ['thirds of 100: whole shares, the rest to the last', [third, third, third], 100, [33, 33, 34]],
  ['halves of a single share', [half, half], 1, [0, 1]],
  ['a half and the rest', [half, null], 7, [3, 4]],
  ['a half alone leaves the other half to the stop', [half], 7, [3]],
])('%s', (_name, parts, total, shares) => {
  expect(allot(parts as (Part | null)[], total as number)).toEqual(shares);
});

test('parts never make more than the position, and parts of the whole make exactly it', () => {
  const percents = fc
    .array(fc.integer({ min: 1, max: 100 }), { minLength: 1, maxLength: 5 })
    .filter((a) => a.reduce((x, y) => x + y, 0) <= 100);
  fc.assert(
    fc.property(percents, fc.integer({ min: 0, max: 100_000 }), (list, total) => {
      const shares = allot(
        list.map((num): Part => ({ kind: 'fraction', num, den: 100 })),
        total,
      );
      const sum = shares.reduce((a, b) => a + b, 0);
      expect(Math.min(...shares)).toBeGreaterThanOrEqual(0);
      if (list.reduce((a, b) => a + b, 0) === 100) expect(sum).toBe(total);
      else expect(sum).toBeLessThanOrEqual(total);
    }),
  );
});

import fc from 'fast-check';
import {
  at,
  dayTime,
  formatMoney,
  formatPrice,
  formatTime,
  fromDollars,
  money,
  parsePrice,
  price,
  roundToTick,
  toDollars,
} from './index.ts';

test('every price that can be shown is read back as itself', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 500_000_000 }), (units) => {
      expect(parsePrice(formatPrice(units))).toBe(units);
      expect(fromDollars(toDollars(price(units)))).toBe(units);
    }),
  );
});

test('a bug is thrown, not rounded away: fractions of the smallest unit, times before midnight', () => {
  expect(() => price(1.5)).toThrow('not a whole number of 1/10,000 dollar: 1.5');
  expect(() => money(0.1)).toThrow('not a whole amount');
  expect(() => dayTime(-1)).toThrow('not a time of day');
});

test.each([
  [10.004, 'nearest', 10],
  [10.005, 'nearest', 10.01],
  [10.009, 'down', 10],
  [10.001, 'up', 10.01],
  [0.99996, 'up', 1],
  [0.12344, 'down', 0.1234],
  [0.00001, 'down', 0.0001],
] as const)('%d rounded %s is %d', (dollars, how, expected) => {
  expect(toDollars(roundToTick(dollars * 10_000, how))).toBeCloseTo(expected, 9);
});

test('times of day print to the minute, second or millisecond', () => {
  const t = dayTime(at(9, 31, 5) + 42);
  expect([formatTime(t, 'minutes'), formatTime(t), formatTime(t, 'millis')]).toEqual([
    '09:31',
    '09:31:05',
    '09:31:05.042',
  ]);
});

test('money is shown to the cent with its sign, and nothing is never minus nothing', () => {
  expect([12_345_678, -5_000, 40, -40].map((m) => formatMoney(m))).toEqual([
    '$1,234.57',
    '-$0.50',
    '$0.00',
    '$0.00',
  ]);
  expect([620_000, -80_000, 0].map((m) => formatMoney(m, true))).toEqual(['+$62.00', '-$8.00', '$0.00']);
});

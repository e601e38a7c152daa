import fc from 'fast-check';
import { FIELDS, fieldOf, fieldText, isMove } from './index.ts';

test.each([
  ['gap', 12.345, '+12.3%'],
  ['gap', -3, '−3.0%'],
  ['price', 0.8612, '0.8612'],
  ['price', 5.4, '5.40'],
  ['float', 11_400_000, '11.4M'],
  ['relative volume', 93.31, '93.3×'],
  ['spread', 1.5, '1.50c'],
  ['news age', 128, '2h08'],
  ['atr from vwap', -0.5, '−0.50'],
  ['borrow', 2, 'none'],
  ['restricted', 1, 'yes'],
  ['iv rank', Number.NaN, '–'],
])('%s of %d reads %s', (name, value, text) => {
  expect(fieldText(fieldOf(name), value)).toBe(text);
});

test('every field shows any value that it can have, and what is not known as a dash; only moves of the price are coloured', () => {
  fc.assert(
    fc.property(fc.constantFrom(...FIELDS), fc.double({ min: -1e9, max: 1e12, noNaN: true }), (field, v) => {
      const value = field.choices
        ? Math.abs(Math.round(v)) % field.choices.length
        : field.unit === 'flag'
          ? Number(v > 0)
          : field.unit === 'minutes'
            ? Math.round(v)
            : v;
      expect(fieldText(field, value)).toMatch(/^\S.*$/);
      expect(fieldText(field, Number.NaN)).toBe('–');
      if (isMove(field.name)) expect(field.unit).toBe('percent');
    }),
  );
});

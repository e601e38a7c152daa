import fc from 'fast-check';
import { FIELDS } from '@/core/market';
import { parseRule } from '@/core/script';
import { firstClause, offerAt } from './rule-words';

const anyField = fc.constantFrom(...FIELDS);

test('every field starts with a clause that reads, alone and after others', () => {
  fc.assert(
    fc.property(fc.array(anyField, { minLength: 1, maxLength: 5 }), fc.constantFrom(' and ', ' or ', ' and not '), (fields, join) => {
      const parsed = parseRule(fields.map(firstClause).join(join));
      expect(parsed.ok).toBe(true);
    }),
  );
});

test('wherever a field may stand, what was typed of it is offered from its first letter on', () => {
  fc.assert(
    fc.property(
      fc.array(anyField, { maxLength: 3 }),
      anyField,
      fc.integer({ min: 1, max: 20 }),
      fc.constantFrom(' and ', ' or ', ' and not ', ' and ('),
      (before, field, letters, join) => {
        const start = before.map(firstClause).join(' and ') + (before.length > 0 ? join : '');
        const typed = field.name.slice(0, letters);
        expect(offerAt(start + typed, false)).toEqual({ from: start.length, choices: null });
      },
    ),
  );
});

test('after “is” the choices of that field are offered, and nothing where a number is due', () => {
  for (const field of FIELDS.filter((f) => f.choices)) {
    for (const is of [' is ', ' is not ']) {
      for (const choice of field.choices ?? []) {
        const start = `gap > 8% and ${field.name}${is}`;
        expect(offerAt(start + choice.slice(0, 2), false)).toEqual({ from: start.length, choices: field.choices });
      }
    }
  }
  for (const text of ['gap > ', 'gap > 8', 'price between ', 'price between 2 and ', 'gap '])
    expect([text, offerAt(text, text === 'gap ')]).toEqual([text, text === 'gap ' ? { from: 0, choices: null } : null]);
  expect(offerAt('', false)).toBeNull();
  expect(offerAt('', true)).toEqual({ from: 0, choices: null });
  expect(offerAt('gap > 8% and ', true)).toEqual({ from: 13, choices: null });
});

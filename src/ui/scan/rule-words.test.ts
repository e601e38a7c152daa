import fc from 'fast-check';
import { choicesFor, parseRule } from '@/core/language';
import { FIELDS } from '@/core/market';
import { firstClause } from './rule-words';

const anyField = fc.constantFrom(...FIELDS);

test('every field starts with a clause that reads, alone and after others', () => {
  fc.assert(
    fc.property(
      fc.array(anyField, { minLength: 1, maxLength: 5 }),
      fc.constantFrom(' and ', ' or ', ' and not '),
      (fields, join) => {
        const parsed = parseRule(fields.map(firstClause).join(join));
        expect(parsed.ok).toBe(true);
      },
    ),
  );
});

test('wherever a field may stand its name is offered whole, and after its first word what goes on with it', () => {
  fc.assert(
    fc.property(
      fc.array(anyField, { maxLength: 3 }),
      anyField,
      fc.constantFrom(' and ', ' or ', ' and not ', ' and ('),
      (before, field, join) => {
        const start = before.map(firstClause).join(' and ') + (before.length > 0 ? join : '');
        expect(choicesFor('rule', start + field.name.slice(0, 2))).toMatchObject({
          from: start.length,
          choices: expect.arrayContaining([field.name]),
        });
        const [first = '', second] = field.name.split(' ');
        if (second === undefined) return;
        const { from, choices } = choicesFor('rule', `${start}${first} `);
        expect([from, choices.includes(second)]).toEqual([start.length + first.length + 1, true]);
      },
    ),
  );
});

test('after “is” the choices of that field are offered, and no field where a number is due', () => {
  for (const field of FIELDS.filter((f) => f.choices)) {
    for (const is of [' is ', ' is not '])
      expect(choicesFor('rule', `gap > 8% and ${field.name}${is}`).choices).toEqual(
        expect.arrayContaining([...(field.choices ?? [])]),
      );
  }
  for (const text of ['gap > ', 'price between ', 'price between 2 and '])
    expect([text, choicesFor('rule', text).choices]).toEqual([text, []]);
});

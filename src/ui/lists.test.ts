import fc from 'fast-check';
import { symbolsIn } from './lists';

test('pasted symbols are found whatever stands between them, each once, and nothing else is taken for one', () => {
  const word = fc.string({ unit: fc.constantFrom(...'ABCDEVWXYZ'), minLength: 1, maxLength: 5 });
  fc.assert(
    fc.property(
      fc.array(word, { maxLength: 12 }),
      fc.constantFrom(' ', ', ', '\t', '\n', ';', ' | '),
      (symbols, between) => {
        expect(symbolsIn(symbols.map((s, k) => (k % 2 ? s.toLowerCase() : s)).join(between))).toEqual([
          ...new Set(symbols),
        ]);
      },
    ),
  );
  expect(symbolsIn('12.5 TOOLONGNAME 3M')).toEqual([]);
});

import fc from 'fast-check';
import { history, play } from '../../../tests/model/histories.ts';
import { live } from '../../../tests/model/lives.ts';

test('long lives on an exchange that fills what the price crosses, is late, cut off and rude: the same rules, and a way out at the end', () => {
  const lives = Array.from({ length: process.env.FEW_RUNS ? 20 : 80 }, (_, k) => live(1_138 + k));
  expect(lives.reduce((a, x) => a + x.fills, 0)).toBeGreaterThan(lives.length * 10);
});

test('every interleaving of trader, exchange and line keeps the rules of exits; a replay gives the same state; a patient trader always gets out', () => {
  fc.assert(
    fc.property(history, (h) => void play(h)),
    // A tenth of it is enough to notice a change of the code made on purpose (npm run mutate).
    { numRuns: process.env.FEW_RUNS ? 600 : 6_000 },
  );
});

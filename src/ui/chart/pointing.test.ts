import fc from 'fast-check';
import { parseScript } from '@/core/language';
import type { Price } from '@/core/units';
import { pointedSentence, snapped } from './pointing';

const about = { bid: 57_800, ask: 58_000, regular: true, names: [], plan: 'two steps' };

// By hand: a cent is 100 units.
test.each([
  ['buy', 57_500, true, 'buy risk 1R at 5.75 with plan "two steps"'],
  ['buy', 58_000, true, 'buy risk 1R at 5.80 with plan "two steps"'],
  ['buy', 58_100, true, 'buy risk 1R above 5.81 with plan "two steps"'],
  ['short', 58_100, true, 'short risk 1R at 5.81 with plan "two steps"'],
  ['short', 57_700, true, 'short risk 1R below 5.77 with plan "two steps"'],
  ['buy', 58_100, false, 'buy risk 1R above 5.81 limit 0.5% beyond extended with plan "two steps"'],
  ['short', 57_900, false, 'short risk 1R at 5.79 extended with plan "two steps"'],
  ['alert', 60_000, true, 'alert at 6.00'],
  ['level', 60_000, true, 'level "line 1" at 6.00'],
] as const)('%s at %d', (what, price, regular, text) => {
  expect(pointedSentence(what, price as Price, { ...about, regular })).toBe(text);
});

test('a new level never takes the name of another; every click reads as a sentence', () => {
  const names = fc.subarray(['line 1', 'line 2', 'line 3', 'mine']);
  const what = fc.constantFrom('buy', 'short', 'level', 'alert' as const);
  const side = fc.option(fc.integer({ min: 1, max: 3_000_000 }), { nil: null });
  fc.assert(
    fc.property(
      what,
      fc.integer({ min: 100, max: 3_000_000 }),
      side,
      side,
      fc.boolean(),
      names,
      (w, p, bid, ask, regular, n) => {
        const text = pointedSentence(w as 'buy', snapped(p, [], 0), {
          bid,
          ask,
          regular,
          names: n,
          plan: n.includes('mine') ? '' : 'two steps',
        });
        expect(parseScript(text).problems).toEqual([]);
        expect(n.some((x) => text.includes(`"${x}"`))).toBe(false);
      },
    ),
  );
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

import fc from 'fast-check';
import { parseScript } from '@/core/language';
import { type Price, roundToTick } from '@/core/units';
import { levelSentence, pointedSentence } from './pointing';

const about = { of: null, bid: 57_800, ask: 58_000, regular: true, names: [], plan: 'two steps' };

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
        const text = pointedSentence(w as 'buy', roundToTick(p), {
          of: n.length % 2 ? 'ORBNT' : null,
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

test('a trend line reads as a sentence that names both its points', () => {
  const slope = { from: { at: 34_200_000, price: 57_500 }, to: { at: 36_000_000, price: 58_000 } };
  const text = levelSentence('trend 1', 'ORBNT', slope);
  expect(text).toBe('level "trend 1" of ORBNT from 5.75 at 09:30 to 5.80 at 10:00');
  expect(parseScript(text).problems).toEqual([]);
});

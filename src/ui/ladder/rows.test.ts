import fc from 'fast-check';
import type { Price } from '@/core/units';
import { ladderRows, strayed } from './rows';

const NO_BOOK = { bids: [], asks: [] };
const prices = (centre: number, count: number) =>
  ladderRows(centre as Price, count, NO_BOOK, []).map((r) => r.price);

test('a row a tick, across one dollar and down to the least price', () => {
  expect(prices(50_000, 5)).toEqual([50_200, 50_100, 50_000, 49_900, 49_800]);
  expect(prices(10_000, 5)).toEqual([10_200, 10_100, 10_000, 9_999, 9_998]);
  expect(prices(2, 7)).toEqual([5, 4, 3, 2, 1]);
});

test('every share of the book within reach is on its row, once', () => {
  const level = fc.record({
    price: fc.integer({ min: 480, max: 520 }).map((c) => c * 100),
    qty: fc.integer({ min: 1, max: 9_000 }),
  });
  fc.assert(
    fc.property(fc.array(level), fc.array(level), (bids, asks) => {
      const rows = ladderRows(50_000 as Price, 61, { bids, asks }, []);
      const sum = (list: readonly { qty: number }[]) => list.reduce((a, l) => a + l.qty, 0);
      expect(rows.reduce((a, r) => a + r.bid, 0)).toBe(sum(bids));
      expect(rows.reduce((a, r) => a + r.ask, 0)).toBe(sum(asks));
    }),
  );
});

test('it follows a price only once that has left the middle three fifths', () => {
  const rows = ladderRows(50_000 as Price, 20, NO_BOOK, []);
  expect([50_000, 50_600, 50_700, 49_500, 49_300].map((p) => strayed(rows, p))).toEqual([
    false,
    false,
    true,
    false,
    true,
  ]);
});

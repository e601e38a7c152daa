import fc from 'fast-check';
import { price, type Side } from '../units/index.ts';
import { type AuctionOrder, allotCross, crossOf } from './index.ts';

const orders: fc.Arbitrary<AuctionOrder[]> = fc
  .array(
    fc.record({
      side: fc.constantFrom<Side>('buy', 'sell'),
      limit: fc.option(fc.integer({ min: 490, max: 510 }), { freq: 5 }),
      qty: fc.integer({ min: 1, max: 900 }),
    }),
    { maxLength: 24 },
  )
  .map((list) =>
    list.map((o, k) => ({ ...o, id: k, seq: k, limit: o.limit === null ? null : price(o.limit * 100) })),
  );
const reference = fc.integer({ min: 490, max: 510 }).map((c) => price(c * 100));

/** The oracle: shares that pair at any cent of the range. */
const pairedAt = (list: readonly AuctionOrder[], at: number) => {
  const sum = (side: Side) =>
    list
      .filter(
        (o) => o.side === side && (o.limit === null || (side === 'buy' ? o.limit >= at : o.limit <= at)),
      )
      .reduce((a, o) => a + o.qty, 0);
  return { paired: Math.min(sum('buy'), sum('sell')), left: Math.abs(sum('buy') - sum('sell')) };
};

test('an auction clears where the most shares pair, and among those with the least left over', () => {
  fc.assert(
    fc.property(orders, reference, (list, ref) => {
      const cross = crossOf(list, ref);
      const all = Array.from({ length: 41 }, (_, k) => pairedAt(list, (480 + k) * 100));
      const most = Math.max(...all.map((x) => x.paired));
      expect(cross.paired).toBe(most);
      if (cross.price === null) return expect(most).toBe(0);
      const here = pairedAt(list, cross.price);
      expect(here.paired).toBe(most);
      expect(here.left).toBe(Math.min(...all.filter((x) => x.paired === most).map((x) => x.left)));
    }),
    { numRuns: 500 },
  );
});

test('what buyers and sellers get is equal, nobody trades beyond a limit, and a worse or later order never gets shares before a better one', () => {
  fc.assert(
    fc.property(orders, reference, (list, ref) => {
      const cross = crossOf(list, ref);
      const got = new Map(allotCross(list, cross).map((a) => [a.id, a.qty]));
      const of = (side: Side) => list.filter((o) => o.side === side);
      for (const side of ['buy', 'sell'] as const)
        expect(of(side).reduce((a, o) => a + (got.get(o.id) ?? 0), 0)).toBe(cross.paired);
      const sign = { buy: 1, sell: -1 };
      for (const o of list) {
        const mine = got.get(o.id) ?? 0;
        if (mine > 0 && o.limit !== null)
          expect(sign[o.side] * (o.limit - (cross.price ?? 0))).toBeGreaterThanOrEqual(0);
        if (mine === o.qty) continue;
        const behind = of(o.side).filter(
          (x) =>
            x.limit !== null &&
            (o.limit === null ||
              sign[o.side] * (o.limit - x.limit) > 0 ||
              (x.limit === o.limit && x.seq > o.seq)),
        );
        for (const x of behind) expect(got.get(x.id) ?? 0).toBe(0);
      }
    }),
    { numRuns: 500 },
  );
});

// By hand. Buyers 500 at 5.02 and 300 at 5.00; sellers 400 at 4.98 and 600 at 5.01: at 5.01 and 5.02, 500 pair and 500 are left to sell.
test('ties: the smaller surplus, then the side that presses, then the nearest to the reference', () => {
  const o = (id: number, side: Side, cents: number | null, qty: number): AuctionOrder => ({
    id,
    side,
    limit: cents === null ? null : price(cents * 100),
    qty,
    seq: id,
  });
  expect(
    crossOf(
      [o(1, 'buy', 502, 500), o(2, 'buy', 500, 300), o(3, 'sell', 498, 400), o(4, 'sell', 501, 600)],
      price(50_000),
    ),
  ).toEqual({
    price: 50_100,
    paired: 500,
    imbalance: -500,
  });
  const even = [o(1, 'buy', 505, 100), o(2, 'sell', 495, 100)];
  expect(crossOf(even, price(50_200)).price).toBe(50_200);
  expect(crossOf(even, price(60_000)).price).toBe(50_500);
  expect(crossOf([o(1, 'buy', 505, 200), o(2, 'sell', 495, 100)], price(50_000)).price).toBe(50_500);
  expect(crossOf([o(1, 'buy', 505, 100)], price(50_000))).toMatchObject({ price: null, paired: 0 });
});

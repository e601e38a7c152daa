import fc from 'fast-check';
import { mostToLose } from '../instruments/index.ts';
import { baredBy, lossOf } from './cover.ts';
import type { Trade } from './trade.ts';

/** Contracts that an account holds: by name, below zero short. */
const holding = (held: Record<string, number>) => ({
  holdings: Object.fromEntries(
    Object.entries(held).map(([symbol, qty]) => [
      symbol,
      {
        account: 'main',
        symbol,
        trades: [
          { status: 'open', sign: Math.sign(qty), entered: Math.abs(qty), exited: 0 } as unknown as Trade,
        ],
      },
    ]),
  ),
});
const PUT = 'VULPN 2027-03-19 6 put';

test('a long contract covers a short one that does not outlive it, of its root and right; the nearest strike first', () => {
  const bare = mostToLose(PUT, -1, 5_000);
  const behind = (other: string, qty = 1) =>
    lossOf(holding({ [PUT]: -1, [other]: qty }), 'main', PUT, -1, 5_000);
  expect(behind('VULPN 2027-03-19 5 put')).toBe(10_000 - 5_000);
  expect(behind('VULPN 2027-04-16 5 put')).toBe(10_000 - 5_000);
  expect(behind('VULPN 2027-04-16 7 put')).toBe(-5_000);
  expect(behind('VULPN 2027-03-12 5 put')).toBe(bare);
  expect(behind('VULPN 2027-03-19 5 call')).toBe(bare);
  expect(behind('QUOLS 2027-03-19 5 put')).toBe(bare);
  const all = holding({ [PUT]: -2, 'VULPN 2027-03-19 5 put': 1, 'VULPN 2027-03-19 5.5 put': 1 });
  expect(lossOf(all, 'main', PUT, -1, 0)).toBe((10_000 + 5_000) / 2);
  expect(baredBy(all, 'main', 'VULPN 2027-03-19 5 put', 1)).toMatchObject([{ symbol: PUT, contracts: 1 }]);
  const two = holding({ [PUT]: -1, 'VULPN 2027-03-19 5 put': 1, 'VULPN 2027-04-16 5 put': 1 });
  expect(baredBy(two, 'main', 'VULPN 2027-03-19 5 put', 1)).toEqual([]);
});

test('cover never makes it worse, and no more is bared than is sold', () => {
  const strike = fc.constantFrom('4', '5', '6', '7');
  const date = fc.constantFrom('2027-03-12', '2027-03-19', '2027-04-16');
  const long = fc.tuple(date, strike, fc.integer({ min: 1, max: 4 }));
  fc.assert(
    fc.property(fc.array(long, { maxLength: 4 }), fc.integer({ min: 1, max: 4 }), (longs, short) => {
      const held: Record<string, number> = { 'VULPN 2027-03-19 5.5 put': -short };
      for (const [d, k, n] of longs) held[`VULPN ${d} ${k} put`] = n;
      const b = holding(held);
      const name = 'VULPN 2027-03-19 5.5 put';
      expect(lossOf(b, 'main', name, -1, 3_000)).toBeLessThanOrEqual(mostToLose(name, -1, 3_000));
      for (const [symbol, n] of Object.entries(held))
        if (n > 0)
          expect(baredBy(b, 'main', symbol, n).reduce((a, x) => a + x.contracts, 0)).toBeLessThanOrEqual(
            Math.min(n, short),
          );
    }),
  );
});

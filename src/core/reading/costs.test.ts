import fc from 'fast-check';
import { oneAccount } from '../../../tests/model/accounts.ts';
import { desk } from '../../../tests/model/desk.ts';
import { DEFAULT_FEES, MAIN, totalOf } from '../account/index.ts';
import { allot, createBroker, type Trade } from '../orders/index.ts';
import { fromDollars, type Part, type Side, signOf } from '../units/index.ts';
import { bothWays } from './costs.ts';
import type { RunContext } from './moment.ts';

// By hand: 60 in for $1.00 and 18c; three targets of 20 that rest: $1.00 each, 4c paid back, 1c SEC, 1c TAF. $1.18 + 3 × $0.98 = $4.12.
test('60 shares with three targets cost four minimums', () => {
  const c = {
    broker: createBroker(oneAccount()),
    account: MAIN,
    date: '2027-03-01',
  } as unknown as RunContext;
  const outs = [10.2, 10.4, 10.6].map((p) => ({ shares: 20, price: fromDollars(p), rests: true }));
  const costs = bothWays('VULPN', 'buy', { shares: 60, price: fromDollars(10), rests: false }, outs, c);
  expect(costs).toBe(41_200);
});

test('what is said before is what is booked when the plan runs so, to the last 1/10,000 dollar', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 900 }),
      fc.integer({ min: 1, max: 4 }),
      fc.constantFrom<Side>('buy', 'sell'),
      (qty, targets, side) => {
        const d = desk({ fees: [DEFAULT_FEES] });
        const parts = Array.from(
          { length: targets },
          (): Part => ({ kind: 'fraction', num: 1, den: targets }),
        );
        const at = (k: number) => 100_000 + signOf(side) * (k + 1) * 2_000;
        const plan = {
          stops: [{ place: { kind: 'distance', units: 3_000 }, part: null, on: 'last' }],
          targets: parts.map((part, k) => ({ place: { kind: 'at', price: at(k) }, part })),
          breakeven: null,
          trail: null,
          extended: false,
        } as const;
        const shares = allot(parts, qty);
        const outs = shares.map((n, k) => ({ shares: n, price: at(k), rests: true }));
        const c = { broker: d.broker, account: MAIN, date: '2027-03-01' } as unknown as RunContext;
        const said = bothWays('VULPN', side, { shares: qty, price: 100_000, rests: true }, outs, c);
        d.fill(d.enter(side, qty, plan as never), qty, 10);
        for (const o of d.find('target')) d.fill(o.id, o.qty);
        expect(d.position).toBe(0);
        expect(totalOf((d.trade(1) as Trade).costs)).toBe(said);
      },
    ),
    { numRuns: 60 },
  );
});

import fc from 'fast-check';
import { NO_GUARDS } from '../../../tests/model/accounts.ts';
import { desk } from '../../../tests/model/desk.ts';
import {
  accountView,
  costsFor,
  DEFAULT_ACCOUNT,
  DEFAULT_FEES,
  MAIN,
  openAccount,
  post,
  totalOf,
} from '../account/index.ts';
import { everything, profitOf, type Trade } from '../orders/index.ts';
import { fromDollars, money, type OrderId, type Price } from '../units/index.ts';
import { reviewTrade } from './index.ts';

/** Plays one long or short trade through the broker: fills of the entry, then a hand close in pieces. */
function play(side: 'buy' | 'sell', entries: [Price, number][], exits: [Price, number][]) {
  const d = desk({ rules: { multiple: 400 }, guards: NO_GUARDS, fees: [DEFAULT_FEES] });
  const total = entries.reduce((a, [, q]) => a + q, 0);
  const stops = [
    { place: { kind: 'distance' as const, units: fromDollars(0.2) }, part: null, on: 'last' as const },
  ];
  const entry = d.enter(side, total, { stops, targets: [], breakeven: null, trail: null, extended: false });
  for (const [price, qty] of entries) d.fill(entry, qty, price / 10_000);
  for (const [price, qty] of exits) d.fill(d.close(qty, { limit: fromDollars(10) }), qty, price / 10_000);
  const { trades, fills, orders } = everything(d.broker);
  return { broker: d.broker, trade: trades[0] as Trade, fills, orders };
}

// By hand: 200 at 10.00, 100 sold at 10.30, 100 at 10.10: gross 40; three orders cost $1 each; 400 shares that rest are paid 0.2c
// each by the exchange; each sale costs 3c to the SEC ($27.80 a million of $1,030 or $1,010) and 2c TAF; risk 200 × 0.20 = 40.
test('a trade by hand: gross, costs, net and R', () => {
  const { fills, trade } = play(
    'buy',
    [
      [fromDollars(10), 120],
      [fromDollars(10), 80],
    ],
    [
      [fromDollars(10.3), 100],
      [fromDollars(10.1), 100],
    ],
  );
  const r = reviewTrade(trade, fills);
  expect(r).toMatchObject({
    direction: 'long',
    shares: 200,
    gross: 400_000,
    costs: { commission: 30_000, venue: -8_000, sec: 600, taf: 400 },
    net: 377_000,
    averageEntry: 100_000,
    averageExit: 102_000,
  });
  expect(r?.r).toBeCloseTo(37.7 / 40, 9);
  expect(trade.status).toBe('closed');
  expect(r?.fills.map((f) => f.role)).toEqual(['entry', 'entry', 'close', 'close']);
});

const legs = fc.array(
  fc.tuple(
    fc.integer({ min: 900, max: 1_100 }).map((c) => (c * 100) as Price),
    fc.integer({ min: 1, max: 400 }),
  ),
  { minLength: 1, maxLength: 4 },
);

test('long and short mirror each other; cash, positions and results agree whatever the fills', () => {
  fc.assert(
    fc.property(legs, legs, (entries, closes) => {
      const total = entries.reduce((a, [, q]) => a + q, 0);
      let left = total;
      const exits = closes.flatMap(([p, q]): [Price, number][] => {
        const qty = Math.min(q, left);
        left -= qty;
        return qty > 0 ? [[p, qty]] : [];
      });
      const long = play('buy', entries, exits);
      const short = play('sell', entries, exits);
      const mark = fromDollars(10);
      const [a, b] = [profitOf(long.trade, mark), profitOf(short.trade, mark)];
      expect(a.realized).toBeCloseTo(-b.realized, 3);
      expect(a.unrealized).toBeCloseTo(-b.unrealized, 3);
      // Money in, money out and what is still held must explain the whole result.
      const cash = long.fills.reduce((sum, f) => sum + (f.side === 'sell' ? 1 : -1) * f.price * f.qty, 0);
      expect(cash + left * mark).toBeCloseTo(a.realized + a.unrealized, 3);
      const charged = long.fills.reduce((sum, f) => sum + totalOf(f.costs), 0);
      expect(charged).toBe(totalOf(long.trade.costs));
      const orders = long.orders.filter((o) => o.filled > 0);
      expect(charged).toBe(
        orders.reduce(
          (sum, o) =>
            sum +
            totalOf(
              costsFor(DEFAULT_FEES, {
                side: o.side,
                shares: o.filled,
                notional: o.notional,
                added: o.added,
              }),
            ),
          0,
        ),
      );
      expect(reviewTrade(long.trade, long.fills)?.closedAt === null).toBe(left > 0);
    }),
    { numRuns: 150 },
  );
});

// By hand: 30,000 cash, 100 shares worth 1,200 bought for 1,000, 2 of costs, 500 in working entries; multiple 4.
test('equity and buying power by hand', () => {
  const dollars = (n: number) => money(n * 10_000);
  const account = openAccount({ id: MAIN, rules: DEFAULT_ACCOUNT, fees: [DEFAULT_FEES] });
  const ledger = [-1_000, -2].reduce(
    (l, cash) => post(l, { at: 0, settles: 1, cash: dollars(cash), why: 'trade', orderId: 1 as OrderId }),
    account.ledger,
  );
  const view = accountView(
    { ...account, ledger },
    [
      {
        shares: 100,
        mark: dollars(12),
        multiplier: 1,
        realized: 0,
        unrealized: dollars(200),
        costs: dollars(2),
      },
    ],
    dollars(500),
  );
  expect(view.equity).toBe(dollars(30_198));
  expect(view.buyingPower).toBe(dollars(4 * 30_198 - 1_200 - 500));
});

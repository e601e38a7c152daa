import fc from 'fast-check';
import { accountView, commissionFor, DEFAULT_ACCOUNT, DEFAULT_FEES } from '../account/index.ts';
import { type BrokerContext, type BrokerInput, createBroker, PLAIN_TERMS, profitOf, stepBroker, type Trade } from '../orders/index.ts';
import { at, fromDollars, money, type Price } from '../units/index.ts';
import { reviewTrade } from './index.ts';

const context: BrokerContext = {
  now: at(9, 45),
  session: 'regular',
  quote: () => ({ bid: fromDollars(9.99), ask: fromDollars(10.01), bidSize: 100, askSize: 100 }),
  last: () => fromDollars(10),
};

/** Plays one long or short trade through the broker: fills of the entry, then a hand close in pieces. */
function play(side: 'buy' | 'sell', entries: [Price, number][], exits: [Price, number][]) {
  let broker = createBroker(DEFAULT_FEES);
  const step = (input: BrokerInput) => {
    const [next, effects] = stepBroker(broker, input, context);
    broker = next;
    return effects.venue.flatMap((v) => (v.kind === 'send' ? [v.venueId] : []))[0] ?? -1;
  };
  const total = entries.reduce((a, [, q]) => a + q, 0);
  const units = fromDollars(0.2);
  const venueId = step({
    kind: 'intent',
    intent: {
      kind: 'entry',
      symbol: 'VULPN',
      side,
      type: 'Limit',
      qty: total,
      limit: fromDollars(10),
      stop: null,
      extended: false,
      sentence: 'buy',
      plan: { stop: { kind: 'distance', units }, targets: [], breakeven: null, extended: false, timeInForce: 'Day' },
      ...PLAIN_TERMS,
    },
  });
  for (const [price, qty] of entries) step({ kind: 'fill', venueId, price, qty, liquidity: 'removed', venue: 'LIT', better: 0 });
  for (const [price, qty] of exits) {
    const close = step({
      kind: 'intent',
      intent: { kind: 'close', symbol: 'VULPN', side: 'sell', type: 'Limit', qty, limit: price, stop: null, extended: false, ...PLAIN_TERMS },
    });
    step({ kind: 'fill', venueId: close, price, qty, liquidity: 'removed', venue: 'LIT', better: 0 });
  }
  return { broker, trade: broker.trades[1] as Trade };
}

// By hand: 200 at 10.00, 100 sold at 10.30, 100 at 10.10: gross 40; three orders cost $1 each; risk 200 × 0.20 = 40.
test('a trade by hand: gross, costs, net and R', () => {
  const { broker, trade } = play(
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
  const r = reviewTrade(trade, broker.fills);
  expect(r).toMatchObject({ direction: 'long', shares: 200, gross: 400_000, commission: 30_000, net: 370_000, averageEntry: 100_000, averageExit: 102_000 });
  expect(r?.r).toBeCloseTo(37 / 40, 9);
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
      const cash = long.broker.fills.reduce((sum, f) => sum + (f.side === 'sell' ? 1 : -1) * f.price * f.qty, 0);
      expect(cash + left * mark).toBeCloseTo(a.realized + a.unrealized, 3);
      const charged = long.broker.fills.reduce((sum, f) => sum + f.commission, 0);
      expect(charged).toBe(long.trade.commission);
      const orders = Object.values(long.broker.orders).filter((o) => o.filled > 0);
      expect(charged).toBe(orders.reduce((sum, o) => sum + commissionFor(DEFAULT_FEES, o.filled, o.notional), 0));
      expect(reviewTrade(long.trade, long.broker.fills)?.closedAt === null).toBe(left > 0);
    }),
    { numRuns: 150 },
  );
});

// By hand: 30,000 cash, 100 shares worth 1,200 bought for 1,000, 2 of costs, 500 in working entries; multiple 4.
test('equity and buying power by hand', () => {
  const dollars = (n: number) => money(n * 10_000);
  const view = accountView(
    DEFAULT_ACCOUNT,
    [{ shares: 100, value: dollars(1_200), realized: 0, unrealized: dollars(200), commission: dollars(2) }],
    dollars(500),
  );
  expect(view.equity).toBe(dollars(30_198));
  expect(view.buyingPower).toBe(dollars(4 * 30_198 - 1_200 - 500));
});

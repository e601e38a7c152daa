import { desk, only } from '../../../tests/model/desk.ts';
import { MAIN } from '../account/index.ts';
import { fromDollars, type OrderId, type Price } from '../units/index.ts';
import {
  type ExitPlan,
  everything,
  type Intent,
  type Order,
  openOf,
  PLAIN_TERMS,
  refusalText,
  statusOf,
} from './index.ts';

type Desk = ReturnType<typeof desk>;
const $ = fromDollars;
const plan = (over: Partial<ExitPlan> = {}): ExitPlan => ({
  stops: [{ place: { kind: 'distance', units: 3_000 }, part: null, on: 'last' }],
  targets: [],
  breakeven: null,
  trail: null,
  extended: false,
  ...over,
});
const entry = (over: Partial<Extract<Intent, { kind: 'entry' }>> = {}): Intent => ({
  kind: 'entry',
  account: MAIN,
  symbol: 'VULPN',
  side: 'buy',
  type: 'Limit',
  qty: 100,
  limit: $(10),
  stop: null,
  extended: false,
  plan: null,
  sentence: '',
  ...PLAIN_TERMS,
  ...over,
});
const close = (over: Partial<Extract<Intent, { kind: 'close' }>> = {}): Intent => ({
  kind: 'close',
  account: MAIN,
  symbol: 'VULPN',
  type: 'Limit',
  qty: 10,
  limit: $(10),
  stop: null,
  extended: false,
  ...PLAIN_TERMS,
  ...over,
});
const holds = (d: Desk) => d.fill(d.enter('buy', 100), 100);
/** Something done first, and what is asked then. */
const then = <T>(_done: unknown, asked: T): T => asked;
const firstOf = (d: Desk) => (d.live()[0] as Order).id;
const moves = (to: number) => (d: Desk) => ({
  kind: 'move' as const,
  orderId: (d.live().at(-1) as Order).id,
  to: $(to),
});

/**
 * For every guard the last value that passes and the first that does not, with what would pass in the
 * answer. Last is 10.00, bid 9.99, ask 10.01; $30,000 at four times is $120,000.
 */
const TABLE: [
  name: string,
  ready: (d: Desk) => unknown,
  passes: Intent | ((d: Desk) => Intent),
  refused: Intent | ((d: Desk) => Intent),
  code: string,
  says: string,
][] = [
  ['a share at least', () => {}, entry({ qty: 1 }), entry({ qty: 0 }), 'quantity', 'from 1 on; this is 0'],
  ['whole shares', () => {}, entry({ qty: 2 }), entry({ qty: 1.5 }), 'quantity', 'this is 1.5'],
  [
    'a price on a tick',
    () => {},
    entry({ limit: $(9.99) }),
    entry({ limit: 99_950 as Price }),
    'off tick',
    '9.99 and 10.00 are',
  ],
  [
    'a price on a tick below a dollar',
    (d) => d.price(0.5),
    entry({ limit: $(0.4999) }),
    entry({ limit: 0 as Price }),
    'off tick',
    'are',
  ],
  [
    'most shares',
    () => {},
    entry({ qty: 5_000, limit: $(10) }),
    entry({ qty: 5_001, limit: $(10) }),
    'most shares',
    'at most 5000 shares pass',
  ],
  [
    'buying power',
    (d) => d.price(100),
    entry({ qty: 1_200, limit: $(100) }),
    entry({ qty: 1_201, limit: $(100) }),
    'buying power',
    'at most 1200 shares',
  ],
  [
    'collar of a buy: ten percent over the ask of 10.01',
    () => {},
    entry({ limit: $(11.01) }),
    entry({ limit: $(11.02) }),
    'collar',
    'that is 11.01',
  ],
  [
    'collar of a sale: ten percent under the bid of 9.99',
    () => {},
    entry({ side: 'sell', limit: $(9) }),
    entry({ side: 'sell', limit: $(8.99) }),
    'collar',
    'that is 9.00',
  ],
  [
    'collar of a few cents: ten ticks',
    (d) => d.set({ quote: { bid: 40 as Price, ask: 50 as Price } }),
    entry({ limit: 60 as Price }),
    entry({ limit: 61 as Price }),
    'collar',
    'that is 0.0060',
  ],
  [
    'a buy stop’s limit at its stop',
    () => {},
    entry({ type: 'StopLimit', stop: $(10.1), limit: $(10.1) }),
    entry({ type: 'StopLimit', stop: $(10.1), limit: $(10.09) }),
    'limit side',
    'must be at 10.10 or above',
  ],
  [
    'a buy stop’s limit within the collar of its stop',
    () => {},
    entry({ type: 'StopLimit', stop: $(10.1), limit: $(11.11) }),
    entry({ type: 'StopLimit', stop: $(10.1), limit: $(11.12) }),
    'collar',
    'that is 11.11',
  ],
  [
    'a buy stop above last',
    () => {},
    entry({ type: 'Stop', limit: null, stop: $(10.01) }),
    entry({ type: 'Stop', limit: null, stop: $(10) }),
    'stop side',
    'Put it above that',
  ],
  [
    'a sell stop below last',
    () => {},
    entry({ side: 'sell', type: 'Stop', limit: null, stop: $(9.99) }),
    entry({ side: 'sell', type: 'Stop', limit: null, stop: $(10) }),
    'stop side',
    'Put it below that',
  ],
  [
    'nothing against a position',
    holds,
    entry({ limit: $(9.9) }),
    entry({ side: 'sell' }),
    'entry against',
    'sell all at bid',
  ],
  [
    'nothing against an entry that waits',
    (d) => d.enter('buy', 10),
    entry({ limit: $(9.9) }),
    entry({ side: 'sell' }),
    'entry against',
    'cancel order 1',
  ],
  [
    'a borrow',
    (d) => d.set({ borrow: 'easy' }),
    entry({ side: 'sell' }),
    (d) => then(d.set({ borrow: 'none' }), entry({ side: 'sell' })),
    'no borrow',
    'can be borrowed',
  ],
  [
    'a restricted short above the bid (Rule 201)',
    (d) => d.set({ restricted: true }),
    entry({ side: 'sell', limit: $(10) }),
    entry({ side: 'sell', limit: $(9.99) }),
    'restricted',
    'at 10.00',
  ],
  [
    'a restricted short at market',
    (d) => d.set({ restricted: true }),
    entry({ side: 'buy', type: 'Market', limit: null }),
    entry({ side: 'sell', type: 'Market', limit: null }),
    'restricted',
    'above the best bid 9.99',
  ],
  [
    'market orders in the regular session',
    () => {},
    entry({ type: 'Market', limit: null, extended: true }),
    (d) => then(d.session('after hours'), entry({ type: 'Market', limit: null, extended: true })),
    'market hours',
    'A marketable limit would do',
  ],
  [
    'a position to close',
    holds,
    close(),
    (d) => then([d.flatten(), d.fill(only(d.find('close')).id, 100, 9.99)], close()),
    'nothing to close',
    'No position in VULPN',
  ],
  [
    'shares that no close holds',
    (d) => then(holds(d), d.close(99)),
    close({ qty: 5 }),
    (d) => then(d.intent(close({ qty: 1 })), close({ qty: 1 })),
    'nothing to close',
    'already in closing orders',
  ],
  [
    'a stop by hand holds no shares',
    (d) => then(holds(d), d.stopBelow(100, 9.5)),
    close({ qty: 100 }),
    close({ qty: 0 }),
    'quantity',
    'this is 0',
  ],
  [
    'a close within the collar',
    holds,
    close({ limit: $(9) }),
    close({ limit: $(8.99) }),
    'collar',
    'that is 9.00',
  ],
  [
    'a stop to close below last',
    holds,
    close({ type: 'Stop', limit: null, stop: $(9.99) }),
    close({ type: 'Stop', limit: null, stop: $(10) }),
    'stop side',
    'go at once',
  ],
  [
    'exits for what is held',
    holds,
    { kind: 'attach', account: MAIN, symbol: 'VULPN', over: 'all', plan: plan() },
    { kind: 'attach', account: MAIN, symbol: 'ORBNT', over: 'all', plan: plan() },
    'nothing to close',
    'No position in ORBNT',
  ],
  [
    'a moved entry within the collar',
    (d) => d.enter('buy', 100),
    moves(11.01),
    moves(11.02),
    'collar',
    'that is 11.01',
  ],
  [
    'a moved entry within buying power',
    (d) => then(d.price(100), d.enter('buy', 1_190, null, { limit: $(100) })),
    moves(100.84),
    moves(100.85),
    'buying power',
    'you have $120,000.00',
  ],
  [
    'a moved stop above last',
    (d) => d.enter('buy', 100, null, { type: 'Stop', limit: null, stop: $(10.2) }),
    moves(10.01),
    moves(10),
    'stop side',
    'go at once',
  ],
  [
    'a moved stop of what is held',
    (d) => d.fill(d.enter('buy', 100, plan()), 100),
    moves(9.99),
    moves(10),
    'stop side',
    'go at once',
  ],
  [
    'a move on a tick',
    (d) => d.enter('buy', 100),
    moves(9.98),
    (d) => ({ ...moves(9.98)(d), to: 99_850 as Price }),
    'off tick',
    '9.98 and 9.99',
  ],
  [
    'an order that lives',
    (d) => d.enter('buy', 100),
    (d) => ({ kind: 'cancel', what: { kind: 'orders', ids: [firstOf(d)] } }),
    { kind: 'cancel', what: { kind: 'orders', ids: [1 as OrderId] } },
    'too late',
    'order 1 is canceled already',
  ],
  [
    'an order that has been',
    (d) => d.enter('buy', 100),
    (d) => ({ kind: 'move', orderId: firstOf(d), to: $(9.9) }),
    { kind: 'move', orderId: 77 as OrderId, to: $(9.9) },
    'too late',
    'There is no order 77',
  ],
  [
    'something to flatten',
    holds,
    { kind: 'flatten', account: MAIN, symbol: 'VULPN', limit: null },
    { kind: 'flatten', account: MAIN, symbol: 'ORBNT', limit: null },
    'nothing to close',
    'No position in ORBNT',
  ],
];

test.each(TABLE)('guard: %s', (_name, ready, passes, refused, code, says) => {
  const d = desk();
  ready(d);
  d.intent(typeof passes === 'function' ? passes(d) : passes);
  expect(d.refused).toBeNull();
  // The same again from the start, one step further.
  const other = desk();
  ready(other);
  if (code === 'too late' && _name === 'an order that lives') other.cancel(1);
  const asked = typeof refused === 'function' ? refused(other) : refused;
  const before = other.broker;
  other.intent(asked);
  expect([other.refused?.code, other.refused && refusalText(other.refused)]).toEqual([
    code,
    expect.stringContaining(says),
  ]);
  // A refusal changes nothing at all.
  expect(other.broker).toBe(before);
});

describe('the guards are asked again', () => {
  // $30,000 less $2 of costs and $3,000 lost is $26,998; times four $107,992: 1,069 shares at 101 need $107,969, one more does not fit.
  test.each([
    [1_069, 'New'],
    [1_070, 'Rejected'],
  ])('when an entry’s stop fires: %i shares after a loss are %s', (qty, status) => {
    const d = desk();
    d.price(100);
    const waits = d.enter('buy', qty, null, { type: 'Stop', limit: null, stop: $(101) });
    const lost = d.enter('buy', 100, null, { limit: $(100) });
    d.fill(lost, 100, 100);
    d.price(70);
    d.fill(d.close(100, { limit: $(70) }), 100, 70);
    d.price(101);
    expect([d.position, statusOf(d.order(waits))]).toEqual([0, status]);
  });

  test('when an entry fires under the short-sale restriction without a borrow', () => {
    const d = desk();
    const waits = d.enter('sell', 100, null, { type: 'Stop', limit: null, stop: $(9.8) });
    d.set({ borrow: 'none' });
    d.price(9.8);
    const o = d.order(waits);
    expect([statusOf(o), o.phase]).toMatchObject(['Rejected', { why: { guard: { code: 'no borrow' } } }]);
    expect(d.exchange.orders.size).toBe(0);
  });

  test('when an entry wakes: a limit that the market has run away from by more than the collar', () => {
    const d = desk({ session: 'pre-market' });
    const far = d.enter('buy', 100);
    const near = d.enter('buy', 50, null, { limit: $(9.89) });
    d.price(8.99);
    d.session('regular');
    // The ask is 9.00 now, ten percent through it is 9.90.
    expect([statusOf(d.order(far)), statusOf(d.order(near))]).toEqual(['Rejected', 'New']);
  });
});

test('figures by hand: power is equity times four less what is held and what entries need; a protective exit needs none', () => {
  const d = desk({ guards: { mostShares: 20_000 } });
  d.fill(d.enter('buy', 1_000, plan()), 1_000);
  d.enter('buy', 500, null, { limit: $(9) });
  // $30,000 − $10 of commission × 4 = $119,980, less $10,000 held and $4,500 waiting.
  d.enter('buy', 5_000, null, { limit: $(11) });
  // A third entry of $55,000 waits.
  d.intent(entry({ qty: 4_600, limit: $(11) }));
  expect(d.refused).toMatchObject({
    code: 'buying power',
    have: (119_980 - 10_000 - 4_500 - 55_000) * 10_000,
  });
  expect(
    everything(d.broker)
      .orders.filter((o) => o.role === 'stop')
      .map(openOf),
  ).toEqual([1_000]);
});

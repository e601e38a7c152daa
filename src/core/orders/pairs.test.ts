import { desk } from '../../../tests/model/desk.ts';
import { CASH, CASH_ACCOUNT, DEFAULT_FEES, FIRST_ACCOUNTS, MAIN } from '../account/index.ts';
import { fromDollars, money, type Side } from '../units/index.ts';
import { type Intent, type NewIntent, openOf, PLAIN_TERMS, refusalText, statusOf } from './index.ts';

const leg = (
  side: Side,
  qty: number,
  over: Partial<Extract<NewIntent, { kind: 'entry' }>> = {},
): NewIntent => ({
  kind: 'entry',
  account: MAIN,
  symbol: 'VULPN',
  side,
  type: 'Limit',
  qty,
  limit: fromDollars(9.9),
  stop: null,
  extended: false,
  plan: null,
  sentence: '',
  ...PLAIN_TERMS,
  ...over,
});
const stop = (side: Side, qty: number, dollars: number): NewIntent =>
  leg(side, qty, { type: 'Stop', limit: null, stop: fromDollars(dollars) });
const pair = (...of: [NewIntent, NewIntent]): Intent => ({ kind: 'pair', of });
const left = (d: ReturnType<typeof desk>) => d.live().map((o) => [o.id, openOf(o)]);

test('a part fill of one is taken from the other in the same step: as many shares of equal sizes, in proportion of others', () => {
  const equal = desk();
  equal.intent(pair(leg('buy', 200), leg('buy', 200, { limit: fromDollars(9.8) })));
  equal.fill(1, 60, 9.9);
  expect(left(equal)).toEqual([
    [1, 140],
    [2, 140],
  ]);
  equal.fill(2, 140, 9.8);
  expect(left(equal)).toEqual([]);
  const other = desk();
  other.intent(pair(leg('buy', 300), leg('buy', 100, { limit: fromDollars(9.8) })));
  other.fill(1, 100, 9.9);
  expect(left(other)).toEqual([
    [1, 200],
    [2, 66],
  ]);
});

test('of a buy and a short of one symbol the first to trigger or to fill ends the other; two that rest are refused', () => {
  const d = desk();
  d.intent(pair(stop('buy', 200, 10.2), stop('sell', 200, 9.8)));
  d.price(10.2);
  expect(d.live().map((o) => o.id)).toEqual([1]);
  d.fill(1, 200, 10.2);
  d.price(9.8);
  expect(d.position).toBe(200);

  const rests = desk();
  rests.intent(pair(leg('buy', 200), stop('sell', 200, 9.8)));
  rests.fill(1, 50, 9.9);
  // What is left of the buy works on; the short would work against what is held.
  expect(left(rests)).toEqual([[1, 150]]);

  const both = desk();
  both.intent(pair(leg('buy', 200), leg('sell', 200, { limit: fromDollars(10.1) })));
  expect(both.refused && refusalText(both.refused)).toContain('Both could fill');
  expect(both.live()).toEqual([]);
});

test('while the resting one of the two is on its way out, the one that triggered is not sent', () => {
  const d = desk({ slow: true });
  d.intent(pair(leg('buy', 200), stop('sell', 200, 9.8)));
  d.settle();
  const sent = d.price(9.8);
  expect(sent.map((v) => v.kind)).toEqual(['cancel']);
  // It fills on the way out: then nothing works against what is held.
  d.execute(1, 200, 9.9);
  d.settle();
  expect([d.position, d.live()]).toEqual([200, []]);
  const other = desk({ slow: true });
  other.intent(pair(leg('buy', 200), stop('sell', 200, 9.8)));
  other.settle();
  other.price(9.8);
  other.settle();
  expect([...other.exchange.orders.values()].map((o) => o.side)).toEqual(['sell']);
});

test('a day order for which no session of the day is left is good for the next', () => {
  const d = desk({ session: 'after hours' });
  const late = d.enter('buy', 100);
  const extended = d.enter('buy', 50, null, { extended: true });
  d.session('closed');
  const night = d.enter('buy', 25, null, { extended: true });
  expect([late, extended, night].map((id) => statusOf(d.order(id)))).toEqual([
    'Suspended',
    'Expired',
    'Suspended',
  ]);
  d.session('pre-market', true);
  expect([late, night].map((id) => statusOf(d.order(id)))).toEqual(['Suspended', 'New']);
  d.session('regular');
  expect(statusOf(d.order(late))).toBe('New');
  d.session('after hours');
  expect(statusOf(d.order(late))).toBe('Expired');
});

test('one of two may be taken back; the other stays, and power is needed for the dearer one only', () => {
  const d = desk();
  d.intent(pair(leg('buy', 3_000), leg('buy', 2_000, { limit: fromDollars(9.8) })));
  d.intent(leg('buy', 5_000, { symbol: 'ORBNT', limit: fromDollars(9.5) }));
  // $120,000 less $29,700 for the pair and $47,500: $42,800 at 9.00 are 4,755 shares.
  d.intent(leg('buy', 4_756, { symbol: 'QUOLS', limit: fromDollars(9) }));
  expect(d.refused).toMatchObject({ code: 'buying power', shares: 4_755 });
  d.cancel(1);
  expect(statusOf(d.order(2))).toBe('New');
});

const retype = (orderId: number, over: Partial<Extract<Intent, { kind: 'retype' }>>): Intent => ({
  kind: 'retype',
  orderId: orderId as never,
  type: 'Limit',
  qty: 200,
  limit: fromDollars(9.9),
  stop: null,
  on: 'last',
  extended: false,
  ...PLAIN_TERMS,
  ...over,
});

test('another kind is called back first: never both at the exchange, the same number, its exits kept', () => {
  const d = desk({ slow: true });
  const plan = {
    stops: [{ place: { kind: 'distance' as const, units: 3_000 }, part: null, on: 'last' as const }],
    targets: [],
    breakeven: null,
    trail: null,
    extended: false,
  };
  const id = d.enter('buy', 200, plan);
  d.settle();
  const [cancel, ...more] = d.step({
    kind: 'intent',
    intent: retype(id, { type: 'Market', limit: null }),
  });
  expect([cancel?.kind, more]).toEqual(['cancel', []]);
  expect(statusOf(d.order(id))).toBe('PendingCancel');
  // Fifty fill on the way out: the rest goes anew.
  d.execute(id, 50, 10);
  d.settle();
  expect(d.order(id)).toMatchObject({ filled: 50, type: 'Market', qty: 200 });
  expect([...d.exchange.orders.values()].map((o) => [o.qty - o.filled, o.limit])).toEqual([
    [150, fromDollars(11.01)],
  ]);
  expect(d.find('stop').map(openOf)).toEqual([50]);
});

test('what has filled for good while it was called back is done, also when the exchange has thrown it out', () => {
  const d = desk({ slow: true });
  const id = d.enter('buy', 2);
  d.settle();
  d.step({ kind: 'intent', intent: retype(id, { qty: 1 }) });
  d.execute(id, 1, 10);
  d.settle();
  expect([statusOf(d.order(id)), d.live()]).toEqual(['Filled', []]);
});

test('a midpoint order becomes a lit one in one step', () => {
  const d = desk();
  const id = d.enter('buy', 200, null, { type: 'Pegged', limit: null, route: 'mid' });
  d.intent(retype(id, { limit: fromDollars(10.04) }));
  expect(d.refused).toBeNull();
  expect(d.order(id)).toMatchObject({ route: 'lit', type: 'Limit', limit: fromDollars(10.04) });
});

test('two that are joined across accounts: a fill of one is taken from the other, whichever account it is in', () => {
  const d = desk({ others: [{ id: CASH, rules: CASH_ACCOUNT, fees: [DEFAULT_FEES] }] });
  d.intent(pair(leg('buy', 100), leg('buy', 100, { account: CASH, limit: fromDollars(9.8) })));
  d.fill(1, 40, 9.9);
  expect(left(d)).toEqual([
    [1, 60],
    [2, 60],
  ]);
  d.fill(2, 60, 9.8);
  expect(left(d)).toEqual([]);
});

test('two that both cross the market do not both fill: the second goes once the first is known', () => {
  const d = desk({ slow: true, others: FIRST_ACCOUNTS.filter((a) => a.id === CASH) });
  d.intent(pair(leg('buy', 100), leg('buy', 100, { account: CASH })));
  expect(d.exchange.underway).toMatchObject([{ kind: 'new', account: MAIN }]);
  d.exchange.arrive(1);
  d.execute(1, 60);
  d.step({ kind: 'reports', reports: d.exchange.deliver(2) });
  expect(d.exchange.underway).toMatchObject([{ kind: 'new', account: CASH, qty: 40 }]);
});

test('a cash account pays for both of two that are joined: neither can overdraw it', () => {
  const d = desk({ rules: { kind: 'cash', startCash: money(15_000_000) } });
  d.intent(pair(leg('buy', 100), leg('buy', 100, { limit: fromDollars(9.8) })));
  expect(d.refused).toMatchObject({ code: 'buying power', shares: 51 });
  d.intent(pair(leg('buy', 70), leg('buy', 70, { limit: fromDollars(9.8) })));
  expect(d.refused).toBeNull();
});

import { desk, only, SYMBOL } from '../../../tests/model/desk.ts';
import { MAIN } from '../account/index.ts';
import { fromDollars, type OrderId, type Part } from '../units/index.ts';
import { type ExitPlan, eventText, holdingOf, openOf, openTrade, PLAIN_TERMS } from './index.ts';

const part = (num: number, den: number): Part => ({ kind: 'fraction', num, den });
const away = (units: number, p: Part | null = null, room?: number) => ({
  place: { kind: 'distance' as const, units },
  part: p,
  on: 'last' as const,
  ...(room === undefined ? {} : { room }),
});
const plan = (over: Partial<ExitPlan>): ExitPlan => ({
  stops: [away(3_000)],
  targets: [],
  breakeven: null,
  trail: null,
  extended: false,
  ...over,
});
const MOVE = { account: MAIN, symbol: SYMBOL } as const;

// By hand: a quarter 20 cents away and the rest 40: 1R is 0.25 × 20 + 0.75 × 40 = 35 cents a share, so 2R of an entry at 10.00 is 10.70.
test('R of several stops is their mean by shares', () => {
  const d = desk();
  d.fill(
    d.enter(
      'buy',
      100,
      plan({
        stops: [away(2_000, part(1, 4)), away(4_000)],
        targets: [{ place: { kind: 'R', r: 2 }, part: null }],
      }),
    ),
    100,
  );
  expect(only(d.find('target')).limit).toBe(fromDollars(10.7));
  expect(openTrade(holdingOf(d.broker, MAIN, SYMBOL))?.risk).toBe(35 * 100 * 100);
  // Exits without a stop measure no R.
  const bare = desk();
  const target = { place: { kind: 'distance' as const, units: 3_000 }, part: null };
  bare.fill(bare.enter('buy', 100, plan({ stops: [], targets: [target] })), 100);
  expect(openTrade(holdingOf(bare.broker, MAIN, SYMBOL))?.risk).toBeNull();
});

test('a trail that has begun goes on also below the gain that began it', () => {
  const d = desk();
  const trail = {
    reach: { kind: 'candle' as const, minutes: 1, beyond: 100 },
    after: { kind: 'distance' as const, units: 1_000 },
  };
  d.fill(d.enter('buy', 100, plan({ stops: [away(3_000)], trail })), 100);
  d.candles.set(1, { high: fromDollars(10.2), low: fromDollars(9.9) });
  d.price(10.1);
  expect(only(d.find('stop')).stop).toBe(fromDollars(9.89));
  // Neither a new best nor the gain: the candle alone moves it.
  d.candles.set(1, { high: fromDollars(10.15), low: fromDollars(10) });
  d.price(10.05);
  expect(only(d.find('stop')).stop).toBe(fromDollars(9.99));
});

test('a stop with room becomes a limit that gives way only so far, and its limit follows it', () => {
  const d = desk();
  d.fill(d.enter('buy', 100, plan({ stops: [away(3_000, null, 500)] })), 100);
  const stop = only(d.find('stop'));
  expect([stop.type, stop.stop, stop.limit]).toEqual(['StopLimit', fromDollars(9.7), fromDollars(9.65)]);
  d.move(stop.id, 9.8);
  expect([only(d.find('stop')).stop, only(d.find('stop')).limit]).toEqual([
    fromDollars(9.8),
    fromDollars(9.75),
  ]);
  d.price(9.79);
  expect([...d.exchange.orders.values()].map((o) => [o.side, o.limit])).toEqual([
    ['sell', fromDollars(9.75)],
  ]);
});

test('a stop that is extended goes on after the close, alone', () => {
  const d = desk();
  const stops = [{ ...away(3_000, part(1, 2)), extended: true as const }, away(3_000)];
  const targets = [{ place: { kind: 'R' as const, r: 1 }, part: part(1, 2) }];
  d.fill(d.enter('buy', 100, plan({ stops, targets })), 100);
  d.session('after hours');
  expect(d.find('stop').map((o) => o.phase.k)).toEqual(['armed', 'asleep']);
  expect(d.find('target').map((o) => o.phase.k)).toEqual(['asleep']);
});

test('a trail that waits for a target begins when all of it has filled', () => {
  const d = desk();
  const trailing = plan({
    targets: [{ place: { kind: 'R', r: 1 }, part: part(1, 2) }],
    trail: { reach: { kind: 'distance', units: 1_000 }, after: { kind: 'target', index: 0 } },
  });
  d.fill(d.enter('buy', 100, trailing), 100);
  d.price(10.25);
  expect(only(d.find('stop')).stop).toBe(fromDollars(9.7));
  const target = only(d.find('target'));
  d.fill(target.id, 49, 10.3);
  d.price(10.31);
  expect(only(d.find('stop')).stop).toBe(fromDollars(9.7));
  d.fill(target.id, 1, 10.3);
  d.price(10.4);
  expect(only(d.find('stop')).stop).toBe(fromDollars(10.3));
});

test('shares that are added join the newest scope; those of a plan of their own do not', () => {
  const d = desk();
  d.fill(d.enter('buy', 100, plan({})), 100);
  d.fill(d.enter('buy', 50, null, { joins: true }), 50);
  expect(openOf(only(d.find('stop')))).toBe(150);
  d.fill(d.enter('buy', 30, plan({ stops: [away(1_000)] })), 30);
  expect(d.find('stop').map(openOf).sort()).toEqual([150, 30]);
  d.fill(d.enter('buy', 20), 20);
  expect(d.find('stop').reduce((a, o) => a + openOf(o), 0)).toBe(180);
});

test('a size is the total with what has filled; exits follow their shares instead; a smaller one is one replace', () => {
  const d = desk();
  const entry = d.enter('buy', 300, plan({}));
  d.fill(entry, 100);
  const sent = d.step({ kind: 'intent', intent: { kind: 'resize', orderId: entry as OrderId, qty: 150 } });
  expect(sent).toMatchObject([{ kind: 'replace', qty: 150, limit: fromDollars(10) }]);
  expect(openOf(d.order(entry))).toBe(50);
  d.intent({ kind: 'resize', orderId: entry as OrderId, qty: 100 });
  expect(d.refused).toMatchObject({ code: 'nothing left', filled: 100 });
  d.intent({ kind: 'resize', orderId: only(d.find('stop')).id, qty: 10 });
  expect(d.refused).toMatchObject({ code: 'plan size' });
});

test('cancel of a symbol that keeps the stops takes entries, closes and targets, and nothing is bare', () => {
  const d = desk();
  d.fill(d.enter('buy', 100, plan({ targets: [{ place: { kind: 'R', r: 1 }, part: null }] })), 100);
  d.enter('buy', 50, null, { limit: fromDollars(9.5) });
  d.close(30, { limit: fromDollars(11) });
  d.intent({ kind: 'cancel', what: { kind: 'symbol', ...MOVE, keepStops: true } });
  expect(d.live().map((o) => [o.role, openOf(o)])).toEqual([['stop', 100]]);
});

test('what turns a position waits for a flatten on a slow line, and ends where that comes to nothing', () => {
  const turn = (d: ReturnType<typeof desk>) => {
    d.intent({ kind: 'flatten', ...MOVE, limit: null });
    return d.intent({
      kind: 'entry',
      ...MOVE,
      ...PLAIN_TERMS,
      side: 'sell',
      type: 'Market',
      qty: 100,
      limit: null,
      stop: null,
      extended: false,
      plan: plan({}),
      afterFlat: true,
      sentence: '',
    });
  };
  const d = desk({ slow: true });
  const bought = d.enter('buy', 100, plan({}));
  d.settle();
  d.fill(bought, 100);
  d.settle();
  turn(d);
  expect(d.live().filter((o) => o.role === 'entry')).toMatchObject([
    { afterFlat: true, phase: { k: 'asleep' } },
  ]);
  d.settle();
  const flat = only(d.find('close'));
  d.fill(flat.id, 100);
  d.settle();
  const entry = only(d.live().filter((o) => o.role === 'entry'));
  d.fill(entry.id, 100, 10);
  d.settle();
  expect(openTrade(holdingOf(d.broker, MAIN, SYMBOL))).toMatchObject({ sign: -1, entered: 100 });
  expect(only(d.find('stop'))).toMatchObject({ side: 'buy', stop: fromDollars(10.3) });

  const e = desk({ slow: true });
  const again = e.enter('buy', 100, plan({}));
  e.settle();
  e.fill(again, 100);
  e.settle();
  turn(e);
  e.settle();
  e.cancel(only(e.find('close')).id);
  e.settle();
  expect(e.events.map(eventText).join()).toContain('the position did not become flat');
  expect(e.live().map((o) => [o.role, o.side, openOf(o)])).toEqual([['stop', 'sell', 100]]);
});

test('what is to be out by a time and finds nobody is told once, does not go round in circles, and is tried again', () => {
  const d = desk();
  d.fill(d.enter('buy', 100, plan({ outBy: d.context().now + 50 })), 100);
  d.exchange.rude.reject = 1_000_000;
  d.step({ kind: 'clock' });
  d.step({ kind: 'clock' });
  d.step({ kind: 'clock' });
  const told = () => d.events.filter((e) => e.kind === 'not out').map(eventText);
  expect(told()).toEqual([
    '100 VULPN should be out by now and are still held: the exchange refuses the order. It is tried again with the next session. To get out: flatten',
  ]);
  for (const p of [9.9, 9.8]) d.price(p);
  expect([d.find('close'), told().length, openOf(only(d.find('stop')))]).toEqual([[], 1, 100]);
  d.exchange.rude.reject = 0;
  d.session('after hours');
  d.session('closed');
  d.session('pre-market', true);
  expect(d.find('close').map(openOf)).toEqual([100]);
});

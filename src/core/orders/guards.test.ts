import { desk, only } from '../../../tests/model/desk.ts';
import { exposed } from '../../../tests/model/plans.ts';
import { MAIN } from '../account/index.ts';
import { fromDollars, money, type WireId } from '../units/index.ts';
import { accountNow, type ExitPlan, eventText, openRisk, refusalText } from './index.ts';

const dollars = (n: number) => money(n * 10_000);
const stop = (away: number): ExitPlan => ({
  stops: [{ place: { kind: 'distance', units: fromDollars(away) }, part: null, on: 'last' }],
  targets: [],
  breakeven: null,
  trail: null,
  extended: false,
});
const why = (d: ReturnType<typeof desk>) => d.refused && refusalText(d.refused);

test('the daily loss locks new risk once it is touched, ends what would open some, lets out, and ends with the day', () => {
  const d = desk({ guards: { dailyLoss: dollars(100) } });
  d.fill(d.enter('buy', 200, stop(2)), 200, 10);
  const resting = d.enter('buy', 100, null, { limit: fromDollars(9) });
  d.price(9.52);
  d.enter('buy', 10);
  expect(d.refused).toBeNull();
  d.price(9.48);
  expect(d.order(resting).phase.k).toBe('ended');
  expect(d.events.filter((x) => x.kind === 'locked')).toHaveLength(1);
  expect(d.events.map(eventText).join()).toContain('no new risk until the next day');
  d.enter('buy', 10);
  expect(why(d)).toMatch(/The day has lost \$10\d\.\d\d and its limit is \$100\.00: no new risk/);
  d.price(9.3);
  expect(d.events.filter((x) => x.kind === 'locked')).toHaveLength(1);
  // It stays locked when the price comes back, and closing works.
  d.price(10.5);
  d.enter('buy', 10);
  expect(d.refused?.code).toBe('locked');
  d.flatten();
  d.fill(only(d.find('close')).id, 200, 10.5);
  expect(d.position).toBe(0);
  d.session('closed');
  d.session('pre-market', true);
  d.session('regular');
  d.enter('buy', 10);
  expect(d.refused).toBeNull();
  expect(d.broker.accounts[MAIN]?.day).toMatchObject({ day: 1 });
});

test('open risk, size in shares and in money say what would pass, and what is held and works counts', () => {
  const d = desk({ guards: { openRisk: dollars(100), mostShares: 400, mostMoney: dollars(3_500) } });
  d.fill(d.enter('buy', 200, stop(0.3)), 200, 10);
  d.enter('buy', 140, stop(0.3));
  expect(d.refused).toMatchObject({ code: 'open risk', would: dollars(102), shares: 133 });
  d.enter('buy', 10);
  expect(why(d)).toContain('this has no stop');
  d.enter('buy', 201, stop(0.1));
  expect(d.refused).toMatchObject({ code: 'most shares', room: 200 });
  d.enter('buy', 151, stop(0.1));
  expect(d.refused).toMatchObject({ code: 'most money', would: dollars(3_510), shares: 150 });
  d.enter('buy', 150, stop(0.1));
  expect(d.refused).toBeNull();
  d.enter('buy', 1, stop(0.1));
  expect(d.refused).toMatchObject({ code: 'most money', shares: 0 });
});

test('open risk is what the stops lose where they stand; shares that join are measured by the stop that they come under', () => {
  const d = desk({ guards: { openRisk: dollars(100) } });
  d.fill(d.enter('buy', 200, stop(0.3)), 200, 10);
  expect(openRisk(d.broker, MAIN, d.context())).toBe(dollars(60));
  // By hand: 40 dollars are left, and a share at 10.10 loses 40 cents to the stop at 9.70.
  d.enter('buy', 101, null, { joins: true, limit: fromDollars(10.1) });
  expect(d.refused).toMatchObject({ code: 'open risk', perShare: 4_000, shares: 100 });
  d.move(only(d.find('stop')).id, 9.9);
  expect(openRisk(d.broker, MAIN, d.context())).toBe(dollars(20));
  d.enter('buy', 267, stop(0.3));
  expect(d.refused).toMatchObject({ code: 'open risk', shares: 266 });
  // At a profit nothing is lost any more.
  d.price(10.4);
  d.move(only(d.find('stop')).id, 10.05);
  expect(openRisk(d.broker, MAIN, d.context())).toBe(0);
  const joins = d.enter('buy', 100, null, { joins: true, limit: fromDollars(10.2) });
  expect([d.refused, openRisk(d.broker, MAIN, d.context())]).toEqual([null, dollars(15)]);
  // The average is 10.0667 now, and the stop at 10.05 loses 1.67 cents on each of 300.
  d.fill(joins, 100, 10.2);
  expect(openRisk(d.broker, MAIN, d.context())).toBe(dollars(5));
});

test('an order that is moved or asked again counts once', () => {
  const d = desk({ guards: { mostShares: 400, mostMoney: dollars(4_000) } });
  const resting = d.enter('buy', 400, null, { limit: fromDollars(9.9) });
  d.move(resting, 9.95);
  expect([d.refused, d.order(resting).limit]).toEqual([null, fromDollars(9.95)]);
});

test('the same order within a second, and too many of them, are refused; a close is not, nor what went by itself', () => {
  const d = desk({ guards: { duplicates: true, ordersPerSecond: 3 } });
  d.enter('buy', 100);
  d.enter('buy', 100);
  expect(d.refused).toMatchObject({ code: 'duplicate' });
  d.enter('buy', 100, null, { byItself: true });
  expect(d.refused).toBeNull();
  d.enter('buy', 101);
  d.enter('buy', 102);
  expect(d.refused).toEqual({ code: 'too many orders', most: 3 });
  d.fill(only(d.live().filter((o) => o.qty === 101)).id, 101, 10);
  d.close(10);
  d.close(10);
  expect(d.refused).toBeNull();
});

test('the fill that closes a trade counts for the daily loss at once: what is sent in the same breath is refused', () => {
  const d = desk({ guards: { dailyLoss: dollars(100) } });
  d.fill(d.enter('buy', 200, stop(2)), 200, 10);
  const resting = d.enter('buy', 50, null, { limit: fromDollars(9) });
  d.fill(d.close(200, { limit: fromDollars(9.4) }), 200, 9.4);
  d.enter('buy', 10);
  expect([d.refused?.code, d.order(resting).phase.k]).toEqual(['locked', 'ended']);
});

test('a symbol is blocked, for one side or both; a loosened guard waits for the next day', () => {
  const d = desk({ guards: { blocked: [{ symbol: 'VULPN', side: 'short' }] } });
  d.enter('sell', 100, null, { limit: fromDollars(10.1) });
  expect(why(d)).toBe('VULPN is blocked for selling short in Setup. Closing works.');
  d.enter('buy', 100);
  expect(d.refused).toBeNull();
  const account = d.broker.accounts[MAIN];
  if (!account) throw new Error('there is an account');
  const rules = { ...account.rules, guards: { ...account.rules.guards, blocked: [], mostShares: 50 } };
  d.step({ kind: 'account', id: MAIN, rules, fees: account.fees });
  d.enter('sell', 40, null, { symbol: 'VULPN', limit: fromDollars(10.1) });
  expect(d.refused?.code).toBe('entry against');
  expect(d.broker.accounts[MAIN]?.rules.guards).toMatchObject({
    mostShares: 50,
    blocked: [{ symbol: 'VULPN' }],
  });
  // What else is chosen meanwhile is not undone by the rules that waited.
  d.step({ kind: 'risk unit', account: MAIN, units: dollars(25) });
  d.session('pre-market', true);
  expect(d.broker.accounts[MAIN]?.rules.guards).toMatchObject({ mostShares: 50, blocked: [] });
  expect(d.broker.accounts[MAIN]?.rules.riskUnit).toBe(dollars(25));
});

test('what is hard to borrow is located first: asked, paid, good for the day and for so many shares', () => {
  const d = desk();
  d.set({ borrow: 'hard' });
  const short = (qty: number) => d.enter('sell', qty, stop(0.3), { limit: fromDollars(10.1) });
  short(200);
  expect(d.refused).toMatchObject({ code: 'needs locate', wants: 200, located: 0 });
  const before = d.broker.accounts[MAIN]?.ledger.cash ?? 0;
  d.intent({ kind: 'locate', account: MAIN, symbol: 'VULPN', shares: 300 });
  // A cent a share, by the table of the test.
  expect((d.broker.accounts[MAIN]?.ledger.cash ?? 0) - before).toBe(-dollars(3));
  const first = short(200);
  short(101);
  expect(d.refused).toMatchObject({ code: 'needs locate', wants: 1, located: 300 });
  d.fill(first, 200, 10.1);
  short(100);
  expect(d.refused).toBeNull();
  d.intent({ kind: 'locate', account: MAIN, symbol: 'VULPN', shares: 701 });
  expect(d.refused).toMatchObject({ code: 'locate size', available: 700 });
  d.flatten();
  d.fill(only(d.find('close')).id, 200, 10);
  d.session('pre-market', true);
  d.session('regular');
  short(100);
  expect(d.refused).toMatchObject({ code: 'needs locate', located: 0 });
  d.set({ borrow: 'easy' });
  d.intent({ kind: 'locate', account: MAIN, symbol: 'VULPN', shares: 10 });
  expect(why(d)).toContain('needs no locate');
});

test('a cash account has nothing located: it sells nothing short, so it pays no fee for it', () => {
  const d = desk({ rules: { kind: 'cash' } });
  d.set({ borrow: 'hard' });
  d.intent({ kind: 'locate', account: MAIN, symbol: 'VULPN', shares: 100 });
  expect(d.refused).toMatchObject({ code: 'no shorts' });
  expect(d.broker.accounts[MAIN]?.ledger.cash).toBe(0);
});

test('a stop that is touched while a flatten holds every share stays where it is, and is there for what the flatten leaves', () => {
  const d = desk({ slow: true });
  d.enter('buy', 100, stop(0.3));
  d.settle();
  d.execute(1, 100);
  d.settle();
  d.flatten();
  expect(d.price(9.6)).toEqual([]);
  expect(only(d.find('stop')).phase.k).toBe('armed');
  expect(d.events.some((e) => e.kind === 'triggered')).toBe(false);
  d.exchange.arrive(1);
  d.exchange.throwOut(d.exchange.orders.keys().next().value as WireId);
  d.settle();
  d.price(9.6);
  d.settle();
  expect([only(d.find('stop')).phase.k, exposed(d)]).toEqual(['working', 100]);
});

test('a cash account sells nothing short and spends settled cash only', () => {
  const d = desk({ rules: { kind: 'cash', startCash: dollars(2_000) } });
  d.enter('sell', 10, null, { limit: fromDollars(10.1) });
  expect(why(d)).toContain('is a cash account: it sells nothing short');
  d.fill(d.enter('buy', 100), 100, 10);
  d.fill(d.close(100), 100, 10.05);
  d.enter('buy', 101);
  expect(d.refused).toMatchObject({ code: 'buying power', shares: 99 });
  d.session('closed');
  d.session('pre-market', true);
  d.session('regular');
  d.enter('buy', 200);
  expect(d.refused).toBeNull();
});

test('settled cash is never overdrawn: costs are set aside, and what an order without a limit may pay at most', () => {
  const settled = (d: ReturnType<typeof desk>) =>
    accountNow(d.broker, MAIN, () => fromDollars(10)).cash.settled;
  const d = desk({ rules: { kind: 'cash', startCash: dollars(1_000) } });
  // 99 at 10.00 and a dollar of commission fit; 100 do not.
  d.enter('buy', 100);
  expect(d.refused).toMatchObject({ code: 'buying power', needs: dollars(1_001), shares: 99 });
  d.fill(d.enter('buy', 99), 99, 10);
  expect(settled(d)).toBe(dollars(9));

  // What is being taken back may still fill: until the exchange has let it go it counts.
  const slow = desk({ slow: true, rules: { kind: 'cash', startCash: dollars(1_000) } });
  const first = slow.enter('buy', 99);
  slow.settle();
  slow.cancel(first);
  slow.enter('buy', 99);
  expect(slow.refused).toMatchObject({ code: 'buying power', shares: 0 });
  slow.settle();
  slow.enter('buy', 99);
  expect(slow.refused).toBeNull();

  // At market up to 11.01, 10 % through the ask at 10.01: 90 and a dollar are 991.90.
  const market = desk({ rules: { kind: 'cash', startCash: dollars(1_000) } });
  market.enter('buy', 91, null, { type: 'Market', limit: null });
  expect(market.refused).toMatchObject({ code: 'buying power', shares: 90 });
  expect(why(market)).toContain('at 11.01, the most that it may pay');
  market.fill(market.enter('buy', 90, null, { type: 'Market', limit: null }), 90, 11.01);
  expect(settled(market)).toBe(dollars(1_000) - dollars(990) - 9_000 - dollars(1));
});

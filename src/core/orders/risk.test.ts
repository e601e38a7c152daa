// R of a trade: what its entries risked, whatever is done with its exits later (the rule of the house; sums by hand).
import { desk, only, SYMBOL } from '../../../tests/model/desk.ts';
import { bare, half, plan, stopAt, stopAway, target } from '../../../tests/model/plans.ts';
import { DEFAULT_FEES, MAIN, totalOf } from '../account/index.ts';
import { fromDollars } from '../units/index.ts';
import { atTheStop, holdingOf, netNow, openTrade, type Trade } from './index.ts';

type Desk = ReturnType<typeof desk>;
const dollars = (d: Desk) => {
  const risk = openTrade(holdingOf(d.broker, MAIN, SYMBOL))?.risk;
  return risk == null ? null : risk / 10_000;
};

test('adds add: two lots that risk $60 each risk $120, with a plan of their own or under the stop that is there', () => {
  const d = desk();
  d.fill(d.enter('buy', 200, plan(bare)), 200);
  expect(dollars(d)).toBe(60);
  d.fill(d.enter('buy', 200, plan(bare)), 200);
  expect(dollars(d)).toBe(120);
  // Under the newest stop, which follows the average of its shares, 9.9333, to 9.63: bought at 9.80, 17 cents each.
  d.fill(d.enter('buy', 100, null, { joins: true, limit: fromDollars(9.8) }), 100, 9.8);
  expect(dollars(d)).toBe(137);
});

test('attaching, parting, replacing and moving exits changes nothing; a stop on the side of profit never is an R', () => {
  const d = desk();
  d.fill(d.enter('buy', 200, plan()), 200);
  d.price(10.4);
  for (const stop of [stopAt(10.2), stopAt(9.5)]) {
    d.attach('all', plan({ stops: [stop], targets: [target(10.9)], breakeven: null }));
    expect(dollars(d)).toBe(60);
  }
  d.attach({ shares: 100 }, plan({ ...bare, stops: [stopAt(9.9)] }));
  d.attach({ shares: 50 }, plan({ ...bare, stops: [stopAt(10.1)] }));
  for (const o of d.find('stop')) d.move(o.id, 10.3);
  d.fill(d.close(80, { limit: fromDollars(10.4) }), 80, 10.4);
  expect(dollars(d)).toBe(60);
});

test('it is so far while an entry fills, moves with a stop by hand until then, and is settled when the entry has ended', () => {
  const d = desk();
  const entry = d.enter('buy', 200, plan(bare));
  d.fill(entry, 100);
  expect(dollars(d)).toBe(30);
  d.move(only(d.find('stop')).id, 9.8);
  d.fill(entry, 60, 10);
  expect(dollars(d)).toBe(32);
  d.cancel(entry);
  d.move(only(d.find('stop')).id, 9.6);
  expect(dollars(d)).toBe(32);
});

test('a trail counts where it starts; a breakeven while the entry fills takes nothing away', () => {
  const trail = { reach: { kind: 'distance' as const, units: 2_500 }, after: null };
  const d = desk();
  d.fill(d.enter('buy', 100, plan({ stops: [], targets: [], breakeven: null, trail })), 100);
  d.price(10.6);
  expect(dollars(d)).toBe(25);
  const even = desk();
  const entry = even.enter('buy', 200, plan({ targets: [] }), { limit: fromDollars(10.1) });
  even.fill(entry, 100, 10);
  even.price(10.4);
  even.fill(entry, 100, 10);
  expect(dollars(even)).toBe(60);
});

test('a part without a stop counts nothing; without any the first one on the losing side sets it, and stays it', () => {
  const part = desk();
  part.fill(part.enter('buy', 200, plan({ ...bare, stops: [stopAway(3_000, half)] })), 200);
  expect(dollars(part)).toBe(30);
  const d = desk();
  d.fill(d.enter('buy', 200), 200);
  d.price(10.5);
  d.attach('all', plan({ ...bare, stops: [stopAt(10.2)] }));
  expect(dollars(d)).toBeNull();
  d.move(only(d.find('stop')).id, 9.9);
  expect(dollars(d)).toBe(20);
  d.move(only(d.find('stop')).id, 9.5);
  expect(dollars(d)).toBe(20);
});

test('1R as a target of exits put on what is held is the R of the trade', () => {
  const d = desk();
  d.fill(d.enter('buy', 200, plan(bare)), 200);
  const two = { place: { kind: 'R' as const, r: 2 }, part: null };
  d.attach('all', plan({ stops: [stopAt(9.9)], targets: [two], breakeven: null }));
  expect(only(d.find('target')).limit).toBe(fromDollars(10.6));
});

// By hand, with half a cent a share and at least a dollar: 200 in cost $1.00, each of two stops of 100 $1.00.
test('at the stop is what the whole trade then comes to, net, with each order at its minimum; and so the engine books it', () => {
  const d = desk();
  d.fill(d.enter('buy', 200, plan({ ...bare, stops: [stopAway(2_000, half), stopAway(4_000, half)] })), 200);
  const t = () => openTrade(holdingOf(d.broker, MAIN, SYMBOL)) as Trade;
  const fees = d.broker.accounts[MAIN]?.fees[0] ?? DEFAULT_FEES;
  const said = atTheStop(t(), d.live(), fees);
  expect(said).toEqual({ net: -630_000, r: -630_000 / 600_000 });
  expect(netNow(t(), 101_000)).toBe(190_000);
  const [first, second] = d.find('stop').map((o): number => o.id) as [number, number];
  d.price(9.8);
  d.fill(first, 100, 9.8);
  expect(atTheStop(t(), d.live(), fees)).toEqual(said);
  d.price(9.6);
  d.fill(second, 100, 9.6);
  const over = d.trade(1) as Trade;
  expect(over.exitNotional - over.entryNotional - totalOf(over.costs)).toBe(said?.net);
});

// By hand: the lender takes 1c a share for 100, $1.00; 100 sold short and bought back cost $1.00 each.
test('what a locate cost belongs to the trade that sells the shares short, before it or while it is open', () => {
  const d = desk();
  d.set({ borrow: 'hard' });
  const locate = (shares: number) => d.intent({ kind: 'locate', account: MAIN, symbol: SYMBOL, shares });
  locate(100);
  const fee = d.context().locate(SYMBOL).perShare * 100;
  const account = () => d.broker.accounts[MAIN];
  expect(account()?.closed.costs).toBe(fee);
  d.fill(d.enter('sell', 100, plan({ targets: [] })), 100);
  const t = () => openTrade(holdingOf(d.broker, MAIN, SYMBOL)) as Trade;
  expect([t().costs.borrow, account()?.closed.costs]).toEqual([fee, 0]);
  locate(50);
  expect(t().costs.borrow).toBe(fee * 1.5);
  d.flatten();
  d.fill(only(d.find('close')).id, 100, 9.8);
  const over = d.trade(1) as Trade;
  expect(over.entryNotional - over.exitNotional - totalOf(over.costs)).toBe(account()?.ledger.cash);
});

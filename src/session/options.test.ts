import { rootOf } from '../core/instruments/index.ts';
import { everything, isLive, openTrade } from '../core/orders/index.ts';
import { at, moneyFromDollars } from '../core/units/index.ts';
import { chainSlice } from '../worker/session/chain.ts';
import type { DaySource } from './day-ref.ts';
import { account, advance, apply, createEngine, dayEnd, type Engine } from './engine.ts';
import { peek } from './peek.ts';
import { restore, save } from './saving.ts';
import { simMarket } from './sim-market.ts';

const DAY: DaySource = { ref: { kind: 'practice', id: 'fresh-headlines', seed: 7, size: 24 }, own: null };
const opened = createEngine(simMarket(DAY));
advance(opened, at(9, 45));
const kept = structuredClone(save(opened));

function begun(): Engine {
  const saved = structuredClone(kept);
  return restore(saved, simMarket(DAY, saved.market), [], null);
}
const run = (e: Engine, text: string) => apply(e, { kind: 'run', text, focus: 'VULPN' }).result;
/** Presses, and answers what is asked with yes. */
const yes = (e: Engine, text: string) => {
  const asks = peek(e, text, 'VULPN').lines.flatMap((l) => l.asks);
  expect(asks).not.toEqual([]);
  const { result } = apply(e, { kind: 'run', text, focus: 'VULPN', yes: asks });
  expect([text, result.problem]).toEqual([text, null]);
  return result;
};
const done = (e: Engine, text: string) => {
  const result = run(e, text);
  expect([text, result.problem]).toEqual([text, null]);
  return result;
};
const held = (e: Engine) =>
  Object.fromEntries(
    Object.values(e.state.broker.holdings).flatMap((h) => {
      const t = openTrade(h);
      return t ? [[h.symbol, t.sign * (t.entered - t.exited)]] : [];
    }),
  );
/** Equity but for what is held: what expires or trades is neither lost nor made from nothing. */
const equity = (e: Engine) => account(e).equity;
const nextDay = (e: Engine) => {
  advance(e, dayEnd(e));
  apply(e, { kind: 'next day' });
};

test('days and deltas become a contract, which the say-back names; bare sizes are contracts; what cannot be is said', () => {
  const e = begun();
  expect(done(e, 'buy 2 of 45 days 30 delta call at ask').done[0]).toMatch(
    /^buy 2 of VULPN 2027-04-16 \d+ call at \d+\.\d\d$/,
  );
  expect(done(e, 'buy 1 contract of 2027-03-19 5 put at ask').done[0]).toMatch(
    /^buy 1 of VULPN 2027-03-19 5 put at/,
  );
  const no = (text: string) => run(e, text).problem;
  expect(no('buy 1 of 2027-03-18 5 call at ask')).toContain('no options that expire on 2027-03-18');
  expect(no('buy 1 of 2027-03-19 5.30 call at ask')).toContain('no strike of 5.3');
  expect(no('buy 2 contracts at ask')).toContain('is a stock');
  expect(no('short 1 of 10 days 30 delta call at bid')).toContain('without cover');
  expect(no('buy 1 of 2027-03-19 5 call above 3.00')).toContain('stop without a limit');
  expect(no('buy 1 of 2027-03-19 5 call at ask extended')).toContain('09:30 to 16:00');
  expect(no('buy 1 of BRYXT 45 days 30 delta call at ask')).toContain('BRYXT has no listed options');
  expect(no('short 1 vertical of 10 days 30 delta 1 wide put at mid')).toContain('it is a credit');
  expect(no('short 1 vertical of 10 days 30 delta 1 wide put at mid debit')).toContain('only be a credit');
  expect(no('close all of 45 days 30 delta 1 wide call at ask')).toContain(
    'No call verticals of VULPN are held',
  );
  expect(no('buy 1 of 2027-03-19 2 call at ask')).toContain('more than 25 %');
});

test('what an option costs is its price times a hundred, a contract’s fees, and as much power as it can lose', () => {
  const e = begun();
  const before = account(e);
  const { qty, notional, costs } = (() => {
    done(e, 'buy 2 of 2027-03-19 5 call at ask');
    const [o] = everything(e.state.broker).orders;
    return { qty: o?.filled ?? 0, notional: o?.notional ?? 0, costs: o?.costs };
  })();
  expect(qty).toBe(2);
  expect(costs?.commission).toBe(2 * 6_500);
  const ledger = e.state.broker.accounts.main?.ledger.cash ?? 0;
  const fees = (costs?.commission ?? 0) + (costs?.venue ?? 0) + (costs?.sec ?? 0) + (costs?.taf ?? 0);
  expect(ledger).toBe(-(notional * 100) - fees);
  // Nothing is lent on it: power goes by four times what was paid, and what the spread took of it.
  const used = before.buyingPower - account(e).buyingPower;
  expect(Math.abs(used - 4 * (notional * 100 + fees))).toBeLessThan(50);
  const [t] = everything(e.state.broker).trades;
  expect(t?.risk).toBe(notional * 100);
});

test('open risk counts what options without a stop can lose, held and working', () => {
  const e = begun();
  const main = e.state.broker.accounts.main;
  if (!main) throw new Error('no account');
  const rules = { ...main.rules, guards: { ...main.rules.guards, openRisk: moneyFromDollars(500) } };
  apply(e, { kind: 'account', id: main.id, rules, fees: main.fees });
  nextDay(e);
  advance(e, e.market.dayStart + at(9, 45));
  done(e, 'buy 1 of 45 days at the money call at ask');
  const each = (everything(e.state.broker).orders[0]?.notional ?? 0) * 100;
  // So many pass alone, and not beside the one that is held.
  const alone = Math.floor(moneyFromDollars(500) / each);
  expect(run(e, `buy ${alone} of 45 days at the money call at ask`).problem).toMatch(/Guard on open risk/);
  done(e, `buy ${alone - 2} of 45 days at the money call at ask`);
});

// Both legs by hand: what is bought less what is sold, times a hundred.
test('what a vertical comes to in delta and theta is its long leg less its short one', () => {
  const e = begun();
  done(e, 'short 2 verticals of 10 days 30 delta 1 wide put at bid credit');
  const [name] = Object.keys(held(e));
  const [, expiry, short, long] = /^VULPN (\S+) (\S+)\/(\S+) put$/.exec(
    name as string,
  ) as unknown as string[];
  const slice = chainSlice(e, 'VULPN', expiry as string);
  const put = (strike: string) =>
    slice?.rows.find((r) => r.strike === Math.round(Number(strike) * 10_000))?.put;
  const of = (what: 'delta' | 'theta') =>
    200 * ((put(long as string)?.[what] ?? 0) - (put(short as string)?.[what] ?? 0));
  expect(slice?.mine.delta).toBeCloseTo(of('delta'), -1);
  expect(slice?.mine.theta).toBeCloseTo(of('theta'), 0);
  expect(slice?.mine.delta).toBeGreaterThan(5);
  expect(slice?.mine.theta).toBeGreaterThan(0.3);
});

test('a vertical is one instrument at one net price; its other side is the same one sold', () => {
  const e = begun();
  done(e, 'short 2 verticals of 10 days 30 delta 1 wide put at bid credit');
  const [name] = Object.keys(held(e));
  expect(name).toMatch(/^VULPN 2027-03-19 \d\/\d put$/);
  expect(held(e)).toEqual({ [name as string]: -2 });
  const [, strikes] = /19 (\d\/\d) put/.exec(name as string) as unknown as [string, string];
  const [dear, cheap] = strikes.split('/') as [string, string];
  const credit = everything(e.state.broker).orders[0]?.notional ?? 0;
  // Two verticals are four contracts.
  expect(everything(e.state.broker).orders[0]?.costs.commission).toBe(4 * 6_500);
  const width = (Number(dear) - Number(cheap)) * 10_000;
  expect(everything(e.state.broker).trades[0]?.risk).toBe((width * 2 - credit) * 100);
  // Bought with its cheaper strike first it is sold: as much more of the same.
  done(e, `buy 1 of 2027-03-19 ${cheap}/${dear} put at bid credit`);
  expect(held(e)[name as string]).toBe(-3);
  done(e, 'close 1 of 10 days 30 delta 1 wide put at ask');
  expect(held(e)[name as string]).toBe(-2);
});

test('the underlying decides: a three-minute close buys a call, sold at the underlying’s price or at a gain; whichever comes first ends the other', () => {
  const bought = (exit: string, gain: string) => {
    const e = begun();
    done(
      e,
      `when 3m close > 1: buy 2 of 45 days at the money call at ask + 5c\n  target ${gain}\n  once filled when ${exit} until cancelled: close all at bid - 5c`,
    );
    expect(held(e)).toEqual({});
    advance(e, at(9, 48, 1));
    const name = everything(e.state.broker).orders[0]?.symbol as string;
    expect(rootOf(name)).toBe('VULPN');
    return { e, name };
  };
  // The price of the underlying comes first: it is there already, and its order is the only one left.
  const first = bought('last <= 900.00', '80%');
  advance(first.e, at(9, 50));
  expect(held(first.e)).toEqual({});
  expect(everything(first.e.state.broker).orders.filter(isLive)).toEqual([]);
  // The gain comes first: the condition ends with the trade.
  const second = bought('last <= 0.50', '1%');
  expect(second.e.state.desk.waiting).toMatchObject([{ symbol: second.name }]);
  while (held(second.e)[second.name] !== undefined && second.e.market.date < '2027-03-16') nextDay(second.e);
  expect(held(second.e)).toEqual({});
  expect(second.e.state.desk.waiting).toEqual([]);
  expect(second.e.state.desk.waited.map((w) => [w.how, w.seen])).toContainEqual([
    'over',
    'its trade is closed',
  ]);
});

test('what hangs on an order waits once, however many fills that has', () => {
  const e = begun();
  done(e, 'buy 3000 at ask\n  once filled when last >= 99.00 until cancelled: close all at bid');
  advance(e, at(9, 50));
  const [order] = everything(e.state.broker).orders;
  expect(everything(e.state.broker).fills.filter((f) => f.orderId === order?.id).length).toBeGreaterThan(1);
  expect(e.state.desk.waiting).toHaveLength(1);
});

test('a session with options is brought back from its log, the same to the last fill', () => {
  const e = begun();
  const log = [
    ...apply(e, { kind: 'run', text: 'buy 3 of 45 days 40 delta put at mid gtc', focus: 'VULPN' }).entries,
    ...apply(e, {
      kind: 'run',
      text: 'short 1 vertical of 10 days 30 delta 1 wide call at mid credit gtc\n  once filled: close all at half the credit gtc',
      focus: 'VULPN',
    }).entries,
    ...apply(e, {
      kind: 'run',
      text: 'buy 1 of 10 days at the money call at ask\n  stop 30%\n  target 30%',
      focus: 'VULPN',
    }).entries,
    ...advance(e, at(11)),
    ...apply(e, { kind: 'run', text: 'close half of 45 days 40 delta put at mid', focus: 'VULPN' }).entries,
    ...advance(e, at(12)),
  ];
  const saved = structuredClone(kept);
  const again = restore(saved, simMarket(DAY, saved.market), log, at(12));
  expect(again.state.broker).toEqual(e.state.broker);
  expect(again.market.save()).toEqual(e.market.save());
});

test('the furthest for and against counts every quote that closing could have had, also between two minutes', () => {
  const e = begun();
  done(e, 'buy 1 of 2027-03-19 5 call at ask');
  done(e, 'buy 1 of 2027-03-19 6/5 put at ask debit');
  const seen: Record<string, [number, number]> = {};
  for (let t: number = at(9, 45); t <= at(9, 58); t += 50) {
    advance(e, t);
    for (const name of Object.keys(held(e))) {
      const bid = e.market.quote(name).bid ?? 100;
      const [low, high] = seen[name] ?? [bid, bid];
      seen[name] = [Math.min(low, bid), Math.max(high, bid)];
    }
  }
  const told = Object.values(e.state.broker.holdings).flatMap((h) => h.trades);
  expect(told.map((t) => t.symbol).sort()).toEqual(Object.keys(seen).sort());
  for (const t of told) {
    const [low, high] = seen[t.symbol] as [number, number];
    // What was paid for it counts as well.
    expect([t.symbol, (t.best as number) >= high, (t.worst as number) <= low]).toEqual([
      t.symbol,
      true,
      true,
    ]);
    expect(t.worst).toBe(low);
  }
});

test('on its last evening an option is worth what it is in the money; shares change hands at the strike', () => {
  const e = begun();
  done(e, 'buy 2 of 2027-03-19 5 call at ask');
  done(e, 'buy 1 of 2027-03-19 6/5 put at ask debit');
  done(e, 'short 1 of 2027-03-19 5 put at bid');
  while (e.market.date < '2027-03-19') nextDay(e);
  advance(e, e.market.dayStart + at(15, 59, 59));
  const before = equity(e);
  const position = held(e);
  expect(Object.keys(position)).toHaveLength(3);
  advance(e, e.market.dayStart + at(16, 1));
  const spot = e.market.last('VULPN') as number;
  const calls = spot > 50_000 ? 200 : 0;
  // The 6 put gives shares, the 5 put of the vertical and the one that was sold take some.
  const puts = (spot < 60_000 ? -100 : 0) + (spot < 50_000 ? 200 : 0);
  expect(held(e)).toEqual(calls + puts === 0 ? {} : { VULPN: calls + puts });
  // What the closing auction and the spread made of it in the last second, and nothing else.
  expect(Math.abs(equity(e) - before)).toBeLessThan(0.12 * spot * 200);
  const cash = e.state.broker.accounts.main?.ledger.cash ?? 0;
  expect(cash).toBe(
    everything(e.state.broker).orders.reduce(
      (a, o) =>
        a -
        (o.side === 'buy' ? 1 : -1) * o.notional * (o.symbol.includes(' ') ? 100 : 1) -
        o.costs.commission -
        o.costs.venue -
        o.costs.sec -
        o.costs.taf,
      0,
    ),
  );
});

test('what was sold is bought back at a part of its credit; the underlying can be spoken of', () => {
  const e = begun();
  done(
    e,
    'short 1 vertical of 38 days 40 delta 1 wide put at bid credit\n  once filled: close all at 30% of the credit gtc',
  );
  const [sold, back] = everything(e.state.broker).orders;
  expect(back?.limit).toBe(Math.floor(((sold?.notional ?? 0) * 0.3) / 100) * 100);
  const spot = e.market.last('VULPN') as number;
  const [said] = done(e, 'buy 1 of 38 days at the money put at last of underlying - 5.70').done;
  const limit = Number(/at (\d+\.\d\d)/.exec(said as string)?.[1]);
  expect(Math.abs(limit - (spot / 10_000 - 5.7))).toBeLessThan(0.051);
  expect(done(e, 'open chain').desk).toEqual([{ kind: 'chain' }]);
});

test('a leg is closed alone only after a yes; what stands behind a short one stays, unless the strike can be set aside', () => {
  const e = begun();
  done(e, 'short 2 verticals of 2027-03-19 6/5 put at bid credit');
  const [name] = Object.keys(held(e)) as [string];
  const before = equity(e);
  const asks = run(e, 'close 1 of 2027-03-19 6 put at ask');
  expect(asks.problem).toContain(`held as a leg of ${name}`);
  expect(asks.problem).toContain('leaves 1 long VULPN 2027-03-19 5 put');
  done(e, 'close 1 of 2027-03-19 6 put alone at ask');
  expect(held(e)).toEqual({ [name]: -1, 'VULPN 2027-03-19 5 put': 1 });
  // What coming apart cost is the spread of the leg that was bought, and its fees.
  expect(before - equity(e)).toBeLessThan(moneyFromDollars(60));
  expect(before - equity(e)).toBeGreaterThanOrEqual(0);
  // The long leg first leaves a put alone: the account has what its strike asks for.
  const power = account(e).buyingPower;
  done(e, 'close 1 of 2027-03-19 5 put at bid');
  expect(run(e, 'sell 1 of 2027-03-19 5 put at bid').problem).toContain('leg');
  done(e, 'close 1 of 2027-03-19 5 put alone at bid');
  expect(held(e)).toEqual({ 'VULPN 2027-03-19 6 put': -1 });
  expect(power - account(e).buyingPower).toBeGreaterThan(moneyFromDollars(4 * 400));
  // Of calls nobody may.
  done(e, 'short 1 vertical of 2027-03-19 5/6 call at bid credit');
  expect(run(e, 'close 1 of 2027-03-19 6 call alone at bid').problem).toContain('calls may not stand alone');
  expect(Object.keys(held(e))).toHaveLength(2);
  done(e, 'close 1 of 2027-03-19 5 call alone at ask');
  expect(held(e)).toMatchObject({ 'VULPN 2027-03-19 6 call': 1 });
});

test('a vertical whose exits may still fill does not come apart, and nothing comes apart for a leg that cannot go', () => {
  const e = begun();
  done(e, 'buy 2 of 2027-03-19 6/5 put at ask debit');
  apply(e, { kind: 'line', change: { kind: 'latency', latency: { from: 100, to: 900 } } });
  done(e, 'attach of VULPN 2027-03-19 6/5 put\n  stop 30c\n  target 30c');
  const before = held(e);
  expect(run(e, 'close all of 2027-03-19 5 put alone at ask').problem).toContain('may still fill 2 of the 2');
  yes(e, 'cancel exits of VULPN 2027-03-19 6/5 put');
  advance(e, e.market.now() + 5_000);
  expect(run(e, 'close all of 2027-03-19 5 put alone at 9.00').problem).toContain('Price collar');
  expect(held(e)).toEqual(before);
  done(e, 'close all of 2027-03-19 5 put alone at ask');
  advance(e, e.market.now() + 5_000);
  expect(held(e)).toEqual({ 'VULPN 2027-03-19 6 put': 2 });
});

test('a pair that came apart needs the power that it needed together, and its long side cannot leave a call bare', () => {
  const e = begun();
  done(e, 'buy 2 of 2027-03-19 5/6 call at ask debit');
  const before = account(e).buyingPower;
  const [name] = Object.keys(held(e)) as [string];
  apply(e, { kind: 'run', text: 'close 1 of 2027-03-19 6 call alone at 0.05', focus: 'VULPN' });
  expect(held(e)).toEqual({ [name]: 1, 'VULPN 2027-03-19 5 call': 1, 'VULPN 2027-03-19 6 call': -1 });
  expect(Math.abs(account(e).buyingPower - before)).toBeLessThan(moneyFromDollars(120));
  expect(run(e, 'close all of 2027-03-19 5 call alone at bid').problem).toContain(
    'Buy back what is short first',
  );
  done(e, 'flatten everything');
  advance(e, at(9, 50));
  expect(held(e)).toEqual({});
});

test('what waits for its price lasts over nights: half the credit closes by itself, days later', () => {
  const e = begun();
  done(
    e,
    'short 1 vertical of 10 days 40 delta 1 wide put at bid credit\n  once filled: close all at half the credit gtc',
  );
  const [name] = Object.keys(held(e)) as [string];
  const closing = () =>
    everything(e.state.broker).orders.find((o) => o.symbol === name && o.role === 'close');
  expect(closing()?.limit).toBe(
    Math.floor((everything(e.state.broker).orders[0]?.notional ?? 0) / 2 / 100) * 100,
  );
  for (let k = 0; k < 9 && held(e)[name] !== undefined; k++) nextDay(e);
  expect(held(e)[name]).toBeUndefined();
  expect(['Filled', 'Expired']).toContain(
    closing()?.phase.k === 'ended' ? closing()?.phase.k && 'Filled' : 'Expired',
  );
});

test('flattened at night, options wait for the session and go then; shares go at once', () => {
  const e = begun();
  done(e, 'buy 2 of 45 days at the money call at ask');
  done(e, 'buy 100 at 5c through');
  advance(e, at(17));
  expect(Object.keys(held(e))).toHaveLength(2);
  done(e, 'flatten everything');
  advance(e, at(17, 30));
  expect(Object.keys(held(e)).filter((s) => s.includes(' '))).toHaveLength(1);
  nextDay(e);
  advance(e, e.market.dayStart + at(9, 40));
  expect(held(e)).toEqual({});
  expect(everything(e.state.broker).orders.every((o) => o.phase.k === 'ended')).toBe(true);
});

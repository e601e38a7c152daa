import { desk, only, SYMBOL, YES } from '../../../tests/model/desk.ts';
import { bare, half, plan, stopAt, stopAway, target, texts, wiredTo } from '../../../tests/model/plans.ts';
import { MAIN } from '../account/index.ts';
import { fromDollars, type OrderId } from '../units/index.ts';
import { coveredShares, holdingOf, openOf, statusOf } from './index.ts';

type Desk = ReturnType<typeof desk>;
const covered = (d: Desk) => coveredShares(holdingOf(d.broker, MAIN, SYMBOL));
const stops = (d: Desk) => d.find('stop').map((o) => [o.stop, openOf(o), statusOf(o)]);
const TRAIL = { reach: { kind: 'percent' as const, percent: 3 }, after: null };
const candles = { reach: { kind: 'candle' as const, minutes: 2, beyond: 100 }, after: null };

describe('what takes the place of a stop works before that one leaves', () => {
  test('a plain trail keeps the stop that the shares have, and takes it along from the price that is known', () => {
    const d = desk();
    d.fill(d.enter('buy', 400, plan(bare)), 400);
    d.price(10.2);
    d.attach('all', plan({ stops: [], targets: [], breakeven: null, trail: TRAIL }));
    // 3 % below 10.20 is 9.894: on a tick, 9.89.
    expect(stops(d)).toEqual([[fromDollars(9.89), 400, 'New']]);
  });

  test('a trail on shares without a stop starts at once, not with the next print', () => {
    const d = desk();
    d.fill(d.enter('buy', 400), 400);
    d.attach('all', plan({ stops: [], targets: [], breakeven: null, trail: TRAIL }));
    expect(stops(d)).toEqual([[fromDollars(9.7), 400, 'New']]);
    const entered = desk();
    entered.fill(
      entered.enter('buy', 100, plan({ stops: [], targets: [], breakeven: null, trail: TRAIL })),
      100,
    );
    expect(covered(entered)).toBe(100);
  });

  test('a trail by candles without a candle yet leaves the stop where it is', () => {
    const d = desk();
    d.fill(d.enter('buy', 400, plan(bare)), 400);
    d.attach('all', plan({ stops: [], targets: [], breakeven: null, trail: candles }));
    expect(stops(d)).toEqual([[fromDollars(9.7), 400, 'New']]);
    d.candles.set(2, { high: 10.1 as never, low: fromDollars(9.85) });
    d.price(10.05);
    expect(stops(d)).toEqual([[fromDollars(9.84), 400, 'New']]);
  });

  test('before the open a stop that watches is not put to sleep by a trail, a plan, or another plan after it', () => {
    const d = desk({ session: 'pre-market' });
    d.fill(d.enter('buy', 200, plan({ ...bare, extended: true }), { extended: true }), 200);
    for (const next of [
      plan({ stops: [], targets: [], breakeven: null, trail: TRAIL }),
      plan(bare),
      plan(),
    ]) {
      d.attach('all', next);
      expect(d.find('stop').map((o) => [openOf(o), statusOf(o)])).toEqual([[200, 'New']]);
    }
  });

  test('a stop for half leaves the other half the one that it had', () => {
    const d = desk();
    d.fill(d.enter('buy', 200, plan(bare)), 200);
    d.attach('all', plan({ stops: [stopAt(9.9, half)], targets: [target(10.5)], breakeven: null }));
    expect(stops(d)).toEqual([
      [fromDollars(9.9), 100, 'New'],
      [fromDollars(9.7), 100, 'New'],
    ]);
  });

  test('a part without a stop goes first where shares are closed by hand: the part with one keeps it', () => {
    const d = desk();
    d.fill(d.enter('buy', 200, plan({ ...bare, stops: [stopAway(3_000, half)] })), 200);
    const mine = d.stopBelow(100, 9.8);
    d.price(9.8);
    d.fill(mine, 100, 9.79);
    expect(stops(d)).toEqual([[fromDollars(9.7), 100, 'New']]);
  });

  test('a flatten that nobody takes leaves the stops by hand as they were', () => {
    const d = desk();
    d.fill(d.enter('buy', 100), 100);
    const mine = d.stopBelow(100, 9.8);
    d.flatten();
    d.exchange.throwOut(wiredTo(only(d.find('close').filter((o) => o.flat))));
    d.settle();
    expect([statusOf(d.order(mine)), covered(d)]).toEqual(['New', 100]);
  });
});

describe('the last stop of shares', () => {
  test('goes only with a yes that named as many; a close, a flatten and a redundant stop need none', () => {
    const d = desk();
    d.fill(d.enter('buy', 100, plan(bare)), 100);
    const stop = only(d.find('stop')).id;
    const cancel = (shares: number | null) =>
      d.intent({
        kind: 'cancel',
        what: { kind: 'orders', ids: [stop] },
        ...(shares === null ? {} : { bare: [{ symbol: SYMBOL, shares }] }),
      });
    for (const shares of [null, 99]) {
      cancel(shares);
      expect([d.refused, covered(d)]).toEqual([
        { code: 'bares', bares: [{ symbol: SYMBOL, shares: 100 }] },
        100,
      ]);
    }
    const second = d.stopBelow(100, 9.5);
    cancel(null);
    expect([d.refused, covered(d)]).toEqual([null, 100]);
    d.intent({ kind: 'resize', orderId: second as OrderId, qty: 60 });
    expect(d.refused).toEqual({ code: 'bares', bares: [{ symbol: SYMBOL, shares: 40 }] });
    const lit = { type: 'Limit', limit: fromDollars(10.5), stop: null, on: 'last', extended: false } as const;
    d.intent({
      kind: 'retype',
      orderId: second as OrderId,
      qty: 100,
      timeInForce: 'Day',
      route: 'lit',
      postOnly: false,
      until: null,
      ...lit,
    });
    expect(d.refused?.code).toBe('bares');
    d.flatten();
    expect(d.refused).toBeNull();
  });

  test('is put back as it was; what is gone for good is not', () => {
    const d = desk();
    d.fill(d.enter('buy', 100, plan({ ...bare, targets: [target(10.6)] })), 100);
    const stop = only(d.find('stop')).id;
    d.move(stop, 9.8);
    d.cancel(stop);
    expect(texts(d).at(-1)).toBe('Stop of 100 VULPN canceled by you: 100 VULPN are now without a stop');
    d.intent({ kind: 'put back', orderId: stop as OrderId });
    expect(stops(d)).toEqual([[fromDollars(9.8), 100, 'New']]);
    const mine = d.stopBelow(100, 9.6);
    d.cancel(mine);
    d.intent({ kind: 'put back', orderId: mine as OrderId });
    expect(d.find('close').map((o) => [o.stop, openOf(o)])).toEqual([[fromDollars(9.6), 100]]);
    d.intent({ kind: 'put back', orderId: stop as OrderId });
    expect(d.refused).toEqual({ code: 'nothing to put back', orderId: stop });
  });

  test('is one stop, also where a part of it has triggered: it goes as a whole, and the yes names all of it', () => {
    const d = desk();
    d.fill(d.enter('buy', 100, plan(bare)), 100);
    d.close(100, { limit: fromDollars(10.5) });
    d.price(9.7);
    const all = d.live().filter((o) => o.role === 'stop');
    d.intent({ kind: 'cancel', what: { kind: 'orders', ids: [all[0]?.id as OrderId] } });
    expect(d.refused).toEqual({ code: 'bares', bares: [{ symbol: SYMBOL, shares: 100 }] });
    d.intent({ kind: 'cancel', what: { kind: 'orders', ids: [all[0]?.id as OrderId] }, bare: YES });
    expect(d.find('stop')).toEqual([]);
  });
});

describe('a stop that waits again is the stop it was', () => {
  test('one that has triggered, was moved by hand, and gives way to a close waits at its own price and sells at market', () => {
    const d = desk();
    d.fill(d.enter('buy', 100, plan(bare)), 100);
    d.price(9.7);
    const stop = only(d.find('stop')).id;
    d.move(stop, 10.2);
    d.close(100, { limit: fromDollars(9.95) });
    expect([d.order(stop).type, d.order(stop).stop, d.order(stop).limit]).toEqual([
      'Stop',
      fromDollars(9.7),
      null,
    ]);
    d.cancel(only(d.find('close')).id);
    d.price(9);
    expect([...d.exchange.orders.values()].map((o) => [o.side, o.qty])).toEqual([['sell', 100]]);
    expect([...d.exchange.orders.values()][0]?.limit).toBeLessThan(fromDollars(9));
  });

  test('a stop that is moved to where it stands is placed there: a later fill does not take it back', () => {
    const d = desk();
    const entry = d.enter('buy', 200, plan(bare));
    d.fill(entry, 100, 10);
    d.move(only(d.find('stop')).id, 9.7);
    d.fill(entry, 100, 9.8);
    expect(stops(d)).toEqual([[fromDollars(9.7), 200, 'New']]);
  });

  test('a trail that is not tighter yet holds the stop where it is; a breakeven that is done stays at what was bought before it', () => {
    const d = desk();
    const entry = d.enter(
      'buy',
      200,
      plan({ ...bare, trail: { reach: { kind: 'distance', units: 4_000 }, after: null } }),
    );
    d.fill(entry, 100, 10);
    d.price(9.9);
    d.fill(entry, 100, 9.8);
    expect(stops(d)).toEqual([[fromDollars(9.7), 200, 'New']]);
    const even = desk();
    const second = even.enter('buy', 200, plan({ targets: [] }), { limit: fromDollars(10.2) });
    even.fill(second, 100, 10);
    even.price(10.4);
    even.fill(second, 100, 10.2);
    expect(stops(even)).toEqual([[fromDollars(10), 200, 'New']]);
  });
});

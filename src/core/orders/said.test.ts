import { desk, only } from '../../../tests/model/desk.ts';
import { bare, exposed, plan, stopAt, target, texts, wiredTo } from '../../../tests/model/plans.ts';
import { fromDollars, shelf } from '../units/index.ts';
import { openOf, statusOf, wireOf } from './index.ts';

describe('nothing is silent or wrong', () => {
  test('13: moving an order to the price that it has changes nothing at all', () => {
    const d = desk();
    d.fill(d.enter('buy', 100, plan()), 100);
    // The first time it is placed there by hand.
    d.move(only(d.find('stop')).id, 9.7);
    const before = d.broker;
    d.move(only(d.find('stop')).id, 9.7);
    d.move(only(d.find('target', 1)).id, 10.3);
    expect(d.broker).not.toBe(before);
    const placed = d.broker;
    d.move(only(d.find('target', 1)).id, 10.3);
    expect(d.broker).toBe(placed);
  });

  test('17: flatten while a triggered stop rests takes the stop out and sells what is held', () => {
    const d = desk();
    d.fill(d.enter('buy', 100, plan(bare)), 100);
    d.price(9.7);
    d.fill(only(d.find('stop')).id, 30, 9.7);
    d.flatten();
    expect(exposed(d)).toBe(70);
    expect(d.find('close').map(openOf)).toEqual([70]);
    d.fill(only(d.find('close')).id, 70, 9.2);
    expect([d.position, d.live()]).toEqual([0, []]);
  });

  test('18: flatten waits through a halt for the reopening: it is told to take what there is, not to vanish', () => {
    const d = desk();
    d.fill(d.enter('buy', 100, plan(bare)), 100);
    expect(d.flatten()).toMatchObject([{ kind: 'new', qty: 100, life: 'take' }]);
  });

  test('19: moving a stop limit takes its limit along', () => {
    const d = desk();
    const id = d.enter('buy', 100, null, {
      type: 'StopLimit',
      stop: fromDollars(10.2),
      limit: fromDollars(10.28),
    });
    d.move(id, 10.3);
    expect([d.order(id).stop, d.order(id).limit]).toEqual([10.3, 10.38].map(fromDollars));
  });

  test('23: exits sleep and wake with the sessions and survive the night, whatever the life of their entry', () => {
    const d = desk();
    d.fill(d.enter('buy', 100, plan({ targets: [target(10.4)], breakeven: null })), 100);
    for (const [session, status] of [
      ['after hours', 'Suspended'],
      ['closed', 'Suspended'],
      ['pre-market', 'Suspended'],
      ['regular', 'New'],
    ] as const) {
      d.session(session, session === 'pre-market');
      expect(d.live().map((o) => [o.role, statusOf(o)])).toEqual([
        ['stop', status],
        ['target', status],
      ]);
    }
    d.price(9.2);
    expect(exposed(d)).toBe(100);
  });

  test('a line that is cut over the night: what was to sleep is at work once it is known to have left the exchange', () => {
    const d = desk();
    d.fill(d.enter('buy', 100, plan({ targets: [target(10.4)], breakeven: null })), 100);
    d.exchange.cut();
    d.settle();
    d.session('after hours');
    d.session('closed');
    d.exchange.throwOut(wiredTo(only(d.find('target'))));
    d.session('pre-market', true);
    d.session('regular');
    d.exchange.mend();
    d.settle();
    expect(d.live().map((o) => [o.role, statusOf(o)])).toEqual([
      ['stop', 'New'],
      ['target', 'New'],
    ]);
    expect(exposed(d)).toBe(100);
  });

  test('24: a stop and a target by hand on a position that has none stand side by side, and each share is sold once', () => {
    const d = desk();
    d.fill(d.enter('buy', 100), 100);
    const stop = d.stopBelow(100, 9.7);
    const above = d.close(100, { limit: fromDollars(10.5) });
    expect(d.live().map((o) => o.id)).toEqual([stop, above]);
    d.fill(above, 40);
    expect(openOf(d.order(stop))).toBe(60);
    d.price(9.7);
    expect(d.live().map((o) => [o.id, openOf(o)])).toEqual([[stop, 60]]);
    d.fill(stop, 60, 9.69);
    expect([d.position, d.live()]).toEqual([0, []]);
  });

  test('exits attached to what is held: to all of it with what joins it, or to a part', () => {
    const d = desk();
    d.fill(d.enter('buy', 100), 100);
    d.attach('all', plan({ targets: [target(10.5)], breakeven: null }));
    expect([openOf(only(d.find('stop'))), openOf(only(d.find('target')))]).toEqual([100, 100]);
    d.fill(d.enter('buy', 50), 50);
    expect([openOf(only(d.find('stop'))), d.trade(1)?.risk]).toEqual([150, 450_000]);
    d.attach({ shares: 60 }, plan({ ...bare, stops: [stopAt(9.9)] }));
    expect(d.find('stop').map((o) => [o.stop, openOf(o)])).toEqual([
      [fromDollars(9.7), 90],
      [fromDollars(9.9), 60],
    ]);
  });

  test('a day entry that sleeps wakes at the open and ends at the close; its rest is not brought back', () => {
    const d = desk({ session: 'pre-market' });
    const entry = d.enter('buy', 100, plan());
    expect([statusOf(d.order(entry)), d.exchange.orders.size]).toEqual(['Suspended', 0]);
    d.session('regular');
    expect([statusOf(d.order(entry)), d.exchange.orders.size]).toEqual(['New', 1]);
    d.fill(entry, 40);
    d.session('after hours');
    expect(statusOf(d.order(entry))).toBe('Expired');
    expect(d.find('target').every((o) => statusOf(o) === 'Suspended')).toBe(true);
    d.price(9);
    expect(wireOf(only(d.find('stop')))).toBeNull();
  });

  test('the best and the worst price while a trade is open are kept, long and short, and nothing before or after', () => {
    for (const [side, best, worst] of [
      ['buy', 10.4, 9.8],
      ['sell', 9.8, 10.4],
    ] as const) {
      const d = desk();
      const entry = d.enter(side, 100);
      d.price(9);
      d.price(10);
      d.fill(entry, 100);
      for (const p of [10.4, 9.8, 10.1]) d.price(p);
      d.flatten();
      d.fill(only(d.find('close')).id, 100, 10.1);
      d.price(12);
      expect([d.trade(1)?.best, d.trade(1)?.worst]).toEqual([best, worst].map(fromDollars));
    }
  });

  // By hand: 100 at half a cent a share is fifty cents, the least is a dollar; it is charged once, with the first fill.
  test('every fill moves cash once, and its commission once where there is one', () => {
    const d = desk();
    const entry = d.enter('buy', 100);
    d.fill(entry, 60);
    d.fill(entry, 40);
    const { postings } = d.broker.accounts.main?.ledger ?? { postings: null };
    expect(postings && shelf.all(postings).map((p) => [p.why, p.cash])).toEqual([
      ['trade', -6_000_000],
      ['costs', -10_000],
      ['trade', -4_000_000],
    ]);
  });

  // FIX 4.4: OrdStatus of an execution report is Filled once nothing is left, PartiallyFilled before.
  test('the status of a fill is that of the order after it', () => {
    const d = desk();
    const entry = d.enter('buy', 100);
    d.fill(entry, 60);
    d.fill(entry, 40);
    expect(d.events.filter((e) => e.kind === 'fill').map((e) => e.status)).toEqual([
      'PartiallyFilled',
      'Filled',
    ]);
  });

  test('a target that a close by hand takes the shares of says so', () => {
    const d = desk();
    d.fill(d.enter('buy', 100, plan()), 100);
    d.close(60);
    expect(texts(d).filter((t) => t.includes('canceled'))).toEqual([
      'Target 2 of 50 VULPN canceled: no shares are left for it',
    ]);
  });

  test('cash settles on the next trading day', () => {
    const d = desk();
    d.fill(d.enter('buy', 100), 100);
    const ledger = () => d.broker.accounts.main?.ledger;
    expect([ledger()?.cash, ledger()?.settled]).toEqual([-10_010_000, 0]);
    d.session('after hours');
    expect(ledger()?.settled).toBe(0);
    d.session('pre-market', true);
    expect([ledger()?.settled, ledger()?.unsettled]).toEqual([-10_010_000, []]);
  });
});

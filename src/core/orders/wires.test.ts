import { desk, only } from '../../../tests/model/desk.ts';
import { bare, exposed, half, plan, R, stopAt, target, texts, wiredTo } from '../../../tests/model/plans.ts';
import { fromDollars } from '../units/index.ts';
import { openOf, statusOf, wireOf } from './index.ts';

describe('broker and exchange see the same', () => {
  test('8: at the end of the regular session nothing that sleeps is still worked', () => {
    const d = desk();
    d.fill(d.enter('buy', 7), 7);
    d.close(7, { limit: fromDollars(10.5) });
    d.fill(d.enter('buy', 100, plan({ targets: [target(10.4)], breakeven: null })), 100);
    d.session('after hours');
    expect([...d.exchange.orders.values()]).toEqual([]);
    expect(d.live().map((o) => [o.role, statusOf(o)])).toEqual([
      ['stop', 'Suspended'],
      ['target', 'Suspended'],
    ]);
  });

  test('9: a cancel of the symbol leaves no exit that it brought forth itself', () => {
    const d = desk();
    d.fill(d.enter('buy', 100, plan()), 100);
    d.close(100);
    expect(d.find('target')).toEqual([]);
    d.cancelSymbol();
    expect([d.live(), [...d.exchange.orders.values()]]).toEqual([[], []]);
    d.price(9.5);
    d.price(10.5);
    expect(d.live()).toEqual([]);
  });

  test('10: an order that grows and moves within one step works what the broker believes', () => {
    const d = desk();
    const entry = d.enter(
      'buy',
      7,
      plan({ ...bare, stops: [], targets: [{ place: { kind: 'distance', units: 2_000 }, part: null }] }),
    );
    d.fill(entry, 4);
    d.fill(entry, 3, 9.9);
    const t = only(d.find('target'));
    const there = d.exchange.orders.get(wiredTo(t));
    expect([openOf(t), (there?.qty ?? 0) - (there?.filled ?? 0), there?.limit]).toEqual([7, 7, t.limit]);
  });

  test('a close that was there before a stop triggered keeps the shares that the stop does not need, and no more', () => {
    const d = desk();
    d.fill(d.enter('buy', 100, plan(bare)), 100);
    d.fill(d.enter('buy', 50), 50);
    const close = d.close(120, { limit: fromDollars(10.4) });
    d.price(9.7);
    expect([openOf(only(d.find('stop'))), openOf(d.order(close)), exposed(d)]).toEqual([100, 50, 150]);
    expect(texts(d)).toContain('Close of VULPN now for 50, was 120');
    // One that comes after it overrules it: the shares that it takes are covered again by a stop that waits.
    d.close(80, { limit: fromDollars(9.75) });
    expect([d.find('close').map(openOf), exposed(d)]).toEqual([[80], 150]);
    expect(d.find('stop').map((o) => [o.phase.k, openOf(o)])).toEqual([
      ['working', 70],
      ['armed', 30],
    ]);
  });

  test('a triggered stop whose first part has filled while the trader cancels it: the rest is canceled, not sent', () => {
    const d = desk({ slow: true });
    const entry = d.enter('buy', 200, plan({ ...bare, targets: [target(10.5, half)] }));
    d.settle();
    d.execute(entry, 200);
    d.settle();
    d.price(9.7);
    d.exchange.arrive(1);
    d.exchange.arrive(1);
    const stop = only(d.find('stop'));
    expect(wireOf(stop)?.pending?.to?.qty).toBe(100);
    d.cancel(stop.id);
    d.execute(stop.id, 100, 9.69);
    d.settle();
    expect([statusOf(d.order(stop.id)), d.order(stop.id).filled, d.position]).toEqual(['Canceled', 100, 100]);
    expect(texts(d).filter((t) => t.includes('100 VULPN are now without a stop'))).toHaveLength(1);
  });

  test('found by random lives: what the exchange had of a growing stop fills before the growth arrives; the rest is sent anew', () => {
    const d = desk({ slow: true });
    const entry = d.enter('buy', 200, plan({ ...bare, targets: [target(10.5, half)] }));
    d.settle();
    d.execute(entry, 200);
    d.settle();
    d.price(9.7);
    d.exchange.arrive(2);
    d.step({ kind: 'reports', reports: d.exchange.deliver(2) });
    const stop = only(d.find('stop'));
    expect(wireOf(stop)).toMatchObject({
      acked: { qty: 100 },
      pending: { kind: 'replace', to: { qty: 200 } },
    });
    d.execute(stop.id, 100, 9.69);
    d.settle();
    expect([d.position, exposed(d), wireOf(d.order(stop.id))?.acked?.qty]).toEqual([100, 100, 100]);
    d.execute(stop.id, 100, 9.68);
    d.settle();
    expect([d.position, d.live()]).toEqual([0, []]);
  });

  test('what the exchange has changed is said with both sizes and both prices', () => {
    const d = desk();
    d.fill(d.enter('buy', 200, plan()), 200);
    d.close(60);
    d.move(only(d.find('close')).id, 10.08);
    expect(texts(d).slice(-3)).toEqual([
      'Target 2 of VULPN now for 40, was 100',
      'Close: sell 60 VULPN limit 10.05',
      'Close of 60 VULPN moved by you: 10.05 → 10.08',
    ]);
  });

  test('1R of a stop at a price is the distance from the average fill to it', () => {
    const d = desk();
    const entry = d.enter(
      'buy',
      100,
      plan({ stops: [stopAt(9.7)], targets: [{ place: R(2), part: null }], breakeven: null }),
    );
    d.fill(entry, 50, 10);
    d.fill(entry, 50, 9.9);
    expect([d.trade(1)?.risk, only(d.find('target')).limit]).toEqual([250_000, fromDollars(10.45)]);
  });

  test('11: a flatten that the exchange rejects leaves the exits as they were', () => {
    const d = desk();
    d.fill(d.enter('buy', 100, plan()), 100);
    d.exchange.rude.reject = 1;
    d.flatten();
    expect(texts(d).some((t) => t.startsWith('Close of 100 VULPN rejected'))).toBe(true);
    expect([openOf(only(d.find('stop'))), d.find('target').map(openOf)]).toEqual([100, [50, 50]]);
  });

  test('a replace that is refused as too late ends in the fill that came first', () => {
    const d = desk({ slow: true });
    const entry = d.enter('buy', 100);
    d.settle();
    d.move(entry, 9.9);
    d.execute(entry, 100);
    d.settle();
    expect([d.position, statusOf(d.order(entry))]).toEqual([100, 'Filled']);
    expect(texts(d).some((t) => t.includes('refused to change it (too late)'))).toBe(false);
  });

  // FIX 4.4 volume 4, order state change matrices: what is asked and not answered shows as pending.
  test('what is asked and not answered shows as pending; fills come meanwhile; a late cancel is refused', () => {
    const d = desk({ slow: true });
    const entry = d.enter('buy', 100);
    const seen = () => statusOf(d.order(entry));
    const steps = [seen()];
    d.settle();
    steps.push(seen());
    d.move(entry, 10.01);
    steps.push(seen());
    d.execute(entry, 30);
    d.step({ kind: 'reports', reports: d.exchange.deliver(1) });
    steps.push(seen());
    d.settle();
    steps.push(seen());
    d.cancel(entry);
    steps.push(seen());
    d.execute(entry, 70);
    d.settle();
    steps.push(seen());
    expect(steps).toEqual([
      'PendingNew',
      'New',
      'PendingReplace',
      'PendingReplace',
      'PartiallyFilled',
      'PendingCancel',
      'Filled',
    ]);
    d.cancel(entry);
    expect(d.refused).toEqual({ code: 'too late', orderId: entry, status: 'Filled' });
  });

  test('an exchange that refuses to change an order gets it canceled and sent anew', () => {
    const d = desk();
    const entry = d.enter('buy', 100);
    d.exchange.rude.refuse = 1;
    d.move(entry, 9.95);
    const [there] = [...d.exchange.orders.values()];
    expect([there?.limit, d.exchange.orders.size, wireOf(d.order(entry))?.id]).toEqual([
      fromDollars(9.95),
      1,
      there?.id,
    ]);
  });

  test('requests that the cut line swallowed: an entry is said not to have arrived, an exit is sent again, a cancel is repeated', () => {
    const d = desk({ slow: true });
    const kept = d.enter('buy', 100, plan({ ...bare, targets: [target(10.2)] }));
    d.settle();
    d.execute(kept, 100);
    d.step({ kind: 'reports', reports: d.exchange.deliver(10) });
    const lost = d.enter('buy', 50);
    d.exchange.cut();
    d.settle();
    d.exchange.mend();
    d.settle();
    expect(statusOf(d.order(lost))).toBe('Rejected');
    expect(texts(d).some((t) => t.includes('before it reached the exchange'))).toBe(true);
    expect(exposed(d)).toBe(100);
    d.cancel(only(d.find('target')).id);
    d.exchange.cut();
    d.settle();
    d.exchange.mend();
    d.settle();
    expect(exposed(d)).toBe(0);
  });
});

import { desk, only } from '../../../tests/model/desk.ts';
import {
  bare,
  exposed,
  half,
  plan,
  R,
  stopAt,
  stopAway,
  target,
  texts,
  wiredTo,
} from '../../../tests/model/plans.ts';
import { MAIN } from '../account/index.ts';
import { fromDollars } from '../units/index.ts';
import { everything, openOf, statusOf, wireOf } from './index.ts';

describe('a position is never turned', () => {
  test('1: a stop of the hand and one of the plan at the same price, touched while a close is under way', () => {
    const d = desk({ slow: true });
    const one = d.enter('buy', 100);
    d.settle();
    d.execute(one, 100);
    d.settle();
    d.stopBelow(100, 9.9);
    const two = d.enter('buy', 100, plan({ stops: [stopAt(9.9)], targets: [], breakeven: null }));
    d.settle();
    d.execute(two, 100);
    d.settle();
    const close = d.close(100, { limit: fromDollars(9.98) });
    d.price(9.9);
    d.settle();
    expect(exposed(d)).toBeLessThanOrEqual(200);
    d.execute(close, 100);
    for (let k = 0; k < 4; k++) {
      for (const o of d.live()) d.execute(o.id, 1_000, 9.88);
      d.settle();
      expect(d.position).toBeGreaterThanOrEqual(0);
    }
    expect([d.position, d.live()]).toEqual([0, []]);
    expect(everything(d.broker).fills.reduce((a, f) => a + (f.side === 'buy' ? f.qty : -f.qty), 0)).toBe(0);
  });

  test('2: two entries with stops, a close above, the target passed, the stop moved close: each share is sold once', () => {
    const d = desk();
    d.fill(d.enter('buy', 100, plan({ targets: [target(10.2)], breakeven: null })), 100);
    d.fill(d.enter('buy', 100, plan(bare)), 100);
    d.close(100, { limit: fromDollars(10.5) });
    d.price(10.25);
    for (const s of d.find('stop')) d.move(s.id, 10.22);
    d.price(10.22);
    for (let k = 0; k < 4; k++) for (const o of d.live()) d.fill(o.id, 70, 10.2);
    expect([d.position, d.live()]).toEqual([0, []]);
    expect(everything(d.broker).trades.map((t) => [t.entered, t.exited])).toEqual([[200, 200]]);
  });

  test('3: a target fills while the line is cut, and its stop is touched: what may have been sold is not sold again', () => {
    const d = desk();
    d.fill(d.enter('buy', 100, plan({ targets: [target(10.2)], breakeven: null })), 100);
    d.exchange.cut();
    d.settle();
    d.execute(only(d.find('target')).id, 100);
    d.price(10.2);
    expect(d.price(9.6)).toEqual([]);
    d.exchange.mend();
    d.settle();
    expect([d.position, d.live(), exposed(d)]).toEqual([0, [], 0]);
  });

  test('an execution that comes after its order was said to be gone is booked, and said, and flatten takes it out', () => {
    const d = desk();
    d.fill(d.enter('buy', 100, plan({ ...bare, targets: [target(10.2)] })), 100);
    const gone = only(d.find('target'));
    const id = wiredTo(gone);
    d.cancel(gone.id);
    d.flatten();
    d.fill(only(d.find('close')).id, 100, 9.99);
    expect(d.position).toBe(0);
    d.step({
      kind: 'reports',
      reports: [
        {
          kind: 'fill',
          account: MAIN,
          id,
          symbol: 'VULPN',
          at: 0,
          cumQty: 100,
          price: fromDollars(10.2),
          qty: 100,
          liquidity: 'added',
          venue: 'LIT',
          better: 0,
        },
      ],
    });
    expect(d.position).toBe(-100);
    expect(texts(d).some((t) => t.includes('Flatten takes them out'))).toBe(true);
    d.flatten();
    d.fill(only(d.find('close')).id, 100, 10.01);
    expect([d.position, d.live()]).toEqual([0, []]);
  });

  test('what an entry still brings after a flatten goes out, too, however late it is told', () => {
    const d = desk({ slow: true });
    const entry = d.enter('buy', 300, plan());
    d.settle();
    d.flatten();
    // Before the cancel is there, 200 fill; the rest is taken back.
    d.execute(entry, 200, 10);
    d.settle();
    const close = only(d.find('close'));
    expect([close.qty, close.type, d.position]).toEqual([200, 'Market', 200]);
    d.execute(close.id, 200, 9.98);
    d.settle();
    expect([d.position, d.live()]).toEqual([0, []]);
  });
});

describe('no share is left without its stop', () => {
  test('4: a triggered stop at its collar that a new buy of the trader takes away is sent again', () => {
    const d = desk();
    d.fill(d.enter('buy', 100, plan(bare)), 100);
    d.price(9.7);
    const stop = only(d.find('stop'));
    d.exchange.throwOut(wiredTo(stop));
    d.settle();
    expect(d.find('stop').map((o) => [o.id, openOf(o)])).toEqual([[stop.id, 100]]);
    expect(exposed(d)).toBe(100);
    expect(texts(d).some((t) => t.includes('thrown out by the exchange (self trade)'))).toBe(true);
  });

  test('5: fills of entry and stop in one piece: the rest of the entry is covered like the first of it', () => {
    const d = desk({ slow: true });
    const entry = d.enter('buy', 100, plan(bare));
    d.settle();
    d.execute(entry, 40);
    d.settle();
    d.price(9.7);
    d.settle();
    d.execute(entry, 30);
    d.execute(only(d.find('stop')).id, 40, 9.69);
    d.execute(entry, 30);
    d.settle();
    expect([d.position, d.find('stop').reduce((a, o) => a + openOf(o), 0)]).toEqual([60, 60]);
    expect(d.trade(1)?.status).toBe('open');
  });

  test('6: an entry that fills on after its stop has gone gets one for what it fills', () => {
    const d = desk();
    d.fill(d.enter('buy', 50), 50);
    const entry = d.enter('buy', 100, plan(bare));
    d.fill(entry, 40);
    d.price(9.7);
    d.fill(only(d.find('stop')).id, 40, 9.69);
    d.fill(entry, 60, 9.6);
    expect([d.position, openOf(only(d.find('stop')))]).toEqual([110, 60]);
  });

  test('7: one stop’s trigger leaves a stop and a close on other shares alone', () => {
    const d = desk();
    d.fill(d.enter('buy', 100), 100);
    d.fill(d.enter('buy', 100, plan({ ...bare, stops: [stopAt(9.8)] })), 100);
    d.fill(d.enter('buy', 100, plan({ ...bare, stops: [stopAt(9.5)] })), 100);
    const close = d.close(100, { limit: fromDollars(10.4) });
    d.price(9.8);
    expect(d.live().map((o) => [o.role, openOf(o)])).toEqual([
      ['stop', 100],
      ['stop', 100],
      ['close', 100],
    ]);
    expect(d.find('close').map((o) => o.id)).toEqual([close]);
    expect(exposed(d)).toBe(200);
  });

  test('exits whose entry the exchange takes while it rejects them: said at once, tried again; a target is given up after three', () => {
    const d = desk();
    const entry = d.enter('buy', 100, plan({ breakeven: null, targets: [target(10.2)] }));
    d.exchange.rude.reject = 3;
    d.fill(entry, 100);
    expect(
      texts(d)
        .filter((t) => t.includes('Target 1'))
        .at(-1),
    ).toContain('rejected: not today');
    expect([d.find('target'), openOf(only(d.find('stop')))]).toEqual([[], 100]);
    d.exchange.rude.reject = 1;
    d.price(9.7);
    expect([exposed(d), d.position]).toEqual([100, 100]);
  });

  test('a stop for half of the shares covers half of what came, whatever fills and closes; the rest is bare by choice, and goes first', () => {
    const d = desk();
    const entry = d.enter('buy', 101, plan({ ...bare, stops: [stopAway(3_000, half)] }));
    d.fill(entry, 61);
    expect(openOf(only(d.find('stop')))).toBe(30);
    d.fill(entry, 40);
    expect(openOf(only(d.find('stop')))).toBe(50);
    d.fill(d.close(41), 41);
    // Shares without a stop go first.
    expect(openOf(only(d.find('stop')))).toBe(50);
    d.price(9.7);
    d.fill(only(d.find('stop')).id, 50, 9.7);
    expect([d.position, d.live()]).toEqual([10, []]);
  });

  test('a day stop by hand that ends with its session says what it leaves; one for the night does not end', () => {
    const d = desk();
    d.fill(d.enter('buy', 100), 100);
    d.stopBelow(60, 9.7);
    const night = d.close(100, {
      type: 'Stop',
      limit: null,
      stop: fromDollars(9.6),
      timeInForce: 'GoodTillCancel',
    });
    d.session('after hours');
    expect(texts(d).filter((t) => t.includes('expired'))).toEqual([
      'Close of 60 VULPN expired: good for the regular session, which has ended: 60 VULPN are now without a stop',
    ]);
    expect(statusOf(d.order(night))).toBe('Suspended');
    d.session('closed');
    d.session('pre-market', true);
    d.session('regular');
    d.price(9.6);
    expect(exposed(d)).toBe(100);
    // What ends because the position does leaves nothing bare.
    d.fill(night, 100, 9.6);
    expect(texts(d).filter((t) => t.includes('without a stop'))).toHaveLength(1);
  });

  test('canceling the stop says what it leaves; the targets go on; a dragged target keeps its price as the entry grows', () => {
    const d = desk();
    const entry = d.enter('buy', 200, plan());
    d.fill(entry, 100);
    d.move(d.find('target', 2)[0]?.id ?? 0, 11);
    d.cancel(only(d.find('stop')).id);
    expect(texts(d).at(-1)).toContain('100 VULPN are now without a stop');
    d.fill(entry, 100, 9.9);
    expect(d.find('stop')).toEqual([]);
    expect(d.find('target').map((o) => o.limit)).toEqual([10.25, 11].map(fromDollars));
  });

  test('a close by hand beside a working triggered stop takes its shares from the other scope', () => {
    const d = desk();
    d.fill(d.enter('sell', 1, plan({ ...bare, targets: [{ place: R(1), part: half }] })), 1);
    d.price(10.3);
    expect(wireOf(only(d.find('stop')))).not.toBeNull();
    d.fill(
      d.enter('sell', 1, plan({ ...bare, targets: [{ place: R(1), part: null }] }), {
        limit: fromDollars(10.29),
      }),
      1,
    );
    d.close(1, { limit: fromDollars(10.05) });
    expect(
      d
        .live()
        .filter((o) => o.role !== 'entry' && wireOf(o))
        .map((o) => [o.role, openOf(o)]),
    ).toEqual([
      ['stop', 1],
      ['close', 1],
    ]);
  });
});

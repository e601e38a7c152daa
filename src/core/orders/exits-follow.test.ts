import { desk, only } from '../../../tests/model/desk.ts';
import { exposed, half, plan, prices, R, stopAway, texts } from '../../../tests/model/plans.ts';
import { fromDollars } from '../units/index.ts';
import { openOf, statusOf, wireOf } from './index.ts';

describe('exits follow what has filled', () => {
  test('a part-filled entry is protected for that part at once, and the exits grow with it', () => {
    const d = desk();
    const entry = d.enter('buy', 400, plan());
    expect(d.live().map((o) => o.role)).toEqual(['entry']);
    d.fill(entry, 101);
    expect(openOf(only(d.find('stop')))).toBe(101);
    expect(d.find('target').map(openOf)).toEqual([50, 51]);
    d.fill(entry, 299);
    expect(openOf(only(d.find('stop')))).toBe(400);
    expect(d.find('target').map(openOf)).toEqual([200, 200]);
    expect(prices(d)).toEqual({ stop: fromDollars(9.7), targets: [10.3, 10.6].map(fromDollars) });
  });

  test('exits stand in the other direction for a short', () => {
    const d = desk();
    d.fill(d.enter('sell', 100, plan()), 100);
    expect(prices(d)).toEqual({ stop: fromDollars(10.3), targets: [9.7, 9.4].map(fromDollars) });
    expect(d.live().every((o) => o.side === 'buy')).toBe(true);
    d.price(9.61);
    expect(only(d.find('stop')).stop).toBe(fromDollars(10));
  });

  // By hand (common practice): triggered at 41.20, filled at 41.16, 24 cents and 2 R: stop 41.40, target 40.68.
  test('distances run from the average fill, not from the price that was asked', () => {
    const d = desk({ rules: { multiple: 40 } });
    d.price(41.3);
    const entry = d.enter(
      'sell',
      100,
      plan({ stops: [stopAway(2_400)], targets: [{ place: R(2), part: null }], breakeven: null }),
      {
        type: 'Stop',
        limit: null,
        stop: fromDollars(41.2),
      },
    );
    d.price(41.2);
    d.fill(entry, 100, 41.16);
    expect(prices(d)).toEqual({ stop: fromDollars(41.4), targets: [fromDollars(40.68)] });
  });

  test('the stop’s trigger takes out targets and hand closes, then all that is open goes; never more than is held at once', () => {
    const d = desk({ slow: true });
    const entry = d.enter('buy', 200, plan());
    d.settle();
    d.execute(entry, 200);
    d.settle();
    d.close(60);
    d.settle();
    expect(d.find('target').map(openOf)).toEqual([100, 40]);
    const sent = d.price(9.7);
    expect(sent.map((c) => c.kind)).toEqual(['cancel', 'cancel', 'cancel']);
    expect(exposed(d)).toBe(200);
    d.settle();
    expect(texts(d).filter((t) => t.includes('canceled'))).toEqual([
      'Target 1 of 100 VULPN canceled: its stop was triggered',
      'Target 2 of 40 VULPN canceled: its stop was triggered',
      'Close of 60 VULPN canceled: a stop was triggered',
    ]);
    expect(exposed(d)).toBe(200);
    const stop = only(d.find('stop'));
    expect([openOf(stop), wireOf(stop)?.acked?.qty]).toEqual([200, 200]);
    d.execute(stop.id, 150, 9.66);
    d.settle();
    expect(d.live().map((o) => [o.role, openOf(o)])).toEqual([['stop', 50]]);
    d.execute(stop.id, 50, 9.6);
    d.settle();
    expect([d.live(), d.trade(1)?.status]).toEqual([[], 'closed']);
    expect(texts(d).at(-1)).toContain('VULPN is flat: out at 9.64');
  });

  test('when the trade is flat, the rest of its entry ends with it; an untouched second entry lives on, with its exits', () => {
    const d = desk();
    const first = d.enter('buy', 200, plan());
    const second = d.enter('buy', 100, plan());
    d.fill(first, 80);
    d.price(9.65);
    d.fill(only(d.find('stop')).id, 80, 9.64);
    expect(statusOf(d.order(first))).toBe('Canceled');
    expect(d.live().map((o) => o.id)).toEqual([second]);
    expect(d.trade(d.order(second).tradeId)?.status).toBe('pending');
    d.fill(second, 100);
    expect(openOf(only(d.find('stop')))).toBe(100);
  });

  test('two stops side by side each cover their part; what one sells the other does not', () => {
    const d = desk();
    d.fill(
      d.enter(
        'buy',
        101,
        plan({ stops: [stopAway(2_000, half), stopAway(3_000, half)], targets: [], breakeven: null }),
      ),
      101,
    );
    expect(d.find('stop').map((o) => [o.stop, openOf(o)])).toEqual([
      [fromDollars(9.8), 50],
      [fromDollars(9.7), 51],
    ]);
    d.price(9.8);
    d.fill(d.find('stop', 0)[0]?.id ?? 0, 50, 9.79);
    expect(d.find('stop').map((o) => [o.stop, openOf(o)])).toEqual([[fromDollars(9.7), 51]]);
    d.price(9.7);
    expect(exposed(d)).toBe(51);
  });
});

describe('what moves by itself only tightens, on a tick, never through the market', () => {
  test('breakeven after a target waits for all of that target; plus costs it lies beyond the entry', () => {
    const d = desk();
    d.fill(
      d.enter('buy', 200, plan({ breakeven: { after: { kind: 'target', index: 0 }, plusCosts: true } })),
      200,
    );
    d.price(10.3);
    const [first] = d.find('target', 1);
    d.fill(first?.id ?? 0, 60);
    expect(only(d.find('stop')).stop).toBe(fromDollars(9.7));
    d.fill(first?.id ?? 0, 40);
    const stop = only(d.find('stop'));
    expect([openOf(stop), stop.stop]).toEqual([100, fromDollars(10.02)]);
  });

  test('a stop that the trader has moved closer is not loosened by breakeven', () => {
    const d = desk();
    d.fill(d.enter('buy', 100, plan()), 100);
    d.price(10.3);
    d.move(only(d.find('stop')).id, 10.2);
    d.price(10.39);
    expect(only(d.find('stop')).stop).toBe(fromDollars(10.2));
  });

  test.each([
    ['a distance', { kind: 'distance' as const, units: 1_000 }, [9.8, 10.1, 10.1, 10.4]],
    ['a percent', { kind: 'percent' as const, percent: 2 }, [9.8, 9.99, 9.99, 10.29]],
    ['half an ATR', { kind: 'atr' as const, times: 0.5, atr: 4_000 }, [9.8, 10, 10, 10.3]],
    [
      'the low of the last 5-minute candle',
      { kind: 'candle' as const, minutes: 5, beyond: 200 },
      [9.8, 9.93, 9.93, 9.98],
    ],
  ])(
    'a trail by %s starts at its gain, follows the best price and never goes back',
    (_name, reach, stops) => {
      const d = desk();
      d.candles.set(5, { high: 101_000, low: 99_500 });
      d.fill(
        d.enter(
          'buy',
          100,
          plan({
            stops: [stopAway(2_000)],
            targets: [],
            breakeven: null,
            trail: { reach, after: { kind: 'distance', units: 2_000 } },
          }),
        ),
        100,
      );
      const seen = [10.19, 10.2, 10.15, 10.5].map((p) => {
        if (p === 10.5) d.candles.set(5, { high: 104_000, low: 100_000 });
        d.price(p);
        return (only(d.find('stop')).stop as number) / 10_000;
      });
      expect(seen).toEqual(stops);
    },
  );

  test('20: breakeven plus costs that lies beyond the market stands at the entry until the market lets it go on', () => {
    const d = desk();
    d.fill(
      d.enter(
        'buy',
        10,
        plan({ targets: [], breakeven: { after: { kind: 'distance', units: 1_000 }, plusCosts: true } }),
      ),
      10,
    );
    // Costs of 10 shares: a dollar a way is 1 % of the value at most, $1.00 each: 20 cents a share.
    d.price(10.1);
    expect(only(d.find('stop')).stop).toBe(fromDollars(10));
    expect(wireOf(only(d.find('stop')))).toBeNull();
    d.price(10.21);
    expect(only(d.find('stop')).stop).toBe(fromDollars(10.2));
  });

  test('21: breakeven without a stop makes one at the entry at its moment, and not at some later event', () => {
    const d = desk();
    d.fill(
      d.enter(
        'buy',
        100,
        plan({
          stops: [],
          targets: [],
          breakeven: { after: { kind: 'distance', units: 2_000 }, plusCosts: false },
        }),
      ),
      100,
    );
    d.price(10.19);
    expect(d.find('stop')).toEqual([]);
    d.price(10.2);
    expect([only(d.find('stop')).stop, openOf(only(d.find('stop')))]).toEqual([fromDollars(10), 100]);
  });
});

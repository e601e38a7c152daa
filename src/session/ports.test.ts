import { at, type Price } from '../core/units/index.ts';
import type { DaySource } from './day-ref.ts';
import type { DayMarket } from './ports.ts';
import { simMarket } from './sim-market.ts';

/** What any feed and exchange must do; another implementation is added as another row. */
const DAY: DaySource = { ref: { kind: 'practice', id: 'gap-and-go', seed: 7, size: 60 }, own: null };
const saved = (() => {
  const m = simMarket(DAY);
  while (m.next(at(9, 31)));
  return m.save();
})();
const markets: [string, () => DayMarket][] = [['the simulated market', () => simMarket(DAY, structuredClone(saved))]];

describe.each(markets)('%s as a feed', (_name, make) => {
  test('time only goes forward, never past what was asked, and stands there when nothing is due', () => {
    const feed = make();
    let before = feed.now();
    const until = before + 20_000;
    for (let step = feed.next(until); step; step = feed.next(until)) {
      expect(feed.now()).toBeGreaterThanOrEqual(before);
      expect(feed.now()).toBeLessThanOrEqual(until);
      before = feed.now();
    }
    expect(feed.now()).toBe(until);
    expect(feed.next(until)).toBeNull();
  });

  test('what is said to have traded is on the tape, at that time', () => {
    const feed = make();
    feed.tape('VULPN');
    const until = feed.now() + 20_000;
    let trades = 0;
    for (let step = feed.next(until); step; step = feed.next(until)) {
      if (!step.traded) continue;
      trades++;
      expect(feed.tape(step.symbol).lastAt).toBe(feed.now());
    }
    expect(trades).toBeGreaterThan(20);
  });

  test('every instrument has a quote that is the top of its depth', () => {
    const feed = make();
    for (const { symbol } of feed.instruments) {
      const { bids, asks } = feed.depth(symbol, 5);
      const q = feed.quote(symbol);
      expect([q.bid, q.bidSize, q.ask, q.askSize]).toEqual([bids[0]?.price, bids[0]?.qty, asks[0]?.price, asks[0]?.qty]);
      expect(bids.map((l) => l.price)).toEqual([...bids.map((l) => l.price)].sort((a, b) => b - a));
    }
    expect(feed.has('NOPE')).toBe(false);
  });
});

describe.each(markets)('%s over days', (_name, make) => {
  test('earlier days come oldest first and end in the prior candle; a finished day joins them', () => {
    const feed = make();
    const check = () => {
      const days = feed.daily('VULPN');
      const { priorOpen, priorHigh, priorLow, priorClose } = feed.instrument('VULPN');
      expect(days.map((d) => d.date)).toEqual([...days.map((d) => d.date)].sort());
      expect(days[days.length - 1]).toMatchObject({ open: priorOpen, high: priorHigh, low: priorLow, close: priorClose });
      expect((days[days.length - 1]?.date ?? '') < feed.date).toBe(true);
      return days;
    };
    const before = check();
    const day = feed.date;
    while (feed.next(feed.dayStart + feed.hours.end) !== null);
    feed.nextDay();
    const after = check();
    expect(after.slice(0, -1)).toEqual(before);
    expect(after[after.length - 1]?.date).toBe(day);
    // The day can be run again from its start, without the trader.
    expect(feed.start()).toMatchObject({ dayNumber: 1 });
    expect(feed.start().carry?.closes).toHaveLength(feed.instruments.length);
  });
});

describe.each(markets)('%s as an exchange', (_name, make) => {
  const buy = (m: DayMarket, venueId: number, limit: Price, qty: number, rest: boolean) =>
    m.carryOut({ kind: 'send', venueId, symbol: 'VULPN', side: 'buy', limit, qty, life: rest ? 'day' : 'ioc', route: 'lit', postOnly: false, short: false });

  test('a marketable order is reported fill by fill, never worse than its limit, adding up', () => {
    const m = make();
    const limit = m.depth('VULPN', 3).asks[2]?.price as Price;
    buy(m, 1, limit, 400, true);
    const reports = m.drain();
    let left = 400;
    for (const r of reports) {
      if (r.kind !== 'fill') throw new Error('only fills were expected');
      left -= r.qty;
      expect([r.id, r.left, r.price <= limit, r.liquidity]).toEqual([1, left, true, 'removed']);
    }
    expect(m.drain()).toEqual([]);
  });

  test('an order that must not rest ends with a report; a resting one has a place in the queue and leaves when pulled', () => {
    const m = make();
    const { bid } = m.quote('VULPN');
    buy(m, 3, ((bid as number) - 100) as Price, 100, false);
    expect(m.drain()).toMatchObject([{ kind: 'out', id: 3, why: 'unfilled rest' }]);
    buy(m, 5, bid as Price, 300, true);
    const ahead = m.ahead('VULPN', 5);
    expect(ahead).toBeGreaterThan(0);
    m.carryOut({ kind: 'shrink', venueId: 5, symbol: 'VULPN', qty: 100 });
    expect(m.ahead('VULPN', 5)).toBe(ahead);
    m.carryOut({ kind: 'pull', venueId: 5, symbol: 'VULPN' });
    expect(m.ahead('VULPN', 5)).toBeNull();
    expect(m.drain()).toEqual([]);
  });

  test('orders of the trader never trade with each other', () => {
    const m = make();
    const { bid, ask } = m.quote('VULPN');
    const inside = (((bid as number) + (ask as number)) / 200) | 0;
    buy(m, 7, (inside * 100) as Price, 100, true);
    m.drain();
    m.carryOut({
      kind: 'send',
      venueId: 9,
      symbol: 'VULPN',
      side: 'sell',
      limit: (inside * 100) as Price,
      qty: 50,
      life: 'day',
      route: 'lit',
      postOnly: false,
      short: false,
    });
    expect(m.drain()).toMatchObject([{ kind: 'out', id: 7, why: 'self trade' }]);
  });
});

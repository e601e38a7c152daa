import { MAIN } from '../core/account/index.ts';
import { barsOf } from '../core/market/index.ts';
import {
  type BrokerContext,
  type BrokerInput,
  createBroker,
  everything,
  PLAIN_TERMS,
  stepBroker,
} from '../core/orders/index.ts';
import { at, type Price, type WireId } from '../core/units/index.ts';
import type { VenueReport } from '../core/venue/index.ts';
import type { DaySource } from './day-ref.ts';
import type { DayMarket } from './ports.ts';
import { simMarket } from './sim-market.ts';

/** What any feed and exchange must do; another implementation is added as another row. */
const DAY: DaySource = { ref: { kind: 'practice', id: 'fresh-headlines', seed: 7, size: 60 }, own: null };
const saved = (() => {
  const m = simMarket(DAY);
  while (m.next(at(9, 31)));
  return m.save();
})();
const markets: [string, () => DayMarket][] = [
  ['the simulated market', () => simMarket(DAY, structuredClone(saved))],
];

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
      expect([q.bid, q.bidSize, q.ask, q.askSize]).toEqual([
        bids[0]?.price,
        bids[0]?.qty,
        asks[0]?.price,
        asks[0]?.qty,
      ]);
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
      expect(days[days.length - 1]).toMatchObject({
        open: priorOpen,
        high: priorHigh,
        low: priorLow,
        close: priorClose,
      });
      expect((days[days.length - 1]?.date ?? '') < feed.date).toBe(true);
      return days;
    };
    const before = check();
    const day = feed.date;
    expect(feed.earlier('VULPN', 3)).toEqual([]);
    while (feed.next(feed.dayStart + feed.hours.end) !== null);
    const minutes = barsOf(feed.tape('VULPN'), 1);
    feed.nextDay();
    const after = check();
    // The minutes of the day that is over are those that its tape had.
    expect(feed.earlier('VULPN', 3)).toEqual(minutes);
    expect(after.slice(0, -1)).toEqual(before);
    expect(after[after.length - 1]?.date).toBe(day);
    // The day can be run again from its start, without the trader.
    expect(feed.start()).toMatchObject({ dayNumber: 1 });
    expect(feed.start().carry?.closes).toHaveLength(feed.instruments.length);
  });
});

/** A broker that sends what it wants to a market, and hears what it is given. */
function brokerOn(m: DayMarket) {
  let broker = createBroker();
  const context = (): BrokerContext => ({
    now: m.now(),
    date: m.date,
    session: 'regular',
    quote: m.quote,
    last: (s) => m.last(s) as Price | null,
    listing: () => ({ borrow: 'easy', restricted: false }),
    locate: () => ({ perShare: 1, available: 1_000 }),
    candle: () => null,
  });
  const step = (input: BrokerInput) => {
    const [next, effects] = stepBroker(broker, input, context());
    broker = next;
    for (const c of effects.venue) m.carryOut(c);
  };
  const entry = (k: number): BrokerInput => ({
    kind: 'intent',
    intent: {
      ...PLAIN_TERMS,
      kind: 'entry',
      account: MAIN,
      symbol: 'VULPN',
      side: 'buy',
      type: 'Limit',
      qty: 300,
      limit: ((m.quote('VULPN').ask as number) - 100 * (k % 3)) as Price,
      stop: null,
      extended: false,
      plan: null,
      sentence: 'buy 300',
    },
  });
  return {
    step,
    enter: (k: number) => step(entry(k)),
    booked: () => everything(broker).fills.reduce((a, f) => a + f.qty, 0),
  };
}

describe.each(markets)('%s as an exchange', (_name, make) => {
  const buy = (m: DayMarket, id: number, limit: Price, qty: number, rest: boolean) =>
    m.carryOut({
      kind: 'new',
      account: MAIN,
      id: id as WireId,
      symbol: 'VULPN',
      side: 'buy',
      limit,
      qty,
      life: rest ? 'day' : 'ioc',
      route: 'lit',
      postOnly: false,
      short: false,
    });

  test('a marketable order is reported fill by fill, never worse than its limit, adding up', () => {
    const m = make();
    const limit = m.depth('VULPN', 3).asks[2]?.price as Price;
    buy(m, 1, limit, 400, true);
    const [acknowledged, ...reports] = m.drain();
    expect(acknowledged).toMatchObject({ kind: 'new', id: 1 });
    let filled = 0;
    for (const r of reports) {
      if (r.kind !== 'fill') throw new Error('only fills were expected');
      filled += r.qty;
      expect([r.id, r.price <= limit, r.liquidity]).toEqual([1, true, 'removed']);
    }
    expect(filled).toBeGreaterThan(0);
    expect(filled).toBeLessThanOrEqual(400);
    expect(m.drain()).toEqual([]);
  });

  test('an order that must not rest ends with a report; a resting one has a place in the queue and leaves when pulled', () => {
    const m = make();
    const { bid } = m.quote('VULPN');
    buy(m, 3, ((bid as number) - 100) as Price, 100, false);
    expect(m.drain()).toMatchObject([
      { kind: 'new', id: 3 },
      { kind: 'out', id: 3, why: 'unfilled rest' },
    ]);
    buy(m, 5, bid as Price, 300, true);
    const ahead = m.ahead('VULPN', 5 as WireId);
    expect(ahead).toBeGreaterThan(0);
    m.carryOut({ kind: 'replace', account: MAIN, id: 5 as WireId, symbol: 'VULPN', qty: 100, limit: bid });
    expect(m.ahead('VULPN', 5 as WireId)).toBe(ahead);
    m.carryOut({ kind: 'cancel', account: MAIN, id: 5 as WireId, symbol: 'VULPN' });
    expect(m.ahead('VULPN', 5 as WireId)).toBeNull();
    m.carryOut({ kind: 'cancel', account: MAIN, id: 5 as WireId, symbol: 'VULPN' });
    expect(m.drain()).toMatchObject([
      { kind: 'new', id: 5 },
      { kind: 'replaced', id: 5, qty: 100, limit: bid },
      { kind: 'out', id: 5, why: 'canceled' },
      { kind: 'refused', id: 5, request: 'cancel', why: 'too late' },
    ]);
  });

  test('orders of the trader never trade with each other', () => {
    const m = make();
    m.watch('VULPN');
    const room = () => (m.quote('VULPN').ask as number) - (m.quote('VULPN').bid as number);
    while (room() < 200) m.next(m.now() + 60_000);
    const { bid, ask } = m.quote('VULPN');
    const inside = (((bid as number) + (ask as number)) / 200) | 0;
    buy(m, 7, (inside * 100) as Price, 100, true);
    m.drain();
    m.carryOut({
      kind: 'new',
      account: MAIN,
      id: 9 as WireId,
      symbol: 'VULPN',
      side: 'sell',
      limit: (inside * 100) as Price,
      qty: 50,
      life: 'day',
      route: 'lit',
      postOnly: false,
      short: false,
    });
    expect(m.drain()).toMatchObject([
      { kind: 'new', id: 9 },
      { kind: 'out', id: 7, why: 'self trade' },
    ]);
  });

  test('on a line with latency nothing is answered at once, all is answered in time and in order, and requests that it swallows are gone', () => {
    const m = make();
    m.changeLine({ kind: 'latency', latency: { from: 40, to: 90 } });
    const bid = m.quote('VULPN').bid as Price;
    const sent = m.now();
    buy(m, 11, bid, 100, true);
    m.carryOut({ kind: 'cancel', account: MAIN, id: 11 as WireId, symbol: 'VULPN' });
    expect(m.drain()).toEqual([]);
    const heard: [string, number][] = [];
    for (let step = m.next(sent + 500); step; step = m.next(sent + 500))
      for (const r of m.drain())
        if (r.kind !== 'list' && r.kind !== 'line') heard.push([r.kind, m.now() - sent]);
    expect(heard.map(([kind]) => kind)).toEqual(['new', 'out']);
    for (const [, after] of heard) {
      expect(after).toBeGreaterThanOrEqual(80);
      expect(after).toBeLessThanOrEqual(180);
    }
    buy(m, 13, bid, 100, true);
    m.changeLine({ kind: 'cut' });
    while (m.next(sent + 1_000));
    m.changeLine({ kind: 'mend' });
    expect(m.drain()).toMatchObject([
      { kind: 'line', up: false },
      { kind: 'line', up: true },
      { kind: 'list', orders: [] },
    ]);
  });

  // biome-ignore lint/complexity/noExcessiveCognitiveComplexity: a loop over time, in it one over what was heard
  test('every report says whose it is and how much has filled; whatever overtakes what, a broker books each execution once', () => {
    const m = make();
    m.changeLine({ kind: 'latency', latency: { from: 20, to: 400 } });
    const { step, enter, booked } = brokerOn(m);
    const told = new Map<WireId, number>();
    const pile: VenueReport[] = [];
    const end = m.now() + 90_000;
    for (let k = 0; m.now() < end; k++) {
      if (k < 12) enter(k);
      const until = m.now() + 1_500;
      while (m.next(until) !== null);
      for (const r of m.drain()) {
        pile.push(r);
        if (r.kind !== 'fill') continue;
        told.set(r.id, (told.get(r.id) ?? 0) + r.qty);
        expect([r.account, r.cumQty]).toEqual([MAIN, told.get(r.id)]);
      }
      if (k === 20)
        step({ kind: 'intent', intent: { kind: 'flatten', account: MAIN, symbol: 'VULPN', limit: null } });
      // The newest first, a few at a time; the eldest are lost until they are asked for.
      while (pile.length > 4) step({ kind: 'reports', reports: [pile.pop() as VenueReport] });
      step({ kind: 'clock' });
    }
    for (const r of pile.reverse()) step({ kind: 'reports', reports: [r] });
    expect(booked()).toBe([...told.values()].reduce((a, b) => a + b, 0));
    for (const [id, qty] of told) {
      m.carryOut({ kind: 'executions', account: MAIN, id, symbol: 'VULPN' });
      while (m.next(m.now() + 1_000) !== null);
      const answer = m.drain().find((r) => r.kind === 'executions');
      expect(answer?.kind === 'executions' && answer.of.at(-1)?.cumQty).toBe(qty);
    }
  });

  test('what arrives at the end of the day is rejected; what works can be taken back', () => {
    const m = make();
    const end = m.dayStart + m.hours.end;
    while (m.next(end - 5));
    const resting = (m.quote('VULPN').bid as Price) - 1_000;
    buy(m, 17, resting as Price, 100, true);
    while (m.next(end));
    m.drain();
    expect(m.now()).toBe(end);
    buy(m, 19, m.quote('VULPN').ask as Price, 100, true);
    m.carryOut({
      kind: 'replace',
      account: MAIN,
      id: 17 as WireId,
      symbol: 'VULPN',
      qty: 50,
      limit: resting as Price,
    });
    m.carryOut({ kind: 'cancel', account: MAIN, id: 17 as WireId, symbol: 'VULPN' });
    expect(m.drain()).toMatchObject([
      { kind: 'rejected', id: 19, why: 'the day has ended' },
      { kind: 'refused', id: 17, request: 'replace', why: 'the day has ended' },
      { kind: 'out', id: 17, why: 'canceled' },
    ]);
  });

  test('while the line is cut the exchange works on; what it reports comes when the line stands again, before the list of what is left', () => {
    const m = make();
    const { bid, ask } = m.quote('VULPN') as { bid: Price; ask: Price };
    buy(m, 15, bid, 5_000, true);
    m.drain();
    m.changeLine({ kind: 'cut' });
    const from = m.now();
    while (m.next(from + 60_000));
    expect(m.drain()).toMatchObject([{ kind: 'line', up: false }]);
    m.changeLine({ kind: 'mend' });
    const [line, ...rest] = m.drain();
    const list = rest.pop();
    expect(line).toMatchObject({ kind: 'line', up: true });
    const filled = rest.reduce((a, r) => a + (r.kind === 'fill' ? r.qty : 0), 0);
    if (list?.kind !== 'list') throw new Error('a list was expected');
    expect(list.orders.map((o) => [o.id, o.qty])).toEqual(filled < 5_000 ? [[15, 5_000]] : []);
    expect(bid).toBeLessThan(ask);
  });
});

import fc from 'fast-check';
import { DEFAULT_FEES } from '../account/index.ts';
import type { Part } from '../units/index.ts';
import { at, fromDollars, type Price, type SessionKind, type Side, signOf } from '../units/index.ts';
import {
  type Broker,
  type BrokerInput,
  createBroker,
  type ExitPlan,
  isLive,
  type Order,
  type OrderEvent,
  openOf,
  openOfGroup,
  PLAIN_TERMS,
  positionOf,
  stepBroker,
  stopPriceOf,
  type VenueCommand,
} from './index.ts';

/**
 * A broker on a venue that the test plays: orders rest until the test fills them, in any pieces and
 * any order, so that every interleaving can be made, also those that a quick exchange never shows.
 */
function desk(session: SessionKind = 'regular') {
  let broker: Broker = createBroker(DEFAULT_FEES);
  let now = at(9, 45) as number;
  let kind = session;
  let last = fromDollars(10);
  const resting = new Map<number, { symbol: string; side: Side; limit: Price | null; qty: number; life: string }>();
  const events: OrderEvent[] = [];
  const step = (input: BrokerInput): VenueCommand[] => {
    now += 10;
    const quote = { bid: (last - 100) as Price, ask: (last + 100) as Price, bidSize: 100, askSize: 100 };
    const [next, effects] = stepBroker(broker, input, { now, session: kind, quote: () => quote, last: () => last });
    broker = next;
    events.push(...effects.events);
    for (const c of effects.venue) {
      if (c.kind === 'send') {
        if (resting.has(c.venueId)) throw new Error('a venue number was used twice');
        resting.set(c.venueId, { symbol: c.symbol, side: c.side, limit: c.limit, qty: c.qty, life: c.life });
      } else if (c.kind === 'pull') resting.delete(c.venueId);
      else {
        const o = resting.get(c.venueId);
        if (!o || c.qty >= o.qty) throw new Error('only a working order can be made smaller');
        resting.set(c.venueId, { ...o, qty: c.qty });
      }
    }
    return effects.venue;
  };
  return {
    get broker() {
      return broker;
    },
    events,
    resting,
    step,
    session(next: SessionKind) {
      kind = next;
      return step({ kind: 'session' });
    },
    enter(side: Side, qty: number, plan: ExitPlan | null, extended = false) {
      step({
        kind: 'intent',
        intent: {
          kind: 'entry',
          symbol: 'VULPN',
          side,
          type: 'Limit',
          qty,
          limit: fromDollars(10),
          stop: null,
          extended,
          plan,
          ...PLAIN_TERMS,
          sentence: 'buy',
        },
      });
      return Math.max(...Object.keys(broker.orders).map(Number));
    },
    close(qty: number, limit: Price) {
      return step({
        kind: 'intent',
        intent: { kind: 'close', symbol: 'VULPN', side: 'sell', type: 'Limit', qty, limit, stop: null, extended: false, ...PLAIN_TERMS },
      });
    },
    /** Fills up to `qty` of the working order of this id at `price`. */
    fill(orderId: number, qty: number, price?: Price) {
      const o = broker.orders[orderId];
      const venue = o?.venueId === null || o === undefined ? undefined : resting.get(o.venueId);
      if (!o || o.venueId === null || !venue) return;
      const part = Math.min(qty, venue.qty);
      if (part === venue.qty) resting.delete(o.venueId);
      else resting.set(o.venueId, { ...venue, qty: venue.qty - part });
      step({ kind: 'fill', venueId: o.venueId, price: price ?? (venue.limit as Price), qty: part, liquidity: 'added', venue: 'LIT', better: 0 });
    },
    price(dollars: number) {
      last = fromDollars(dollars);
      return step({ kind: 'price', symbol: 'VULPN', last });
    },
    live: () => Object.values(broker.orders).filter(isLive),
    find: (role: Order['role'], index: number | null = null) =>
      Object.values(broker.orders).filter((o) => isLive(o) && o.role === role && (index === null || o.targetIndex === index)),
  };
}

const half: Part = { kind: 'fraction', num: 1, den: 2 };
const R = (r: number) => ({ kind: 'R' as const, r });
const plan = (over: Partial<ExitPlan> = {}): ExitPlan => ({
  stop: { kind: 'distance', units: 3_000 },
  targets: [
    { place: R(1), part: half },
    { place: R(2), part: half },
  ],
  breakeven: { after: R(1.3), plusCosts: false },
  timeInForce: 'Day',
  extended: false,
  ...over,
});
const only = (orders: Order[]): Order => {
  if (orders.length !== 1 || !orders[0]) throw new Error(`one order was expected, there are ${orders.length}`);
  return orders[0];
};

test('a part-filled entry is protected for that part at once, and the exits grow with it', () => {
  const d = desk();
  const entry = d.enter('buy', 400, plan());
  expect(d.live().map((o) => o.role)).toEqual(['entry']);
  d.fill(entry, 101);
  expect(openOf(only(d.find('stop')))).toBe(101);
  expect([0, 1].map((i) => openOf(only(d.find('target', i))))).toEqual([50, 51]);
  d.fill(entry, 299);
  expect(openOf(only(d.find('stop')))).toBe(400);
  expect([0, 1].map((i) => openOf(only(d.find('target', i))))).toEqual([200, 200]);
  expect([only(d.find('stop')).stop, only(d.find('target', 0)).limit, only(d.find('target', 1)).limit]).toEqual([9.7, 10.3, 10.6].map(fromDollars));
});

test('exits stand in the other direction for a short', () => {
  const d = desk();
  d.fill(d.enter('sell', 100, plan()), 100);
  expect([only(d.find('stop')).stop, only(d.find('target', 0)).limit]).toEqual([10.3, 9.7].map(fromDollars));
  expect(d.live().every((o) => o.side === 'buy')).toBe(true);
  d.price(9.61);
  expect(only(d.find('stop')).stop).toBe(fromDollars(10));
});

test('the stop’s trigger takes out targets and hand closes first, then goes for all that is open', () => {
  const d = desk();
  d.fill(d.enter('buy', 200, plan()), 200);
  d.close(60, fromDollars(10.1));
  expect([0, 1].map((i) => d.find('target', i).reduce((a, o) => a + openOf(o), 0))).toEqual([100, 40]);
  const commands = d.price(9.7);
  const sent = commands.findIndex((c) => c.kind === 'send');
  expect(commands.slice(0, sent).every((c) => c.kind === 'pull')).toBe(true);
  expect(commands[sent]).toMatchObject({ side: 'sell', qty: 200 });
  expect(commands.slice(sent + 1)).toEqual([]);
  const stop = only(d.find('stop'));
  d.fill(stop.id, 150, fromDollars(9.66));
  expect(d.live().map((o) => [o.role, openOf(o)])).toEqual([['stop', 50]]);
  d.fill(stop.id, 50, fromDollars(9.6));
  expect(d.live()).toEqual([]);
  expect(d.broker.trades[1]?.status).toBe('closed');
});

test('when the trade is flat, the rest of its entry ends with it; an untouched second entry lives on', () => {
  const d = desk();
  const first = d.enter('buy', 200, plan());
  const second = d.enter('buy', 100, plan());
  d.fill(first, 80);
  d.price(9.65);
  d.fill(only(d.find('stop')).id, 80, fromDollars(9.64));
  expect(d.broker.orders[first]?.status).toBe('Canceled');
  expect(d.live().map((o) => o.id)).toEqual([second]);
  expect(d.broker.trades[d.broker.orders[second]?.tradeId ?? 0]?.status).toBe('pending');
});

test('breakeven after a target waits for all of that target; plus costs it lies beyond the entry', () => {
  const d = desk();
  d.fill(d.enter('buy', 200, plan({ breakeven: { after: { kind: 'target', index: 0 }, plusCosts: true } })), 200);
  const target = only(d.find('target', 0));
  d.fill(target.id, 60);
  expect(only(d.find('stop')).stop).toBe(fromDollars(9.7));
  d.fill(target.id, 40);
  const stop = only(d.find('stop'));
  expect(openOf(stop)).toBe(100);
  expect(stop.stop).toBeGreaterThan(fromDollars(10));
  expect(stop.stop).toBeLessThanOrEqual(fromDollars(10.03));
});

test('a stop that the trader has moved closer than breakeven is not loosened by it', () => {
  const d = desk();
  d.fill(d.enter('buy', 100, plan()), 100);
  d.price(10.3);
  d.step({ kind: 'intent', intent: { kind: 'move', orderId: only(d.find('stop')).id, to: fromDollars(10.2) } });
  d.price(10.39);
  expect(only(d.find('stop')).stop).toBe(fromDollars(10.2));
});

test('canceling the stop says what it leaves; the targets go on; a dragged target keeps its price as the entry grows', () => {
  const d = desk();
  const entry = d.enter('buy', 200, plan());
  d.fill(entry, 100);
  d.step({ kind: 'intent', intent: { kind: 'move', orderId: only(d.find('target', 1)).id, to: fromDollars(11) } });
  d.step({ kind: 'intent', intent: { kind: 'cancel', orderIds: [only(d.find('stop')).id] } });
  expect(d.events[d.events.length - 1]?.text).toContain('100 VULPN are now without a stop');
  d.fill(entry, 100, fromDollars(9.9));
  expect(d.find('stop')).toEqual([]);
  expect([only(d.find('target', 0)).limit, only(d.find('target', 1)).limit]).toEqual([10.25, 11].map(fromDollars));
});

test('found by random play: a hand close beside a working triggered stop takes its shares from the other group', () => {
  const d = desk();
  d.fill(d.enter('sell', 1, plan({ targets: [{ place: R(1), part: half }] })), 1);
  d.price(10.3);
  const stop = only(d.find('stop'));
  expect(stop.venueId).not.toBeNull();
  d.fill(d.enter('sell', 1, plan({ targets: [{ place: R(1), part: null }] })), 1);
  d.close(1, fromDollars(10.05));
  const exits = d.live().filter((o) => o.role !== 'entry' && o.venueId !== null);
  expect(exits.map((o) => [o.role, openOf(o)])).toEqual([
    ['stop', 1],
    ['close', 1],
  ]);
});

test('a day order that sleeps wakes at the open, sleeps or expires at the close', () => {
  const d = desk('pre-market');
  const entry = d.enter('buy', 100, plan());
  expect([d.broker.orders[entry]?.status, d.resting.size]).toEqual(['Suspended', 0]);
  d.session('regular');
  expect([d.broker.orders[entry]?.status, d.resting.size]).toEqual(['New', 1]);
  d.fill(entry, 40);
  d.session('after hours');
  expect(d.broker.orders[entry]?.status).toBe('Expired');
  expect(d.find('target').every((o) => o.status === 'Suspended' && o.venueId === null)).toBe(true);
  d.price(9);
  expect(only(d.find('stop')).venueId).toBeNull();
  d.session('closed');
  expect(d.live()).toEqual([]);
});

test('a fill that was under way when its order was pulled is still booked', () => {
  const d = desk();
  const entry = d.enter('buy', 100, null);
  const venueId = d.broker.orders[entry]?.venueId ?? 0;
  d.step({ kind: 'intent', intent: { kind: 'cancel', orderIds: [entry] } });
  d.step({ kind: 'fill', venueId, price: fromDollars(10), qty: 30, liquidity: 'added', venue: 'LIT', better: 0 });
  expect(d.broker.trades[1]?.entered).toBe(30);
  expect(d.broker.fills.length).toBe(1);
});

/** Random play: what may happen next, as numbers that pick among what is there. */
const move = fc.oneof(
  {
    weight: 2,
    arbitrary: fc.record({
      kind: fc.constant('enter' as const),
      qty: fc.integer({ min: 1, max: 500 }),
      stop: fc.boolean(),
      parts: fc.constantFrom(0, 1, 2, 3),
    }),
  },
  { weight: 6, arbitrary: fc.record({ kind: fc.constant('fill' as const), pick: fc.nat(), qty: fc.integer({ min: 1, max: 300 }) }) },
  { weight: 3, arbitrary: fc.record({ kind: fc.constant('price' as const), cents: fc.integer({ min: 930, max: 1_080 }) }) },
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('close' as const), qty: fc.integer({ min: 1, max: 400 }) }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('cancel' as const), pick: fc.nat() }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('move' as const), pick: fc.nat(), cents: fc.integer({ min: 900, max: 1_100 }) }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('out' as const), pick: fc.nat() }) },
);
const third: Part = { kind: 'fraction', num: 1, den: 3 };
const partsOf = (n: number): Part[] => (n === 3 ? [third, third, third] : n === 2 ? [half, half] : n === 1 ? [half] : []);

test('every interleaving keeps the rules of exits: never more out than in, every open share with its stop, nothing left when flat', () => {
  fc.assert(
    fc.property(fc.constantFrom<Side>('buy', 'sell'), fc.array(move, { minLength: 4, maxLength: 60 }), (side, moves) => {
      const d = desk();
      const stopsBefore = new Map<number, number>();
      for (const m of moves) {
        const live = d.live();
        const any = (pick: number, list = live) => list[pick % Math.max(1, list.length)];
        stopsBefore.clear();
        for (const g of Object.values(d.broker.groups)) stopsBefore.set(g.entryId, stopPriceOf(g) ?? 0);
        switch (m.kind) {
          case 'enter': {
            const stop = m.stop || m.parts > 0 ? { kind: 'distance' as const, units: 3_000 } : null;
            d.enter(side, m.qty, stop ? plan({ stop, targets: partsOf(m.parts).map((part, i) => ({ place: R(i + 1), part })) }) : null);
            break;
          }
          case 'fill': {
            const o = any(
              m.pick,
              live.filter((x) => x.venueId !== null),
            );
            if (o) d.fill(o.id, m.qty);
            break;
          }
          case 'price':
            d.price(m.cents / 100);
            break;
          case 'close':
            d.close(m.qty, fromDollars(10.05));
            break;
          case 'cancel': {
            const o = any(m.pick);
            if (o) d.step({ kind: 'intent', intent: { kind: 'cancel', orderIds: [o.id] } });
            break;
          }
          case 'move': {
            const o = any(
              m.pick,
              live.filter((x) => x.venueId !== null || x.stop !== null),
            );
            if (o) d.step({ kind: 'intent', intent: { kind: 'move', orderId: o.id, to: fromDollars(m.cents / 100) } });
            break;
          }
          case 'out': {
            const o = any(
              m.pick,
              live.filter((x) => x.venueId !== null && x.role !== 'stop'),
            );
            if (o?.venueId != null && o.role !== 'target') {
              d.resting.delete(o.venueId);
              d.step({ kind: 'out', venueId: o.venueId, why: 'self trade' });
            }
          }
        }
        check(d, m.kind === 'move', stopsBefore);
      }
    }),
    { numRuns: 500 },
  );
});

function check(d: ReturnType<typeof desk>, byHand: boolean, stopsBefore: Map<number, number>): void {
  const { broker, resting } = d;
  for (const t of Object.values(broker.trades)) {
    const position = positionOf(t);
    const live = Object.values(broker.orders).filter((o) => o.tradeId === t.id && isLive(o));
    const exits = live.filter((o) => o.role !== 'entry');
    expect(position).toBeGreaterThanOrEqual(0);
    expect(exits.filter((o) => o.venueId !== null).reduce((a, o) => a + openOf(o), 0)).toBeLessThanOrEqual(position);
    if (t.status === 'closed') expect([position, live.length]).toEqual([0, 0]);
    const groups = Object.values(broker.groups).filter((g) => g.tradeId === t.id);
    expect(groups.reduce((a, g) => a + openOfGroup(g), 0)).toBeLessThanOrEqual(position);
    for (const g of groups) {
      const open = openOfGroup(g);
      expect(open).toBeGreaterThanOrEqual(0);
      const stop = live.find((o) => o.role === 'stop' && o.groupId === g.entryId);
      if (g.plan.stop && !g.stopDropped && !g.triggered && t.status === 'open') expect(stop ? openOf(stop) : 0).toBe(open);
      const before = stopsBefore.get(g.entryId) ?? 0;
      const now = stopPriceOf(g) ?? 0;
      if (!byHand && g.breakevenDone && g.stopMoved !== null && before > 0) expect(g.sign * (now - before)).toBeGreaterThanOrEqual(0);
    }
    const fills = broker.fills.filter((f) => f.tradeId === t.id);
    expect(fills.reduce((a, f) => a + t.sign * signOf(f.side) * f.qty, 0)).toBe(position);
  }
  // What the broker believes to be working is what rests at the venue.
  const believed = Object.values(broker.orders).flatMap((o) => (o.venueId === null ? [] : [[o.venueId, openOf(o)]]));
  expect(new Map(believed as [number, number][])).toEqual(new Map([...resting].map(([id, o]) => [id, o.qty])));
}

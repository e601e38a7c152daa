import fc from 'fast-check';
import { sampleStock } from '../../../tests/sample.ts';
import { instrumentOf } from '../instruments/index.ts';
import {
  at,
  FULL_DAY,
  onTick,
  type Price,
  price,
  roundToTick,
  type Side,
  type WireId,
} from '../units/index.ts';
import type { Outcome, Request, VenueOrder } from '../venue/index.ts';
import {
  carryOutInPit,
  closePit,
  type Floorside,
  look,
  nextLook,
  openPit,
  pitAhead,
  pitchNow,
  pitDepth,
  pitOrders,
  pitQuote,
  pitTicks,
} from './index.ts';

const LISTING = {
  ...sampleStock({ symbol: 'VULPN', priorClose: price(480_000), averageVolume: 2_000_000 }),
  options: { iv: 0.6, ivLow: 0.4, ivHigh: 0.9 },
};
const NAMES = [
  'VULPN 2027-04-16 48 call',
  'VULPN 2027-04-16 50 put',
  'VULPN 2027-04-16 50/45 put',
  'VULPN 2027-03-19 48/53 call',
];

/** A stock market that is nothing but a quote and a clock. */
function side(over: Partial<Floorside> & { mid: number }): Floorside {
  return {
    now: at(11),
    dayStart: 0,
    date: '2027-03-09',
    hours: FULL_DAY,
    has: (s) => s === 'VULPN',
    listing: () => LISTING,
    quote: () => ({
      bid: roundToTick(over.mid - 200),
      ask: roundToTick(over.mid + 200),
      bidSize: 500,
      askSize: 500,
    }),
    stopped: () => false,
    ...over,
  };
}

type Act =
  | {
      do: 'new';
      name: number;
      side: Side;
      off: number;
      qty: number;
      life: VenueOrder['life'];
      postOnly: boolean;
    }
  | { do: 'replace'; which: number; off: number; qty: number }
  | { do: 'cancel'; which: number }
  | { do: 'pass'; ms: number; move: number };

const act: fc.Arbitrary<Act> = fc.oneof(
  fc.record({
    do: fc.constant('new' as const),
    name: fc.nat(NAMES.length - 1),
    side: fc.constantFrom<Side>('buy', 'sell'),
    off: fc.integer({ min: -12, max: 12 }),
    qty: fc.integer({ min: 1, max: 80 }),
    life: fc.constantFrom<VenueOrder['life']>('day', 'day', 'ioc', 'fok'),
    postOnly: fc.boolean(),
  }),
  fc.record({
    do: fc.constant('replace' as const),
    which: fc.nat(9),
    off: fc.integer({ min: -12, max: 12 }),
    qty: fc.integer({ min: 1, max: 80 }),
  }),
  fc.record({ do: fc.constant('cancel' as const), which: fc.nat(9) }),
  fc.record({
    do: fc.constant('pass' as const),
    ms: fc.integer({ min: 1, max: 60_000 }),
    move: fc.integer({ min: -6_000, max: 6_000 }),
  }),
);

/** What was asked of an order at most: its loosest limit, its largest size. */
type Asked = Pick<VenueOrder, 'side' | 'qty' | 'life' | 'postOnly'> & { name: string; limit: Price };

/** Lets a list of acts happen. @returns all reports, and what was asked at most of each order. */
function play(acts: readonly Act[]) {
  const pit = openPit(7);
  const reports: Outcome[] = [];
  const asked = new Map<WireId, Asked>();
  let [now, mid, next]: number[] = [at(11), 482_000, 1];
  const s = () => side({ now: now as number, mid: mid as number });
  const priceAt = (name: string, off: number): Price => {
    const q = pitchNow(name, s());
    const from = ((q.bid ?? 0) + (q.ask ?? 0)) / 2;
    return roundToTick(Math.max(1, from + off * 500), 'nearest', pitTicks(name, LISTING));
  };
  const send = (c: Request) => reports.push(...carryOutInPit(pit, s(), c));
  const enter = (a: Extract<Act, { do: 'new' }>): void => {
    const symbol = NAMES[a.name] as string;
    const id = next as WireId;
    next = (next as number) + 2;
    const order = {
      side: a.side,
      limit: priceAt(symbol, a.off),
      qty: a.qty,
      life: a.life,
      postOnly: a.postOnly,
    };
    asked.set(id, { name: symbol, ...order });
    send({ kind: 'new', symbol, id, ...order, route: 'lit', short: false });
  };
  const change = (a: Extract<Act, { do: 'replace' }>, id: WireId, t: Asked): void => {
    const limit = priceAt(t.name, a.off);
    const loosest = t.side === 'buy' ? Math.max(t.limit, limit) : Math.min(t.limit, limit);
    // Only what may rest is there to be changed.
    if (t.life === 'day') asked.set(id, { ...t, limit: loosest as Price, qty: Math.max(t.qty, a.qty) });
    send({ kind: 'replace', symbol: t.name, id, limit, qty: a.qty });
  };
  const pass = (a: Extract<Act, { do: 'pass' }>): void => {
    mid = Math.max(300_000, Math.min(700_000, (mid as number) + a.move));
    const until = (now as number) + a.ms;
    for (let due = nextLook(pit); due && due.at <= until; due = nextLook(pit)) {
      now = due.at;
      reports.push(...look(pit, s(), due.name));
    }
    now = until;
  };
  for (const a of acts) {
    const id = ('which' in a ? a.which * 2 + 1 : 0) as WireId;
    const t = asked.get(id);
    if (a.do === 'pass') pass(a);
    else if (a.do === 'new') enter(a);
    else if (t && a.do === 'replace') change(a, id, t);
    else if (t) send({ kind: 'cancel', symbol: t.name, id });
  }
  return { reports, asked, pit, now: now as number };
}

test('no order gets more than it asked for, at a worse price than its limit, off its steps, or against its life', () => {
  fc.assert(
    fc.property(fc.array(act, { minLength: 5, maxLength: 60 }), (acts) => {
      const { reports, asked, pit, now } = play(acts);
      const filled = new Map<WireId, number>();
      for (const r of reports) {
        if (r.kind !== 'fill') continue;
        const t = asked.get(r.id) as Asked;
        const i = instrumentOf(r.symbol);
        filled.set(r.id, (filled.get(r.id) ?? 0) + r.qty);
        expect(onTick(r.price, pitTicks(r.symbol, LISTING))).toBe(true);
        expect(t.side === 'buy' ? t.limit - r.price : r.price - t.limit).toBeGreaterThanOrEqual(0);
        expect(r.price).toBeLessThanOrEqual(i.kind === 'vertical' ? Math.abs(i.dear - i.cheap) : 1e9);
      }
      for (const [id, t] of asked) {
        const n = filled.get(id) ?? 0;
        expect(n).toBeLessThanOrEqual(t.qty);
        if (t.life === 'fok') expect([0, t.qty]).toContain(n);
      }
      expect(pitOrders(pit).every((o) => asked.get(o.id)?.life === 'day')).toBe(true);
      closePit(pit, now);
      expect(pitOrders(pit)).toEqual([]);
      // The same once more, to the last fill.
      expect(play(acts).reports).toEqual(reports);
    }),
    { numRuns: 150 },
  );
});

test('nearer to the makers’ price an order fills sooner, at what it is worth to them never by them', () => {
  const name = NAMES[0] as string;
  const fillsAt = (part: number): number => {
    let filled = 0;
    for (let k = 0; k < 30; k++) {
      const pit = openPit(k);
      let now: number = at(11);
      const s = () => side({ now, mid: 482_000 });
      const q = pitchNow(name, s());
      const limit = roundToTick(
        q.fair + part * ((q.ask as number) - q.fair),
        'down',
        pitTicks(name, LISTING),
      );
      const order = {
        id: 1 as WireId,
        side: 'buy' as const,
        limit,
        qty: 1,
        life: 'day' as const,
        route: 'lit' as const,
        postOnly: false,
        short: false,
      };
      carryOutInPit(pit, s(), { kind: 'new', symbol: name, ...order });
      for (let due = nextLook(pit); due && due.at < at(11, 0, 6); due = nextLook(pit)) {
        now = due.at;
        filled += look(pit, s(), due.name).filter((r) => r.kind === 'fill').length;
      }
    }
    return filled;
  };
  const [far, half, near] = [fillsAt(-0.5), fillsAt(0.35), fillsAt(0.95)];
  expect(near).toBeGreaterThan(half);
  expect(half).toBeGreaterThanOrEqual(far);
  expect(near).toBeGreaterThan(20);
  expect(far).toBeLessThan(10);
});

test('what does not trade is refused in words: hours, strikes, expiries, a stopped underlying', () => {
  const order = {
    id: 1 as WireId,
    side: 'buy' as const,
    limit: price(20_000),
    qty: 1,
    life: 'day' as const,
    route: 'lit' as const,
    postOnly: false,
    short: false,
  };
  const why = (name: string, over: Partial<Floorside> = {}, o: Partial<VenueOrder> = {}): string => {
    const [r] = carryOutInPit(openPit(1), side({ mid: 482_000, ...over }), {
      kind: 'new',
      symbol: name,
      ...order,
      ...o,
    });
    return r?.kind === 'rejected' ? r.why : (r?.kind ?? '');
  };
  expect(why('VULPN 2027-04-16 48 call')).toBe('new');
  expect(why('VULPN 2027-04-16 48 call', { now: at(8) })).toContain('regular session');
  expect(why('VULPN 2027-04-16 48 call', { now: at(16) })).toContain('regular session');
  expect(why('VULPN 2027-04-17 48 call')).toContain('lists no options');
  expect(why('VULPN 2027-04-16 48.1 call')).toContain('no strike of 48.1');
  expect(why('VULPN 2027-03-05 48 call')).toContain('has expired');
  expect(why('VULPN 2027-04-16 45/50 put')).toContain('dearer strike second');
  expect(why('OTHER 2027-04-16 48 call')).toContain('does not trade');
  expect(why('VULPN 2027-04-16 48 call', {}, { qty: 0 })).toContain('whole number');
  expect(why('VULPN 2027-04-16 48 call', {}, { limit: price(20_001) })).toContain('not a price on a tick');
  expect(pitchNow('VULPN 2027-04-16 48 call', side({ mid: 482_000, stopped: () => true })).ask).toBeNull();
});

test('at the makers’ price one waits behind what they show; they take no more at a look than they show', () => {
  const name = NAMES[0] as string;
  const s = side({ mid: 482_000 });
  const q = pitchNow(name, s);
  const order = {
    side: 'buy' as const,
    qty: 400,
    life: 'day' as const,
    route: 'lit' as const,
    postOnly: false,
    short: false,
  };
  const joined = openPit(3);
  carryOutInPit(joined, s, { kind: 'new', symbol: name, id: 1 as WireId, ...order, limit: q.bid });
  expect(pitAhead(joined, name, 1 as WireId)).toBe(q.bidSize);
  const inside = roundToTick((q.ask as number) - 1, 'down', pitTicks(name, LISTING));
  const near = openPit(3);
  carryOutInPit(near, s, { kind: 'new', symbol: name, id: 1 as WireId, ...order, limit: inside });
  expect(pitAhead(near, name, 1 as WireId)).toBe(0);
  for (let k = 0; k < 8; k++) {
    const due = nextLook(near);
    const fills = look(near, side({ mid: 482_000, now: due?.at ?? 0 }), name).flatMap((r) =>
      r.kind === 'fill' ? [r.qty] : [],
    );
    // A maker half of what he shows, and somebody of the crowd at most ten.
    expect(fills.reduce((a, b) => a + b, 0)).toBeLessThanOrEqual(Math.ceil(2.5 * q.askSize) + 10);
    expect(Math.max(0, ...fills)).toBeLessThan(400);
  }
});

test('who takes all that is shown sees the next price until makers are back, and looking alone takes nothing', () => {
  const [name] = NAMES as [string];
  const pit = openPit(7);
  const s = (later = 0) => side({ now: at(11) + later, mid: 482_000 });
  const before = pitDepth(pit, name, s(), 5);
  expect(pitDepth(pit, name, s(), 5)).toEqual(before);
  const [best, second] = before.asks as [(typeof before.asks)[0], (typeof before.asks)[0]];
  const order = { side: 'buy', qty: best.qty, limit: best.price, life: 'ioc', postOnly: false } as const;
  const bought = carryOutInPit(pit, s(), {
    kind: 'new',
    symbol: name,
    id: 1 as WireId,
    ...order,
    route: 'lit',
    short: false,
  });
  expect(bought).toContainEqual(expect.objectContaining({ kind: 'fill', qty: best.qty, price: best.price }));
  expect(pitQuote(pit, name, s())).toMatchObject({ ask: second.price, askSize: second.qty });
  expect(pitDepth(pit, name, s(), 5).bids).toEqual(before.bids);
  expect(pitQuote(pit, name, s(300_000)).ask).toBe(pitNowAsk(s(300_000)));
});

const pitNowAsk = (s: Floorside) => pitchNow(NAMES[0] as string, s).ask;

import fc from 'fast-check';
import { MAIN } from '../../src/core/account/index.ts';
import {
  type Broker,
  type BrokerContext,
  type BrokerInput,
  createBroker,
  type ExitPlan,
  everything,
  holdingOf,
  isLive,
  isStaying,
  legPrice,
  liveOrders,
  type OrderEvent,
  openOf,
  openTrade,
  orderOfWire,
  PLAIN_TERMS,
  type Scope,
  stepBroker,
  wireOf,
} from '../../src/core/orders/index.ts';
import {
  at,
  DAY,
  onTick,
  type Part,
  type Price,
  type SessionKind,
  type Side,
  signOf,
  type WireId,
} from '../../src/core/units/index.ts';
import type { VenueCommand } from '../../src/core/venue/index.ts';
import { NO_GUARDS, oneAccount } from './accounts.ts';
import { fakeExchange } from './exchange.ts';
import { keepsItsRisk, staysProtected } from './protection.ts';
import { checkBroker, must } from './rules.ts';

/** What may happen next, as numbers that pick among what is there. */
export type Act =
  | {
      kind: 'enter';
      side: Side;
      qty: number;
      cents: number;
      stops: number;
      targets: number;
      breakeven: number;
      how: 'limit' | 'stop' | 'market' | 'ioc';
      extended: boolean;
      gtc: boolean;
      trail: number;
    }
  | { kind: 'close'; qty: number; cents: number; how: 'limit' | 'stop' | 'market'; gtc: boolean }
  | {
      kind: 'attach';
      shares: number;
      stops: number;
      targets: number;
      trail: number;
      extended: boolean;
    }
  | { kind: 'move'; pick: number; cents: number }
  /** Two entries, of either side, of which a fill of one is taken from the other. */
  | { kind: 'pair'; qty: number; cents: number; other: number; turned: boolean }
  /** Another kind, size and price for an order of the trader. */
  | {
      kind: 'retype';
      pick: number;
      qty: number;
      cents: number;
      how: 'limit' | 'stop' | 'market';
      gtc: boolean;
    }
  /** An entry that works its price, and time for it. */
  | { kind: 'work'; side: Side; qty: number; cents: number; reach: number }
  | { kind: 'time'; ms: number }
  /** With a yes to what it takes away, or without. */
  | { kind: 'cancel'; pick: number; what: 'order' | 'symbol' | 'everything'; yes: boolean }
  | { kind: 'flatten' }
  | { kind: 'price'; cents: number }
  | { kind: 'fill'; pick: number; qty: number; off: number }
  | { kind: 'arrive'; count: number }
  | { kind: 'deliver'; count: number }
  | { kind: 'throw out'; pick: number }
  | { kind: 'rude'; reject: number; refuse: number }
  | { kind: 'cut' }
  | { kind: 'mend' }
  | { kind: 'session' }
  | { kind: 'reload' };

const int = (min: number, max: number) => fc.integer({ min, max });
const rec = <K extends Act['kind']>(
  kind: K,
  rest: {
    [P in Exclude<keyof Extract<Act, { kind: K }>, 'kind'>]: fc.Arbitrary<Extract<Act, { kind: K }>[P]>;
  },
) => fc.record({ kind: fc.constant(kind), ...rest }) as unknown as fc.Arbitrary<Act>;
const pick = fc.nat(50);

/** Acts of a trader and of an exchange, in any order. */
export const act: fc.Arbitrary<Act> = fc.oneof(
  {
    weight: 5,
    arbitrary: rec('enter', {
      side: fc.constantFrom<Side>('buy', 'buy', 'sell'),
      qty: int(1, 400),
      cents: int(-15, 15),
      stops: int(0, 3),
      targets: int(0, 3),
      breakeven: int(0, 3),
      how: fc.constantFrom('limit', 'limit', 'stop', 'market', 'ioc'),
      extended: fc.boolean(),
      gtc: fc.boolean(),
      trail: int(0, 2),
    }),
  },
  {
    weight: 3,
    arbitrary: rec('close', {
      qty: int(1, 400),
      cents: int(-30, 30),
      how: fc.constantFrom('limit', 'stop', 'market'),
      gtc: fc.boolean(),
    }),
  },
  {
    weight: 2,
    arbitrary: rec('attach', {
      shares: int(0, 300),
      stops: int(0, 3),
      targets: int(0, 2),
      trail: int(0, 2),
      extended: fc.boolean(),
    }),
  },
  { weight: 2, arbitrary: rec('move', { pick, cents: int(-60, 60) }) },
  {
    weight: 2,
    arbitrary: rec('cancel', {
      pick,
      what: fc.constantFrom('order', 'order', 'order', 'symbol', 'everything'),
      yes: fc.boolean(),
    }),
  },
  {
    weight: 2,
    arbitrary: rec('pair', {
      qty: int(1, 400),
      cents: int(-12, 12),
      other: int(1, 400),
      turned: fc.boolean(),
    }),
  },
  {
    weight: 2,
    arbitrary: rec('retype', {
      pick,
      qty: int(1, 400),
      cents: int(-25, 25),
      how: fc.constantFrom('limit', 'stop', 'market'),
      gtc: fc.boolean(),
    }),
  },
  {
    weight: 1,
    arbitrary: rec('work', {
      side: fc.constantFrom<Side>('buy', 'sell'),
      qty: int(1, 300),
      cents: int(-12, 12),
      reach: int(0, 20),
    }),
  },
  { weight: 2, arbitrary: rec('time', { ms: int(1, 9_000) }) },
  { weight: 1, arbitrary: rec('flatten', {}) },
  { weight: 6, arbitrary: rec('price', { cents: int(-45, 45) }) },
  { weight: 9, arbitrary: rec('fill', { pick, qty: int(1, 300), off: int(-3, 3) }) },
  { weight: 5, arbitrary: rec('arrive', { count: int(1, 4) }) },
  { weight: 5, arbitrary: rec('deliver', { count: int(1, 5) }) },
  { weight: 1, arbitrary: rec('throw out', { pick }) },
  { weight: 1, arbitrary: rec('rude', { reject: int(0, 2), refuse: int(0, 2) }) },
  { weight: 2, arbitrary: rec('cut', {}) },
  { weight: 2, arbitrary: rec('mend', {}) },
  { weight: 2, arbitrary: rec('session', {}) },
  { weight: 1, arbitrary: rec('reload', {}) },
);

/** With `at once` every message arrives in the moment it is sent, as on a line without latency. */
export const history = fc.record({
  acts: fc.array(act, { minLength: 4, maxLength: 60 }),
  atOnce: fc.boolean(),
  start: int(0, 1),
});
export type History = { acts: Act[]; atOnce: boolean; start: number };

const SYMBOL = 'VULPN';
const SESSIONS: SessionKind[] = ['pre-market', 'regular', 'after hours', 'closed'];
const HOURS = [at(8), at(9, 45), at(17), at(20)];
const half: Part = { kind: 'fraction', num: 1, den: 2 };
const third: Part = { kind: 'fraction', num: 1, den: 3 };
const NO_EXITS: ExitPlan = { stops: [], targets: [], breakeven: null, trail: null, extended: false };
const partsOf = (n: number): (Part | null)[] =>
  n === 3 ? [third, third, third] : n === 2 ? [half, half] : n === 1 ? [half] : [];

function planOf(
  stops: number,
  targets: number,
  breakeven: number,
  trail: number,
  extended: boolean,
): ExitPlan | null {
  if (stops === 0 && targets === 0 && trail === 0) return null;
  return {
    stops:
      stops === 2
        ? [0, 1].map((k) => ({
            place: { kind: 'distance', units: 2_000 + k * 1_000 },
            part: half,
            on: 'last',
          }))
        : stops > 0
          ? [{ place: { kind: 'distance', units: 3_000 }, part: stops === 3 ? half : null, on: 'last' }]
          : [],
    targets: partsOf(targets).map((part, k) => ({
      place: stops > 0 ? { kind: 'R', r: k + 1 } : { kind: 'distance', units: 2_500 * (k + 1) },
      part,
    })),
    breakeven:
      breakeven === 0 || (breakeven === 2 && targets === 0)
        ? null
        : {
            after:
              breakeven === 2 ? { kind: 'target', index: 0 } : { kind: 'distance', units: 1_000 * breakeven },
            plusCosts: breakeven === 3,
          },
    // Of the first kind it waits for a gain, of the second it begins at once.
    trail:
      trail === 0
        ? null
        : {
            reach: { kind: 'distance', units: 2_000 },
            after: trail === 1 ? { kind: 'distance', units: 1_000 } : null,
          },
    extended,
  };
}

/** Plays a history and throws at the first rule that does not hold. */
export function play(
  { acts, atOnce, start }: History,
  hear: (events: readonly OrderEvent[]) => void = () => {},
): Broker {
  const exchange = fakeExchange();
  let broker = createBroker(oneAccount({ multiple: 40 }, NO_GUARDS));
  let session = start;
  let day = 0;
  let tick = 0;
  /** Orders that were joined. */
  const pairs: [number, number][] = [];
  let last = 100_000 as Price;
  const inputs: [BrokerInput, { now: number; session: SessionKind; last: Price }][] = [];
  const context = (c: { now: number; session: SessionKind; last: Price }): BrokerContext => ({
    now: c.now,
    session: c.session,
    quote: () => ({ bid: (c.last - 100) as Price, ask: (c.last + 100) as Price, bidSize: 100, askSize: 100 }),
    last: () => c.last,
    date: '2027-03-01',
    listing: () => ({ borrow: 'easy', restricted: false }),
    locate: () => ({ perShare: 100, available: 1_000 }),
    candle: () => null,
  });

  function step(input: BrokerInput, byHand: boolean): void {
    tick += 7;
    const now = day * DAY + (HOURS[session] as number) + tick;
    exchange.at(now);
    const c = { now, session: SESSIONS[session] as SessionKind, last };
    inputs.push([input, c]);
    const stopsBefore = new Map(
      scopesOf(broker).map((s) => [s.id, s.legs.map((l, i) => (l.moved === null ? null : legPrice(s, i)))]),
    );
    const [next, effects] = stepBroker(broker, input, context(c));
    const nothing =
      effects.events.length === 0 &&
      effects.venue.length === 0 &&
      effects.refused === null &&
      JSON.stringify(next) === JSON.stringify(broker);
    if (nothing) must(next === broker, 'a step that changes nothing returns the same state');
    staysProtected(broker, next, effects.events, input, SESSIONS[session] as SessionKind);
    keepsItsRisk(broker, next);
    broker = next;
    hear(effects.events);
    for (const x of effects.events)
      if (x.kind === 'resized' || x.kind === 'moved')
        must(x.from !== x.to, 'what is said to have changed has changed');
    commandsMakeSense(effects.venue);
    must(broker.linked || effects.venue.length === 0, 'nothing is sent while the line is cut');
    exchange.send(effects.venue);
    if (!byHand) tightened(stopsBefore);
    check();
    if (atOnce) settle();
  }

  function commandsMakeSense(commands: readonly VenueCommand[]): void {
    const asked = new Set<number>();
    let grown = false;
    for (const v of commands) {
      must(!asked.has(orderOfWire(v.id)), 'one command an order at most');
      asked.add(orderOfWire(v.id));
      must(v.kind !== 'executions', 'nothing is missing on a line that keeps its order');
      if (v.kind === 'cancel') must(!grown, 'cuts before growth');
      if (v.kind !== 'new' && v.kind !== 'replace') continue;
      must(
        Number.isSafeInteger(v.qty) && v.qty > 0 && (v.limit === null || onTick(v.limit)),
        `a command that makes sense: ${JSON.stringify(v)}`,
      );
      if (v.kind === 'new') grown = true;
    }
  }

  function tightened(before: Map<number, (Price | null)[]>): void {
    for (const s of scopesOf(broker))
      s.legs.forEach((l, i) => {
        const was = before.get(s.id)?.[i];
        if (l.kind === 'stop' && was)
          must(s.sign * ((legPrice(s, i) ?? 0) - was) >= 0, 'nothing automatic loosens a stop');
      });
  }

  function settle(): void {
    for (let turn = 0; exchange.underway.length > 0 || (!exchange.quiet && exchange.up); turn++) {
      must(turn < 500, 'broker and exchange come to rest');
      exchange.arrive(100);
      const reports = exchange.deliver(100);
      if (reports.length === 0) return;
      step({ kind: 'reports', reports }, false);
    }
  }

  function check(): void {
    checkBroker(broker);
    const { orders } = everything(broker);
    // What the exchange could still do, whatever is under way, never exceeds what is really held.
    const held = exchange.executions.reduce((a, x) => a + signOf(x.side) * x.qty, 0);
    const role = new Map(orders.map((o) => [o.id, o.role]));
    const could = new Map<number, number>();
    const count = (id: WireId, n: number) =>
      role.get(orderOfWire(id)) !== 'entry' && could.set(id, Math.max(could.get(id) ?? 0, n));
    for (const o of exchange.orders.values()) count(o.id, o.qty - o.filled);
    for (const c of exchange.underway) {
      if (c.kind === 'new') count(c.id, c.qty);
      else if (c.kind === 'replace' && exchange.orders.has(c.id))
        count(c.id, c.qty - (exchange.orders.get(c.id)?.filled ?? 0));
    }
    const most = [...could.values()].reduce((a, b) => a + b, 0);
    // On a line without latency two that are joined never fill more than one of them, whatever is cut, moved or resized.
    if (atOnce)
      for (const [x, y] of pairs) {
        const [a, b] = [x, y].map((id) => orders.find((o) => o.id === id));
        if (a && b && a.filled === a.qty && a.qty > 0 && a.phase.k === 'ended' && a.phase.status === 'Filled')
          must(!isStaying(b), `order ${x} has filled, so order ${y} has ended`);
      }
    must(most <= Math.abs(held), `exits that may still fill (${most}) never exceed the position (${held})`);
  }

  /** When nothing is under way, broker and exchange believe the same. */
  function agree(): void {
    const believed = liveOrders(broker).flatMap((o) => {
      const w = wireOf(o);
      return w ? [[w.id, w.acked?.qty, w.filled, w.acked?.limit, w.pending]] : [];
    });
    const there = [...exchange.orders.values()]
      .sort((a, b) => a.id - b.id)
      .map((o) => [o.id, o.qty, o.filled, o.limit, null]);
    must(
      JSON.stringify(believed.sort((a, b) => (a[0] as number) - (b[0] as number))) === JSON.stringify(there),
      `agree when quiet: ${JSON.stringify(believed)} ${JSON.stringify(there)}`,
    );
    const booked = everything(broker).fills.reduce((a, f) => a + signOf(f.side) * f.qty, 0);
    must(
      booked === exchange.executions.reduce((a, x) => a + signOf(x.side) * x.qty, 0),
      'every execution is booked',
    );
    if (!broker.linked) return;
    for (const o of liveOrders(broker)) {
      must(
        o.phase.k !== 'asleep' || SESSIONS[session] !== 'regular',
        `nobody sleeps through the regular session: order ${o.id}, ${o.role}`,
      );
      must(
        o.bounced.times > 0 || (o.phase.k !== 'leaving' && o.phase.k !== 'owed'),
        `nothing is on its way out for ever: order ${o.id}`,
      );
      if (o.bounced.times > 0 || o.phase.k !== 'working') continue;
      must(o.phase.wire !== null, `nothing is held back without a reason: order ${o.id}, ${o.role}`);
      const [acked, whole] = [o.phase.wire?.acked?.qty ?? 0, (o.phase.wire?.filled ?? 0) + openOf(o)];
      // A stop by hand may be for more than it may have there while a close has the shares.
      must(
        acked === whole || (o.role === 'close' && o.stop !== null && acked < whole),
        `what works is what is wanted: order ${o.id}`,
      );
    }
  }

  const price = (cents: number) => Math.max(100, Math.round((last + cents * 100) / 100) * 100) as Price;
  for (const a of acts) {
    perform(a);
    if (exchange.quiet) agree();
  }
  finish();
  replay();
  return broker;

  // biome-ignore lint/complexity/noExcessiveCognitiveComplexity: one branch an act
  function perform(a: Act): void {
    const orders = liveOrders(broker);
    const any = <T>(list: readonly T[], n: number): T | undefined => list[n % Math.max(1, list.length)];
    switch (a.kind) {
      case 'enter': {
        const stop = a.how === 'stop' ? price((a.side === 'buy' ? 1 : -1) * (Math.abs(a.cents) + 1)) : null;
        step(
          {
            kind: 'intent',
            intent: {
              kind: 'entry',
              account: MAIN,
              symbol: SYMBOL,
              side: a.side,
              qty: a.qty,
              stop,
              sentence: '',
              extended: a.extended,
              type: a.how === 'market' ? 'Market' : a.how === 'stop' ? 'Stop' : 'Limit',
              limit: a.how === 'limit' || a.how === 'ioc' ? price(a.cents) : null,
              plan: planOf(a.stops, a.targets, a.breakeven, a.trail, a.extended),
              ...PLAIN_TERMS,
              timeInForce: a.how === 'ioc' ? 'ImmediateOrCancel' : a.gtc ? 'GoodTillCancel' : 'Day',
            },
          },
          true,
        );
        return;
      }
      case 'close': {
        const sign = openTrade(holdingOf(broker, MAIN, SYMBOL))?.sign ?? 1;
        step(
          {
            kind: 'intent',
            intent: {
              kind: 'close',
              account: MAIN,
              symbol: SYMBOL,
              qty: a.qty,
              extended: SESSIONS[session] !== 'regular' && a.how !== 'market',
              type: a.how === 'market' ? 'Market' : a.how === 'stop' ? 'Stop' : 'Limit',
              limit: a.how === 'limit' ? price(a.cents) : null,
              stop: a.how === 'stop' ? price(-sign * (Math.abs(a.cents) + 1)) : null,
              ...PLAIN_TERMS,
              timeInForce: a.gtc ? 'GoodTillCancel' : 'Day',
            },
          },
          true,
        );
        return;
      }
      case 'attach':
        step(
          {
            kind: 'intent',
            intent: {
              kind: 'attach',
              account: MAIN,
              symbol: SYMBOL,
              over: a.shares === 0 ? 'all' : { shares: a.shares },
              plan: planOf(a.stops, a.targets, a.stops + a.targets === 0 ? 1 : 0, a.trail, a.extended) ?? {
                ...NO_EXITS,
                extended: a.extended,
              },
            },
          },
          true,
        );
        return;
      case 'move': {
        const o = any(orders, a.pick);
        if (o) step({ kind: 'intent', intent: { kind: 'move', orderId: o.id, to: price(a.cents) } }, true);
        return;
      }
      case 'cancel': {
        const o = any(orders, a.pick);
        const yes = a.yes ? { bare: [{ symbol: SYMBOL, shares: 1_000_000 }] } : {};
        if (a.what === 'order' && o)
          step(
            { kind: 'intent', intent: { kind: 'cancel', what: { kind: 'orders', ids: [o.id] }, ...yes } },
            true,
          );
        if (a.what === 'symbol')
          step(
            {
              kind: 'intent',
              intent: { kind: 'cancel', what: { kind: 'symbol', account: MAIN, symbol: SYMBOL }, ...yes },
            },
            true,
          );
        if (a.what === 'everything')
          step(
            {
              kind: 'intent',
              intent: { kind: 'cancel', what: { kind: 'everything', account: MAIN }, ...yes },
            },
            true,
          );
        if (
          a.what !== 'order' &&
          a.yes &&
          atOnce &&
          exchange.up &&
          broker.linked &&
          exchange.rude.refuse === 0
        )
          must(
            !liveOrders(broker).some((x) => isLive(x) && x.bounced.times === 0),
            'a cancel of everything leaves nothing',
          );
        return;
      }
      case 'pair': {
        const leg = (side: Side, qty: number, cents: number, waits: boolean) =>
          ({
            kind: 'entry',
            account: MAIN,
            symbol: SYMBOL,
            side,
            qty,
            stop: waits ? price(signOf(side) * (Math.abs(cents) + 1)) : null,
            sentence: '',
            extended: true,
            type: waits ? 'Stop' : 'Limit',
            limit: waits ? null : price(-signOf(side) * Math.abs(cents)),
            plan: planOf(1, 1, 0, 0, true),
            ...PLAIN_TERMS,
          }) as const;
        const of = [
          leg('buy', a.qty, a.cents, a.cents % 2 === 0),
          leg(a.turned ? 'sell' : 'buy', a.other, a.cents + 1, a.turned || a.cents % 3 === 0),
        ] as const;
        const first = broker.next.order;
        step({ kind: 'intent', intent: { kind: 'pair', of } }, true);
        if (broker.next.order > first + 1) pairs.push([first, first + 1]);
        return;
      }
      case 'retype': {
        const o = any(
          orders.filter((x) => x.role === 'entry' || x.role === 'close'),
          a.pick,
        );
        if (!o) return;
        const sign = signOf(o.side);
        step(
          {
            kind: 'intent',
            intent: {
              kind: 'retype',
              orderId: o.id,
              qty: a.qty,
              on: 'last',
              extended: a.how !== 'market',
              type: a.how === 'market' ? 'Market' : a.how === 'stop' ? 'Stop' : 'Limit',
              limit: a.how === 'limit' ? price(a.cents) : null,
              stop: a.how === 'stop' ? price(sign * (Math.abs(a.cents) + 1)) : null,
              ...PLAIN_TERMS,
              timeInForce: a.gtc ? 'GoodTillCancel' : 'Day',
            },
          },
          true,
        );
        return;
      }
      case 'work': {
        const sign = signOf(a.side);
        step(
          {
            kind: 'intent',
            intent: {
              kind: 'entry',
              account: MAIN,
              symbol: SYMBOL,
              side: a.side,
              qty: a.qty,
              stop: null,
              sentence: '',
              extended: true,
              type: 'Limit',
              limit: price(a.cents),
              works: { to: price(a.cents + sign * a.reach), within: 4_000 },
              plan: planOf(1, 0, 0, 0, true),
              ...PLAIN_TERMS,
            },
          },
          true,
        );
        return;
      }
      case 'time':
        tick += a.ms;
        step({ kind: 'clock' }, false);
        return;
      case 'flatten':
        step(
          { kind: 'intent', intent: { kind: 'flatten', account: MAIN, symbol: SYMBOL, limit: null } },
          true,
        );
        return;
      case 'price':
        last = price(a.cents);
        step({ kind: 'price', symbol: SYMBOL }, false);
        return;
      case 'fill': {
        const o = any([...exchange.orders.values()], a.pick);
        if (!o) return;
        exchange.fill(o.id, a.qty, Math.max(100, (o.limit ?? last) + a.off * 100) as Price);
        if (atOnce) settle();
        return;
      }
      case 'throw out': {
        const o = any([...exchange.orders.values()], a.pick);
        if (o) exchange.throwOut(o.id);
        if (atOnce) settle();
        return;
      }
      case 'arrive':
        exchange.arrive(a.count);
        return;
      case 'deliver': {
        const reports = exchange.deliver(a.count);
        if (reports.length > 0) step({ kind: 'reports', reports }, false);
        return;
      }
      case 'rude':
        exchange.rude.reject = a.reject;
        exchange.rude.refuse = a.refuse;
        return;
      case 'cut':
      case 'mend': {
        exchange[a.kind]();
        const reports = exchange.deliver(100);
        if (reports.length > 0) step({ kind: 'reports', reports }, false);
        return;
      }
      case 'session':
        session = (session + 1) % 4;
        if (session === 0) day++;
        step({ kind: 'session' }, false);
        return;
      case 'reload':
        broker = structuredClone(broker);
    }
  }

  /** Whatever has happened, a patient trader gets out: the line is mended, the exchange is polite, and flatten leaves nothing. */
  // biome-ignore lint/complexity/noExcessiveCognitiveComplexity: one check after another of what must hold in the end
  function finish(): void {
    Object.assign(exchange.rude, { reject: 0, refuse: 0 });
    perform({ kind: 'mend' });
    while (SESSIONS[session] !== 'regular') perform({ kind: 'session' });
    for (let k = 0; k < 30; k++) {
      perform({ kind: 'price', cents: k % 2 === 0 ? 1 : -1 });
      for (let turn = 0; !exchange.quiet && turn < 200; turn++) {
        exchange.arrive(100);
        perform({ kind: 'deliver', count: 100 });
      }
      if (k === 2 || k === 15) perform({ kind: 'flatten' });
      if (k > 3)
        for (const o of [...exchange.orders.values()])
          if (everything(broker).orders.find((x) => x.id === orderOfWire(o.id))?.role === 'close')
            perform({ kind: 'fill', pick: [...exchange.orders.keys()].indexOf(o.id), qty: 10_000, off: 0 });
    }
    agree();
    must(
      liveOrders(broker).length === 0 && openTrade(holdingOf(broker, MAIN, SYMBOL)) === undefined,
      'flatten leaves nothing',
    );
    must(exchange.orders.size === 0, 'nothing is left at the exchange');
    must(Object.keys(broker.holdings).length === 0, 'what is over is off the desk');
  }

  /** The same inputs in the same order give the same state. */
  function replay(): void {
    let again = createBroker(oneAccount({ multiple: 40 }, NO_GUARDS));
    for (const [input, c] of inputs) [again] = stepBroker(again, input, context(c));
    must(JSON.stringify(again) === JSON.stringify(broker), 'a replay gives the same state');
  }
}

const scopesOf = (b: Broker): Scope[] => Object.values(b.holdings).flatMap((h) => h.scopes);

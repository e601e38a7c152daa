import {
  type AccountSetup,
  CASH,
  CASH_ACCOUNT,
  DEFAULT_FEES,
  MAIN,
  totalOf,
} from '../../src/core/account/index.ts';
import {
  accountNow,
  type Broker,
  type BrokerContext,
  type BrokerInput,
  createBroker,
  dueOrders,
  type ExitPlan,
  everything,
  holdingOf,
  type Intent,
  liveOrders,
  openTrade,
  orderOf,
  orderOfWire,
  PLAIN_TERMS,
  stepBroker,
} from '../../src/core/orders/index.ts';
import {
  type AccountId,
  at,
  DAY,
  dayOf,
  moneyFromDollars,
  type OrderId,
  type Part,
  type Price,
  type SessionKind,
  type Side,
  signOf,
  type WireId,
} from '../../src/core/units/index.ts';
import type { VenueCommand, VenueOrder, VenueReport } from '../../src/core/venue/index.ts';
import { NO_GUARDS, oneAccount } from './accounts.ts';
import { keepsItsRisk, staysProtected } from './protection.ts';
import { checkBroker, must } from './rules.ts';

/**
 * Long lives of a trader in two symbols and two accounts, one of them a cash account, from a generator of their own: prices wander, the exchange fills
 * what they cross, messages take random times, the line is cut, and some exchanges are rude. They find what
 * the histories, which pick every fill by hand, do not come to.
 */
export function live(seed: number): { trades: number; fills: number } {
  const draw = generator(seed);
  const int = (from: number, to: number) => from + Math.floor(draw() * (to - from + 1));
  const chance = (p: number) => draw() < p;
  const pick = <T>(list: readonly T[]): T => list[Math.floor(draw() * list.length)] as T;

  const slow = pick([0, 0, 20, 200, 2_000]);
  const rude = chance(0.4) ? draw() * 0.15 : 0;
  const cents: Record<string, number> = { AAA: 1_000, BBB: 300 };
  const SYMBOLS = Object.keys(cents);
  const priceOf = (symbol: string, off = 0) => (Math.max(1, (cents[symbol] as number) + off) * 100) as Price;
  let now: number = at(9, 25);
  let session: SessionKind = 'pre-market';
  const hard = chance(0.5);
  const cash: AccountSetup = {
    id: CASH,
    rules: { ...CASH_ACCOUNT, startCash: moneyFromDollars(3_000), guards: NO_GUARDS },
    fees: [DEFAULT_FEES],
  };
  let broker: Broker = createBroker([...oneAccount({ multiple: 100 }, NO_GUARDS), cash]);
  /** What lenders have been paid. */
  const paid: Record<string, number> = { [MAIN]: 0 };

  // --- the exchange
  const orders = new Map<WireId, VenueOrder & { account: AccountId; symbol: string; open: number }>();
  const executions: { symbol: string; account: string; side: Side; qty: number; price: number }[] = [];
  const accountOf = (id: WireId) => orderOf(broker, orderOfWire(id))?.account ?? '';
  let up = true;
  let cuts = 0;
  const pairs: [one: OrderId, other: OrderId, qty: number][] = [];
  /** The exchange fills whatever is crossed. */
  let plenty = false;
  let out: { due: number; command: VenueCommand }[] = [];
  let back: { due: number; report: VenueReport }[] = [];
  let kept: VenueReport[] = [];
  const due = (before: { due: number } | undefined) =>
    Math.max(before?.due ?? 0, now + (slow > 0 ? int(0, slow) : 0));
  const say = (report: VenueReport) => {
    if (up) back.push({ due: due(back[back.length - 1]), report });
    else kept.push(report);
  };
  const throwOut = (id: WireId, why: string) => {
    const o = orders.get(id);
    if (o && orders.delete(id))
      say({ kind: 'out', account: o.account, id, symbol: o.symbol, at: now, cumQty: o.qty - o.open, why });
  };
  function cross(id: WireId): void {
    for (let k = 0; k < 5; k++) {
      const o = orders.get(id);
      if (!o) return;
      const sign = signOf(o.side);
      const price = priceOf(o.symbol, sign);
      if (o.limit !== null && sign * (o.limit - price) < 0) return;
      const qty = plenty ? o.open : Math.min(o.open, int(1, 150));
      o.open -= qty;
      executions.push({ symbol: o.symbol, account: accountOf(id), side: o.side, qty, price });
      say({
        kind: 'fill',
        account: o.account,
        id,
        symbol: o.symbol,
        cumQty: o.qty - o.open,
        at: now,
        price,
        qty,
        liquidity: 'removed',
        venue: 'LIT',
        better: 0,
      });
      if (o.open === 0) orders.delete(id);
      if (!plenty && chance(0.3)) return;
    }
  }
  function take(c: VenueCommand): void {
    const head = { account: c.account, id: c.id, symbol: c.symbol, at: now };
    const o = orders.get(c.id);
    if (c.kind === 'new') {
      if (chance(rude)) return say({ kind: 'rejected', ...head, why: 'not today' });
      orders.set(c.id, { ...c, open: c.qty });
      say({ kind: 'new', ...head });
      cross(c.id);
      if (c.life !== 'day') throwOut(c.id, 'unfilled rest');
    } else if (c.kind === 'executions') throw new Error('nothing is missing on a line that keeps its order');
    else if (!o) say({ kind: 'refused', ...head, request: c.kind, why: 'too late' });
    else if (chance(rude)) say({ kind: 'refused', ...head, request: c.kind, why: 'not today' });
    else if (c.kind === 'cancel') throwOut(c.id, 'canceled');
    else {
      const filled = o.qty - o.open;
      o.qty = Math.max(c.qty, filled);
      o.open = o.qty - filled;
      o.limit = c.limit;
      if (o.open === 0) orders.delete(c.id);
      say({ kind: 'replaced', ...head, cumQty: filled, qty: o.qty, limit: o.limit });
      cross(c.id);
    }
  }
  const held = (account: string, symbol: string) =>
    executions
      .filter((x) => x.symbol === symbol && x.account === account)
      .reduce((a, x) => a + signOf(x.side) * x.qty, 0);

  // --- the broker
  const context = (): BrokerContext => ({
    now,
    session,
    quote: (s) => ({ bid: priceOf(s, -1), ask: priceOf(s, 1), bidSize: 1, askSize: 1 }),
    last: (s) => priceOf(s),
    date: '2027-03-01',
    listing: (s) => ({ borrow: hard && s === 'BBB' ? 'hard' : 'easy', restricted: false }),
    locate: () => ({ perShare: 100, available: 1_000 }),
    candle: (s) => ({ high: priceOf(s, 7), low: priceOf(s, -7) }),
  });
  function step(input: BrokerInput): void {
    const [next, effects] = stepBroker(broker, input, context());
    staysProtected(broker, next, effects.events, input, session);
    keepsItsRisk(broker, next);
    broker = next;
    if (up) for (const command of effects.venue) out.push({ due: due(out[out.length - 1]), command });
    for (const x of effects.events)
      if (x.kind === 'located') paid[x.account] = (paid[x.account] ?? 0) + x.fee;
    checkBroker(broker, paid);
    const { settled } = accountNow(broker, CASH, (s) => priceOf(s)).cash;
    must(settled >= 0, `settled cash (${settled}) is never overdrawn`);
    for (const a of [MAIN, CASH])
      for (const s of SYMBOLS)
        must(
          exposed(a, s) <= Math.abs(held(a, s)),
          `exits that may still fill (${exposed(a, s)}) never exceed what is held (${held(a, s)})`,
        );
    if (slow === 0) pump();
  }
  /** Shares that exits could still trade, whatever is under way. */
  function exposed(account: string, symbol: string): number {
    const entries = new Set(everything(broker).orders.flatMap((o) => (o.role === 'entry' ? [o.id] : [])));
    const could = new Map<number, number>();
    const count = (id: WireId, n: number) => {
      if (!entries.has(orderOfWire(id)) && accountOf(id) === account)
        could.set(id, Math.max(could.get(id) ?? 0, n));
    };
    for (const o of orders.values()) if (o.symbol === symbol) count(o.id, o.open);
    for (const { command: c } of out) {
      const there = orders.get(c.id);
      if (c.symbol !== symbol || c.kind === 'cancel' || c.kind === 'executions') continue;
      if (c.kind === 'new') count(c.id, c.qty);
      else if (there) count(c.id, c.qty - (there.qty - there.open));
    }
    return [...could.values()].reduce((a, b) => a + b, 0);
  }
  function pump(): void {
    for (let turn = 0; ; turn++) {
      must(turn < 400, 'broker and exchange come to rest');
      let moved = false;
      while (out[0] && out[0].due <= now) {
        take((out.shift() as (typeof out)[number]).command);
        moved = true;
      }
      const reports: VenueReport[] = [];
      while (back[0] && back[0].due <= now) reports.push((back.shift() as (typeof back)[number]).report);
      if (reports.length > 0) step({ kind: 'reports', reports });
      else if (!moved) return;
    }
  }
  /** Time passes; what the broker waits for is told. */
  function tick(ms: number): void {
    const due = dueOrders(broker, now);
    now += ms;
    if (due !== null && due <= now) step({ kind: 'clock' });
    pump();
  }
  const intend = (intent: Intent) => step({ kind: 'intent', intent });

  // --- the trader
  const part = (den: number): Part => ({ kind: 'fraction', num: 1, den });
  function plan(): ExitPlan | null {
    const targets = int(0, 3);
    const stops = pick([0, 1, 1, 1, 2]);
    if (stops + targets === 0) return null;
    return {
      stops: Array.from({ length: stops }, () => ({
        place: { kind: 'distance' as const, units: 100 * int(3, 40) },
        part: stops > 1 ? part(2) : null,
        on: pick(['last', 'last', 'bid', 'ask'] as const),
        ...(chance(0.3) ? { room: 100 * int(1, 9) } : {}),
      })),
      targets: Array.from({ length: targets }, (_, i) => ({
        place: { kind: 'distance' as const, units: 100 * int(2, 30) },
        part: pick([part(targets + 1), part(targets), i === targets - 1 ? null : part(targets)]),
      })),
      breakeven: chance(0.4)
        ? { after: { kind: 'distance', units: 100 * int(1, 20) }, plusCosts: chance(0.5) }
        : null,
      trail: chance(0.3)
        ? {
            reach: pick([
              { kind: 'distance' as const, units: 1_000 },
              { kind: 'percent' as const, percent: 1 },
              { kind: 'candle' as const, minutes: 2, beyond: 100 },
            ]),
            after: chance(0.4)
              ? null
              : chance(0.4) && targets > 0
                ? { kind: 'target' as const, index: int(0, targets - 1) }
                : { kind: 'distance', units: 500 },
          }
        : null,
      ...(chance(0.2) ? { outBy: now + int(1, 40_000) } : {}),
      extended: chance(0.5),
    };
  }
  /** A yes to whatever is taken away, or none. */
  const yes = () => (chance(0.5) ? { bare: SYMBOLS.map((symbol) => ({ symbol, shares: 1_000_000 })) } : {});
  function move(symbol: string, by: number): void {
    cents[symbol] = Math.max(20, (cents[symbol] as number) + by);
    for (const o of [...orders.values()]) if (o.symbol === symbol && chance(0.8)) cross(o.id);
    step({ kind: 'price', symbol });
  }
  function turn(): void {
    session = (
      {
        'pre-market': 'regular',
        regular: 'after hours',
        'after hours': 'closed',
        closed: 'pre-market',
      } as const
    )[session];
    if (session === 'pre-market') now = (dayOf(now) + 1) * DAY + at(4);
    if (session === 'closed') for (const id of [...orders.keys()]) throwOut(id, 'the day has ended');
    step({ kind: 'session' });
  }
  function mend(): void {
    if (up) return;
    up = true;
    const list = [...orders.values()].map(({ account, id, symbol, qty, open, limit }) => ({
      account,
      id,
      symbol,
      qty,
      cumQty: qty - open,
      limit,
    }));
    const reports: VenueReport[] = [
      { kind: 'line', up: true, at: now },
      ...kept,
      { kind: 'list', at: now, orders: list },
    ];
    kept = [];
    step({ kind: 'reports', reports });
  }
  function cut(): void {
    if (!up) return;
    cuts++;
    up = false;
    out = [];
    kept = back.map((b) => b.report);
    back = [];
    step({ kind: 'reports', reports: [{ kind: 'line', up: false, at: now }] });
  }
  /** Two entries for as many shares, often in two accounts: what fills of the one is taken from the other. */
  function pair(qty: number): void {
    const one = (): Extract<Intent, { kind: 'entry' }> => {
      const symbol = pick(SYMBOLS);
      return {
        kind: 'entry',
        account: pick([MAIN, CASH]),
        symbol,
        ...PLAIN_TERMS,
        side: 'buy',
        type: 'Limit',
        qty,
        limit: priceOf(symbol, int(-6, 3)),
        stop: null,
        extended: chance(0.6),
        plan: chance(0.7) ? plan() : null,
        sentence: '',
      };
    };
    const first = broker.next.order;
    intend({ kind: 'pair', of: [one(), one()] });
    const [a, b] = [orderOf(broker, first), orderOf(broker, first + 1)];
    if (a && b && a.symbol !== b.symbol) pairs.push([first, (first + 1) as OrderId, qty]);
  }
  /** Two that are joined, of two symbols, fill together for no more than one of them is for, where the line answers at once and was never cut. */
  function pairsHold(): void {
    if (slow > 0 || rude > 0 || cuts > 0) return;
    for (const [a, b, qty] of pairs) {
      const filled = (orderOf(broker, a)?.filled ?? 0) + (orderOf(broker, b)?.filled ?? 0);
      must(filled <= qty, `orders ${a} and ${b} that are joined fill ${filled} of ${qty}`);
    }
  }

  // biome-ignore lint/complexity/noExcessiveCognitiveComplexity: one branch a thing that a trader may do
  function act(symbol: string, account: AccountId): void {
    const sign = openTrade(holdingOf(broker, account, symbol))?.sign ?? 1;
    const head = { account, symbol, ...PLAIN_TERMS };
    const x = draw();
    const some = liveOrders(broker);
    if (x < 0.32) move(symbol, int(-9, 9));
    else if (x < 0.34) intend({ kind: 'locate', account, symbol, shares: int(1, 400) });
    else if (x < 0.52)
      intend({
        kind: 'entry',
        ...head,
        side: pick(['buy', 'buy', 'sell'] as const),
        ...pick([
          { type: 'Limit' as const, limit: priceOf(symbol, int(-6, 8)) },
          { type: 'Limit' as const, limit: priceOf(symbol, int(-6, 8)) },
          { type: 'Market' as const, limit: null },
        ]),
        qty: int(1, 300),
        stop: null,
        extended: chance(0.6),
        plan: chance(0.8) ? plan() : null,
        joins: chance(0.5),
        sentence: '',
        ...(chance(0.2)
          ? { timeInForce: 'GoodTillDate' as const, until: now + int(1, 40_000) }
          : { timeInForce: pick(['Day', 'GoodTillCancel', 'ImmediateOrCancel'] as const) }),
      });
    else if (x < 0.53) pair(int(1, 200));
    else if (x < 0.55)
      intend({
        kind: 'entry',
        ...head,
        side: 'buy',
        type: 'StopLimit',
        qty: int(1, 300),
        stop: priceOf(symbol, int(1, 8)),
        limit: priceOf(symbol, int(8, 12)),
        extended: chance(0.6),
        plan: plan(),
        sentence: '',
      });
    else if (x < 0.66)
      intend({
        kind: 'close',
        ...head,
        type: 'Limit',
        qty: int(1, 200),
        limit: priceOf(symbol, sign * int(-4, 10)),
        stop: null,
        extended: session !== 'regular',
        timeInForce: pick(['Day', 'GoodTillCancel', 'ImmediateOrCancel'] as const),
      });
    else if (x < 0.7)
      intend({
        kind: 'close',
        ...head,
        type: 'Stop',
        qty: int(1, 300),
        limit: null,
        stop: priceOf(symbol, -sign * int(1, 10)),
        extended: false,
      });
    else if (x < 0.76 && some.length > 0) {
      const o = pick(some);
      intend({ kind: 'move', orderId: o.id, to: priceOf(o.symbol, int(-15, 15)) });
    } else if (x < 0.81 && some.length > 0)
      intend({ kind: 'cancel', what: { kind: 'orders', ids: [pick(some).id] }, ...yes() });
    else if (x < 0.83) {
      const keep = chance(0.5) ? { keepStops: true } : {};
      intend({
        kind: 'cancel',
        what: chance(0.7)
          ? { kind: 'symbol', account, symbol, ...keep }
          : { kind: 'everything', account, ...keep },
        ...yes(),
      });
    } else if (x < 0.845 && some.length > 0)
      intend({ kind: 'resize', orderId: pick(some).id, qty: int(1, 400), ...yes() });
    else if (x < 0.86) intend({ kind: 'flatten', account, symbol, limit: null });
    else if (x < 0.87) {
      const t = openTrade(holdingOf(broker, account, symbol));
      intend({ kind: 'flatten', account, symbol, limit: null });
      if (t)
        intend({
          kind: 'entry',
          ...head,
          side: t.sign === 1 ? 'sell' : 'buy',
          type: 'Limit',
          qty: t.entered - t.exited,
          limit: priceOf(symbol, -t.sign * 6),
          stop: null,
          extended: true,
          plan: plan(),
          afterFlat: true,
          sentence: '',
        });
    } else if (x < 0.9) {
      const p = plan();
      if (p)
        intend({
          kind: 'attach',
          account,
          symbol,
          over: chance(0.5) ? 'all' : { shares: int(1, 300) },
          plan: p,
        });
    } else if (x < 0.93 && rude > 0 && orders.size > 0) throwOut(pick([...orders.keys()]), 'not today');
    else if (x < 0.95) cut();
    else if (x < 0.98) mend();
    else turn();
  }

  for (let k = 0; k < 220; k++) {
    tick(int(1, 900));
    act(pick(SYMBOLS), pick([MAIN, MAIN, CASH]));
    pairsHold();
    if (chance(0.02)) broker = structuredClone(broker);
  }

  // A patient trader gets out, and then everybody knows the same.
  mend();
  plenty = true;
  while ((session as SessionKind) !== 'regular') {
    turn();
    tick(10);
  }
  for (let k = 0; k < 60; k++) {
    tick(3_000);
    for (const symbol of SYMBOLS) {
      if (k % 6 === 2)
        for (const account of [MAIN, CASH]) intend({ kind: 'flatten', account, symbol, limit: null });
      move(symbol, k % 2 === 0 ? 1 : -1);
    }
  }
  tick(10_000);
  const { trades, fills } = everything(broker);
  for (const a of [MAIN, CASH])
    for (const s of SYMBOLS) must(held(a, s) === 0, `${held(a, s)} ${s} are held after many flattens`);
  must(liveOrders(broker).length === 0 && orders.size === 0, 'nothing is left alive');
  const moved = executions.reduce((a, x) => a - signOf(x.side) * x.price * x.qty, 0);
  must(
    moved ===
      Object.values(broker.accounts).reduce((a, x) => a + x.ledger.cash, 0) +
        (paid[MAIN] ?? 0) +
        fills.reduce((a, f) => a + totalOf(f.costs), 0),
    'cash is what the exchange moved',
  );
  return { trades: trades.length, fills: executions.length };
}

/** Numbers from 0 to 1 (mulberry32, T. Ettinger, public domain). */
function generator(seed: number): () => number {
  let s = seed | 0;
  return () => {
    s = (s + 0x6d2b79f5) | 0;
    let t = Math.imul(s ^ (s >>> 15), 1 | s);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

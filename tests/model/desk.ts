import { type AccountRules, type AccountSetup, type Guards, MAIN } from '../../src/core/account/index.ts';
import {
  type Broker,
  type BrokerContext,
  type BrokerInput,
  createBroker,
  dueOrders,
  type ExitPlan,
  everything,
  holdingOf,
  type Intent,
  isStaying,
  liveOrders,
  type Order,
  type OrderEvent,
  openTrade,
  PLAIN_TERMS,
  positionOf,
  type Refusal,
  stepBroker,
  wireOf,
} from '../../src/core/orders/index.ts';
import {
  at,
  DAY,
  fromDollars,
  type OrderId,
  type Price,
  type SessionKind,
  type Side,
} from '../../src/core/units/index.ts';
import type { VenueCommand } from '../../src/core/venue/index.ts';
import { COMMISSION_ONLY, NO_GUARDS, oneAccount } from './accounts.ts';
import { fakeExchange } from './exchange.ts';

export const SYMBOL = 'VULPN';
/** A yes that names more shares than anybody holds. */
export const YES = [{ symbol: SYMBOL, shares: 1_000_000 }];
type Entry = Extract<Intent, { kind: 'entry' }>;
type Close = Extract<Intent, { kind: 'close' }>;

/**
 * A broker on an exchange that the test plays. With `slow` messages are under way until the test lets
 * them arrive; otherwise they arrive in the moment they are sent. Last is 10.00, bid 9.99, ask 10.01.
 */
export function desk({
  session = 'regular' as SessionKind,
  slow = false,
  rules = {} as Partial<AccountRules>,
  guards = {} as Partial<Guards>,
  fees = [COMMISSION_ONLY],
  others = [] as readonly AccountSetup[],
} = {}) {
  const exchange = fakeExchange();
  let broker: Broker = createBroker([
    ...oneAccount(rules, { ...NO_GUARDS, mostShares: 5_000, ...guards }, fees),
    ...others,
  ]);
  let kind = session;
  let now: number = session === 'pre-market' ? at(8) : at(9, 45);
  let last = fromDollars(10);
  let quote: { bid: Price; ask: Price } | null = null;
  let restricted = false;
  let borrow: 'easy' | 'hard' | 'none' = 'easy';
  const candles = new Map<number, { high: number; low: number }>();
  const events: OrderEvent[] = [];
  let refused: Refusal | null = null;
  const context = (): BrokerContext => ({
    now,
    session: kind,
    quote: () => ({
      bid: quote?.bid ?? ((last - 100) as Price),
      ask: quote?.ask ?? ((last + 100) as Price),
      bidSize: 100,
      askSize: 100,
    }),
    last: () => last,
    date: '2027-03-01',
    listing: () => ({ borrow, restricted }),
    locate: () => ({ perShare: 100, available: 1_000 }),
    candle: (_symbol, minutes) => candles.get(minutes) ?? null,
  });
  const step = (input: BrokerInput): VenueCommand[] => {
    now += 10;
    exchange.at(now);
    const [next, effects] = stepBroker(broker, input, context());
    broker = next;
    events.push(...effects.events);
    if (input.kind === 'intent') refused = effects.refused;
    exchange.send(effects.venue);
    if (!slow) settle();
    return effects.venue;
  };
  function settle(): void {
    for (let k = 0; k < 100; k++) {
      exchange.arrive(100);
      const reports = exchange.deliver(100);
      if (reports.length === 0) return;
      step({ kind: 'reports', reports });
    }
    throw new Error('broker and exchange do not come to rest');
  }
  const newest = () => Math.max(0, ...everything(broker).orders.map((o) => o.id));
  return {
    exchange,
    events,
    step,
    settle,
    context,
    candles,
    get broker() {
      return broker;
    },
    get refused() {
      return refused;
    },
    set(over: {
      quote?: { bid: Price; ask: Price } | null;
      restricted?: boolean;
      borrow?: 'easy' | 'hard' | 'none';
    }) {
      if (over.quote !== undefined) quote = over.quote;
      restricted = over.restricted ?? restricted;
      borrow = over.borrow ?? borrow;
    },
    session(next: SessionKind, nextDay = false) {
      kind = next;
      if (nextDay) now += DAY;
      return step({ kind: 'session' });
    },
    intent(intent: Intent) {
      step({ kind: 'intent', intent });
      return newest();
    },
    enter(side: Side, qty: number, plan: ExitPlan | null = null, over: Partial<Entry> = {}) {
      const blank = {
        kind: 'entry' as const,
        account: MAIN,
        symbol: SYMBOL,
        type: 'Limit' as const,
        limit: fromDollars(10),
        stop: null,
        extended: false,
        sentence: 'buy',
      };
      return this.intent({ ...blank, side, qty, plan, ...PLAIN_TERMS, ...over });
    },
    close(qty: number, over: Partial<Close> = {}) {
      return this.intent({
        kind: 'close',
        account: MAIN,
        symbol: SYMBOL,
        type: 'Limit',
        qty,
        limit: fromDollars(10.05),
        stop: null,
        extended: false,
        ...PLAIN_TERMS,
        ...over,
      });
    },
    stopBelow(qty: number, dollars: number) {
      return this.close(qty, { type: 'Stop', limit: null, stop: fromDollars(dollars) });
    },
    flatten: (limit: Price | null = null) =>
      step({ kind: 'intent', intent: { kind: 'flatten', account: MAIN, symbol: SYMBOL, limit } }),
    cancel: (...ids: number[]) =>
      step({
        kind: 'intent',
        intent: { kind: 'cancel', what: { kind: 'orders', ids: ids as OrderId[] }, bare: YES },
      }),
    cancelSymbol: () =>
      step({
        kind: 'intent',
        intent: { kind: 'cancel', what: { kind: 'symbol', account: MAIN, symbol: SYMBOL }, bare: YES },
      }),
    move: (orderId: number, dollars: number) =>
      step({
        kind: 'intent',
        intent: { kind: 'move', orderId: orderId as OrderId, to: fromDollars(dollars) },
      }),
    attach: (over: 'all' | { shares: number }, plan: ExitPlan) =>
      step({ kind: 'intent', intent: { kind: 'attach', account: MAIN, symbol: SYMBOL, over, plan } }),
    /** Fills up to `qty` of what an order has at the exchange; the report is under way then. */
    execute(orderId: number, qty: number, dollars?: number) {
      const wire = wireOf(this.order(orderId));
      const there = wire && exchange.orders.get(wire.id);
      if (there)
        exchange.fill(there.id, qty, dollars === undefined ? (there.limit as Price) : fromDollars(dollars));
    },
    fill(orderId: number, qty: number, dollars?: number) {
      this.execute(orderId, qty, dollars);
      settle();
    },
    /** So many ms pass. */
    wait(ms: number) {
      now += ms;
      return step({ kind: 'clock' });
    },
    get due() {
      return dueOrders(broker, now);
    },
    /** One print at a price. */
    price(dollars: number) {
      last = fromDollars(dollars);
      return step({ kind: 'price', symbol: SYMBOL });
    },
    order(id: number): Order {
      const o = everything(broker).orders.find((x) => x.id === id);
      if (!o) throw new Error(`there is no order ${id}`);
      return o;
    },
    live: () => liveOrders(broker),
    find: (role: Order['role'], leg: number | null = null) =>
      liveOrders(broker).filter((o) => isStaying(o) && o.role === role && (leg === null || o.leg === leg)),
    get position() {
      const t = openTrade(holdingOf(broker, MAIN, SYMBOL));
      return t ? t.sign * positionOf(t) : 0;
    },
    trade: (id: number) => everything(broker).trades.find((t) => t.id === id),
  };
}

export const only = (orders: Order[]): Order => {
  if (orders.length !== 1 || !orders[0])
    throw new Error(
      `one order was expected, there are ${orders.length}: ${orders.map((o) => `${o.role} ${o.id}`).join()}`,
    );
  return orders[0];
};

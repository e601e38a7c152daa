import {
  type Account,
  type AccountRules,
  type AccountSetup,
  type AccountView,
  accountView,
  costsFor,
  type FeeTable,
  FIRST_ACCOUNTS,
  type LocateOffer,
  multipleOf,
  openAccount,
  type PositionView,
  powerOf,
  tableOn,
  totalOf,
} from '../account/index.ts';
import { contractsIn, isOption, mostToLose, multiplierOfSymbol } from '../instruments/index.ts';
import type { Borrow, Quote } from '../market/index.ts';
import {
  type AccountId,
  type Money,
  type OrderId,
  type Price,
  roundToTick,
  type SessionKind,
  type Shelf,
  type Side,
  shelf,
  signOf,
  type Ticks,
  type TradeId,
  tickSize,
} from '../units/index.ts';
import type { VenueCommand, VenueReport } from '../venue/index.ts';
import { lossOf } from './cover.ts';
import type { Scope } from './exit-plan.ts';
import type { Intent } from './intent.ts';
import { isStaying, type Order, openOf, wireOf, worstOf } from './order.ts';
import type { OrderEvent } from './order-event.ts';
import type { Refusal } from './refusal.ts';
import { averageEntry, type Expired, type Fill, positionOf, type Trade } from './trade.ts';

/** What is alive of one instrument in one account: its working orders, the scopes of its exits, its open and waiting trades. */
export interface Holding {
  account: AccountId;
  symbol: string;
  multiplier: number;
  /** In which steps its prices go; left out for a stock. */
  ticks?: Ticks;
  orders: readonly Order[];
  scopes: readonly Scope[];
  trades: readonly Trade[];
}

/**
 * Everything the broker knows. Records are replaced, never changed. What is alive is kept by account
 * and instrument; what has ended lies on shelves, so that no step walks through it.
 */
export interface Broker {
  next: { order: OrderId; trade: TradeId; scope: number; fill: number; event: number; turn: number };
  accounts: Readonly<Record<string, Account>>;
  /** The line to the exchange stands. While it does not, nothing is sent and the worst case counts. */
  linked: boolean;
  holdings: Readonly<Record<string, Holding>>;
  past: { orders: Shelf<Order>; scopes: Shelf<Scope>; trades: Shelf<Trade>; fills: Shelf<Fill> };
}

/** What the broker may look at while it decides. */
export interface BrokerContext {
  now: number;
  /** The date of the trading day that is on. */
  date: string;
  session: SessionKind;
  quote(symbol: string): Quote;
  last(symbol: string): Price | null;
  /** What the rules of short sales ask about a symbol, and in which steps its prices go (left out: those of a stock). */
  listing(symbol: string): { borrow: Borrow; restricted: boolean; ticks?: Ticks };
  /** What a lender asks for shares of a symbol that is hard to borrow. */
  locate(symbol: string): LocateOffer;
  /** Last finished candle of so many minutes, for trails; null when there is none. */
  candle(symbol: string, minutes: number): { high: number; low: number } | null;
}

export type BrokerInput =
  | { kind: 'intent'; intent: Intent }
  /** Everything that the exchange has reported since, in its order: all of it is booked before anything is decided. */
  | { kind: 'reports'; reports: readonly VenueReport[] }
  /** A symbol has traded, or its quote has changed. */
  | { kind: 'price'; symbol: string }
  | { kind: 'session' }
  /** Options have come to the end of their last day. */
  | { kind: 'expiry'; of: readonly Expired[] }
  /** A time has come that {@link dueOrders} named. */
  | { kind: 'clock' }
  | { kind: 'risk unit'; account: AccountId; units: Money }
  /** The daily loss was reached on this day already, in what was lived through before: it holds. */
  | { kind: 'lock'; account: AccountId; loss: Money }
  /** An account is made, or its rules and fees are changed; a guard that is loosened holds from the next day on. */
  | { kind: 'account'; id: AccountId; rules: AccountRules; fees: readonly FeeTable[] };

export interface Effects {
  events: OrderEvent[];
  venue: VenueCommand[];
  /** Why an intent was not obeyed; null when it was. */
  refused: Refusal | null;
}

/** A broker with these accounts and nothing alive. */
export const createBroker = (accounts: readonly AccountSetup[] = FIRST_ACCOUNTS): Broker => ({
  next: { order: 1 as OrderId, trade: 1 as TradeId, scope: 1, fill: 1, event: 1, turn: 1 },
  accounts: Object.fromEntries(accounts.map((a) => [a.id, openAccount(a)])),
  linked: true,
  holdings: {},
  past: {
    orders: shelf.emptyShelf(),
    scopes: shelf.emptyShelf(),
    trades: shelf.emptyShelf(),
    fills: shelf.emptyShelf(),
  },
});

/** The accounts of a broker. */
export const accountIds = (accounts: Broker['accounts']): AccountId[] => Object.keys(accounts) as AccountId[];

/** Where a holding stands among the holdings. */
export const holdingKey = (account: AccountId, symbol: string): string => `${account} ${symbol}`;
const nothing = (account: AccountId, symbol: string): Holding => ({
  account,
  symbol,
  multiplier: multiplierOfSymbol(symbol),
  orders: [],
  scopes: [],
  trades: [],
});

/** What is alive of a symbol in an account; an empty holding when nothing is. */
export const holdingOf = (b: Broker, account: AccountId, symbol: string): Holding =>
  b.holdings[holdingKey(account, symbol)] ?? nothing(account, symbol);

/** The open trade of a holding: the position. */
export const openTrade = (h: Holding): Trade | undefined => h.trades.find((t) => t.status === 'open');

/** Whether anything of the trader's waits on a symbol's price, so that quiet symbols cost nothing. */
export function watches(b: Broker, symbol: string): boolean {
  for (const key in b.holdings) if (b.holdings[key]?.symbol === symbol) return true;
  return false;
}

/** The options and verticals that are held or ordered, in any account. */
export const optionsHeld = (b: Broker): string[] => [
  ...new Set(Object.values(b.holdings).flatMap((h) => (isOption(h.symbol) ? [h.symbol] : []))),
];

/** Whether a stop of the trader's looks at the quote of a symbol, not at its trades. */
export function watchesQuotes(b: Broker, symbol: string): boolean {
  for (const key in b.holdings) {
    const h = b.holdings[key] as Holding;
    if (h.symbol === symbol && h.orders.some((o) => o.on !== 'last' && o.phase.k === 'armed')) return true;
  }
  return false;
}

/** All living orders, by rising id. */
export const liveOrders = (b: Broker): Order[] =>
  Object.values(b.holdings)
    .flatMap((h) => h.orders)
    .sort((x, y) => x.id - y.id);

/** An order by its id, alive or ended. */
export const orderOf = (b: Broker, id: number): Order | undefined =>
  liveOrder(b, id) ?? shelf.taken(b.past.orders, id);

/** A living order by its id. */
export function liveOrder(b: Broker, id: number): Order | undefined {
  for (const key in b.holdings) {
    const o = b.holdings[key]?.orders.find((x) => x.id === id);
    if (o) return o;
  }
  return undefined;
}

/** Every order, scope and trade that has been, by rising id. For review, export and tests. */
export const everything = (
  b: Broker,
): { orders: Order[]; scopes: Scope[]; trades: Trade[]; fills: Fill[] } => {
  const living = Object.values(b.holdings);
  const byId = <T extends { id: number }>(past: Shelf<T>, live: T[]) =>
    [...shelf.all(past), ...live].sort((x, y) => x.id - y.id);
  return {
    orders: byId(
      b.past.orders,
      living.flatMap((h) => h.orders),
    ),
    scopes: byId(
      b.past.scopes,
      living.flatMap((h) => h.scopes),
    ),
    trades: byId(
      b.past.trades,
      living.flatMap((h) => h.trades),
    ),
    fills: shelf.all(b.past.fills),
  };
};

/** P&L of a trade in 1/10,000 dollar, of options times 100: realized on what is closed, unrealized on what is open at `mark`. */
export function profitOf(t: Trade, mark: number | null): { realized: number; unrealized: number } {
  const average = averageEntry(t) ?? 0;
  const each = t.sign * multiplierOfSymbol(t.symbol);
  return {
    realized: each * (t.exitNotional - average * t.exited),
    unrealized: mark === null ? 0 : each * (mark - average) * positionOf(t),
  };
}

type Needing = Pick<Order, 'symbol' | 'side' | 'limit' | 'stop'> & { works?: { to: Price } };

/**
 * What an entry of so many shares would need of an account's buying power, at its limit, its stop, or the last
 * price. A cash account may not be overdrawn: it sets aside the costs too, and of an order without a limit
 * the most that it may pay.
 */
export function needOf(a: Account, o: Needing, shares: number, last: Price | null): number {
  const sided = o.side === 'buy' ? shares : -shares;
  const price = o.works?.to ?? o.limit ?? o.stop ?? last ?? 0;
  const fees = tableOn(a.fees, LAST_DAY);
  if (isOption(o.symbol)) {
    // Paid in full, or as much set aside as it can lose; what a sale brings is set aside with it.
    const each = shares * multiplierOfSymbol(o.symbol);
    const loss = mostToLose(o.symbol, signOf(o.side), price);
    const costs = totalOf(
      costsFor(fees, {
        ...o,
        shares,
        notional: price * each,
        added: 0,
        contracts: shares * contractsIn(o.symbol),
      }),
    );
    return loss * each * multipleOf(a) + costs;
  }
  if (a.rules.kind === 'margin') return powerOf(sided, price, multipleOf(a));
  const most = mostPaid(a, o, last) ?? price;
  return most * shares + totalOf(costsFor(fees, { side: o.side, shares, notional: most * shares, added: 0 }));
}
/** The newest table of fees is the one that costs are set aside by. */
const LAST_DAY = '9999-12-31';

/** What an order of a cash account that has no limit is reckoned to pay at most; null where its limit says so. */
export function mostPaid(a: Account, o: Needing, last: Price | null): Price | null {
  const from = o.stop ?? last;
  if (a.rules.kind === 'margin' || o.limit !== null || o.works || from === null) return null;
  return isOption(o.symbol) ? null : collarFrom(o.side, from);
}

/** How far from a price an order without a limit may pay: 10 % or 10 ticks, whichever is wider. */
export function collarFrom(side: Side, from: Price, ticks: Ticks = 'stock'): Price {
  const reach = Math.max(from * 0.1, 10 * tickSize(from, ticks));
  return side === 'buy'
    ? roundToTick(from + reach, 'down', ticks)
    : roundToTick(Math.max(1, from - reach), 'up', ticks);
}

/** The most shares, up to so many, that an amount of buying power is enough for. */
export function sharesWithin(a: Account, o: Needing, have: number, last: Price | null, most: number): number {
  let [fits, over] = [0, most + 1];
  while (over - fits > 1) {
    const middle = Math.floor((fits + over) / 2);
    if (needOf(a, o, middle, last) <= have) fits = middle;
    else over = middle;
  }
  return fits;
}

/** What working entries of an account need: one that is taken back may still fill, and one that is being asked about does not count. */
function needsOf(
  b: Broker,
  account: Account,
  last: (symbol: string) => Price | null,
  without: number | null,
): number {
  /** By order; of two that are joined a margin account only needs the dearer one, a cash account may not be overdrawn by both. */
  const needs = new Map<number, number>();
  const holdings = Object.values(b.holdings).filter((h) => h.account === account.id);
  for (const o of holdings.flatMap((h) => h.orders)) {
    const joined = account.rules.kind === 'margin' ? (o.pair?.id ?? o.id) : o.id;
    if (o.role !== 'entry' || o.id === without || joined === without) continue;
    const shares = Math.max(isStaying(o) ? openOf(o) : 0, worstOf(wireOf(o)));
    const key = Math.min(o.id, joined);
    needs.set(key, Math.max(needs.get(key) ?? 0, needOf(account, o, shares, last(o.symbol))));
  }
  return [...needs.values()].reduce((a, n) => a + n, 0);
}

/** An account's figures at this moment; working entries count, but for one that is being asked about. */
export function accountNow(
  b: Broker,
  id: string,
  last: (symbol: string) => Price | null,
  without: number | null = null,
): AccountView {
  const positions: PositionView[] = [];
  for (const key in b.holdings) {
    const h = b.holdings[key] as Holding;
    if (h.account !== id) continue;
    const now = last(h.symbol);
    for (const t of h.trades) {
      const mark = positionOf(t) === 0 ? null : now;
      positions.push({
        shares: t.sign * positionOf(t),
        mark: mark ?? averageEntry(t) ?? 0,
        multiplier: h.multiplier,
        ...(isOption(h.symbol)
          ? { loss: lossOf(b, id, h.symbol, t.sign, mark ?? averageEntry(t) ?? 0) }
          : {}),
        ...profitOf(t, mark),
        costs: totalOf(t.costs),
      });
    }
  }
  const account = b.accounts[id] as Account;
  return accountView(account, positions, needsOf(b, account, last, without));
}

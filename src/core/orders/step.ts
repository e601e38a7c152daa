import type { Account } from '../account/index.ts';
import { type AccountId, shelf } from '../units/index.ts';
import {
  type Broker,
  type BrokerContext,
  type Effects,
  type Holding,
  holdingKey,
  holdingOf,
} from './desk.ts';
import type { Scope } from './exit-plan.ts';
import { isLive, type Order } from './order.ts';
import type { Why } from './refusal.ts';
import type { Trade } from './trade.ts';

type Mutable<T> = { -readonly [K in keyof T]: T[K] };

/** One step of the broker: its own copy of what it touches, and what it has to say and to send. */
export interface BrokerStep {
  before: Broker;
  next: Mutable<Broker['next']>;
  accounts: Record<string, Account>;
  linked: boolean;
  past: Mutable<Broker['past']>;
  holdings: Map<string, HoldingStep>;
  /** Why a leg (`scope leg`) or an order (`order id`) has been moved in this step, for what is said of it. */
  moved: Map<string, Why>;
  context: BrokerContext;
  effects: Effects;
}

/** A step from a state; nothing is copied until it is touched. */
export const stepFrom = (before: Broker, context: BrokerContext): BrokerStep => ({
  before,
  next: { ...before.next, turn: before.next.turn + 1 },
  accounts: { ...before.accounts },
  linked: before.linked,
  past: { ...before.past },
  holdings: new Map(),
  moved: new Map(),
  context,
  effects: { events: [], venue: [], refused: null },
});

/** What a step does to one holding. It notes by itself whether the holding has to be decided anew at the end of the step. */
export class HoldingStep implements Holding {
  readonly account: AccountId;
  readonly symbol: string;
  readonly multiplier: number;
  readonly ticks?: Holding['ticks'] & string;
  orders: readonly Order[];
  scopes: readonly Scope[];
  trades: readonly Trade[];
  /** What took the last shares out in this step. */
  closedBy?: Extract<Why, { closedBy: unknown }>;
  #decides = false;

  constructor(
    readonly step: BrokerStep,
    { account, symbol, multiplier, orders, scopes, trades, ...h }: Holding,
  ) {
    const ticks = step.context.listing(symbol).ticks ?? h.ticks;
    this.account = account;
    this.symbol = symbol;
    this.multiplier = multiplier;
    if (ticks !== undefined) this.ticks = ticks;
    this.orders = orders;
    this.scopes = scopes;
    this.trades = trades;
  }

  /** Something has been put or dropped, or has to be looked at again. */
  get decides(): boolean {
    return this.#decides;
  }

  /** What is wanted of its orders is worked out again at the end of the step, whatever else the step does. */
  decideAnew(): this {
    this.#decides = true;
    return this;
  }

  /** Puts an order in; one that has ended goes to the shelf. */
  putOrder(o: Order): Order {
    this.decideAnew();
    if (isLive(o)) this.orders = replaced(this.orders, o);
    else {
      this.orders = this.orders.filter((x) => x.id !== o.id);
      this.step.past.orders = shelf.put(this.step.past.orders, o);
    }
    return o;
  }

  /** Puts a scope in place of the one with its id. */
  putScope(s: Scope): Scope {
    this.decideAnew();
    this.scopes = replaced(this.scopes, s);
    return s;
  }

  /** A scope that nothing alive needs goes to the shelf. */
  dropScope(s: Scope): void {
    this.decideAnew();
    this.scopes = this.scopes.filter((x) => x.id !== s.id);
    this.step.past.scopes = shelf.put(this.step.past.scopes, s);
  }

  /** Puts a trade in; one that is over goes to the shelf. */
  putTrade(t: Trade): Trade {
    this.decideAnew();
    if (t.status === 'open' || t.status === 'pending') this.trades = replaced(this.trades, t);
    else {
      this.trades = this.trades.filter((x) => x.id !== t.id);
      this.step.past.trades = shelf.put(this.step.past.trades, t);
    }
    return t;
  }

  /** The holding as it is now. */
  holding(): Holding {
    const { account, symbol, multiplier, ticks, orders, scopes, trades } = this;
    return {
      account,
      symbol,
      multiplier,
      ...(ticks === undefined ? {} : { ticks }),
      orders,
      scopes,
      trades,
    };
  }
}

const replaced = <T extends { id: number }>(list: readonly T[], item: T): readonly T[] =>
  list.some((x) => x.id === item.id) ? list.map((x) => (x.id === item.id ? item : x)) : [...list, item];

/** The step's copy of a holding. */
export function workOn(d: BrokerStep, account: AccountId, symbol: string): HoldingStep {
  const key = holdingKey(account, symbol);
  const there = d.holdings.get(key);
  if (there) return there;
  const w = new HoldingStep(d, holdingOf(d.before, account, symbol));
  d.holdings.set(key, w);
  return w;
}

/** Every holding is decided anew in this step. */
export function decideAll(d: BrokerStep): void {
  for (const { account, symbol } of Object.values(d.before.holdings)) workOn(d, account, symbol).decideAnew();
}

/** The broker as a step has made it so far, for sums over all that is held. */
export function brokerNow(d: BrokerStep): Broker {
  const holdings = { ...d.before.holdings };
  for (const [key, w] of d.holdings) holdings[key] = w.holding();
  return { ...d.before, accounts: d.accounts, holdings };
}

/** The state after the step; the one before it when nothing has changed. */
export function finished(d: BrokerStep): Broker {
  const touched = [...d.holdings].filter(([, w]) => w.decides);
  const { past } = d.before;
  const same =
    touched.length === 0 &&
    d.linked === d.before.linked &&
    past.fills === d.past.fills &&
    past.orders === d.past.orders &&
    past.trades === d.past.trades &&
    d.effects.events.length === 0 &&
    Object.keys(d.accounts).every((id) => d.accounts[id] === d.before.accounts[id]);
  if (same) return d.before;
  let holdings: Record<string, Holding> = d.before.holdings;
  if (touched.length > 0) {
    holdings = { ...holdings };
    for (const [key, w] of touched) {
      if (w.orders.length + w.scopes.length + w.trades.length === 0) delete holdings[key];
      else holdings[key] = w.holding();
    }
  }
  return { next: d.next, accounts: d.accounts, linked: d.linked, holdings, past: d.past };
}

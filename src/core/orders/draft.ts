import type { Account } from '../account/index.ts';
import type { AccountId } from '../units/index.ts';
import {
  type Broker,
  type BrokerContext,
  type Effects,
  type Holding,
  holdingKey,
  holdingOf,
} from './desk.ts';
import type { Order, Scope, Trade, Why } from './types.ts';

type Mutable<T> = { -readonly [K in keyof T]: T[K] };
export interface Work extends Omit<Mutable<Holding>, 'orders' | 'scopes' | 'trades'> {
  orders: Order[];
  scopes: Scope[];
  trades: Trade[];
  changed: boolean;
  /** What took the last shares out in this step. */
  closedBy?: Extract<Why, { closedBy: unknown }>;
}

/** A step's own copy of what it touches, and what it has to say and to send. */
export interface Draft {
  before: Broker;
  next: Mutable<Broker['next']>;
  accounts: Record<string, Account>;
  linked: boolean;
  past: Mutable<Broker['past']>;
  work: Map<string, Work>;
  /** Why a leg (`scope leg`) or an order (`order id`) has been moved in this step, for what is said of it. */
  moved: Map<string, Why>;
  context: BrokerContext;
  effects: Effects;
}

/** A draft of the next state; nothing is copied until it is touched. */
export const draftOf = (before: Broker, context: BrokerContext): Draft => ({
  before,
  next: { ...before.next, turn: before.next.turn + 1 },
  accounts: { ...before.accounts },
  linked: before.linked,
  past: { ...before.past },
  work: new Map(),
  moved: new Map(),
  context,
  effects: { events: [], venue: [], refused: null },
});

/** The step's copy of a holding; it is decided anew at the end of the step. */
export function workOn(d: Draft, account: AccountId, symbol: string): Work {
  const key = holdingKey(account, symbol);
  let w = d.work.get(key);
  if (!w) {
    const h = holdingOf(d.before, account, symbol);
    const { ticks } = d.context.listing(symbol);
    w = {
      ...h,
      ...(ticks === undefined ? {} : { ticks }),
      orders: h.orders.slice(),
      scopes: h.scopes.slice(),
      trades: h.trades.slice(),
      changed: false,
    };
    d.work.set(key, w);
  }
  return w;
}

/** The broker as a step has made it so far, for sums over all that is held. */
export function brokerNow(d: Draft): Broker {
  const holdings = { ...d.before.holdings };
  for (const [key, { changed: _, closedBy: __, ...h }] of d.work) holdings[key] = h;
  return { ...d.before, accounts: d.accounts, holdings };
}

/** The state after the step; the one before it when nothing has changed. */
export function finished(d: Draft): Broker {
  const touched = [...d.work].filter(([, w]) => w.changed);
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
    for (const [key, { changed: _, closedBy: __, ...h }] of touched) {
      if (h.orders.length + h.scopes.length + h.trades.length === 0) delete holdings[key];
      else holdings[key] = h;
    }
  }
  return { next: d.next, accounts: d.accounts, linked: d.linked, holdings, past: d.past };
}

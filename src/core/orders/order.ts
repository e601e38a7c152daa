import type { Costs } from '../account/index.ts';
import type { Seen } from '../triggers/index.ts';
import type { AccountId, OrderId, Price, Side, TradeId, WireId } from '../units/index.ts';
import type { WireTerms } from '../venue/index.ts';
import type { OrderType, OrdStatus, Role, Terms } from './order-terms.ts';
import type { Why } from './refusal.ts';

/** Shares of a wire by its cumulative quantity: those after `from`, up to `to`. */
export interface Run {
  from: number;
  to: number;
}

/**
 * An order at the exchange. `acked` is what the exchange has acknowledged, `pending` what it has been
 * asked and has not answered yet; `to` stays the largest size that may still come to pass.
 */
export interface Wire {
  id: WireId;
  acked: WireTerms | null;
  pending: {
    kind: 'new' | 'replace' | 'cancel';
    to: WireTerms | null;
    since: number;
    why: Why | null;
  } | null;
  filled: number;
  /** Shares that the exchange has counted as filled and not told of, since when, and when it was asked for them. */
  owes?: { runs: readonly Run[]; since: number; asked: number | null };
}

/** Where an order goes once the exchange has let go of it: to `work` means to be sent anew, as it is to be now. */
export type Leaving =
  | { to: 'work' }
  | { to: 'asleep' }
  | { to: 'armed' }
  | { to: 'ended'; status: 'Canceled' | 'Expired'; why: Why };

/** The exchange ended it by itself: what is done then is decided once all its fills are known. */
export type ThrownOut = { to: 'thrown out'; why: string };

/**
 * `went`: the later it went to work, the earlier it is served where several want the same shares. `at`: the
 * limit that a triggered stop was given by hand; what the order is (its stop and its limit) stays as it was.
 */
interface AtWork {
  went: number;
  at: Price | null;
}

/**
 * An order is asleep until its session, armed at the broker until its trigger, working (at the exchange, or held until
 * it may be sent), leaving the exchange, owed fills by it after it has ended there, or ended.
 */
export type Phase =
  | { k: 'asleep' }
  | { k: 'armed' }
  | ({ k: 'working'; wire: Wire | null } & AtWork)
  | ({ k: 'leaving'; wire: Wire; to: Leaving } & AtWork)
  | ({ k: 'owed'; wire: Wire; to: Leaving | ThrownOut } & AtWork)
  | { k: 'ended'; status: 'Filled' | 'Canceled' | 'Rejected' | 'Expired'; why: Why | null };

/** An order that works its price: from its limit toward `to`, in even steps over so many ms, from the time it first goes to work. */
export interface Works {
  from: Price;
  to: Price;
  within: number;
  since: number | null;
}

/** One order. Prices in 1/10,000 dollar; `notional` is the sum of price × shares of its fills. */
export interface Order extends Terms {
  id: OrderId;
  account: AccountId;
  symbol: string;
  tradeId: TradeId;
  /** For an entry the scope that its shares come under, for an exit the scope that it is a leg of. */
  scopeId: number | null;
  leg: number | null;
  side: Side;
  role: Role;
  type: OrderType;
  qty: number;
  filled: number;
  notional: number;
  limit: Price | null;
  stop: Price | null;
  /** The price that triggers its stop. */
  on: Seen;
  extended: boolean;
  /** Closes the whole position before anything else may. */
  flat: boolean;
  /** An entry that turns the position: it sleeps until the position is flat. */
  afterFlat: boolean;
  /** The order joined with it: what fills of the one is taken from the other. */
  pair?: { id: OrderId; account: AccountId; symbol: string };
  works?: Works;
  /** The trading day (0 is the session's first) with which a day order ends: the next one where no session of today was left for it. */
  lastDay?: number;
  phase: Phase;
  /** How many wires it has had, for the next one's number. */
  wires: number;
  /** How often the exchange has thrown it out unasked, and when last: it is sent again at once twice, then only as time passes. */
  bounced: { times: number; at: number };
  at: number;
  costs: Costs;
  /** Of its filled shares those that added liquidity. */
  added: number;
}

/** Whether an order has not ended. */
export const isLive = (o: Order): boolean => o.phase.k !== 'ended';

/** Whether it has gone to work: it may have something at the exchange. */
export const isAtWork = (o: Order): o is Order & { phase: AtWork & { wire: Wire | null } } =>
  o.phase.k === 'working' || o.phase.k === 'leaving' || o.phase.k === 'owed';

/** Where it goes once the exchange has let go of it; null where it stays there. */
export const leavingOf = (o: Order): Leaving | ThrownOut | null =>
  o.phase.k === 'leaving' || o.phase.k === 'owed' ? o.phase.to : null;

/** Whether it will go on working: alive and not on its way out. */
export const isStaying = (o: Order): boolean => {
  const to = leavingOf(o)?.to;
  // What the exchange threw out goes again where it protects or takes profit, and ends where it does not.
  const over = to === 'ended' || (to === 'thrown out' && (o.role === 'entry' || o.role === 'close'));
  return isLive(o) && !over;
};

/** Shares that an order is still for. */
export const openOf = (o: Order): number => (isLive(o) ? o.qty - o.filled : 0);

/** What an order has at the exchange, or null. */
export const wireOf = (o: Order): Wire | null => (isAtWork(o) ? o.phase.wire : null);

/** Shares that may still fill at the exchange, whatever it has not answered yet. */
export const worstOf = (w: Wire | null): number =>
  w === null ? 0 : Math.max(0, Math.max(w.acked?.qty ?? 0, w.pending?.to?.qty ?? 0) - w.filled);

/** Whether it is at work and waits to be sent, or to be asked again at an exchange that threw it out. */
export const isHeldBack = (o: Order): boolean =>
  (o.phase.k === 'working' || o.phase.k === 'leaving') &&
  (o.phase.wire === null || (o.bounced.times > 0 && o.phase.wire.pending === null));

/** Whether it waits to take shares out when the market goes against them: a stop of a plan, or one by hand. */
export const protects = (o: Order): boolean => o.role === 'stop' || (o.role === 'close' && o.stop !== null);

/** The order's state by its FIX 4.4 name. */
export function statusOf(o: Order): OrdStatus {
  const { phase } = o;
  switch (phase.k) {
    case 'asleep':
      return 'Suspended';
    case 'ended':
      return phase.status;
    case 'armed':
      return o.filled > 0 ? 'PartiallyFilled' : 'New';
    case 'working':
      if (o.filled > 0 && o.filled >= o.qty) return 'Filled';
      if (phase.wire?.pending?.kind === 'replace') return 'PendingReplace';
      if (phase.wire?.acked) return o.filled > 0 ? 'PartiallyFilled' : 'New';
      return 'PendingNew';
    case 'leaving':
    case 'owed':
      if (o.filled > 0 && o.filled >= o.qty) return 'Filled';
      return phase.to.to === 'work' ? 'PendingReplace' : 'PendingCancel';
  }
}

/** The limit that an order at work should have: its own, or the one that it was given since its stop triggered; null where a collar is drawn when it is sent. */
export const workingLimit = (o: Order): Price | null => (isAtWork(o) ? o.phase.at : null) ?? o.limit;

/** The price that can be moved: where its stop waits, or the limit that it works at. */
export const priceOf = (o: Order): Price | null => {
  if (!isAtWork(o)) return o.stop ?? o.limit;
  const { wire } = o.phase;
  return workingLimit(o) ?? wire?.acked?.limit ?? wire?.pending?.to?.limit ?? null;
};

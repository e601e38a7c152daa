import type { Costs, OptionsApproval } from '../account/index.ts';
import type { PrintVenue } from '../market/index.ts';
import type { Reach, Seen, Trail } from '../triggers/index.ts';
import type {
  AccountId,
  Money,
  OrderId,
  Part,
  Price,
  Side,
  Sign,
  Ticks,
  TradeId,
  WireId,
} from '../units/index.ts';
import type { WireTerms } from '../venue/index.ts';

/** Order states by their FIX 4.4 names (OrdStatus, tag 39). */
export const ORD_STATUSES = [
  'New',
  'PartiallyFilled',
  'Filled',
  'Canceled',
  'Rejected',
  'Suspended',
  'Expired',
  'PendingNew',
  'PendingReplace',
  'PendingCancel',
] as const;
export type OrdStatus = (typeof ORD_STATUSES)[number];
/** What happened, by the names of FIX 5.0 SP2 (ExecType, tag 150). */
export const EXEC_TYPES = [
  'New',
  'Trade',
  'Canceled',
  'Replaced',
  'Rejected',
  'Suspended',
  'Expired',
  'TriggeredOrActivatedBySystem',
  'OrderStatus',
] as const;
export type ExecType = (typeof EXEC_TYPES)[number];
/** FIX 4.4, OrdType, tag 40. */
export const ORDER_TYPES = ['Limit', 'Market', 'Stop', 'StopLimit', 'Pegged'] as const;
export type OrderType = (typeof ORDER_TYPES)[number];
/** FIX 4.4, TimeInForce, tag 59. An order at the open or close joins that auction and ends with it. */
const TIMES_IN_FORCE = [
  'Day',
  'GoodTillCancel',
  'ImmediateOrCancel',
  'FillOrKill',
  'AtTheOpening',
  'AtTheClose',
  'GoodTillDate',
] as const;
export type TimeInForce = (typeof TIMES_IN_FORCE)[number];

/** How an order is to be handled at the exchange. `sweep` tries the midpoint before the lit book. */
export interface Terms {
  timeInForce: TimeInForce;
  route: 'lit' | 'mid' | 'sweep';
  /** Refused rather than taking liquidity. */
  postOnly: boolean;
  /** Session time at which one that is good till a date ends; null for any other. */
  until: number | null;
}
export const PLAIN_TERMS: Terms = { timeInForce: 'Day', route: 'lit', postOnly: false, until: null };

export type Role = 'entry' | 'close' | 'target' | 'stop';

/** Why an order ended, shrank or moved, for the wording. What the exchange says comes in its words. */
export type Why =
  | 'you'
  | 'flatten'
  | 'position closed'
  | 'entry rest'
  | 'no shares'
  | 'stop triggered'
  | 'average'
  | 'pair'
  | 'works'
  | 'breakeven'
  | 'trail'
  | 'session over'
  | 'day over'
  | 'time over'
  | 'not flat'
  | 'never arrived'
  | 'contract over'
  | { exchange: string }
  | { guard: Refusal }
  /** The order whose fill closed the position: which target, where it was one. */
  | { closedBy: Role; nth: number | null };

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

export type Distance = { kind: 'distance'; units: number } | { kind: 'R'; r: number };
export type Place = Distance | { kind: 'at'; price: Price };
/** A gain that is waited for: a share, or of all the shares that came in together. */
export type Gain = Distance | { kind: 'in all'; money: Money };
/** What a rule of a stop waits for: a gain, or that all of a target has filled. */
export type After = Gain | { kind: 'target'; index: number };
export type StopPlace = Exclude<Place, { kind: 'R' }>;

/** Exits with every number resolved but the average entry, which is not known before the fills. */
export interface ExitPlan {
  /** Several stops stand side by side, each for its part. */
  stops: readonly { place: StopPlace; part: Part | null; on: Seen; room?: number; extended?: true }[];
  targets: readonly { place: Place; part: Part | null }[];
  breakeven: { after: After; plusCosts: boolean } | null;
  trail: { reach: Reach; after: After | null } | null;
  /** Session time at which what is left goes. */
  outBy?: number;
  /** All of them work outside the regular session; a stop may do so alone. */
  extended: boolean;
}

/** One exit of a scope: where it stands, for which part, and how far it has come. */
export interface Leg {
  kind: 'stop' | 'target';
  /** Null: it has no price yet and gets one from the breakeven rule or the trail. */
  place: Place | null;
  part: Part | null;
  on: Seen;
  /** A stop that becomes a limit: how far beyond its price that reaches, in price units; without it, it becomes a market order. */
  room?: number;
  extended: boolean;
  filled: number;
  /** The price set since, by hand or by a rule; then it no longer follows the average. */
  moved: Price | null;
  /** Where the hand has put it last, and where a rule put one that had no price: R is measured there. */
  byHand?: Price;
  began?: Price;
  /** Taken away by the trader, or refused by the exchange for good: it is not made anew. */
  dropped: boolean;
}

/** Which shares the exits of a scope protect: those of an entry, a part of what was held, or the whole position with what joins it. */
export type Over = { kind: 'entry'; orderId: OrderId } | { kind: 'part' } | { kind: 'all' };

/** Exits belong to shares. `basis` are the shares that came under it, and what they cost. */
export interface Scope {
  id: number;
  tradeId: TradeId;
  account: AccountId;
  symbol: string;
  /** In which steps its prices go; left out for a stock. */
  ticks?: Ticks;
  sign: Sign;
  over: Over;
  basis: { qty: number; notional: number };
  /** Shares closed by hand, or handed on to a scope that took them over. */
  out: number;
  legs: readonly Leg[];
  breakeven: ExitPlan['breakeven'];
  /** `due`: its moment has come, but the stop may not move there through the market yet. */
  breakevenState: 'waits' | 'due' | 'done';
  trail: { after: After | null; state: Trail; on: boolean } | null;
  /** Session time at which what is left goes; null: never. */
  outBy: number | null;
  /** What was to go then found nobody: since when, and what it waits for. It is told once, and tried again with a quote or with the next session. */
  outFailed?: { at: number; until: 'quote' | 'session' };
  /** What 1R means for a share of its targets: the mean distance to its stops, or the trade's own R where they were put on what is held. */
  riskPerShare: number | null;
}

/** What one entry order brought into a trade. `risk` in price units × shares, measured on so many shares; settled once the order has ended. */
export interface Lot {
  qty: number;
  notional: number;
  risk: number | null;
  measured: number;
  settled: boolean;
}

type TradeStatus = 'pending' | 'open' | 'closed' | 'canceled';

/** From flat to flat in one symbol: the unit that the trader thinks in. */
export interface Trade {
  id: TradeId;
  account: AccountId;
  symbol: string;
  sign: Sign;
  status: TradeStatus;
  entered: number;
  entryNotional: number;
  exited: number;
  exitNotional: number;
  costs: Costs;
  /** What its entries risked: the trade's 1R in 1/10,000 dollar, null where no stop says it (see risk.ts). */
  risk: Money | null;
  lots: Readonly<Record<number, Lot>>;
  /** What the first stop risked that was put on a trade that came without any, in price units × shares. */
  laterRisk?: number;
  openedAt: number | null;
  closedAt: number | null;
  /** Most favourable and most adverse price seen while open. */
  best: Price | null;
  worst: Price | null;
  /** The sentence that opened it. */
  sentence: string;
}

export interface Fill {
  id: number;
  orderId: OrderId;
  tradeId: TradeId;
  account: AccountId;
  symbol: string;
  side: Side;
  role: Role;
  at: number;
  price: Price;
  qty: number;
  liquidity: 'added' | 'removed';
  /** The exchange's wire and its cumulative quantity: what tells an execution from one that is told twice (FIX 4.4, ExecID, tag 17). */
  exec?: string;
  venue: PrintVenue;
  /** Price units a share better than the other side's quote, or than its own limit where that was nearer. */
  better: number;
  costs: Costs;
}

type Worked = Pick<Works, 'to' | 'within'>;
/** Sent by what waited, not by hand. */
type ByItself = { byItself?: true };
/** The yes that takes the last stop of shares away: so many of each symbol were named when it was asked for. */
type Bare = { bare?: readonly { symbol: string; shares: number }[] };
/** What the trader asks for, every number decided. Made by the script room, obeyed by the broker. */
export type Intent =
  /** Two orders of which a fill of one takes as much from the other. */
  | { kind: 'pair'; of: readonly [NewIntent, NewIntent] }
  | ({
      kind: 'entry';
      account: AccountId;
      symbol: string;
      side: Side;
      type: OrderType;
      qty: number;
      limit: Price | null;
      stop: Price | null;
      /** The price that triggers its stop; the last one where it is not said. */
      on?: Seen;
      extended: boolean;
      plan: ExitPlan | null;
      /** Its shares join the newest scope of the position, where it has no plan of its own. */
      joins?: boolean;
      /** It turns the position: it waits until a flatten is done. */
      afterFlat?: boolean;
      works?: Worked;
      sentence: string;
    } & Terms &
      ByItself)
  | ({
      kind: 'close';
      account: AccountId;
      symbol: string;
      type: OrderType;
      qty: number;
      limit: Price | null;
      stop: Price | null;
      on?: Seen;
      extended: boolean;
      works?: Worked;
      /** The vertical that what is closed is a leg of: so many of it come apart first. */
      apart?: string;
    } & Terms &
      ByItself)
  /** Exits for what is held: for all of it with what joins it, or for so many shares, the unprotected ones first. */
  | { kind: 'attach'; account: AccountId; symbol: string; over: 'all' | { shares: number }; plan: ExitPlan }
  | { kind: 'move'; orderId: OrderId; to: Price }
  /** Another kind, price, size, life or route at once: it is called back from the exchange and goes anew under its own number, with its exits. */
  | ({
      kind: 'retype';
      orderId: OrderId;
      type: OrderType;
      qty: number;
      limit: Price | null;
      stop: Price | null;
      on: Seen;
      extended: boolean;
      works?: Worked;
    } & Terms &
      Bare)
  /** So many shares in all, those that have filled included. A smaller size keeps its place in the queue. */
  | ({ kind: 'resize'; orderId: OrderId; qty: number } & Bare)
  /** A stop or target that was taken away stands again. */
  | { kind: 'put back'; orderId: OrderId }
  | ({
      kind: 'cancel';
      /** With `keepStops`, what protects shares stays. */
      what:
        | { kind: 'orders'; ids: readonly OrderId[] }
        | { kind: 'symbol'; account: AccountId; symbol: string; keepStops?: boolean }
        | { kind: 'everything'; account: AccountId; keepStops?: boolean };
    } & Bare)
  /** Asks a lender to set shares aside for the day, for a fee. */
  | { kind: 'locate'; account: AccountId; symbol: string; shares: number }
  /** Out of a symbol: entries and closes end, exits give way, all shares go, at market or within `limit`. */
  | { kind: 'flatten'; account: AccountId; symbol: string; limit: Price | null };

/** An order to be sent. */
export type NewIntent = Extract<Intent, { kind: 'entry' | 'close' }>;

/** Why an intent was refused: the rule, the value seen, and what would pass. Prices and money in 1/10,000 dollar. */
/** Short contracts that would stand bare if what is behind them went. */
export interface Bared {
  /** Their name. */
  symbol: string;
  contracts: number;
  strike: Price;
  right: 'call' | 'put';
}

export type Refusal =
  | { code: 'quantity'; qty: number }
  /** It would take the stop from shares, and no yes has named so many. */
  | { code: 'bares'; bares: readonly { symbol: string; shares: number }[] }
  /** What is to be put back is not a stop or target that was taken away from what is still held. */
  | { code: 'nothing to put back'; orderId: OrderId }
  | { code: 'works backwards'; side: Side; from: Price; to: Price }
  | { code: 'off tick'; price: number; down: Price; up: Price }
  /** What is to be closed stands behind short contracts that may not stand alone. */
  | { code: 'stands behind'; symbol: string; bared: readonly Bared[]; needs: number; have: number }
  /** A vertical comes apart at once; what its exits may still fill at the exchange has to be left of it. */
  | { code: 'exits hold'; symbol: string; position: number; held: number }
  | { code: 'most shares'; qty: number; most: number; room: number }
  /** `at`: what it is reckoned to pay at most, where it has no limit. */
  | { code: 'buying power'; needs: number; have: number; shares: number; at: Price | null }
  | {
      code: 'collar';
      limit: number;
      side: Side;
      from: number;
      percent: number;
      most: Price;
      mostPercent: number;
    }
  | { code: 'limit side'; side: Side; stop: Price; limit: Price }
  | { code: 'stop side'; side: Side; symbol: string; stop: Price; last: Price }
  | { code: 'entry against'; symbol: string; side: Side; held: number; orderId: OrderId | null }
  | { code: 'no borrow'; symbol: string }
  | { code: 'restricted'; symbol: string; bid: Price; least: Price }
  | { code: 'market hours'; session: string; side: Side }
  | { code: 'nothing to close'; symbol: string; position: number; held: number }
  | { code: 'too late'; orderId: OrderId; status: OrdStatus | null }
  | { code: 'nothing left'; orderId: OrderId; qty: number; filled: number }
  | { code: 'plan size'; orderId: OrderId }
  /** Two of opposite sides in one symbol, neither of them a stop. */
  | { code: 'pair against'; symbol: string }
  | { code: 'locked'; loss: Money; most: Money }
  | { code: 'open risk'; symbol: string; would: Money; most: Money; perShare: number | null; shares: number }
  | { code: 'most money'; symbol: string; would: Money; most: Money; shares: number }
  | { code: 'too many orders'; most: number }
  | { code: 'duplicate'; symbol: string; ago: number }
  | { code: 'blocked'; symbol: string; side: 'both' | 'long' | 'short' }
  | { code: 'no shorts'; account: string }
  | { code: 'option terms'; symbol: string; what: 'stop' | 'extended' | 'auction' | 'midpoint' }
  | {
      code: 'options approval';
      symbol: string;
      account: string;
      has: OptionsApproval;
      needs: 'long' | 'spreads' | 'uncovered calls';
    }
  | {
      code: 'needs locate';
      symbol: string;
      located: number;
      wants: number;
      perShare: number;
      available: number;
    }
  | { code: 'locate size'; symbol: string; wants: number; available: number }
  | { code: 'no locate needed'; symbol: string; borrow: 'easy' | 'none' }
  | { code: 'time over'; until: number; now: number };

/** What an event is about: the order as it stood then. `nth` is a target's number from 1. */
export interface About {
  orderId: OrderId | null;
  role: Role | null;
  nth: number | null;
  side: Side | null;
  open: number;
}

/** One thing that happened to an order or a trade. The wording is in `wording.ts`. */
export type OrderEvent = {
  id: number;
  at: number;
  account: AccountId;
  symbol: string;
  tradeId: TradeId;
  status: OrdStatus | null;
} & About &
  (
    | {
        exec: 'New';
        kind: 'working';
        type: OrderType;
        limit: Price | null;
        stop: Price | null;
        route: Terms['route'];
        timeInForce: TimeInForce;
      }
    | { exec: 'Suspended'; kind: 'asleep'; until: 'regular' | 'next' | 'flat' }
    | {
        exec: 'Trade';
        kind: 'fill';
        price: Price;
        qty: number;
        better: number;
        venue: PrintVenue;
        liquidity: 'added' | 'removed';
      }
    | { exec: 'TriggeredOrActivatedBySystem'; kind: 'triggered'; on: Seen; seen: Price; stop: Price }
    | { exec: 'Replaced'; kind: 'moved'; from: Price; to: Price; why: Why }
    | { exec: 'Replaced'; kind: 'resized'; from: number; to: number }
    | {
        exec: 'Replaced';
        kind: 'retyped';
        type: OrderType;
        limit: Price | null;
        stop: Price | null;
        route: Terms['route'];
        timeInForce: TimeInForce;
      }
    | { exec: 'Canceled'; kind: 'canceled'; why: Why; bare: number }
    | { exec: 'Expired'; kind: 'expired'; why: Why; bare: number }
    | { exec: 'Rejected'; kind: 'rejected'; why: Why; bare: number }
    | { exec: 'Canceled'; kind: 'thrown out'; why: string }
    | { exec: 'OrderStatus'; kind: 'request refused'; request: 'replace' | 'cancel'; why: string }
    | {
        exec: 'OrderStatus';
        kind: 'trade over';
        gross: number;
        costs: Money;
        risk: Money | null;
        averageExit: number;
      }
    | { exec: 'OrderStatus'; kind: 'turned'; shares: number }
    /** Options came to their end: what each was worth, and the shares that were bought (above zero) or sold for it. */
    | {
        exec: 'OrderStatus';
        kind: 'settled';
        worth: Price;
        contracts: number;
        shares: number;
        root: string;
        spot: Price;
      }
    | { exec: 'OrderStatus'; kind: 'split'; contracts: number }
    /** What was to be out by a time is still held: nobody takes it, or the exchange refuses it. */
    | { exec: 'OrderStatus'; kind: 'not out'; shares: number; until: 'quote' | 'session' }
    /** The exchange dropped the rest of a flatten: nobody took it, and nothing closes it now. */
    | { exec: 'OrderStatus'; kind: 'left over'; shares: number }
    /** The exchange counts more of an order as filled than it has told of; it was asked for the rest. */
    | { exec: 'OrderStatus'; kind: 'fills asked for'; shares: number }
    /** What it was asked for does not exist: the order goes by what has been told. */
    | { exec: 'OrderStatus'; kind: 'no such fills'; shares: number }
    /** Broker and exchange answered one another without end; the rest is left for the next moment. */
    | { exec: 'OrderStatus'; kind: 'restless' }
    | { exec: 'OrderStatus'; kind: 'line'; up: boolean }
    /** The daily loss locks new risk. */
    | { exec: 'OrderStatus'; kind: 'locked'; loss: Money; most: Money }
    | { exec: 'OrderStatus'; kind: 'located'; shares: number; fee: Money }
  );

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
/** Shares of a trade that are open. */
export const positionOf = (t: Trade): number => t.entered - t.exited;
/** Average entry in price units, not rounded; null before the first fill. */
export const averageEntry = (t: { entered: number; entryNotional: number }): number | null =>
  t.entered === 0 ? null : t.entryNotional / t.entered;
/** Shares under a scope that are still open. */
export const openOfScope = (s: Scope): number =>
  s.basis.qty - s.out - s.legs.reduce((a, l) => a + l.filled, 0);

/** An option or a vertical on the evening of its last day. */
export interface Expired {
  symbol: string;
  root: string;
  /** Where its underlying closed, and what one share's worth of it comes to there. */
  spot: Price;
  worth: number;
  /** Shares that one share's worth of it, held long, gets (above zero) or gives: of each leg in the money by a cent or more. */
  shares: number;
}

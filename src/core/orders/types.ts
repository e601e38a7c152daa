import type { PrintVenue } from '../market/index.ts';
import type { Money, Part, Price, Side, Sign } from '../units/index.ts';
import type { VenueOrder } from '../venue/index.ts';

/** Order states by their FIX 4.4 names (OrdStatus, tag 39). */
export const ORD_STATUSES = ['New', 'PartiallyFilled', 'Filled', 'Canceled', 'Rejected', 'Suspended', 'Expired'] as const;
export type OrdStatus = (typeof ORD_STATUSES)[number];
/** What happened, by the names of FIX 5.0 SP2 (ExecType, tag 150). */
export const EXEC_TYPES = ['New', 'Trade', 'Canceled', 'Replaced', 'Rejected', 'Suspended', 'Expired', 'TriggeredOrActivatedBySystem'] as const;
export type ExecType = (typeof EXEC_TYPES)[number];
/** FIX 4.4, OrdType, tag 40. */
export const ORDER_TYPES = ['Limit', 'Market', 'Stop', 'StopLimit', 'Pegged'] as const;
export type OrderType = (typeof ORDER_TYPES)[number];
/** FIX 4.4, TimeInForce, tag 59. An order at the open or close joins that auction and ends with it. */
export const TIMES_IN_FORCE = ['Day', 'GoodTillCancel', 'ImmediateOrCancel', 'FillOrKill', 'AtTheOpening', 'AtTheClose'] as const;
export type TimeInForce = (typeof TIMES_IN_FORCE)[number];

/** How an order is to be handled at the exchange. `sweep` tries the midpoint before the lit book. */
export interface Terms {
  timeInForce: TimeInForce;
  route: 'lit' | 'mid' | 'sweep';
  /** Refused rather than taking liquidity. */
  postOnly: boolean;
}
export const PLAIN_TERMS: Terms = { timeInForce: 'Day', route: 'lit', postOnly: false };

export type Role = 'entry' | 'close' | 'target' | 'stop';

/** One order. Prices in 1/10,000 dollar; `notional` is the sum of price × shares of its fills. */
export interface Order extends Terms {
  id: number;
  tradeId: number;
  /** The entry whose exits this belongs to, for targets and stops. */
  groupId: number | null;
  targetIndex: number | null;
  symbol: string;
  side: Side;
  role: Role;
  type: OrderType;
  qty: number;
  filled: number;
  notional: number;
  limit: Price | null;
  stop: Price | null;
  extended: boolean;
  status: OrdStatus;
  /** Its number at the venue while it works there. */
  venueId: number | null;
  at: number;
  reason: string;
  commission: Money;
}

export type Distance = { kind: 'distance'; units: number } | { kind: 'R'; r: number };
export type Place = Distance | { kind: 'at'; price: Price };

/** Exits with every number resolved but the average entry, which is not known before the fills. */
export interface ExitPlan {
  stop: Exclude<Place, { kind: 'R' }> | null;
  targets: { place: Place; part: Part | null }[];
  breakeven: { after: Distance | { kind: 'target'; index: number }; plusCosts: boolean } | null;
  extended: boolean;
  timeInForce: 'Day' | 'GoodTillCancel';
}

/** The exits of one entry and how far they have come. */
export interface ExitGroup {
  entryId: number;
  tradeId: number;
  symbol: string;
  sign: Sign;
  plan: ExitPlan;
  entered: number;
  notional: number;
  targetFilled: number[];
  stopFilled: number;
  /** Shares of this group that the trader closed by hand. */
  byHand: number;
  /** Prices set since: by the trader's drag or by the breakeven rule. */
  stopMoved: Price | null;
  targetMoved: (Price | null)[];
  targetDropped: boolean[];
  stopDropped: boolean;
  breakevenDone: boolean;
  triggered: boolean;
  /** Distance from average entry to the first stop; what 1R means for a share. */
  riskPerShare: number | null;
}

export type TradeStatus = 'pending' | 'open' | 'closed' | 'canceled';

/** From flat to flat in one symbol: the unit that the trader thinks in. */
export interface Trade {
  id: number;
  symbol: string;
  sign: Sign;
  status: TradeStatus;
  entered: number;
  entryNotional: number;
  exited: number;
  exitNotional: number;
  commission: Money;
  /** What the first stops would lose: the trade's 1R in 1/10,000 dollar, null without a stop. */
  risk: Money | null;
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
  orderId: number;
  tradeId: number;
  symbol: string;
  side: Side;
  role: Role;
  at: number;
  price: Price;
  qty: number;
  liquidity: 'added' | 'removed';
  venue: PrintVenue;
  /** Price units a share better than the other side's quote, or than its own limit where that was nearer. */
  better: number;
  commission: Money;
}

/** What the trader asks for, every number decided. Made by the script room, obeyed by the broker. */
export type Intent =
  | ({
      kind: 'entry';
      symbol: string;
      side: Side;
      type: OrderType;
      qty: number;
      limit: Price | null;
      stop: Price | null;
      extended: boolean;
      plan: ExitPlan | null;
      sentence: string;
    } & Terms)
  | ({ kind: 'close'; symbol: string; side: Side; type: OrderType; qty: number; limit: Price | null; stop: Price | null; extended: boolean } & Terms)
  | { kind: 'move'; orderId: number; to: Price }
  | { kind: 'cancel'; orderIds: number[] };

export interface OrderEvent {
  at: number;
  exec: ExecType;
  status: OrdStatus;
  orderId: number;
  tradeId: number;
  symbol: string;
  text: string;
}

export type VenueCommand =
  | ({ kind: 'send'; venueId: number; symbol: string } & Omit<VenueOrder, 'id'>)
  | { kind: 'pull'; venueId: number; symbol: string }
  | { kind: 'shrink'; venueId: number; symbol: string; qty: number };

export const isLive = (o: Order): boolean => o.status === 'New' || o.status === 'PartiallyFilled' || o.status === 'Suspended';
export const openOf = (o: Order): number => (isLive(o) ? o.qty - o.filled : 0);
export const positionOf = (t: Trade): number => t.entered - t.exited;
/** Average entry in price units, not rounded; null before the first fill. */
export const averageEntry = (t: { entered: number; entryNotional: number }): number | null => (t.entered === 0 ? null : t.entryNotional / t.entered);

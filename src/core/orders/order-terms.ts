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

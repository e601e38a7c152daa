import type { PrintVenue } from '../market/index.ts';
import type { AccountId, Price, Side, WireId } from '../units/index.ts';

/** An order of the trader as the exchange takes it. `limit` null only in an opening or closing auction or at the midpoint. */
export interface VenueOrder {
  /** The number by which the exchange knows it: odd, never used again. */
  id: WireId;
  side: Side;
  limit: Price | null;
  qty: number;
  /**
   * `day` rests what is left, `ioc` drops it, `fok` takes all at once or nothing; `take` takes what
   * there is and drops the rest, but waits for the reopening while trading is stopped.
   */
  life: 'day' | 'ioc' | 'fok' | 'take';
  /** `sweep` tries the midpoint before the lit book. */
  route: 'lit' | 'mid' | 'sweep' | 'open' | 'close';
  postOnly: boolean;
  /** A sale of borrowed shares, which the short-sale restriction binds. */
  short: boolean;
}

/** What the exchange has been told of an order, or has acknowledged: shares in all, those that have filled included, and the limit. */
export interface WireTerms {
  qty: number;
  limit: Price | null;
}

/** Which order something is about, and whose it is. */
interface About {
  account: AccountId;
  id: WireId;
  symbol: string;
}

/** A request to the exchange. */
export type VenueCommand =
  | ({ kind: 'new' } & About & VenueOrder)
  /** A lower size keeps its place; a new price or a larger size loses it (common practice). */
  | ({ kind: 'replace' } & About & WireTerms)
  | ({ kind: 'cancel' } & About)
  /** Everything that has been executed of an order, once more. */
  | ({ kind: 'executions' } & About);

/** What a market is asked to do: whose the order is, and what has been executed of it, is the register's. */
export type Request = VenueCommand extends infer C
  ? C extends { kind: 'executions' }
    ? never
    : Omit<C, 'account'>
  : never;

/** One execution. */
export interface Execution {
  at: number;
  price: Price;
  qty: number;
  liquidity: 'added' | 'removed';
  venue: PrintVenue;
  /** Price units a share better than the other side's quote (or the limit, if that was nearer). */
  better: number;
}

/** How much of the order has filled in all by then (FIX 4.4, CumQty, tag 14). */
interface Counted {
  cumQty: number;
}

/** What the exchange, or the line to it, reports. Each request is answered: acknowledged, or rejected or refused with the reason. */
export type VenueReport =
  | ({ kind: 'new'; at: number } & About)
  | ({ kind: 'rejected'; at: number; why: string } & About)
  | ({ kind: 'replaced'; at: number } & About & Counted & WireTerms)
  | ({ kind: 'refused'; at: number; request: 'replace' | 'cancel'; why: string } & About)
  | ({ kind: 'fill' } & About & Counted & Execution)
  /** It has ended there: asked for, or not. */
  | ({ kind: 'out'; at: number; why: string } & About & Counted)
  /** All that has been executed of an order, in its order. */
  | ({ kind: 'executions'; at: number; of: readonly (Execution & Counted)[] } & About)
  /** The line to the exchange is cut, or stands again; then what was missed and the list of what works there follow. */
  | { kind: 'line'; up: boolean; at: number }
  | { kind: 'list'; at: number; orders: readonly (About & Counted & WireTerms)[] };

/** What a market says of an order before it is entered in the register, which knows whose it is and what has filled of it. */
export type Outcome = VenueReport extends infer R
  ? R extends About & { kind: 'executions' }
    ? never
    : R extends About
      ? Omit<R, 'account' | 'cumQty'>
      : never
  : never;

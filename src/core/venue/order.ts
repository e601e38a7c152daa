import type { PrintVenue } from '../market/index.ts';
import type { Price, Side, WireId } from '../units/index.ts';

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

/** A request to the exchange. */
export type VenueCommand =
  | ({ kind: 'new'; symbol: string } & VenueOrder)
  /** A lower size keeps its place; a new price or a larger size loses it (common practice). */
  | ({ kind: 'replace'; id: WireId; symbol: string } & WireTerms)
  | { kind: 'cancel'; id: WireId; symbol: string };

/** What the exchange, or the line to it, reports. Each request is answered: acknowledged, or rejected or refused with the reason. */
export type VenueReport =
  | { kind: 'new'; id: WireId; symbol: string; at: number }
  | { kind: 'rejected'; id: WireId; symbol: string; at: number; why: string }
  | ({ kind: 'replaced'; id: WireId; symbol: string; at: number } & WireTerms)
  | { kind: 'refused'; id: WireId; symbol: string; at: number; request: 'replace' | 'cancel'; why: string }
  | {
      kind: 'fill';
      id: WireId;
      symbol: string;
      at: number;
      price: Price;
      qty: number;
      liquidity: 'added' | 'removed';
      venue: PrintVenue;
      /** Price units a share better than the other side's quote (or the limit, if that was nearer). */
      better: number;
    }
  /** It has ended there: asked for, or not. */
  | { kind: 'out'; id: WireId; symbol: string; at: number; why: string }
  /** The line to the exchange is cut, or stands again; then what was missed and the list of what works there follow. */
  | { kind: 'line'; up: boolean; at: number }
  | { kind: 'list'; at: number; orders: readonly ({ id: WireId; symbol: string } & WireTerms)[] };

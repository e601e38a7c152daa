import type { Price, Side } from '../units/index.ts';

/** An order of the trader as the exchange takes it. `limit` null only in an opening or closing auction or at the midpoint. */
export interface VenueOrder {
  id: number;
  side: Side;
  limit: Price | null;
  qty: number;
  /** `day` rests what is left, `ioc` drops it, `fok` takes all at once or nothing. */
  life: 'day' | 'ioc' | 'fok';
  /** `sweep` tries the midpoint before the lit book. */
  route: 'lit' | 'mid' | 'sweep' | 'open' | 'close';
  postOnly: boolean;
  /** A sale of borrowed shares, which the short-sale restriction binds. */
  short: boolean;
}

import type { Print, Tape } from '../market/index.ts';
import type { Price, Side, WireId } from '../units/index.ts';
import type { Book, Cross, Outcome, VenueOrder } from '../venue/index.ts';
import type { Sketches } from './columns.ts';
import type { Arrival } from './opening-orders.ts';
import type { SymbolPlan } from './plan.ts';
import type { DayFrame } from './sketch-frame.ts';

/** Why the exchange ends an order by itself. */
export type OutReason =
  | 'self trade'
  | 'unfilled rest'
  | 'too far'
  | 'would take liquidity, and was post only'
  | 'not all could fill at once'
  | 'trading is halted'
  | 'midpoint orders work in the regular session'
  | 'no auction is to come'
  | 'canceled'
  | 'the day has ended';

export interface Standing extends VenueOrder {
  seq: number;
  open: number;
  where: 'book' | 'midpoint' | 'auction';
  /** Its id in the book, while it rests there. */
  place: number;
  /** Shares of others before it at the midpoint. */
  ahead: number;
}

/** The auction that is forming, as everyone sees it. Times as times of day. */
export interface AuctionView extends Cross {
  kind: 'opening' | 'closing' | 'reopening';
  at: number;
  reference: number;
}

/**
 * A full book of one symbol, grown around its plan. The crowd's resting shares at each price are a
 * function of the plan's quote, the price and the time, so that a book that is opened late is the
 * one that would have been there; the plan's trades are orders that meet this book. Without the
 * trader the trades are exactly the plan's. The trader's orders match, rest and queue among them,
 * thin the book out where they take, and leave their trace in what the symbol is worth.
 */
export interface Floor {
  i: number;
  symbol: string;
  key: number;
  book: Book;
  tape: Tape;
  seq: number;
  orders: Map<WireId, Standing>;
  /** Ticks at which the crowd rests, by side. */
  bids: Price[];
  asks: Price[];
  /** Shares that the trader took at a price, when, and over how many ms the crowd comes back to it. */
  taken: { price: number; side: Side; qty: number; at: number; over: number }[];
  /** When the quote that is shown changes next without a trade, as a time of day. */
  flickerAt: number;
  /** The crowd's orders for the auction to come, made around a price. */
  arrivals: {
    kind: AuctionView['kind'];
    at: number;
    reference: number;
    around: number;
    orders: Arrival[];
  } | null;
  /** The trader has done something here: from then on the book is not only the plan's. */
  touched: boolean;
  /** Something of the trader's waits on its prices, so it is kept whether anyone looks or not. */
  kept: boolean;
  /** Best prices of the crowd as it was last brought to the plan, and the time of the levels behind them. */
  best: number[];
}

/** What a floor needs of the market around it. */
export interface FloorContext {
  sketches: Sketches;
  plan: SymbolPlan;
  day: DayFrame;
  /** Session time of 00:00 of this day, and now. */
  dayStart: number;
  now: number;
  reports: Outcome[];
  /** Whether shorts are restricted now. */
  restricted(): boolean;
  onPrint(print: Print): void;
}

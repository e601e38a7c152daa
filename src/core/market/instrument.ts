import type { Price } from '../units/index.ts';

/** What is known of a symbol before the day starts. Prices in 1/10,000 dollar, counts in shares. */
export interface Instrument {
  symbol: string;
  name: string;
  sector: string;
  kind: 'stock' | 'index stand-in';
  priorOpen: Price;
  priorHigh: Price;
  priorLow: Price;
  priorClose: Price;
  /** Shares free to trade. */
  float: number;
  /** Mean shares a day, all sessions, over the last 30 days. */
  averageVolume: number;
  /** Average true range of the last 14 days, in price units. */
  atr: number;
}

export interface NewsItem {
  /** Milliseconds after midnight. */
  at: number;
  symbol: string;
  kind: 'contract' | 'trial result' | 'earnings' | 'offering' | 'partnership' | 'approval';
  headline: string;
}

/** One execution as the public sees it. `aggressor` is the side that took liquidity. */
export interface Print {
  at: number;
  symbol: string;
  price: Price;
  qty: number;
  aggressor: 'buy' | 'sell';
}

/** Best bid and offer; null where a side is empty. */
export interface Quote {
  bid: Price | null;
  ask: Price | null;
  bidSize: number;
  askSize: number;
}

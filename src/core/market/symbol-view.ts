import type { Price, Sign, Ticks } from '../units/index.ts';
import type { Listing, Quote, TradingStatus } from './listing.ts';

type Edge = 'high' | 'low' | 'open' | 'close';
/** Lengths of candles: minutes, or days. */
export type Candles = number | 'day';

/** What may be known of one symbol at this moment. Prices in 1/10,000 dollar; null: not known. */
export interface SymbolView {
  symbol: string;
  instrument: Listing;
  /** In which steps its prices go; left out for a stock. */
  ticks?: Ticks;
  quote: Quote;
  last: Price | null;
  /** Of an option or a vertical: the last trade of its underlying. */
  underlying?: Price | null;
  status: TradingStatus;
  /** Under the short-sale restriction. */
  restricted: boolean;
  vwap: number | null;
  open: Price | null;
  dayHigh: Price | null;
  dayLow: Price | null;
  premarketHigh: Price | null;
  premarketLow: Price | null;
  /** A finished candle of so many minutes: the last one, or so many before it. */
  candle(minutes: number, back: number): Record<Edge, number> | null;
  /** Last finished 15-minute candle before the open. */
  premarketCandle(): { high: number; low: number } | null;
  /** Range of the first so many minutes after the open, once they are over. */
  openingRange(minutes: number): { high: number; low: number } | null;
  /** Mean of the last so many closes of finished candles, simple or exponential. */
  average(kind: 'sma' | 'ema', length: number, on: Candles): number | null;
  /** Average true range of the last 14 finished candles of so many minutes. */
  atrOn(minutes: number): number | null;
  /** A price that the trader has named. */
  level(name: string): number | null;
  /** Where the pointer stands on the chart of this symbol. */
  cursor: number | null;
  /** Of the open trade, where there is one. */
  trade: { sign: Sign; averageEntry: number; stop: Price | null; riskPerShare: number | null } | null;
}

/** An edge of the trading day before, regular session. */
export const priorOf = (l: Listing, edge: 'close' | 'high' | 'low'): number | null =>
  ({ close: l.priorClose, high: l.priorHigh, low: l.priorLow })[edge];

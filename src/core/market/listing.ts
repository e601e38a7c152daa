import type { Price } from '../units/index.ts';

export type Borrow = 'easy' | 'hard' | 'none';

/** What is known of a symbol before the day starts. Prices in 1/10,000 dollar, counts in shares. */
export interface Listing {
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
  sharesOutstanding: number;
  /** Mean shares a day, all sessions, over the last 30 days. */
  averageVolume: number;
  /** Part of the average volume that trades before 09:30. */
  premarketShare: number;
  /** Average true range of the last 14 days, in price units. */
  atr: number;
  /** Whether shares can be borrowed to be sold short: easily, by locate, or not at all. */
  borrow: Borrow;
  /** Listing tier for limit up–limit down: 1 are index names. */
  tier: 1 | 2;
  /** Implied volatility now and its 52-week range, as fractions a year; null without listed options. */
  options: {
    iv: number;
    ivLow: number;
    ivHigh: number;
    /** Between what it usually wanders; the range itself where it is left out. */
    band?: { low: number; high: number };
    /** How much livelier the day is than usual because of the day before, in its usual variances; 0 where it is left out. */
    heat?: number;
  } | null;
}

/** The sectors of the listed companies. */
export const SECTORS = [
  'Banks',
  'Biotech',
  'Chips',
  'Consumer',
  'Energy',
  'Health',
  'Machinery',
  'Materials',
  'Media',
  'Property',
  'Software',
  'Transport',
  'Utilities',
] as const;

export const NEWS_KINDS = [
  'contract',
  'trial result',
  'earnings',
  'offering',
  'partnership',
  'approval',
  'guidance',
  'filing',
  'halt',
] as const;

export interface NewsItem {
  /** Milliseconds after midnight. */
  at: number;
  symbol: string;
  kind: (typeof NEWS_KINDS)[number];
  headline: string;
}

/** Where a trade happened: the exchange's lit book, its midpoint book, or off the exchange. */
export type PrintVenue = 'LIT' | 'MID' | 'OFF';
export type PrintCondition =
  | 'regular'
  | 'odd lot'
  | 'opening auction'
  | 'closing auction'
  | 'reopening auction';

/**
 * One execution as the public sees it. `aggressor` is the side that took liquidity; an auction has
 * none. An aggressor that takes several resting orders of one price makes one print. Odd lots
 * (fewer than 100 shares) are marked; they count in price and volume like others.
 */
export interface Print {
  at: number;
  symbol: string;
  price: Price;
  qty: number;
  aggressor: 'buy' | 'sell' | 'none';
  venue: PrintVenue;
  condition: PrintCondition;
}

/** Whether a symbol trades now, and if not, why. */
export type TradingStatus = 'trading' | 'limit up' | 'limit down' | 'volatility pause' | 'halted';

/** Best bid and offer; null where a side is empty. */
export interface Quote {
  bid: Price | null;
  ask: Price | null;
  bidSize: number;
  askSize: number;
}

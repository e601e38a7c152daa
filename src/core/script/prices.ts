import { type Listing, type Quote, roundPrice, type TradingStatus } from '../market/index.ts';
import { CENT, formatPrice, PRICE_SCALE, type Price, roundToTick, type Sign, tickSize, unreachable } from '../units/index.ts';
import { printPrice } from './print.ts';
import type { Offset, PriceBase, PriceExpr } from './tree.ts';

/** What a script may know of one symbol at this moment. Prices in 1/10,000 dollar; null: not known. */
export interface SymbolView {
  symbol: string;
  instrument: Listing;
  quote: Quote;
  last: Price | null;
  status: TradingStatus;
  /** Under the short-sale restriction. */
  restricted: boolean;
  vwap: number | null;
  open: Price | null;
  dayHigh: Price | null;
  dayLow: Price | null;
  premarketHigh: Price | null;
  premarketLow: Price | null;
  /** Last finished candle of so many minutes. */
  candle(minutes: number): { open: number; high: number; low: number; close: number } | null;
  /** Last finished 15-minute candle before the open. */
  premarketCandle: { high: number; low: number } | null;
  /** Range of the first so many minutes after the open, once they are over. */
  openingRange(minutes: number): { high: number; low: number } | null;
  /** Where the pointer stands on the chart of this symbol. */
  cursor: number | null;
  /** Of the open trade, where there is one. */
  trade: { sign: Sign; averageEntry: number; stop: Price | null; riskPerShare: number | null } | null;
}

/** Value of a price expression in price units (not rounded), or null when a reference is not known. */
export function priceValue(e: PriceExpr, v: SymbolView): number | null {
  let value = baseValue(e.base, v);
  if (value === null) return null;
  for (const o of e.offsets) {
    const by = distanceValue(o.by, value, v.trade?.riskPerShare ?? null);
    if (by === null) return null;
    value += o.sign * by;
  }
  return value;
}

/** Rounds a price in the direction that does not go beyond what was written. */
export const limitPrice = (value: number, side: 'buy' | 'sell'): Price => roundToTick(Math.max(1, value), side === 'buy' ? 'down' : 'up');

/** Length of an offset in price units; a percent is of `of`, R of `riskPerShare`. */
export function distanceValue(o: Offset, of: number, riskPerShare: number | null): number | null {
  switch (o.unit) {
    case 'cents':
      return Math.round(o.value * CENT);
    case 'dollars':
      return Math.round(o.value * PRICE_SCALE);
    case 'ticks':
      return o.value * tickSize(Math.round(of) as Price);
    case 'percent':
      return (of * o.value) / 100;
    case 'R':
      return riskPerShare === null ? null : o.value * riskPerShare;
    default:
      return unreachable(o.unit);
  }
}

function baseValue(b: PriceBase, v: SymbolView): number | null {
  switch (b.kind) {
    case 'number':
      return Math.round(b.dollars * PRICE_SCALE);
    case 'candle':
      return v.candle(b.minutes)?.[b.edge] ?? null;
    case 'premarket candle':
      return v.premarketCandle?.[b.edge] ?? null;
    case 'opening range':
      return v.openingRange(b.minutes)?.[b.edge] ?? null;
    case 'name':
      switch (b.name) {
        case 'bid':
          return v.quote.bid;
        case 'ask':
          return v.quote.ask;
        case 'mid':
          return v.quote.bid === null || v.quote.ask === null ? null : (v.quote.bid + v.quote.ask) / 2;
        case 'last':
          return v.last;
        case 'open':
          return v.open;
        case 'vwap':
          return v.vwap;
        case 'entry':
        case 'breakeven':
          return v.trade?.averageEntry ?? null;
        case 'stop':
          return v.trade?.stop ?? null;
        case 'prior close':
          return v.instrument.priorClose;
        case 'prior high':
          return v.instrument.priorHigh;
        case 'prior low':
          return v.instrument.priorLow;
        case 'day high':
          return v.dayHigh;
        case 'day low':
          return v.dayLow;
        case 'premarket high':
          return v.premarketHigh;
        case 'premarket low':
          return v.premarketLow;
        case 'whole dollar above':
          return v.last === null ? null : roundPrice(v.last, 1, 'above');
        case 'whole dollar below':
          return v.last === null ? null : roundPrice(v.last, 1, 'below');
        case 'half dollar above':
          return v.last === null ? null : roundPrice(v.last, 0.5, 'above');
        case 'half dollar below':
          return v.last === null ? null : roundPrice(v.last, 0.5, 'below');
        case 'cursor':
          return v.cursor;
        default:
          return unreachable(b.name);
      }
    default:
      return unreachable(b);
  }
}

/** A tree for a known price, for the say-back. */
export const literal = (p: number): PriceExpr => ({ base: { kind: 'number', dollars: p / PRICE_SCALE }, offsets: [] });
export const described = (e: PriceExpr, value: number): string => `${printPrice(e)} (${formatPrice(Math.round(value))})`;

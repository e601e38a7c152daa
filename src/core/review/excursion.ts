// How far an imported trade went for and against, by the minute candles of its day, where the trader has them.
import { multiplierOfSymbol } from '../instruments/index.ts';
import { MINUTE } from '../units/index.ts';
import type { TradeRecord } from './record.ts';

/** A one-minute candle of a day: its start in ms after midnight, prices in 1/10,000 dollar. */
export interface Minute {
  start: number;
  open: number;
  high: number;
  low: number;
  close: number;
}

/**
 * The trade with its excursions: of all candles that it was open in, and of its own executions, for the largest number of shares it had. The first and the
 * last candle may reach beyond the time it was held. A trade over nights, or without candles, stays as it is.
 */
export function withExcursions(t: TradeRecord, minutes: readonly Minute[]): TradeRecord {
  if (!t.closed || t.closed.date !== t.opened.date) return t;
  const held = minutes.filter((m) => m.start + MINUTE > t.opened.at && m.start <= (t.closed?.at ?? 0));
  if (held.length === 0) return t;
  const prices = t.executions.map((x) => x.price);
  const high = Math.max(...held.map((m) => m.high), ...prices);
  const low = Math.min(...held.map((m) => m.low), ...prices);
  const size = t.shares * multiplierOfSymbol(t.symbol);
  const [best, worst] = t.direction === 'long' ? [high, low] : [low, high];
  const sign = t.direction === 'long' ? 1 : -1;
  return {
    ...t,
    mfe: Math.max(0, sign * (best - t.averageEntry) * size),
    mae: Math.min(0, sign * (worst - t.averageEntry) * size),
  };
}

import { clockOf, MINUTE, PRE_OPEN, REGULAR_OPEN } from '../units/index.ts';
import type { TradingStatus } from './listing.ts';

/**
 * What the public sees of every symbol at snapshot depth: one column a quantity, one place a
 * symbol, so that a scan runs over flat numbers. Prices in 1/10,000 dollar; 0 means none yet.
 *
 *   minute closes: `closes[i × 16 + minute % 16]`, written when a later minute trades; `minute` is
 *                  the newest minute that traded, counted from 04:00
 *   spark:         `spark[i × 96 + k]`: last price at the end of each ten minutes from 04:00
 */
export interface Board {
  count: number;
  bid: Int32Array;
  ask: Int32Array;
  bidSize: Int32Array;
  askSize: Int32Array;
  last: Int32Array;
  /** The last price before the close; from the closing auction on, the auction's. */
  close: Int32Array;
  lastAt: Float64Array;
  open: Int32Array;
  high: Int32Array;
  low: Int32Array;
  volume: Float64Array;
  turnover: Float64Array;
  prints: Int32Array;
  premarketVolume: Float64Array;
  premarketTurnover: Float64Array;
  premarketHigh: Int32Array;
  premarketLow: Int32Array;
  newHighs: Int32Array;
  minute: Int32Array;
  minutePrints: Int32Array;
  earlierPrints: Int32Array;
  closes: Int32Array;
  spark: Int32Array;
  status: Uint8Array;
  /** When a halt or pause is to end, as a time of day. */
  until: Float64Array;
  halts: Uint8Array;
  /** Short-sale restriction: 0 none, 1 from the day before, 2 from a fall of today, which binds tomorrow too. */
  restricted: Uint8Array;
}

const RING = 16;
export const SPARKS = 96;
const STATUSES: readonly TradingStatus[] = [
  'trading',
  'limit up',
  'limit down',
  'volatility pause',
  'halted',
];

/** The trading status of the symbol with that number. */
export const statusOf = (b: Board, i: number): TradingStatus =>
  STATUSES[b.status[i] as number] as TradingStatus;

/** An empty board for so many symbols. */
export function createBoard(n: number): Board {
  const f = () => new Float64Array(n);
  const i32 = () => new Int32Array(n);
  return {
    count: n,
    bid: i32(),
    ask: i32(),
    bidSize: i32(),
    askSize: i32(),
    last: i32(),
    close: i32(),
    lastAt: f(),
    open: i32(),
    high: i32(),
    low: i32(),
    volume: f(),
    turnover: f(),
    prints: i32(),
    premarketVolume: f(),
    premarketTurnover: f(),
    premarketHigh: i32(),
    premarketLow: i32(),
    newHighs: i32(),
    minute: i32().fill(-1),
    minutePrints: i32(),
    earlierPrints: i32(),
    closes: new Int32Array(n * RING),
    spark: new Int32Array(n * SPARKS),
    status: new Uint8Array(n),
    until: f(),
    halts: new Uint8Array(n),
    restricted: new Uint8Array(n),
  };
}

/** Takes in one trade of symbol `i` at a session time. `close` is the day's regular close as a time of day. */
// biome-ignore lint/complexity/noExcessiveCognitiveComplexity: the hottest path of the market
export function boardTrade(b: Board, i: number, at: number, price: number, qty: number, close: number): void {
  const t = clockOf(at);
  const m = Math.floor((t - PRE_OPEN) / MINUTE);
  const before = b.minute[i] as number;
  if (m !== before) {
    const last = b.last[i] as number;
    if (before >= 0) {
      for (let k = before; k < m && k < before + RING; k++) b.closes[i * RING + (k % RING)] = last;
      for (let k = Math.floor(before / 10); k < Math.floor(m / 10); k++) b.spark[i * SPARKS + k] = last;
    }
    b.earlierPrints[i] = m === before + 1 ? (b.minutePrints[i] as number) : 0;
    b.minutePrints[i] = 0;
    b.minute[i] = m;
  }
  b.minutePrints[i] = (b.minutePrints[i] as number) + 1;
  b.last[i] = price;
  if (t < close) b.close[i] = price;
  b.lastAt[i] = at;
  b.volume[i] = (b.volume[i] as number) + qty;
  b.turnover[i] = (b.turnover[i] as number) + price * qty;
  b.prints[i] = (b.prints[i] as number) + 1;
  if (price > (b.high[i] as number)) {
    if (b.high[i] !== 0) b.newHighs[i] = (b.newHighs[i] as number) + 1;
    b.high[i] = price;
  }
  if (b.low[i] === 0 || price < (b.low[i] as number)) b.low[i] = price;
  if (t < REGULAR_OPEN) {
    b.premarketVolume[i] = (b.premarketVolume[i] as number) + qty;
    b.premarketTurnover[i] = (b.premarketTurnover[i] as number) + price * qty;
    if (price > (b.premarketHigh[i] as number)) b.premarketHigh[i] = price;
    if (b.premarketLow[i] === 0 || price < (b.premarketLow[i] as number)) b.premarketLow[i] = price;
  } else if (b.open[i] === 0 && t < close) b.open[i] = price;
}

/** The price that stood so many whole minutes ago: the close of that minute; 0 before the first trade. */
export function priceBack(b: Board, i: number, minutes: number, now: number): number {
  const m = Math.floor((clockOf(now) - PRE_OPEN) / MINUTE) - minutes;
  const newest = b.minute[i] as number;
  if (newest < 0) return 0;
  if (m >= newest) return b.last[i] as number;
  return m > newest - RING && m >= 0 ? (b.closes[i * RING + (m % RING)] as number) : 0;
}

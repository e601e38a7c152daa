import {
  clockOf,
  DAY,
  dayOf,
  MINUTE,
  PRE_OPEN,
  type Price,
  REGULAR_CLOSE,
  REGULAR_OPEN,
} from '../units/index.ts';
import type { Print } from './listing.ts';

/** Minutes from 04:00 to 20:00. */
export const DAY_MINUTES = 960;
const PRINTS_KEPT = 64;

/**
 * What a day's prints of one symbol add up to. The one-minute bars are flat arrays indexed by
 * minute after 04:00; `volume` 0 means that nothing traded in that minute.
 */
export interface Tape {
  symbol: string;
  /** End of the regular session, as a time of day. */
  close: number;
  last: Price | null;
  lastAt: number;
  /** First price of the regular session. */
  open: Price | null;
  volume: number;
  /** Sum of price × shares, in 1/10,000 dollar. */
  turnover: number;
  prints: number;
  high: Price | null;
  low: Price | null;
  premarketVolume: number;
  premarketHigh: Price | null;
  premarketLow: Price | null;
  barOpen: Int32Array;
  barHigh: Int32Array;
  barLow: Int32Array;
  barClose: Int32Array;
  barVolume: Float64Array;
  barTurnover: Float64Array;
  recent: Print[];
}

/** An empty tape; `close` is the end of the regular session, as a time of day. */
export function createTape(symbol: string, close: number = REGULAR_CLOSE): Tape {
  return {
    symbol,
    close,
    last: null,
    lastAt: 0,
    open: null,
    volume: 0,
    turnover: 0,
    prints: 0,
    high: null,
    low: null,
    premarketVolume: 0,
    premarketHigh: null,
    premarketLow: null,
    barOpen: new Int32Array(DAY_MINUTES),
    barHigh: new Int32Array(DAY_MINUTES),
    barLow: new Int32Array(DAY_MINUTES),
    barClose: new Int32Array(DAY_MINUTES),
    barVolume: new Float64Array(DAY_MINUTES),
    barTurnover: new Float64Array(DAY_MINUTES),
    recent: [],
  };
}

/** Minute of the day of a session time, counted from 04:00. */
export const minuteOf = (at: number): number => Math.floor((clockOf(at) - PRE_OPEN) / MINUTE);

/** Adds one print. Times never run backwards; prints outside 04:00–20:00 are a bug. */
export function record(tape: Tape, print: Print): void {
  const { at, price, qty } = print;
  const m = minuteOf(at);
  if (m < 0 || m >= DAY_MINUTES) throw new RangeError(`print outside the day: ${at}`);
  tape.last = price;
  tape.lastAt = at;
  tape.volume += qty;
  tape.turnover += price * qty;
  tape.prints++;
  if (tape.high === null || price > tape.high) tape.high = price;
  if (tape.low === null || price < tape.low) tape.low = price;
  if (clockOf(at) < REGULAR_OPEN) {
    tape.premarketVolume += qty;
    if (tape.premarketHigh === null || price > tape.premarketHigh) tape.premarketHigh = price;
    if (tape.premarketLow === null || price < tape.premarketLow) tape.premarketLow = price;
  } else if (tape.open === null && clockOf(at) < tape.close) tape.open = price;
  if (tape.barVolume[m] === 0) {
    tape.barOpen[m] = price;
    tape.barHigh[m] = price;
    tape.barLow[m] = price;
  } else {
    if (price > (tape.barHigh[m] as number)) tape.barHigh[m] = price;
    if (price < (tape.barLow[m] as number)) tape.barLow[m] = price;
  }
  tape.barClose[m] = price;
  tape.barVolume[m] = (tape.barVolume[m] as number) + qty;
  tape.barTurnover[m] = (tape.barTurnover[m] as number) + price * qty;
  tape.recent.push(print);
  if (tape.recent.length > PRINTS_KEPT * 2) tape.recent.splice(0, PRINTS_KEPT);
}

/** Volume-weighted average price of the day in price units (not rounded), or null before a print. */
export function vwapOf(tape: Tape): number | null {
  return tape.volume === 0 ? null : tape.turnover / tape.volume;
}

/** One candle; `start` is a session time, prices in 1/10,000 dollar. */
export interface Bar {
  start: number;
  open: number;
  high: number;
  low: number;
  close: number;
  volume: number;
  /** Sum of price × shares. */
  turnover: number;
}

/**
 * Candles of `minutes` from one-minute bars, from bar `fromMinute` on, before bar `toMinute`. Intervals
 * start at 04:00; an interval without a print gives no candle.
 */
export function barsOf(
  tape: Tape,
  minutes: number,
  fromMinute = 0,
  toMinute = Number.POSITIVE_INFINITY,
): Bar[] {
  const out: Bar[] = [];
  let current: Bar | null = null;
  const end = tape.prints === 0 ? -1 : Math.min(minuteOf(tape.lastAt), toMinute - 1);
  const midnight = dayOf(tape.lastAt) * DAY;
  for (let m = fromMinute - (fromMinute % minutes); m <= end; m++) {
    const volume = tape.barVolume[m] as number;
    if (m % minutes === 0) current = null;
    if (volume === 0) continue;
    if (current === null) {
      current = {
        start: midnight + PRE_OPEN + (m - (m % minutes)) * MINUTE,
        open: tape.barOpen[m] as number,
        high: tape.barHigh[m] as number,
        low: tape.barLow[m] as number,
        close: 0,
        volume: 0,
        turnover: 0,
      };
      out.push(current);
    }
    current.high = Math.max(current.high, tape.barHigh[m] as number);
    current.low = Math.min(current.low, tape.barLow[m] as number);
    current.close = tape.barClose[m] as number;
    current.volume += volume;
    current.turnover += tape.barTurnover[m] as number;
  }
  return out;
}

/**
 * The last finished candle of `minutes` that traded, at a session time, or the one so many before
 * it (`back`); null when there is none.
 */
export function lastFinishedBar(tape: Tape, minutes: number, now: number, back = 0): Bar | null {
  const current = minuteOf(now) - (minuteOf(now) % minutes);
  let left = back;
  for (let start = current - minutes; start >= 0; start -= minutes) {
    for (let m = start; m < start + minutes; m++) {
      if (tape.barVolume[m] === 0) continue;
      if (left-- > 0) break;
      return barsOf(tape, minutes, start, start + minutes)[0] ?? null;
    }
  }
  return null;
}

/** The finished candles of `minutes` that traded, oldest first. */
export function finishedBars(tape: Tape, minutes: number, now: number): Bar[] {
  const current = minuteOf(now) - (minuteOf(now) % minutes);
  return barsOf(tape, minutes).filter((b) => minuteOf(b.start) < current);
}

/** The last 15-minute candle before the open that has finished and traded; it stays the same after the open. Null when there is none. */
export const lastPremarketBar = (tape: Tape, now: number): Bar | null =>
  lastFinishedBar(tape, 15, Math.min(now, dayOf(now) * DAY + REGULAR_OPEN));

/** High and low of the first so many minutes after the open, once they are over and if they traded; null before. */
export function openingRange(tape: Tape, minutes: number, now: number): { high: number; low: number } | null {
  const first = minuteOf(REGULAR_OPEN);
  if (minuteOf(now) < first + minutes) return null;
  let range: { high: number; low: number } | null = null;
  for (let m = first; m < first + minutes; m++) {
    if (tape.barVolume[m] === 0) continue;
    const [high, low] = [tape.barHigh[m] as number, tape.barLow[m] as number];
    range = range ? { high: Math.max(range.high, high), low: Math.min(range.low, low) } : { high, low };
  }
  return range;
}

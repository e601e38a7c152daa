import { type Board, type Instrument, priceBack, usualVolumeBy } from '../market/index.ts';
import type { ScanUnit } from '../script/index.ts';
import { clockOf, MINUTE, PRE_OPEN } from '../units/index.ts';

/** The market as a scan sees it: the public board, what is known beforehand, and the newest news of each symbol. */
export interface ScanInput {
  board: Board;
  instruments: readonly Instrument[];
  now: number;
  /** Session time of each symbol's newest news of today, NaN where there is none. */
  newsAt: Float64Array;
}

/**
 * One thing that a scan can ask of a symbol. `name` is its word in rules; `of` gives its value for
 * symbol `i`, in `unit`; NaN where it cannot be known, and a comparison with it is false.
 */
export interface ScanField {
  name: string;
  label: string;
  unit: ScanUnit;
  /** The formula in words, for the trader. */
  meaning: string;
  of(m: ScanInput, i: number): number;
}

const known = (v: number): number => (v === 0 ? Number.NaN : v);
const instrument = (m: ScanInput, i: number): Instrument => m.instruments[i] as Instrument;
const lastOf = (m: ScanInput, i: number): number => known(m.board.last[i] as number);
const percent = (now: number, then: number): number => (now / then - 1) * 100;
const minuteNow = (m: ScanInput): number => Math.floor((clockOf(m.now) - PRE_OPEN) / MINUTE);
const spreadOf = (m: ScanInput, i: number): number => known(m.board.bid[i] as number) && known(m.board.ask[i] as number) - known(m.board.bid[i] as number);
const speed = (m: ScanInput, i: number, minutes: number): number => percent(lastOf(m, i), known(priceBack(m.board, i, minutes, m.now)));
const inAtr = (m: ScanInput, i: number, from: number): number => (lastOf(m, i) - known(from)) / instrument(m, i).atr;
const vwapOf = (m: ScanInput, i: number): number => known(m.board.turnover[i] as number) / (m.board.volume[i] as number);

export const SCAN_FIELDS: readonly ScanField[] = [
  { name: 'price', label: 'Price', unit: 'dollars', meaning: 'The last trade.', of: (m, i) => lastOf(m, i) / 10_000 },
  {
    name: 'gap',
    label: 'Gap',
    unit: 'percent',
    meaning: 'Before the open: last ÷ prior close − 1. After it: opening price ÷ prior close − 1.',
    of: (m, i) => percent(known((m.board.open[i] as number) || (m.board.last[i] as number)), instrument(m, i).priorClose),
  },
  { name: 'change', label: 'Change', unit: 'percent', meaning: 'Last ÷ prior close − 1.', of: (m, i) => percent(lastOf(m, i), instrument(m, i).priorClose) },
  {
    name: 'premarket volume',
    label: 'Pre-mkt vol',
    unit: 'shares',
    meaning: 'Shares traded from 04:00 to 09:30.',
    of: (m, i) => m.board.premarketVolume[i] as number,
  },
  {
    name: 'premarket dollar volume',
    label: 'Pre-mkt $',
    unit: 'dollars',
    meaning: 'Sum of price × shares from 04:00 to 09:30.',
    of: (m, i) => (m.board.premarketTurnover[i] as number) / 10_000,
  },
  { name: 'volume', label: 'Volume', unit: 'shares', meaning: 'Shares traded today.', of: (m, i) => m.board.volume[i] as number },
  {
    name: 'dollar volume',
    label: '$ volume',
    unit: 'dollars',
    meaning: 'Sum of price × shares today.',
    of: (m, i) => (m.board.turnover[i] as number) / 10_000,
  },
  {
    name: 'relative volume',
    label: 'Rel vol',
    unit: 'times',
    meaning: 'Volume ÷ what usually has traded by this minute of the day.',
    of: (m, i) => (m.board.volume[i] as number) / known(usualVolumeBy(instrument(m, i), m.now)),
  },
  { name: 'float', label: 'Float', unit: 'shares', meaning: 'Shares free to trade.', of: (m, i) => known(instrument(m, i).float) },
  {
    name: 'float turnover',
    label: 'Float turned',
    unit: 'times',
    meaning: 'Volume today ÷ float.',
    of: (m, i) => (m.board.volume[i] as number) / known(instrument(m, i).float),
  },
  {
    name: 'market cap',
    label: 'Mkt cap',
    unit: 'dollars',
    meaning: 'Last (prior close before the first trade) × shares outstanding.',
    of: (m, i) => (((m.board.last[i] as number) || instrument(m, i).priorClose) / 10_000) * known(instrument(m, i).sharesOutstanding),
  },
  { name: 'spread', label: 'Spread', unit: 'cents', meaning: 'Ask − bid.', of: (m, i) => spreadOf(m, i) / 100 },
  {
    name: 'spread bp',
    label: 'Spread bp',
    unit: 'bp',
    meaning: '(Ask − bid) ÷ midpoint, in basis points (hundredths of a percent).',
    of: (m, i) => (spreadOf(m, i) / (((m.board.bid[i] as number) + (m.board.ask[i] as number)) / 2)) * 10_000,
  },
  {
    name: 'prints a minute',
    label: 'Prints/min',
    unit: 'count',
    meaning: 'Trades in the last finished minute.',
    of: (m, i) => {
      const newest = m.board.minute[i] as number;
      const now = minuteNow(m);
      return newest === now ? (m.board.earlierPrints[i] as number) : newest === now - 1 ? (m.board.minutePrints[i] as number) : 0;
    },
  },
  {
    name: 'speed 1m',
    label: '1 min',
    unit: 'percent',
    meaning: 'Last ÷ price one minute ago − 1 (close of the minute before this one).',
    of: (m, i) => speed(m, i, 1),
  },
  { name: 'speed 5m', label: '5 min', unit: 'percent', meaning: 'Last ÷ close of the minute five minutes ago − 1.', of: (m, i) => speed(m, i, 5) },
  { name: 'speed 15m', label: '15 min', unit: 'percent', meaning: 'Last ÷ close of the minute fifteen minutes ago − 1.', of: (m, i) => speed(m, i, 15) },
  {
    name: 'from premarket high',
    label: 'To pre-mkt high',
    unit: 'percent',
    meaning: 'Last ÷ pre-market high − 1; below zero while under it.',
    of: (m, i) => percent(lastOf(m, i), known(m.board.premarketHigh[i] as number)),
  },
  {
    name: 'atr from premarket high',
    label: 'ATR to pmh',
    unit: 'atr',
    meaning: '(Last − pre-market high) ÷ ATR(14).',
    of: (m, i) => inAtr(m, i, m.board.premarketHigh[i] as number),
  },
  { name: 'from vwap', label: 'To VWAP', unit: 'percent', meaning: 'Last ÷ VWAP of the day − 1.', of: (m, i) => percent(lastOf(m, i), vwapOf(m, i)) },
  { name: 'atr from vwap', label: 'ATR to VWAP', unit: 'atr', meaning: '(Last − VWAP of the day) ÷ ATR(14).', of: (m, i) => inAtr(m, i, vwapOf(m, i)) },
  {
    name: 'from day high',
    label: 'To day high',
    unit: 'percent',
    meaning: 'Last ÷ high of the day − 1.',
    of: (m, i) => percent(lastOf(m, i), known(m.board.high[i] as number)),
  },
  {
    name: 'from prior high',
    label: 'To prior high',
    unit: 'percent',
    meaning: 'Last ÷ prior day’s high − 1.',
    of: (m, i) => percent(lastOf(m, i), instrument(m, i).priorHigh),
  },
  {
    name: 'from prior low',
    label: 'To prior low',
    unit: 'percent',
    meaning: 'Last ÷ prior day’s low − 1.',
    of: (m, i) => percent(lastOf(m, i), instrument(m, i).priorLow),
  },
  { name: 'atr', label: 'ATR', unit: 'dollars', meaning: 'Average true range of the last 14 days.', of: (m, i) => instrument(m, i).atr / 10_000 },
  {
    name: 'new highs',
    label: 'New highs',
    unit: 'count',
    meaning: 'How often today a trade went above all earlier ones of the day.',
    of: (m, i) => m.board.newHighs[i] as number,
  },
  {
    name: 'news age',
    label: 'News',
    unit: 'minutes',
    meaning: 'Minutes since the newest news of today.',
    of: (m, i) => Math.floor((m.now - (m.newsAt[i] as number)) / MINUTE),
  },
  { name: 'halts', label: 'Halts', unit: 'count', meaning: 'Halts and volatility pauses today.', of: (m, i) => m.board.halts[i] as number },
  {
    name: 'iv rank',
    label: 'IV rank',
    unit: 'percent',
    meaning: '(Implied volatility − 52-week low) ÷ (52-week high − low) × 100; unknown without listed options.',
    of: (m, i) => {
      const o = instrument(m, i).options;
      return o ? ((o.iv - o.ivLow) / (o.ivHigh - o.ivLow)) * 100 : Number.NaN;
    },
  },
];

import type { Price, Sign, Ticks } from '../units/index.ts';
import type { Listing, Quote, TradingStatus } from './listing.ts';
import { roundPrice } from './round-price.ts';

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

type Argument = string | number | null;

/**
 * A price that has a name. `words` is how it is written: plain words; `high|low`, one of them;
 * `CANDLE` 1m, 2m, 3m, 5m, 10m, 15m, 30m or 60m; `MINUTES` 1m to 60m; `CANDLES` a candle or `day`; `LENGTH` a number;
 * `PERCENT` 1% to 99%; `NAME` a name in quotes; `[BACK back]` how many candles before the last one.
 */
export interface Reference {
  words: string;
  /** What it is, and how it comes about, for the trader. */
  meaning: string;
  /** What other people call it, and how it is written here. */
  aka?: Readonly<Record<string, string>>;
  /** Shown as a level of a symbol, with these arguments. */
  levels?: readonly (readonly Argument[])[];
  /** Where it is known: of any symbol, or only of the trader's trade, or only where the pointer is. */
  of: 'market' | 'trade' | 'pointer' | 'names';
  /** In price units, not rounded; null while it is not known. */
  value(v: SymbolView, args: readonly Argument[]): number | null;
}

const HIGH_LOW = [['high'], ['low']];
const PLAIN = [[]];
const edge = (
  bar: { high: number; low: number; open?: number; close?: number } | null,
  which: Argument | undefined,
): number | null => (bar === null ? null : (bar[which as Edge] ?? null));
const dollar = (v: SymbolView, step: 1 | 0.5, way: Argument | undefined) =>
  v.last === null ? null : roundPrice(v.last, step, way as 'above' | 'below');

/** Every price that orders, alerts, levels, completion and the reference page know by name; the only place where one is added. */
export const REFERENCES: readonly Reference[] = [
  { words: 'bid', meaning: 'The best price that somebody bids.', of: 'market', value: (v) => v.quote.bid },
  {
    words: 'ask',
    meaning: 'The best price at which somebody offers.',
    aka: { offer: 'ask' },
    of: 'market',
    value: (v) => v.quote.ask,
  },
  {
    words: 'mid',
    meaning: 'Halfway between bid and ask.',
    aka: { midpoint: 'mid', middle: 'mid' },
    of: 'market',
    value: (v) => (v.quote.bid === null || v.quote.ask === null ? null : (v.quote.bid + v.quote.ask) / 2),
  },
  {
    words: 'last',
    meaning: 'The price of the last trade.',
    aka: { price: 'last', 'last price': 'last' },
    of: 'market',
    value: (v) => v.last,
  },
  {
    words: 'premarket high|low',
    meaning: 'The highest or lowest trade of the day before 09:30.',
    aka: {
      pmh: 'premarket high',
      'pm high': 'premarket high',
      'pm low': 'premarket low',
      pml: 'premarket low',
      'pre market high': 'premarket high',
      'pre market low': 'premarket low',
      'pre-market high': 'premarket high',
      'pre-market low': 'premarket low',
    },
    levels: HIGH_LOW,
    of: 'market',
    value: (v, [which]) => (which === 'high' ? v.premarketHigh : v.premarketLow),
  },
  {
    words: 'premarket 15m high|low',
    meaning: 'The edge of the last finished 15-minute candle before 09:30; it stays after the open.',
    levels: HIGH_LOW,
    of: 'market',
    value: (v, [which]) => edge(v.premarketCandle(), which),
  },
  {
    words: 'prior close|high|low',
    meaning: 'Close, high or low of the trading day before, regular session.',
    aka: {
      'previous close': 'prior close',
      'yesterday close': 'prior close',
      pdh: 'prior high',
      pdl: 'prior low',
      'previous high': 'prior high',
      'previous low': 'prior low',
    },
    levels: [['close'], ['high'], ['low']],
    of: 'market',
    value: (v, [which]) =>
      which === 'close'
        ? v.instrument.priorClose
        : which === 'high'
          ? v.instrument.priorHigh
          : v.instrument.priorLow,
  },
  {
    words: 'vwap',
    meaning:
      'The volume-weighted average price of the day: sum of price × shares ÷ sum of shares, all sessions.',
    levels: PLAIN,
    of: 'market',
    value: (v) => v.vwap,
  },
  {
    words: 'day open',
    meaning: 'The first trade of the regular session.',
    aka: { 'opening price': 'day open' },
    levels: PLAIN,
    of: 'market',
    value: (v) => v.open,
  },
  {
    words: 'opening range MINUTES high|low',
    meaning: 'High or low of the first so many minutes after 09:30, once they are over.',
    aka: {
      orb: 'opening range 5m high',
      'orb high': 'opening range 5m high',
      'orb low': 'opening range 5m low',
    },
    levels: [
      [5, 'high'],
      [5, 'low'],
    ],
    of: 'market',
    value: (v, [minutes, which]) => edge(v.openingRange(minutes as number), which),
  },
  {
    words: 'day high|low',
    meaning: 'The highest or lowest trade of the day so far, all sessions.',
    aka: { hod: 'day high', lod: 'day low', 'high of day': 'day high', 'low of day': 'day low' },
    levels: HIGH_LOW,
    of: 'market',
    value: (v, [which]) => (which === 'high' ? v.dayHigh : v.dayLow),
  },
  {
    words: 'whole dollar above|below',
    meaning: 'The next whole dollar beyond the last price.',
    levels: [['above'], ['below']],
    of: 'market',
    value: (v, [way]) => dollar(v, 1, way),
  },
  {
    words: 'half dollar above|below',
    meaning: 'The next half dollar beyond the last price.',
    levels: [['above'], ['below']],
    of: 'market',
    value: (v, [way]) => dollar(v, 0.5, way),
  },
  {
    words: 'CANDLE high|low|open|close [BACK back]',
    meaning:
      'An edge of the last finished candle of so many minutes that traded, or of one so many before it.',
    of: 'market',
    value: (v, [minutes, which, back]) => edge(v.candle(minutes as number, (back ?? 0) as number), which),
  },
  {
    words: 'ema LENGTH on CANDLES',
    meaning:
      'Exponential moving average of the closes of so many finished candles: weight 2 ÷ (n + 1), begun with their simple mean.',
    of: 'market',
    value: (v, [n, on]) => v.average('ema', n as number, on as Candles),
  },
  {
    words: 'sma LENGTH on CANDLES',
    meaning: 'Simple moving average: the mean of the closes of so many finished candles.',
    of: 'market',
    value: (v, [n, on]) => v.average('sma', n as number, on as Candles),
  },
  {
    words: 'level NAME',
    meaning: 'A price that you have named: level "lid" at 9.50.',
    of: 'names',
    value: (v, [name]) => v.level(name as string),
  },
  {
    words: 'cursor',
    meaning: 'Where the pointer stands on the chart of the focus.',
    of: 'pointer',
    value: (v) => v.cursor,
  },
  {
    words: 'entry',
    meaning: 'The average price that your open position was entered at.',
    aka: { average: 'entry', 'average price': 'entry', cost: 'entry' },
    of: 'trade',
    value: (v) => v.trade?.averageEntry ?? null,
  },
  {
    words: 'breakeven',
    meaning: 'The average entry: out there, the trade makes nothing before costs.',
    of: 'trade',
    value: (v) => v.trade?.averageEntry ?? null,
  },
  {
    words: 'half the credit',
    meaning:
      'Half of what an option or a vertical was sold for: bought back there, it has kept the other half.',
    of: 'trade',
    value: (v) => (v.trade && v.trade.sign === -1 ? v.trade.averageEntry / 2 : null),
  },
  {
    words: 'PERCENT of the credit',
    meaning:
      'So much of what an option or a vertical was sold for: bought back at 30% of the credit, it has kept 70 %.',
    of: 'trade',
    value: (v, [percent]) =>
      v.trade && v.trade.sign === -1 ? (v.trade.averageEntry * (percent as number)) / 100 : null,
  },
  {
    words: 'last of underlying',
    meaning: 'Of an option or a vertical: the price of the last trade of the stock that it is on.',
    of: 'market',
    value: (v) => v.underlying ?? null,
  },
  {
    words: 'stop',
    meaning: 'Where the stop of your position stands, the nearest one where there are several.',
    of: 'trade',
    value: (v) => v.trade?.stop ?? null,
  },
];

/** A reference with its arguments: what a script says, and what a level is. */
export interface NamedPrice {
  words: string;
  args: readonly Argument[];
}

const byWords = new Map(REFERENCES.map((r) => [r.words, r]));

/** A reference by how it is written. @throws when there is none such: only a bug can cause that. */
export function referenceOf(words: string): Reference {
  const found = byWords.get(words);
  if (!found) throw new Error(`no such reference: ${words}`);
  return found;
}

/** The pieces of how a reference is written; `optional` ones may be left out together. */
export interface Piece {
  is: 'word' | 'choice' | 'CANDLE' | 'MINUTES' | 'CANDLES' | 'LENGTH' | 'PERCENT' | 'BACK' | 'NAME';
  /** The word, or the words to choose from. */
  words: readonly string[];
  optional: boolean;
}

/** How a reference is written, in pieces. */
export function piecesOf(words: string): Piece[] {
  let optional = false;
  return words.split(' ').map((raw): Piece => {
    if (raw.startsWith('[')) optional = true;
    const w = raw.replace(/[[\]]/g, '');
    const piece: Piece = {
      is: /^[A-Z]+$/.test(w) ? (w as Piece['is']) : w.includes('|') ? 'choice' : 'word',
      words: w.split('|'),
      optional,
    };
    if (raw.endsWith(']')) optional = false;
    return piece;
  });
}

/** A named price as it is written in a script, and as a level is called: `premarket 15m high`. */
export function namedText({ words, args }: NamedPrice): string {
  let k = 0;
  const out: string[] = [];
  for (const p of piecesOf(words)) {
    if (p.is === 'word') {
      // The words of a part that may be left out go with its argument.
      if (!p.optional || args[k - 1] != null) out.push(p.words[0] as string);
      continue;
    }
    const arg = args[k++];
    if (arg == null) continue;
    out.push(
      p.is === 'NAME'
        ? `"${arg}"`
        : p.is === 'CANDLE' || p.is === 'MINUTES' || (p.is === 'CANDLES' && arg !== 'day')
          ? `${arg}m`
          : p.is === 'PERCENT'
            ? `${arg}%`
            : String(arg),
    );
  }
  return out.join(' ');
}

import { BASIS_POINTS, clockOf, MINUTE, PRE_OPEN, PRICE_SCALE } from '../units/index.ts';
import { type Board, priceBack } from './board.ts';
import { BORROWS, type Facts } from './facts.ts';
import { NEWS_KINDS, SECTORS } from './listing.ts';
import { usualShareBy } from './usual-volume.ts';

/** The market as rules and columns see it: the public board, what is known beforehand, and the newest news of each symbol. */
export interface MarketView {
  board: Board;
  facts: Facts;
  now: number;
  /** Session time of each symbol's newest news of today, NaN where there is none. */
  newsAt: Float64Array;
  /** Its kind, as a place in {@link NEWS_KINDS}. */
  newsKind: Uint8Array;
}

export type FieldUnit =
  | 'percent'
  | 'dollars'
  | 'shares'
  | 'times'
  | 'cents'
  | 'minutes'
  | 'bp'
  | 'count'
  | 'atr'
  | 'choice'
  | 'flag';

/**
 * One thing that can be asked of a symbol: in a rule, in a column, in a ranking, in an alert.
 * `fill` writes the values of the first `n` symbols of `who`, in `unit`, into `out`: NaN where a
 * value is not known (a comparison with it is false), 1 or 0 for a flag, a place in `choices` for a choice.
 */
export interface Field {
  name: string;
  label: string;
  unit: FieldUnit;
  /** The formula in words, for the trader. */
  meaning: string;
  choices?: readonly string[];
  /** From when on it does not change any more that day; left out where it does. */
  stays?: 'all day' | 'after the open';
  fill: Fill;
}

export type Fill = (m: MarketView, who: Int32Array, n: number, out: Float64Array) => void;
type Column = (m: MarketView) => Float64Array | Int32Array | Uint8Array;

// Columns.
const last: Column = (m) => m.board.last;
const bid: Column = (m) => m.board.bid;
const ask: Column = (m) => m.board.ask;
const high: Column = (m) => m.board.high;
const premarketHigh: Column = (m) => m.board.premarketHigh;
const volume: Column = (m) => m.board.volume;
const turnover: Column = (m) => m.board.turnover;
const float: Column = (m) => m.facts.float;
const priorClose: Column = (m) => m.facts.priorClose;
const priorHigh: Column = (m) => m.facts.priorHigh;
const priorLow: Column = (m) => m.facts.priorLow;

// How values are worked out of columns; each is one loop over the symbols asked for.

/** A column as it is, in units of so much. A division, because a price of 11.85 must be the number 11.85. */
const plain =
  (column: Column, unit = 1): Fill =>
  (m, who, n, out) => {
    const c = column(m);
    for (let k = 0; k < n; k++) out[k] = (c[who[k] as number] as number) / unit;
  };

/** Prices of a column, in its units, as something else where `to` says so; 0 means that one is not known. */
export const columnOf =
  (column: Column, to: (value: number) => number = (v) => v): Fill =>
  (m, who, n, out) => {
    const c = column(m);
    for (let k = 0; k < n; k++) {
      const v = c[who[k] as number] as number;
      out[k] = v === 0 ? Number.NaN : to(v);
    }
  };

/** As {@link plain}, where 0 means that it is not known. */
const known =
  (column: Column, unit = 1): Fill =>
  (m, who, n, out) => {
    const c = column(m);
    for (let k = 0; k < n; k++) {
      const v = c[who[k] as number] as number;
      out[k] = v === 0 ? Number.NaN : v / unit;
    }
  };

/** One column over another that is known. */
const ratio =
  (top: Column, bottom: Column): Fill =>
  (m, who, n, out) => {
    const [a, b] = [top(m), bottom(m)];
    for (let k = 0; k < n; k++) {
      const i = who[k] as number;
      const d = b[i] as number;
      out[k] = d === 0 ? Number.NaN : (a[i] as number) / d;
    }
  };

/** So many percent above another column; both must be known. */
const percentFrom =
  (from: Column): Fill =>
  (m, who, n, out) => {
    const [a, b] = [last(m), from(m)];
    for (let k = 0; k < n; k++) {
      const i = who[k] as number;
      const v = a[i] as number;
      const d = b[i] as number;
      out[k] = v === 0 || d === 0 ? Number.NaN : (v / d - 1) * 100;
    }
  };

/** So many average true ranges above another column; both must be known. */
const atrFrom =
  (from: Column): Fill =>
  (m, who, n, out) => {
    const [a, b, atr] = [last(m), from(m), m.facts.atr];
    for (let k = 0; k < n; k++) {
      const i = who[k] as number;
      const v = a[i] as number;
      const d = b[i] as number;
      out[k] = v === 0 || d === 0 ? Number.NaN : (v - d) / (atr[i] as number);
    }
  };

/** Last against VWAP, as a percentage of it or in average true ranges. */
const fromVwap =
  (inAtr: boolean): Fill =>
  (m, who, n, out) => {
    const [p, t, v, atr] = [m.board.last, m.board.turnover, m.board.volume, m.facts.atr];
    for (let k = 0; k < n; k++) {
      const i = who[k] as number;
      const vwap = (t[i] as number) / (v[i] as number);
      out[k] = inAtr ? ((p[i] as number) - vwap) / (atr[i] as number) : ((p[i] as number) / vwap - 1) * 100;
    }
  };

const speed =
  (minutes: number): Fill =>
  (m, who, n, out) => {
    for (let k = 0; k < n; k++) {
      const i = who[k] as number;
      const then = priceBack(m.board, i, minutes, m.now);
      out[k] = then === 0 ? Number.NaN : ((m.board.last[i] as number) / then - 1) * 100;
    }
  };

/** Ask less bid, in price units; both must be there. */
const spread =
  (inBasisPoints: boolean): Fill =>
  (m, who, n, out) => {
    const [b, a] = [bid(m), ask(m)];
    for (let k = 0; k < n; k++) {
      const i = who[k] as number;
      const low = b[i] as number;
      const up = a[i] as number;
      out[k] =
        low === 0 || up === 0
          ? Number.NaN
          : inBasisPoints
            ? ((up - low) / ((up + low) / 2)) * BASIS_POINTS
            : (up - low) / 100;
    }
  };

const gap: Fill = (m, who, n, out) => {
  const [o, p, c] = [m.board.open, m.board.last, m.facts.priorClose];
  for (let k = 0; k < n; k++) {
    const i = who[k] as number;
    const now = (o[i] as number) || (p[i] as number);
    out[k] = now === 0 ? Number.NaN : (now / (c[i] as number) - 1) * 100;
  }
};

const marketCap: Fill = (m, who, n, out) => {
  const [p, c, s] = [m.board.last, m.facts.priorClose, m.facts.shares];
  for (let k = 0; k < n; k++) {
    const i = who[k] as number;
    out[k] =
      (s[i] as number) === 0
        ? Number.NaN
        : (((p[i] as number) || (c[i] as number)) / PRICE_SCALE) * (s[i] as number);
  }
};

/** The usual share of the day's volume is linear in a symbol's pre-market share, so two of them give all. */
const relativeVolume: Fill = (m, who, n, out) => {
  const without = usualShareBy(m.now, 0);
  const slope = usualShareBy(m.now, 1) - without;
  const [v, a, s] = [m.board.volume, m.facts.averageVolume, m.facts.premarketShare];
  for (let k = 0; k < n; k++) {
    const i = who[k] as number;
    const usual = (a[i] as number) * (without + slope * (s[i] as number));
    out[k] = usual === 0 ? Number.NaN : (v[i] as number) / usual;
  }
};

const printsAMinute: Fill = (m, who, n, out) => {
  const now = Math.floor((clockOf(m.now) - PRE_OPEN) / MINUTE);
  const { minute, earlierPrints, minutePrints } = m.board;
  for (let k = 0; k < n; k++) {
    const i = who[k] as number;
    const newest = minute[i] as number;
    out[k] =
      newest === now ? (earlierPrints[i] as number) : newest === now - 1 ? (minutePrints[i] as number) : 0;
  }
};

const newsAge: Fill = (m, who, n, out) => {
  for (let k = 0; k < n; k++) out[k] = Math.floor((m.now - (m.newsAt[who[k] as number] as number)) / MINUTE);
};

const newsKind: Fill = (m, who, n, out) => {
  for (let k = 0; k < n; k++) {
    const i = who[k] as number;
    out[k] = Number.isNaN(m.newsAt[i] as number) ? Number.NaN : (m.newsKind[i] as number);
  }
};

const restricted: Fill = (m, who, n, out) => {
  for (let k = 0; k < n; k++) out[k] = m.board.restricted[who[k] as number] === 0 ? 0 : 1;
};

/**
 * Every field, in the order in which a trader would look for it. This is the one place where a
 * field is added: rules, columns, rankings, alerts and their help all read it here.
 */
export const FIELDS: readonly Field[] = [
  {
    name: 'price',
    label: 'Price',
    unit: 'dollars',
    meaning: 'The last trade.',
    fill: known(last, PRICE_SCALE),
  },
  {
    name: 'gap',
    label: 'Gap',
    unit: 'percent',
    stays: 'after the open',
    meaning: 'Before the open: last ÷ prior close − 1. After it: opening price ÷ prior close − 1.',
    fill: gap,
  },
  {
    name: 'change',
    label: 'Change',
    unit: 'percent',
    meaning: 'Last ÷ prior close − 1.',
    fill: percentFrom(priorClose),
  },
  {
    name: 'premarket volume',
    label: 'Pre vol',
    unit: 'shares',
    stays: 'after the open',
    meaning: 'Shares traded from 04:00 to 09:30.',
    fill: plain((m) => m.board.premarketVolume),
  },
  {
    name: 'premarket dollar volume',
    label: 'Pre $',
    unit: 'dollars',
    stays: 'after the open',
    meaning: 'Sum of price × shares from 04:00 to 09:30.',
    fill: plain((m) => m.board.premarketTurnover, PRICE_SCALE),
  },
  { name: 'volume', label: 'Volume', unit: 'shares', meaning: 'Shares traded today.', fill: plain(volume) },
  {
    name: 'dollar volume',
    label: '$ volume',
    unit: 'dollars',
    meaning: 'Sum of price × shares today.',
    fill: plain(turnover, PRICE_SCALE),
  },
  {
    name: 'relative volume',
    label: 'Rel vol',
    unit: 'times',
    meaning: 'Volume ÷ what usually has traded by this minute of the day.',
    fill: relativeVolume,
  },
  {
    name: 'float',
    label: 'Float',
    unit: 'shares',
    stays: 'all day',
    meaning: 'Shares free to trade.',
    fill: known(float),
  },
  {
    name: 'float turnover',
    label: 'Float ×',
    unit: 'times',
    meaning: 'Volume today ÷ float.',
    fill: ratio(volume, float),
  },
  {
    name: 'market cap',
    label: 'Mkt cap',
    unit: 'dollars',
    meaning: 'Last (prior close before the first trade) × shares outstanding.',
    fill: marketCap,
  },
  { name: 'spread', label: 'Spread', unit: 'cents', meaning: 'Ask − bid.', fill: spread(false) },
  {
    name: 'spread bp',
    label: 'Spread bp',
    unit: 'bp',
    meaning: '(Ask − bid) ÷ midpoint, in basis points (hundredths of a percent).',
    fill: spread(true),
  },
  {
    name: 'prints a minute',
    label: 'Prints/min',
    unit: 'count',
    meaning: 'Trades in the last finished minute.',
    fill: printsAMinute,
  },
  {
    name: 'speed 1m',
    label: '1 min',
    unit: 'percent',
    meaning: 'Last ÷ price one minute ago − 1 (close of the minute before this one).',
    fill: speed(1),
  },
  {
    name: 'speed 5m',
    label: '5 min',
    unit: 'percent',
    meaning: 'Last ÷ close of the minute five minutes ago − 1.',
    fill: speed(5),
  },
  {
    name: 'speed 15m',
    label: '15 min',
    unit: 'percent',
    meaning: 'Last ÷ close of the minute fifteen minutes ago − 1.',
    fill: speed(15),
  },
  {
    name: 'from premarket high',
    label: 'To pm high',
    unit: 'percent',
    meaning: 'Last ÷ pre-market high − 1; below zero while under it.',
    fill: percentFrom(premarketHigh),
  },
  {
    name: 'atr from premarket high',
    label: 'ATR to pmh',
    unit: 'atr',
    meaning: '(Last − pre-market high) ÷ ATR(14).',
    fill: atrFrom(premarketHigh),
  },
  {
    name: 'from vwap',
    label: 'To VWAP',
    unit: 'percent',
    meaning: 'Last ÷ VWAP of the day − 1.',
    fill: fromVwap(false),
  },
  {
    name: 'atr from vwap',
    label: 'ATR to VWAP',
    unit: 'atr',
    meaning: '(Last − VWAP of the day) ÷ ATR(14).',
    fill: fromVwap(true),
  },
  {
    name: 'from day high',
    label: 'To day high',
    unit: 'percent',
    meaning: 'Last ÷ high of the day − 1.',
    fill: percentFrom(high),
  },
  {
    name: 'atr from day high',
    label: 'ATR to high',
    unit: 'atr',
    meaning: '(Last − high of the day) ÷ ATR(14).',
    fill: atrFrom(high),
  },
  {
    name: 'from prior high',
    label: 'To prior high',
    unit: 'percent',
    meaning: 'Last ÷ prior day’s high − 1.',
    fill: percentFrom(priorHigh),
  },
  {
    name: 'from prior low',
    label: 'To prior low',
    unit: 'percent',
    meaning: 'Last ÷ prior day’s low − 1.',
    fill: percentFrom(priorLow),
  },
  {
    name: 'atr from prior close',
    label: 'ATR moved',
    unit: 'atr',
    meaning: '(Last − prior close) ÷ ATR(14).',
    fill: atrFrom(priorClose),
  },
  {
    name: 'atr from prior high',
    label: 'ATR to prior high',
    unit: 'atr',
    meaning: '(Last − prior day’s high) ÷ ATR(14).',
    fill: atrFrom(priorHigh),
  },
  {
    name: 'atr from prior low',
    label: 'ATR to prior low',
    unit: 'atr',
    meaning: '(Last − prior day’s low) ÷ ATR(14).',
    fill: atrFrom(priorLow),
  },
  {
    name: 'atr',
    label: 'ATR',
    unit: 'dollars',
    stays: 'all day',
    meaning: 'Average true range of the last 14 days.',
    fill: plain((m) => m.facts.atr, PRICE_SCALE),
  },
  {
    name: 'new highs',
    label: 'New highs',
    unit: 'count',
    meaning: 'How often today a trade went above all earlier ones of the day.',
    fill: plain((m) => m.board.newHighs),
  },
  {
    name: 'news age',
    label: 'News',
    unit: 'minutes',
    meaning: 'Minutes since the newest news of today.',
    fill: newsAge,
  },
  {
    name: 'news kind',
    label: 'News kind',
    unit: 'choice',
    meaning: 'What the newest news of today is about.',
    choices: NEWS_KINDS,
    fill: newsKind,
  },
  {
    name: 'halts',
    label: 'Halts',
    unit: 'count',
    meaning: 'Halts and volatility pauses today.',
    fill: plain((m) => m.board.halts),
  },
  {
    name: 'restricted',
    label: 'Short restr.',
    unit: 'flag',
    meaning: 'Under the short-sale restriction: fell 10 % below the prior close today or on the day before.',
    fill: restricted,
  },
  {
    name: 'borrow',
    label: 'Borrow',
    unit: 'choice',
    stays: 'all day',
    meaning: 'Whether shares can be borrowed to be sold short: easily, by locate, or not at all.',
    choices: BORROWS,
    fill: plain((m) => m.facts.borrow),
  },
  {
    name: 'options listed',
    label: 'Options',
    unit: 'flag',
    stays: 'all day',
    meaning: 'Options on it are listed.',
    fill: plain((m) => m.facts.options),
  },
  {
    name: 'iv rank',
    label: 'IV rank',
    unit: 'percent',
    stays: 'all day',
    meaning:
      '(Implied volatility − 52-week low) ÷ (52-week high − low) × 100; unknown without listed options.',
    fill: plain((m) => m.facts.ivRank),
  },
  {
    name: 'sector',
    label: 'Sector',
    unit: 'choice',
    stays: 'all day',
    meaning: 'The sector of its business.',
    choices: SECTORS,
    fill: plain((m) => m.facts.sector),
  },
];

const BY_NAME = new Map(FIELDS.map((f) => [f.name, f]));

/** A field by its name. @throws Error for a name that is not in the registry (a bug). */
export function fieldOf(name: string): Field {
  const f = BY_NAME.get(name);
  if (!f) throw new Error(`no such field: ${name}`);
  return f;
}

const one = new Int32Array(1);
const value = new Float64Array(1);

/** A field's value for symbol `i`; NaN where it is not known. */
export function fieldValue(field: Field, m: MarketView, i: number): number {
  one[0] = i;
  field.fill(m, one, 1, value);
  return value[0] as number;
}

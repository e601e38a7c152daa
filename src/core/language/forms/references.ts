// Prices that have a name. This is the only place where one is added: how it is written, what it is, and where its number comes from.
import {
  columnOf,
  type Fill,
  type MarketView,
  priorOf,
  roundPrice,
  type SymbolView,
} from '../../market/index.ts';
import { type Declared, type Fields, form, maybe, one, type Part, words } from '../grammar.ts';
import { BACK, LENGTH, RANGE_MINUTES, WHOLE_PERCENT } from '../leaves/measures.ts';
import { LEVEL_NAME, oneOf } from '../leaves/names.ts';
import { CANDLE, CANDLE_OR_DAY } from '../leaves/times.ts';

/** What a named price has beside its form. Prices in price units, not rounded; null or not a number: not known. */
interface Named<P extends readonly Part[]> {
  value(v: SymbolView, t: Fields<P, object>): number | null;
  /** The same for many symbols at once, where scans may ask for it: they look at every symbol, and only at what is kept of every one. */
  column?(t: Fields<P, object>): Fill;
  /** Shown as levels of a symbol, with these fields. */
  levels?: readonly Fields<P, object>[];
  /** The usual ones of it, for lists; its levels where nothing is said. */
  usual?: readonly Fields<P, object>[];
  /** It is of the trader's own position. */
  of?: 'trade';
}

const named = <const P extends readonly Part[]>(
  parts: P,
  rest: Omit<Declared<readonly ['base', 'reference'], P>, 'slots' | 'parts'> & Named<P>,
) => form(['base', 'reference'] as const, parts, rest);

const edges = <const T extends string>(...of: T[]) => one('edge', oneOf(of.join(' or '), 'price', ...of));
const BOTH = [{ edge: 'high' }, { edge: 'low' }] as const;
const ways = one('way', oneOf('above or below', 'price', 'above', 'below'));
const WAYS = [{ way: 'above' }, { way: 'below' }] as const;
const round = (step: 1 | 0.5) => ({
  levels: WAYS,
  value: (v: SymbolView, { way }: { way: 'above' | 'below' }) =>
    v.last === null ? null : roundPrice(v.last, step, way),
  column: ({ way }: { way: 'above' | 'below' }) =>
    columnOf(
      (m) => m.board.last,
      (last) => roundPrice(last as never, step, way) ?? Number.NaN,
    ),
});
const credit = (v: SymbolView): number | null =>
  v.trade && v.trade.sign === -1 ? v.trade.averageEntry : null;
const averageEntry = (v: SymbolView): number | null => v.trade?.averageEntry ?? null;

/** Every price that orders, conditions, levels, completion and the reference page know by name. */
export const REFERENCES = {
  bid: named([words('bid')], {
    example: 'bid',
    says: 'The best price that somebody bids.',
    turns: 'bid',
    value: (v) => v.quote.bid,
    column: () => columnOf((m) => m.board.bid),
  }),
  ask: named([words('ask')], {
    example: 'ask',
    says: 'The best price at which somebody offers.',
    turns: 'ask',
    aka: { offer: 'ask' },
    value: (v) => v.quote.ask,
    column: () => columnOf((m) => m.board.ask),
  }),
  midpoint: named([words('mid')], {
    example: 'mid',
    says: 'Halfway between bid and ask.',
    aka: { midpoint: 'mid', middle: 'mid' },
    value: (v) => (v.quote.bid === null || v.quote.ask === null ? null : (v.quote.bid + v.quote.ask) / 2),
    column: () => midpoints,
  }),
  last: named([words('last')], {
    example: 'last',
    says: 'The price of the last trade.',
    aka: { price: 'last', 'last price': 'last' },
    value: (v) => v.last,
    column: () => columnOf((m) => m.board.last),
  }),
  'premarket edge': named([words('premarket'), edges('high', 'low')], {
    example: 'premarket high',
    says: 'The highest or lowest trade of the day before 09:30.',
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
    levels: BOTH,
    value: (v, { edge }) => (edge === 'high' ? v.premarketHigh : v.premarketLow),
    column: ({ edge }) => columnOf((m) => (edge === 'high' ? m.board.premarketHigh : m.board.premarketLow)),
  }),
  'last premarket candle': named([words('premarket 15m'), edges('high', 'low')], {
    example: 'premarket 15m high',
    says: 'The edge of the last finished 15-minute candle before 09:30; it stays after the open.',
    levels: BOTH,
    value: (v, { edge }) => v.premarketCandle()?.[edge] ?? null,
  }),
  'prior day': named([words('prior'), edges('close', 'high', 'low')], {
    example: 'prior close',
    says: 'Close, high or low of the trading day before, regular session.',
    aka: {
      'previous close': 'prior close',
      'yesterday close': 'prior close',
      pdh: 'prior high',
      pdl: 'prior low',
      'previous high': 'prior high',
      'previous low': 'prior low',
    },
    levels: [{ edge: 'close' }, ...BOTH],
    value: (v, { edge }) => priorOf(v.instrument, edge),
    column: ({ edge }) =>
      columnOf((m) => ({ close: m.facts.priorClose, high: m.facts.priorHigh, low: m.facts.priorLow })[edge]),
  }),
  vwap: named([words('vwap')], {
    example: 'vwap',
    says: 'The volume-weighted average price of the day: sum of price × shares ÷ sum of shares, all sessions.',
    levels: [{}],
    value: (v) => v.vwap,
    column: () => vwaps,
  }),
  'day open': named([words('day open')], {
    example: 'day open',
    says: 'The first trade of the regular session.',
    aka: { 'opening price': 'day open' },
    levels: [{}],
    value: (v) => v.open,
    column: () => columnOf((m) => m.board.open),
  }),
  'opening range edge': named([words('opening range'), one('minutes', RANGE_MINUTES), edges('high', 'low')], {
    example: 'opening range 5m high',
    says: 'High or low of the first so many minutes after 09:30, once they are over.',
    aka: {
      orb: 'opening range 5m high',
      'orb high': 'opening range 5m high',
      'orb low': 'opening range 5m low',
    },
    levels: BOTH.map((edge) => ({ minutes: 5, ...edge })),
    usual: [5, 15].flatMap((minutes) => BOTH.map((edge) => ({ minutes, ...edge }))),
    value: (v, { minutes, edge }) => v.openingRange(minutes)?.[edge] ?? null,
  }),
  'day edge': named([words('day'), edges('high', 'low')], {
    example: 'day high',
    says: 'The highest or lowest trade of the day so far, all sessions.',
    aka: { hod: 'day high', lod: 'day low', 'high of day': 'day high', 'low of day': 'day low' },
    levels: BOTH,
    value: (v, { edge }) => (edge === 'high' ? v.dayHigh : v.dayLow),
    column: ({ edge }) => columnOf((m) => (edge === 'high' ? m.board.high : m.board.low)),
  }),
  'whole dollar': named([words('whole dollar'), ways], {
    example: 'whole dollar above',
    says: 'The next whole dollar beyond the last price.',
    ...round(1),
  }),
  'half dollar': named([words('half dollar'), ways], {
    example: 'half dollar above',
    says: 'The next half dollar beyond the last price.',
    ...round(0.5),
  }),
  'candle edge': named(
    [one('minutes', CANDLE), edges('high', 'low', 'open', 'close'), maybe('back', BACK, '', 'back')],
    {
      example: '5m high',
      says: 'An edge of the last finished candle of so many minutes that traded, or of one so many before it.',
      usual: [1, 2, 5, 15].flatMap((minutes) =>
        (['high', 'low', 'open', 'close'] as const).map((edge) => ({ minutes, edge, back: null })),
      ),
      value: (v, { minutes, edge, back }) => v.candle(minutes, back ?? 0)?.[edge] ?? null,
    },
  ),
  'moving average': named(
    [
      one('mean', oneOf('ema or sma', 'price', 'ema', 'sma')),
      one('length', LENGTH),
      words('on'),
      one('on', CANDLE_OR_DAY),
    ],
    {
      example: 'ema 9 on 2m',
      says: 'A moving average of the closes of so many finished candles: sma their simple mean; ema exponential, weight 2 ÷ (n + 1), begun with their simple mean.',
      usual: (['ema', 'sma'] as const).flatMap((mean) => [
        { mean, length: 9, on: 2 },
        { mean, length: 20, on: 5 },
        { mean, length: 20, on: 'day' as const },
      ]),
      value: (v, { mean, length, on }) => v.average(mean, length, on),
    },
  ),
  'named level': named([words('level'), one('name', LEVEL_NAME)], {
    example: 'level "lid"',
    says: 'A price that you have named: level "lid" at 9.50.',
    usual: [],
    value: (v, { name }) => v.level(name),
  }),
  cursor: named([words('cursor')], {
    example: 'cursor',
    says: 'Where the pointer stands on the chart of the focus.',
    value: (v) => v.cursor,
  }),
  'average entry': named([words('entry')], {
    example: 'entry',
    says: 'The average price that your open position was entered at.',
    aka: { average: 'entry', 'average price': 'entry', cost: 'entry' },
    of: 'trade',
    value: averageEntry,
  }),
  'breakeven price': named([words('breakeven')], {
    example: 'breakeven',
    says: 'The average entry: out there, the trade makes nothing before costs.',
    of: 'trade',
    value: averageEntry,
  }),
  'half the credit': named([words('half the credit')], {
    example: 'half the credit',
    says: 'Half of what an option or a vertical was sold for: bought back there, it has kept the other half.',
    of: 'trade',
    value: (v) => (credit(v) ?? Number.NaN) / 2,
  }),
  'part of the credit': named([one('percent', WHOLE_PERCENT), words('of the credit')], {
    example: '30% of the credit',
    says: 'So much of what an option or a vertical was sold for: bought back at 30% of the credit, it has kept 70 %.',
    of: 'trade',
    usual: [{ percent: 30 }],
    value: (v, { percent }) => ((credit(v) ?? Number.NaN) * percent) / 100,
  }),
  'underlying last': named([words('last of underlying')], {
    example: 'last of underlying',
    says: 'Of an option or a vertical: the price of the last trade of the stock that it is on.',
    value: (v) => v.underlying ?? null,
  }),
  'stop level': named([words('stop')], {
    example: 'stop',
    says: 'Where the stop of your position stands, the nearest one where there are several.',
    of: 'trade',
    value: (v) => v.trade?.stop ?? null,
  }),
} as const;

function midpoints(m: MarketView, who: Int32Array, n: number, out: Float64Array): void {
  const { bid, ask } = m.board;
  for (let k = 0; k < n; k++) {
    const i = who[k] as number;
    const [b, a] = [bid[i] as number, ask[i] as number];
    out[k] = b === 0 || a === 0 ? Number.NaN : (b + a) / 2;
  }
}
/** Nothing over nothing is not a number, which is what is meant. */
function vwaps(m: MarketView, who: Int32Array, n: number, out: Float64Array): void {
  const { turnover, volume } = m.board;
  for (let k = 0; k < n; k++) {
    const i = who[k] as number;
    out[k] = (turnover[i] as number) / (volume[i] as number);
  }
}

// What the clauses of a condition see at a moment: whether they hold, and how far they are from it.

import { rootOf } from '../instruments/index.ts';
import { type Clause, type Condition, candleOf, ONE, type PriceTree, printTree } from '../language/index.ts';
import { fieldOf, fieldText } from '../market/index.ts';
import { positionOf, profitOf } from '../orders/index.ts';
import type { Look, Truth, When } from '../triggers/index.ts';
import { formatMoney, formatPrice, formatTime, MINUTE, SECOND } from '../units/index.ts';
import { viewOf } from './instruments.ts';
import { midnightOfTimes, openTradeOf, Refused, type RunContext } from './moment.ts';
import { lengthOf, measuresOf, namedValue, priceIn } from './prices.ts';

/** A clause at a moment. */
export interface ClauseNow {
  holds: Truth;
  /** What was looked at, with its number: `last 5.41`. */
  seen: string;
  /** What is missing yet: `19c to go`; empty when it holds. */
  missing: string;
  /** How far it is from holding: percent of a price or of a value, minutes of a time; 0 when it holds, infinite when that is not known. */
  far: number;
}

type FieldClause = Extract<Clause, { field: string }>;
type PriceClause = Extract<Clause, { kind: 'price is' | 'price crosses' | 'price between' }>;

/** Minutes of the candle that a clause waits for; null for any other clause. */
export const waitsForCandle = (x: Clause): number | null => ('left' in x ? candleOf(x.left) : null);

/** The symbol that a clause speaks of: its own, or that of the order; of an option order its underlying, but for the gain of its own trade. */
const symbolIn = (x: Clause, symbol: string): string =>
  'symbol' in x && x.symbol !== null ? x.symbol : x.kind === 'gain is' ? symbol : rootOf(symbol);

/** Symbols whose prices a price is made of. */
function symbolsIn(p: PriceTree, symbol: string): string[] {
  switch (p.kind) {
    case 'number':
      return [];
    case 'foreign':
      return [p.symbol];
    case 'lower':
    case 'higher':
      return [...symbolsIn(p.a, symbol), ...symbolsIn(p.b, symbol)];
    case 'sum':
      return symbolsIn(p.base, symbol);
    default:
      return [symbol];
  }
}

const rightsOf = (x: PriceClause): PriceTree[] => (x.kind === 'price between' ? [x.low, x.high] : [x.right]);

/** When a clause has to be looked at. Symbols that do not trade are refused. */
function looksOf(x: Clause, symbol: string, c: RunContext): Look[] {
  const own = viewOf(symbolIn(x, symbol), c).symbol;
  switch (x.kind) {
    case 'price is':
    case 'price crosses':
    case 'price between': {
      const minutes = waitsForCandle(x);
      if (minutes !== null) return [{ at: 'candle', symbol: own, minutes }];
      const all = [own, ...rightsOf(x).flatMap((p) => symbolsIn(p, rootOf(symbol)))];
      return [...new Set(all)].map((s) => ({ at: 'ticks', symbol: viewOf(s, c).symbol }));
    }
    case 'gain is':
      // An option moves with its underlying.
      return [{ at: 'ticks', symbol: rootOf(own) }];
    case 'time is':
      return [{ at: 'seconds' }];
    default:
      return [{ at: 'ticks', symbol: own }, { at: 'seconds' }];
  }
}

/** A condition as what waits, with the symbol that its bare references speak of. */
export function whenOf(x: Condition, symbol: string, c: RunContext): When<Clause> {
  switch (x.kind) {
    case 'any':
      return { kind: 'any', of: x.of.map((y) => whenOf(y, symbol, c)) };
    case 'all':
      return { kind: 'all', of: x.of.map((y) => whenOf(y, symbol, c)) };
    case 'not':
      return { kind: 'not', of: whenOf(x.of, symbol, c) };
    default:
      return {
        kind: 'test',
        test: x,
        looks: looksOf(x, symbol, c),
        ...(x.kind === 'price crosses' ? { crossing: true } : {}),
      };
  }
}

const UNKNOWN: Omit<ClauseNow, 'seen'> = {
  holds: null,
  missing: 'not known yet',
  far: Number.POSITIVE_INFINITY,
};
const HOLDS = { holds: true, missing: '', far: 0 } as const;

/** What a clause sees now. Never throws: what is not known holds nothing. */
export const clauseNow = (x: Clause, symbol: string, c: RunContext): ClauseNow => looked(x, symbol, c, true);

/** Whether a clause holds now, without the words: asked at every price. */
export const clauseHolds = (x: Clause, symbol: string, c: RunContext): Truth =>
  looked(x, symbol, c, false).holds;

function looked(x: Clause, symbol: string, c: RunContext, inWords: boolean): ClauseNow {
  try {
    switch (x.kind) {
      case 'price is':
      case 'price crosses':
      case 'price between':
        return priceNow(x, symbol, c, inWords);
      case 'gain is':
        return gainNow(x, symbol, c);
      case 'time is':
        return timeNow(x, c);
      default:
        return fieldNow(x, symbolIn(x, symbol), c);
    }
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    return { ...UNKNOWN, seen: printTree(x) };
  }
}

const distance = (units: number): string =>
  units < ONE ? `${Math.round(units / 10) / 10}c` : `$${(units / ONE).toFixed(2)}`;

function priceNow(x: PriceClause, symbol: string, c: RunContext, inWords: boolean): ClauseNow {
  const own = symbolIn(x, symbol);
  const bare = rootOf(symbol);
  const value = (p: PriceTree, of: string) => priceIn(p, measuresOf(viewOf(of, c), c));
  const left = namedValue(x.left, viewOf(own, c));
  const seen = inWords ? `${printTree(x.left)} of ${own} ${formatPrice(Math.round(left))}` : '';
  const missing = (gap: number): ClauseNow => ({
    holds: false,
    seen,
    missing: !inWords ? '' : gap > 0 ? `${distance(gap)} to go` : 'not beyond it yet',
    far: (Math.max(gap, 0) / Math.max(1, left)) * 100,
  });
  if (x.kind === 'price between') {
    const [low, high] = [value(x.low, bare), value(x.high, bare)];
    const gap = Math.max(low - left, left - high);
    return gap <= 0 ? { ...HOLDS, seen } : missing(gap);
  }
  const right = value(x.right, bare);
  const up = x.kind === 'price crosses' ? x.way === 'above' : x.op.startsWith('>');
  const strict = x.kind === 'price is' && !x.op.endsWith('=');
  const gap = up ? right - left : left - right;
  return gap < 0 || (gap === 0 && !strict) ? { ...HOLDS, seen } : missing(gap);
}

function gainNow(x: Extract<Clause, { kind: 'gain is' }>, symbol: string, c: RunContext): ClauseNow {
  const trade = openTradeOf(c, symbol);
  const v = viewOf(symbol, c);
  const seen = (text: string) => `${x.what} of ${symbol} ${text}`;
  if (!trade || v.last === null) return { ...UNKNOWN, seen: seen('–'), missing: 'no position' };
  const sign = x.what === 'gain' ? 1 : -1;
  const average = v.trade?.averageEntry ?? v.last;
  const perShare = sign * trade.sign * (v.last - average);
  const { realized, unrealized } = profitOf(trade, v.last);
  const { profit } = x;
  const [have, want, text] =
    profit.kind === 'in all'
      ? [
          sign * (realized + unrealized),
          profit.money,
          formatMoney(Math.round(sign * (realized + unrealized))),
        ]
      : [
          perShare,
          lengthOf(profit.kind === 'a share' ? profit.by : profit, average, measuresOf(v, c)),
          `${distance(Math.abs(perShare))}${perShare < 0 ? ' against' : ''} a share`,
        ];
  if (have >= want) return { ...HOLDS, seen: seen(text) };
  const perShareGap = profit.kind === 'in all' ? (want - have) / Math.max(1, positionOf(trade)) : want - have;
  return {
    holds: false,
    seen: seen(text),
    missing: `${distance(perShareGap)} a share to go`,
    far: (perShareGap / Math.max(1, v.last)) * 100,
  };
}

/** `4:10`, or `1:04:10`. */
export function lengthText(ms: number): string {
  const s = Math.ceil(ms / SECOND);
  const two = (n: number) => String(n).padStart(2, '0');
  const [h, m] = [Math.floor(s / 3600), Math.floor(s / 60) % 60];
  return h > 0 ? `${h}:${two(m)}:${two(s % 60)}` : `${m}:${two(s % 60)}`;
}

function timeNow(x: Extract<Clause, { kind: 'time is' }>, c: RunContext): ClauseNow {
  const left = midnightOfTimes(c) + x.time * MINUTE - c.now;
  const seen = `time ${formatTime(c.now)}`;
  // Between two days no time of day has come: nothing fires then.
  if (c.session === 'closed')
    return {
      holds: null,
      seen,
      missing: x.op === '<' ? 'from 04:00 on' : `in ${lengthText(left)}`,
      far: Math.max(0, left) / MINUTE,
    };
  const holds = x.op === '>=' ? left <= 0 : left > 0;
  if (holds) return { ...HOLDS, seen };
  return x.op === '<'
    ? { holds: false, seen, missing: 'over for today', far: Number.POSITIVE_INFINITY }
    : { holds: false, seen, missing: `in ${lengthText(left)}`, far: left / MINUTE };
}

function fieldNow(x: FieldClause, symbol: string, c: RunContext): ClauseNow {
  const field = fieldOf(x.field);
  const value = c.field(viewOf(symbol, c).symbol, x.field);
  const seen = `${x.field} of ${symbol} ${fieldText(field, value)}`;
  if (Number.isNaN(value)) return { ...UNKNOWN, seen };
  if (c.passes(symbol, x)) return { ...HOLDS, seen };
  if (x.kind === 'is' || x.kind === 'flag')
    return { holds: false, seen, missing: `is ${fieldText(field, value)}`, far: Number.POSITIVE_INFINITY };
  const bound = x.kind === 'compare' ? x.to : value < x.low ? x.low : x.high;
  const gap = Math.abs(bound - value);
  return {
    holds: false,
    seen,
    missing: gap > 0 ? `${fieldText(field, gap).replace(/^\+/, '')} to go` : 'not beyond it yet',
    far: (gap / Math.max(Math.abs(bound), Math.abs(value), 1e-9)) * 100,
  };
}

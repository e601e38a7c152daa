import {
  type OffsetTree,
  ONE,
  type PriceTree,
  priceNamed,
  printTree,
  type ReferenceTree,
  type TreeOf,
} from '../language/index.ts';
import type { SymbolView } from '../market/index.ts';
import { type Price, roundToTick, type Ticks, tickSize, unreachable } from '../units/index.ts';
import { viewOf } from './instruments.ts';
import { type Named, type RunContext, refuse } from './moment.ts';
import { usualAt } from './usual.ts';

/** What distances are measured by at a place. */
export interface Measures {
  view: SymbolView;
  c: RunContext;
  /** Price units of 1R a share; null: not known. */
  r: number | null;
  /** Which of the usual distances is meant. */
  usual: 'reach' | 'stop';
}

/** The measures of a symbol's own trade. */
export const measuresOf = (
  view: SymbolView,
  c: RunContext,
  usual: Measures['usual'] = 'reach',
): Measures => ({
  view,
  c,
  usual,
  r: view.trade?.riskPerShare ?? null,
});

/** Length of a distance in price units, not rounded; a percentage is of `of`. */
export function lengthOf(o: OffsetTree, of: number, m: Measures): number {
  switch (o.kind) {
    case 'cents':
    case 'dollars':
      return o.units;
    case 'ticks':
      return o.ticks * tickSize(Math.max(1, Math.round(of)), m.view.ticks);
    case 'percent':
      return (of * o.percent) / (100 * ONE);
    case 'atr': {
      const atr = o.on === null ? m.view.instrument.atr : m.view.atrOn(o.on);
      return (o.atrs / ONE) * (atr ?? refuse({ code: 'no measure', unit: 'atr', symbol: m.view.symbol }));
    }
    case 'R':
      return (o.r / ONE) * (m.r ?? refuse({ code: 'no measure', unit: 'R', symbol: m.view.symbol }));
    case 'usual':
      return usualAt(m.c.usual, m.usual, of, m.view.instrument.atr);
    default:
      return unreachable(o);
  }
}

/** A price by its name of a symbol, in price units and not rounded. */
export function namedValue(t: ReferenceTree, v: SymbolView): number {
  const value = priceNamed(t, v);
  if (value !== null) return value;
  if (t.kind === 'cursor') return refuse({ code: 'no pointer', symbol: v.symbol });
  if (t.kind === 'named level')
    return refuse({ code: 'no level', name: t.name, symbol: v.symbol, nearest: null });
  return refuse({ code: 'unknown price', text: printTree(t), symbol: v.symbol });
}

/** Value of a price in price units, not rounded and never beyond what a price may be. */
export function priceIn(p: PriceTree, m: Measures): number {
  switch (p.kind) {
    case 'number':
      return p.price;
    case 'foreign':
      return namedValue(p.reference, viewOf(p.symbol, m.c));
    case 'lower':
      return Math.min(priceIn(p.a, m), priceIn(p.b, m));
    case 'higher':
      return Math.max(priceIn(p.a, m), priceIn(p.b, m));
    case 'sum': {
      let value = priceIn(p.base, m);
      for (const s of p.shifts) value += (s.kind === 'plus' ? 1 : -1) * lengthOf(s.by, value, m);
      if (value < 1) refuse({ code: 'below zero', text: printTree(p), value });
      return Math.min(value, HIGHEST);
    }
    default:
      return namedValue(p, m.view);
  }
}
const HIGHEST = 100_000 * ONE;

/** Rounds a price in the direction that does not go beyond what was written. */
export const limitPrice = (value: number, side: 'buy' | 'sell', ticks?: Ticks): Price =>
  roundToTick(Math.max(1, value), side === 'buy' ? 'down' : 'up', ticks);

/** A limit as a tree, for the say-back and for what could go instead. */
export const atLimit = (p: PriceTree, net: 'credit' | 'debit' | null = null): TreeOf<'limit'> => ({
  kind: 'limit',
  price: p,
  credit: net === 'credit',
  debit: net === 'debit',
});

/** A price that is written by name, with its number; nothing for a number. */
export const namedOf = (p: PriceTree, price: Price): Named[] =>
  p.kind === 'number' ? [] : [{ text: printTree(p), price }];

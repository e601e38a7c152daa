/**
 * The tree of the script language. A script is data: nothing in it can run code, loop, or reach
 * anything but the functions that read it.
 */

import type { FieldUnit } from '../market/index.ts';
import type { Part } from '../units/index.ts';

export type { Part };

/** Where a piece of text stands, in characters from the start of the script. */
export interface Span {
  from: number;
  to: number;
}

export type OffsetUnit = 'cents' | 'dollars' | 'ticks' | 'percent' | 'R';
/** A distance: `5c`, `0.05`, `3 ticks`, `1.5%`, `1R`. */
export interface Offset {
  value: number;
  unit: OffsetUnit;
}

export type PriceName =
  | 'bid'
  | 'ask'
  | 'mid'
  | 'last'
  | 'open'
  | 'vwap'
  | 'entry'
  | 'breakeven'
  | 'stop'
  | 'prior close'
  | 'prior high'
  | 'prior low'
  | 'day high'
  | 'day low'
  | 'premarket high'
  | 'premarket low'
  | 'whole dollar above'
  | 'whole dollar below'
  | 'half dollar above'
  | 'half dollar below'
  /** Where the pointer stands on the chart. */
  | 'cursor';

export type PriceBase =
  | { kind: 'name'; name: PriceName }
  /** An edge of the last finished candle of so many minutes: `5m high`. */
  | { kind: 'candle'; minutes: number; edge: 'high' | 'low' | 'open' | 'close' }
  /** An edge of the last finished 15-minute candle before the open: `premarket 15m high`. */
  | { kind: 'premarket candle'; edge: 'high' | 'low' }
  | { kind: 'opening range'; minutes: number; edge: 'high' | 'low' }
  | { kind: 'number'; dollars: number };
/** A reference with offsets: `premarket high + 10c`. */
export interface PriceExpr {
  base: PriceBase;
  offsets: { sign: 1 | -1; by: Offset }[];
}

export type Size =
  | { kind: 'shares'; shares: number }
  | { kind: 'money'; dollars: number }
  | { kind: 'risk'; amount: { kind: 'R'; r: number } | { kind: 'dollars'; dollars: number } }
  | { kind: 'part'; part: Part };

export type Pricing =
  | { kind: 'market' }
  | { kind: 'limit'; price: PriceExpr }
  | { kind: 'stop'; way: 'above' | 'below'; trigger: PriceExpr; limit: PriceExpr | null }
  /** Unseen at the midpoint; `sweep` takes the midpoint first and the lit book up to its price after it. */
  | { kind: 'mid' }
  | { kind: 'sweep'; price: PriceExpr }
  | { kind: 'auction'; which: 'open' | 'close'; price: PriceExpr | null };

/** How long an order works: `day` is the default and is not written. */
export type Life = 'day' | 'gtc' | 'ioc' | 'fok';
/** The words after the price. */
export interface Handling {
  life: Life;
  postOnly: boolean;
  extended: boolean;
}

/** Where an exit stands: so far from the average entry, or at a price. */
export type ExitPlace = { kind: 'distance'; by: Offset } | { kind: 'at'; price: PriceExpr };
export type Exit =
  | { kind: 'stop'; place: ExitPlace }
  | { kind: 'target'; place: ExitPlace; part: Part | null }
  | { kind: 'breakeven'; after: { kind: 'gain'; by: Offset } | { kind: 'target'; number: number }; plusCosts: boolean };

export type Statement =
  | ({
      kind: 'entry';
      verb: 'buy' | 'short';
      staged: boolean;
      size: Size;
      symbol: string | null;
      pricing: Pricing;
      exits: Exit[];
    } & Handling)
  | ({
      kind: 'close';
      verb: 'sell' | 'cover' | 'close';
      staged: boolean;
      size: Size;
      symbol: string | null;
      pricing: Pricing;
    } & Handling)
  | { kind: 'move stop'; symbol: string | null; to: PriceExpr }
  | { kind: 'move order'; order: number | 'last'; by: { kind: 'to'; price: PriceExpr } | { kind: 'up' | 'down'; by: Offset } }
  | { kind: 'cancel'; what: { kind: 'order'; order: number | 'last' } | { kind: 'symbol'; symbol: string | null } | { kind: 'everything' } }
  | { kind: 'flatten'; everything: boolean; symbol: string | null }
  /** Tells the trader of something; of one symbol, or (`any`) of every one. */
  | { kind: 'alert'; any: boolean; symbol: string | null; on: { kind: 'price'; price: PriceExpr } | { kind: 'rule'; rule: Rule } | { kind: 'news' | 'halt' } };

/** A statement with its place in the text, so that a problem can be underlined. */
export interface Line {
  statement: Statement;
  span: Span;
}

export interface Script {
  lines: Line[];
}

/** Comparisons of a rule. */
export const COMPARISONS = ['>', '>=', '<', '<='] as const;
export type Comparison = (typeof COMPARISONS)[number];
export interface RuleNumber {
  value: number;
  unit: FieldUnit | null;
}
/** A condition over the fields of a symbol: a scan's rule, or what an alert waits for. */
export type Rule =
  | { kind: 'compare'; field: string; op: Comparison; to: RuleNumber; span: Span }
  | { kind: 'between'; field: string; low: RuleNumber; high: RuleNumber; span: Span }
  /** One of a field's choices, or (`not`) anything but it, nothing included. */
  | { kind: 'is'; field: string; choice: string; not: boolean; span: Span }
  | { kind: 'flag'; field: string; span: Span }
  | { kind: 'and'; left: Rule; right: Rule }
  | { kind: 'or'; left: Rule; right: Rule }
  | { kind: 'not'; rule: Rule };

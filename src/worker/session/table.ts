import { type Condition, explain, parseRule } from '../../core/language/index.ts';
import { FIELDS, fieldOf, fieldValue, type MarketView, SPARKS } from '../../core/market/index.ts';
import { type ClauseCount, clauseCounts, ordered, rank, why } from '../../core/scan/index.ts';
import { clockOf, MINUTE, PRE_OPEN } from '../../core/units/index.ts';
import type { Feed } from '../../session/ports.ts';
import { marketView, stocksOf } from '../../session/view.ts';
import { Mistake } from './live.ts';
import type { TableAsked, TableSlice, WhySlice } from './slices.ts';

/** What stands for the symbol itself as something to sort by. */
const SYMBOL = 'symbol';

/** What the table shows, read and ready to be worked out again and again. */
export interface Table {
  asked: TableAsked;
  /** Null for a list. */
  rule: Condition | null;
}

/** Reads what was asked for. @throws Mistake for a field that is not there, or a rule that cannot be read, with its place. */
export function readTable(asked: TableAsked): Table {
  const known = new Set([...FIELDS.map((f) => f.name), SYMBOL]);
  const ranking = asked.source.kind === 'scan' ? asked.source.ranking : [];
  for (const name of [
    ...asked.columns,
    ...ranking.map((p) => p.field),
    ...(asked.sort ? [asked.sort.field] : []),
  ])
    if (!known.has(name)) throw new Mistake(`There is no field “${name}”.`);
  if (asked.source.kind === 'list') return { asked, rule: null };
  const parsed = parseRule(asked.source.rule);
  if (parsed.ok) return { asked, rule: parsed.rule };
  const { span } = parsed.problem;
  throw new Mistake(explain(parsed.problem), span.from, span.to);
}

/** The table as it stands now. Counts of the clauses are taken over where they were counted a moment ago. */
export function tableSlice(market: Feed, { asked, rule }: Table, counted: ClauseCount[] | null): TableSlice {
  const view = marketView(market);
  const stocks = stocksOf(market);
  const { source } = asked;
  const closed = source.kind === 'scan' && !openNow(market, source);
  let who: Int32Array = new Int32Array(0);
  let passing = 0;
  if (source.kind === 'list') {
    who = Int32Array.from(source.symbols.filter((s) => market.has(s)).map((s) => market.number(s)));
    passing = who.length;
  } else if (rule && !closed) {
    const found = rank(view, rule, source.ranking, without(market, stocks, source.hidden), source.limit);
    who = found.order;
    passing = found.passing;
  }
  if (asked.sort) who = sorted(view, asked.sort, who);
  return {
    asked,
    total: stocks.length,
    passing,
    closed,
    who,
    columns: asked.columns.map((name) => {
      const out = new Float64Array(who.length);
      fieldOf(name).fill(view, who, who.length, out);
      return out;
    }),
    clauses: counted ?? (rule && !closed ? clauseCounts(view, rule, stocks) : []),
  };
}

function sorted(
  view: MarketView,
  { field, down }: NonNullable<TableAsked['sort']>,
  who: Int32Array,
): Int32Array {
  if (field !== SYMBOL) return ordered(view, [{ field, weight: down ? 1 : -1 }], who, who.length);
  const { alphabet } = view.facts;
  const way = down ? -1 : 1;
  return who.slice().sort((a, b) => way * ((alphabet[a] as number) - (alphabet[b] as number)));
}

const openNow = (market: Feed, { from, to }: { from: number; to: number }): boolean => {
  const minute = Math.floor(clockOf(market.now()) / MINUTE);
  return minute >= from && minute < to;
};

function without(market: Feed, stocks: Int32Array, hidden: readonly string[]): Int32Array {
  if (hidden.length === 0) return stocks;
  const out = new Set(hidden.filter((s) => market.has(s)).map((s) => market.number(s)));
  return stocks.filter((i) => !out.has(i));
}

/** Why a symbol is on the table or not; `place` counts from 1. */
export function whyOf(market: Feed, table: Table, i: number): Omit<WhySlice, 'symbol'> {
  if (!table.rule || table.asked.source.kind !== 'scan')
    return { clauses: [], place: null, passing: 0, hidden: false };
  const view = marketView(market);
  const { ranking, hidden } = table.asked.source;
  const all = stocksOf(market);
  const { order, passing } = rank(view, table.rule, ranking, without(market, all, hidden), all.length);
  const k = order.indexOf(i);
  return {
    clauses: why(view, table.rule, i),
    place: k < 0 ? null : k + 1,
    passing,
    hidden: hidden.includes(market.instruments[i]?.symbol ?? ''),
  };
}

/** Every field of a symbol. */
export function valuesOf(market: Feed, i: number): Float64Array {
  const view = marketView(market);
  return Float64Array.from(FIELDS, (f) => fieldValue(f, view, i));
}

/** Prices of a symbol's day so far, one each ten minutes and the last; empty before it traded. */
export function sparkOf(market: Feed, i: number): Int32Array {
  const { board } = market;
  const k = Math.min(SPARKS, Math.floor((clockOf(market.now()) - PRE_OPEN) / (10 * MINUTE)));
  const last = board.last[i] as number;
  const newest = Math.floor((board.minute[i] as number) / 10);
  // Since its last trade the price has stood.
  const line = board.spark.slice(i * SPARKS, i * SPARKS + k).map((p, j) => (j >= newest ? last : p));
  return Int32Array.from([...line, last]).filter((p) => p > 0);
}

// The day or the week as its log writes it: what was planned, taken and left, rules kept, best and worst, what leaving early cost.

import { rootOf } from '../instruments/index.ts';
import type { Aftermath } from './aftermath.ts';
import { leavingEarly } from './aftermath.ts';
import { type Figures, figuresOf } from './figures.ts';
import type { Ledger } from './ledger.ts';
import type { Remark, TradeRecord } from './record.ts';

/** A candidate of the day's shortlist. */
export interface Planned {
  date: string;
  symbol: string;
  grade: string;
  note: string;
}

/** A trade as a line of the page. */
export interface PageTrade {
  ref: string;
  date: string;
  name: string;
  opened: number;
  net: number;
  r: number | null;
  setup: string;
  kept: boolean | null;
  broke: string;
  words: string;
}

export interface ReviewPage {
  from: string;
  to: string;
  figures: Figures;
  /** Candidates with what was made of them; those that were not traded. */
  taken: (Planned & { trades: number; net: number; r: number })[];
  left: Planned[];
  /** Traded without having been on the list. */
  unplanned: { symbol: string; trades: number; net: number; r: number }[];
  trades: PageTrade[];
  /** Trades of which the plan is said to have been kept or broken, and the rules that were. */
  kept: number;
  broken: number;
  rules: { rule: string; times: number }[];
  best: PageTrade | null;
  worst: PageTrade | null;
  early: { trades: number; cost: number; costR: number; unknown: number };
}

/** Writes the page of some dates. `places` are the trades that ended on them and count. */
export function pageOf(
  l: Ledger,
  places: Int32Array,
  span: { from: string; to: string },
  planned: readonly Planned[],
  known: ReadonlyMap<string, Aftermath>,
): ReviewPage {
  const records = [...places].map((i) => l.records[i] as TradeRecord);
  const trades = records.map((t) => lineOf(t, l.remarks.get(t.ref)));
  const inSpan = planned.filter((p) => p.date >= span.from && p.date <= span.to);
  const sumOf = (list: readonly TradeRecord[]) => ({
    trades: list.length,
    net: list.reduce((a, t) => a + t.net, 0),
    r: list.some((t) => t.risk) ? list.reduce((a, t) => a + (t.risk ? t.net / t.risk : 0), 0) : Number.NaN,
  });
  const of = (p: Planned) => records.filter((t) => rootOf(t.symbol) === p.symbol && t.opened.date === p.date);
  const onList = new Set(inSpan.map((p) => `${p.date} ${p.symbol}`));
  const others = records.filter((t) => !onList.has(`${t.opened.date} ${rootOf(t.symbol)}`));
  const early = leavingEarly(l, places, known);
  const untold = Object.values(early.unknown).reduce((a, n) => a + n, 0);
  const rules = new Map<string, number>();
  for (const t of trades) if (t.broke !== '') rules.set(t.broke, (rules.get(t.broke) ?? 0) + 1);
  const byNet = [...trades].sort((a, b) => b.net - a.net);
  return {
    ...span,
    figures: figuresOf(l, places),
    taken: inSpan.filter((p) => of(p).length > 0).map((p) => ({ ...p, ...sumOf(of(p)) })),
    left: inSpan.filter((p) => of(p).length === 0),
    unplanned: [...new Set(others.map((t) => rootOf(t.symbol)))].map((symbol) => ({
      symbol,
      ...sumOf(others.filter((t) => rootOf(t.symbol) === symbol)),
    })),
    trades,
    kept: trades.filter((t) => t.kept === true).length,
    broken: trades.filter((t) => t.kept === false).length,
    rules: [...rules].map(([rule, times]) => ({ rule, times })).sort((a, b) => b.times - a.times),
    best: byNet[0] && byNet[0].net > 0 ? byNet[0] : null,
    worst: byNet.at(-1) && (byNet.at(-1)?.net ?? 0) < 0 ? (byNet.at(-1) as PageTrade) : null,
    early: { trades: early.touched.length, cost: early.cost, costR: early.costR, unknown: untold },
  };
}

const lineOf = (t: TradeRecord, r: Remark | undefined): PageTrade => ({
  ref: t.ref,
  date: t.opened.date,
  name: `${t.direction} ${t.symbol}`,
  opened: t.opened.at,
  net: t.net,
  r: t.risk ? t.net / t.risk : null,
  setup: r?.setup ?? '',
  kept: r?.kept ?? null,
  broke: r?.broke ?? '',
  words: r?.words ?? '',
});

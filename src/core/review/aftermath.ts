// What leaving early costs: what each plan would have made, left alone, beside what was made.
import { dayInterval, type Interval, meanOf } from '../statistics/index.ts';
import type { Ledger } from './ledger.ts';
import type { TradeRecord } from './record.ts';
import { spanOf } from './series.ts';

/** What is known of a trade once its day is over. Money in 1/10,000 dollar; times are session times. */
export interface Aftermath {
  ref: string;
  /** What it came to when the day was lived through again: what it did then, or the day is not the same any more. */
  net: number;
  /** What its entries risked, worked out anew from its log; left out by earlier versions. */
  risk?: number | null;
  /** When a hand first touched it, with what, and what its plan would have made from there; null: it was left alone. */
  left: { at: number; by: string; plan: { net: number; open: boolean } | null } | null;
  /** How far the price went its way afterwards, for all its shares; null where that is not known. */
  after: { five: number | null; thirty: number | null; close: number; best: number } | null;
}

/** A trade that was touched, beside what its plan would have made. */
export interface LeftEarly {
  ref: string;
  date: string;
  symbol: string;
  direction: 'long' | 'short';
  by: string;
  net: number;
  plan: number;
  /** The plan less what was made: above zero is what the hand cost. In money, and in R where the risk is known. */
  cost: number;
  costR: number;
  /** Still open at the close, and worth its last price. */
  open: boolean;
  after: Aftermath['after'];
}

/**
 * Why it cannot be told of a trade: its session has not been lived through again, or it came out otherwise; of an imported one no candles are known after
 * it, or no planned exit.
 */
export type Untold = 'not yet' | 'otherwise' | 'no candles' | 'no plan';

export interface LeavingEarly {
  /** Trades that were touched, the dearest first; those that were left alone; those of which it cannot be told, by why. */
  touched: LeftEarly[];
  alone: number;
  unknown: Record<Untold, number>;
  /** Sum of what the hand cost, mean a touched trade with its interval, and what the habit costs in a year of days like these. */
  cost: number;
  costR: number;
  mean: number;
  interval: Interval | null;
  year: { money: number; r: number };
  months: { name: string; trades: number; cost: number; costR: number }[];
  /** What of the best that trades offered was kept: made over most favourable, of those that offered something; NaN where none is known. */
  kept: number;
}

/** Trading days of a year (common practice). */
const YEAR = 252;

/** Puts what is known of trades at some places together. `days` are the dates that were traded on. */
export function leavingEarly(
  l: Ledger,
  places: Int32Array,
  known: ReadonlyMap<string, Aftermath>,
): LeavingEarly {
  const touched: LeftEarly[] = [];
  const byDay = new Map<number, { sum: number; count: number }>();
  const days = new Set<number>();
  const unknown: LeavingEarly['unknown'] = { 'not yet': 0, otherwise: 0, 'no candles': 0, 'no plan': 0 };
  let [alone, made, offered] = [0, 0, 0];
  for (const i of places) {
    const t = l.records[i];
    if (!t) continue;
    days.add(l.day[i] as number);
    if (t.mfe !== null && t.mfe > 0) {
      made += t.gross;
      offered += t.mfe;
    }
    const a = known.get(t.ref);
    const untold = untoldOf(t, a);
    if (untold) {
      unknown[untold]++;
      continue;
    }
    if (!a?.left?.plan) {
      alone++;
      continue;
    }
    const cost = a.left.plan.net - t.net;
    const costR = t.risk ? cost / t.risk : Number.NaN;
    touched.push({
      ref: t.ref,
      date: l.dates[l.day[i] as number] as string,
      symbol: t.symbol,
      direction: t.direction,
      by: a.left.by,
      net: t.net,
      plan: a.left.plan.net,
      cost,
      costR,
      open: a.left.plan.open,
      after: a.after,
    });
    const day = byDay.get(l.day[i] as number) ?? { sum: 0, count: 0 };
    if (!Number.isNaN(costR)) byDay.set(l.day[i] as number, { sum: day.sum + costR, count: day.count + 1 });
  }
  const sum = (f: (x: LeftEarly) => number) =>
    touched.reduce((a, x) => a + (Number.isNaN(f(x)) ? 0 : f(x)), 0);
  const [cost, costR] = [sum((x) => x.cost), sum((x) => x.costR)];
  const sums = [...byDay.values()];
  return {
    touched: touched.sort((a, b) => b.cost - a.cost),
    alone,
    unknown,
    cost,
    costR,
    mean: meanOf(sums).mean,
    interval: dayInterval(sums),
    year:
      days.size === 0
        ? { money: 0, r: 0 }
        : { money: (cost / days.size) * YEAR, r: (costR / days.size) * YEAR },
    months: monthsOf(touched),
    kept: offered > 0 ? made / offered : Number.NaN,
  };
}

function untoldOf(t: TradeRecord, a: Aftermath | undefined): Untold | null {
  if (t.source.kind === 'import') {
    if (a?.left?.plan || (a && !a.left)) return null;
    return a && !t.exits?.stop && !t.exits?.target ? 'no plan' : 'no candles';
  }
  if (!a) return 'not yet';
  // A day that came out otherwise tells nothing of this one.
  return Math.abs(a.net - t.net) > 1 || (a.left && !a.left.plan) ? 'otherwise' : null;
}

function monthsOf(touched: readonly LeftEarly[]): LeavingEarly['months'] {
  const out = new Map<string, LeavingEarly['months'][number]>();
  for (const x of touched) {
    const name = spanOf(x.date, 'month');
    const m = out.get(name) ?? { name, trades: 0, cost: 0, costR: 0 };
    m.trades++;
    m.cost += x.cost;
    if (!Number.isNaN(x.costR)) m.costR += x.costR;
    out.set(name, m);
  }
  return [...out.values()].sort((a, b) => (a.name < b.name ? -1 : 1));
}

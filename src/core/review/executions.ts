// Executions one by one, or put together by order, symbol or day.
import { type Costs, NO_COSTS, plus } from '../account/index.ts';
import type { Execution, TradeRecord } from './record.ts';

export type ExecutionsBy = 'each' | 'order' | 'symbol' | 'day';

/** One execution, or several together: price is their average, improvement and costs their sums in 1/10,000 dollar. */
export interface ExecutionRow {
  key: string;
  ref: string;
  symbol: string;
  date: string;
  at: number;
  executions: number;
  bought: number;
  sold: number;
  price: number;
  role: string;
  route: string;
  liquidity: string;
  improvement: number;
  costs: Costs;
}

const keyOf = (t: TradeRecord, x: Execution, by: ExecutionsBy): string =>
  by === 'each'
    ? `${t.ref} ${x.id} ${x.date} ${x.at} ${x.side}`
    : by === 'order'
      ? `${t.ref} ${x.order ?? x.id}`
      : by === 'symbol'
        ? t.symbol
        : x.date;

/** What several have in common; where they differ, that they are several. */
const common = (a: string, b: string): string => (a === b ? a : 'several');

/** Executions of some trades, the newest first. */
export function executionRows(trades: readonly TradeRecord[], by: ExecutionsBy): ExecutionRow[] {
  const out = new Map<string, ExecutionRow>();
  for (const t of trades)
    for (const x of t.executions) {
      const key = keyOf(t, x, by);
      const there = out.get(key);
      const row: ExecutionRow = {
        key,
        ref: t.ref,
        symbol: t.symbol,
        date: x.date,
        at: x.at,
        executions: 1,
        bought: x.side === 'buy' ? x.qty : 0,
        sold: x.side === 'sell' ? x.qty : 0,
        price: x.price,
        role: x.role ?? '',
        route: x.route ?? '',
        liquidity: x.liquidity ?? '',
        improvement: x.better * x.qty,
        costs: plus(NO_COSTS, x.costs),
      };
      out.set(key, there && by !== 'each' ? together(there, row) : row);
    }
  return [...out.values()].sort((a, b) => (a.date > b.date ? -1 : a.date < b.date ? 1 : b.at - a.at));
}

function together(a: ExecutionRow, b: ExecutionRow): ExecutionRow {
  const [one, two] = [a.bought + a.sold, b.bought + b.sold];
  const later = b.date > a.date || (b.date === a.date && b.at > a.at);
  return {
    ...a,
    date: later ? b.date : a.date,
    at: later ? b.at : a.at,
    symbol: common(a.symbol, b.symbol),
    executions: a.executions + b.executions,
    bought: a.bought + b.bought,
    sold: a.sold + b.sold,
    price: (a.price * one + b.price * two) / (one + two),
    role: common(a.role, b.role),
    route: common(a.route, b.route),
    liquidity: common(a.liquidity, b.liquidity),
    improvement: a.improvement + b.improvement,
    costs: plus(a.costs, b.costs),
  };
}

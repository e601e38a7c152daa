// Kept trades as files: tables of trades or of executions, and JSON that can be taken in again.
import { totalOf } from '../account/index.ts';
import { isOption, occOf } from '../instruments/index.ts';
import type { Execution, Remark, TradeRecord } from '../review/index.ts';
import { formatTime, PRICE_SCALE } from '../units/index.ts';
import { csv } from './csv.ts';

type Cell = string | number | null;
/** To the eighth place, which averages need. */
const dollars = (units: number): number => Number((units / PRICE_SCALE).toFixed(8));
const time = (at: number): string => formatTime(at, 'millis');
const nameOf = (symbol: string): string =>
  isOption(symbol) && !symbol.includes('/') ? occOf(symbol) : symbol;

/** A column of a table of executions: its heading, and what stands in it. Money in dollars, times of day in New York. */
const EXECUTIONS: readonly (readonly [string, (t: TradeRecord, x: Execution) => Cell])[] = [
  ['date', (_, x) => x.date],
  ['time', (_, x) => time(x.at)],
  ['account', (t) => t.account],
  ['symbol', (t) => nameOf(t.symbol)],
  ['side', (_, x) => x.side],
  ['qty', (_, x) => x.qty],
  ['price', (_, x) => dollars(x.price)],
  ['commission', (_, x) => dollars(x.costs.commission)],
  ['fees', (_, x) => dollars(totalOf(x.costs) - x.costs.commission)],
  ['liquidity', (_, x) => x.liquidity],
  ['route', (_, x) => x.route],
  ['order', (t, x) => (x.order === null ? null : `${t.ref}-${x.order}`)],
  ['execution', (t, x) => `${t.ref}-${x.id}`],
  ['risk', (t) => (t.risk === null ? null : dollars(t.risk))],
  ['planned stop', (t) => (t.exits?.stop ? dollars(t.exits.stop) : null)],
  ['planned target', (t) => (t.exits?.target ? dollars(t.exits.target) : null)],
  ['role', (_, x) => x.role],
  ['improvement', (_, x) => dollars(x.better * x.qty)],
  ['trade', (t) => t.ref],
];

const byTime = (a: { x: Execution }, b: { x: Execution }): number =>
  a.x.date < b.x.date ? -1 : a.x.date > b.x.date ? 1 : a.x.at - b.x.at;

/** Executions of trades, in the order of their times, as columns under their headings. */
export function executionColumns(trades: readonly TradeRecord[]): { name: string; data: Cell[] }[] {
  const all = trades.flatMap((t) => t.executions.map((x) => ({ t, x }))).sort(byTime);
  return EXECUTIONS.map(([name, of]) => ({ name, data: all.map(({ t, x }) => of(t, x)) }));
}

/** The same as CSV: what this app takes in again. */
export function keptExecutionsCsv(trades: readonly TradeRecord[]): string {
  const columns = executionColumns(trades);
  const rows = (columns[0]?.data ?? []).map((_, k) => columns.map((c) => c.data[k] ?? null));
  return csv([columns.map((c) => c.name), ...rows]);
}

/** One row a trade, with what is said of it. */
export function keptTradesCsv(trades: readonly TradeRecord[], remarks: ReadonlyMap<string, Remark>): string {
  const heads = [
    'trade',
    'account',
    'symbol',
    'direction',
    'shares',
    'opened',
    'at',
    'closed',
    'until',
    'average entry',
    'average exit',
    'gross',
    'commission',
    'fees',
    'net',
    'risk',
    'R',
    'MFE',
    'MAE',
    'plan',
    'script',
    'scan',
    'kind of day',
    'setup',
    'tags',
    'grade',
    'plan kept',
    'rule broken',
    'notes',
  ];
  return csv([
    heads,
    ...trades.map((t): Cell[] => {
      const r = remarks.get(t.ref);
      const money = (x: number | null) => (x === null ? null : dollars(x));
      return [
        t.ref,
        t.account,
        nameOf(t.symbol),
        t.direction,
        t.shares,
        t.opened.date,
        time(t.opened.at),
        t.closed?.date ?? null,
        t.closed ? time(t.closed.at) : null,
        dollars(t.averageEntry),
        money(t.averageExit),
        dollars(t.gross),
        dollars(t.costs.commission),
        dollars(totalOf(t.costs) - t.costs.commission),
        dollars(t.net),
        money(t.risk),
        t.risk ? Number((t.net / t.risk).toFixed(4)) : null,
        money(t.mfe),
        money(t.mae),
        t.plan,
        t.script,
        t.scan,
        t.scenario,
        r?.setup ?? null,
        r?.tags.join(', ') ?? null,
        r?.grade || t.grade || null,
        r?.kept == null ? null : r.kept ? 'kept' : 'broken',
        r?.broke ?? null,
        r?.words ?? null,
      ];
    }),
  ]);
}

/** Trades with their executions and what is said of them; money and prices in 1/10,000 dollar, as they are kept. */
export const keptJson = (trades: readonly TradeRecord[], remarks: ReadonlyMap<string, Remark>): string =>
  JSON.stringify(
    {
      format: 'keen-fox trades',
      version: 5,
      trades: trades.map((t) => ({ ...t, remark: remarks.get(t.ref) ?? null })),
    },
    null,
    1,
  );

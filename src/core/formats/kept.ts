// Kept trades as files: tables of trades or of executions, and JSON that can be taken in again.
import { totalOf } from '../account/index.ts';
import { isOption, occOf } from '../instruments/index.ts';
import type { Execution, Remark, TradeRecord } from '../review/index.ts';
import { formatTime, PRICE_SCALE } from '../units/index.ts';
import { csv } from './csv.ts';
import { type Exported, exportedOf, identityOf } from './identity.ts';

type Cell = string | number | null;
/** To the eighth place, which averages need. */
const dollars = (units: number): number => Number((units / PRICE_SCALE).toFixed(8));
const time = (at: number): string => formatTime(at, 'millis');
const nameOf = (symbol: string): string =>
  isOption(symbol) && !symbol.includes('/') ? occOf(symbol) : symbol;

/** The number that an execution had in the file it came with, or in the session that it was made in. */
const theirNumber = (t: TradeRecord, x: Execution): string | null =>
  t.source.kind === 'import' ? x.id || null : `${t.ref}-${x.id}`;

/** A column of a table of executions: its heading, and what stands in it. Money in dollars, times of day in New York. */
const EXECUTIONS: readonly (readonly [string, (e: Exported) => Cell])[] = [
  ['date', ({ x }) => x.date],
  ['time', ({ x }) => time(x.at)],
  ['account', ({ trade: t }) => t.account],
  ['symbol', ({ trade: t }) => nameOf(t.symbol)],
  ['side', ({ x }) => x.side],
  ['qty', ({ x }) => x.qty],
  ['price', ({ x }) => dollars(x.price)],
  ['commission', ({ x }) => dollars(x.costs.commission)],
  ['fees', ({ x }) => dollars(totalOf(x.costs) - x.costs.commission)],
  ['liquidity', ({ x }) => x.liquidity],
  ['route', ({ x }) => x.route],
  [
    'order',
    ({ trade: t, x }) =>
      x.order === null ? null : t.source.kind === 'import' ? x.order : `${t.ref}-${x.order}`,
  ],
  [
    'execution',
    ({ trade: t, x, placed }) => identityOf({ ...x, account: t.account, symbol: t.symbol }, placed),
  ],
  ['their number', ({ trade: t, x }) => theirNumber(t, x)],
  ['risk', ({ said: t }) => (t.risk === null ? null : dollars(t.risk))],
  ['planned stop', ({ said: t }) => (t.exits?.stop ? dollars(t.exits.stop) : null)],
  ['planned target', ({ said: t }) => (t.exits?.target ? dollars(t.exits.target) : null)],
  ['role', ({ x }) => x.role],
  ['improvement', ({ x }) => dollars(x.better * x.qty)],
  ['trade', ({ trade: t }) => t.ref],
];

/** Executions of trades, in the order of their times, as columns under their headings; `all`: every trade that is kept. */
export function executionColumns(
  trades: readonly TradeRecord[],
  all: readonly TradeRecord[] = trades,
): { name: string; data: Cell[] }[] {
  const rows = exportedOf(trades, all);
  return EXECUTIONS.map(([name, of]) => ({ name, data: rows.map(of) }));
}

/** Columns as one object a row. */
const rowsUnderHeads = (columns: { name: string; data: Cell[] }[]): Record<string, Cell>[] =>
  (columns[0]?.data ?? []).map((_, k) => Object.fromEntries(columns.map((c) => [c.name, c.data[k] ?? null])));

/** The same as CSV: what this app takes in again. */
export function keptExecutionsCsv(
  trades: readonly TradeRecord[],
  all: readonly TradeRecord[] = trades,
): string {
  const columns = executionColumns(trades, all);
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
export const keptJson = (
  trades: readonly TradeRecord[],
  remarks: ReadonlyMap<string, Remark>,
  all: readonly TradeRecord[] = trades,
): string =>
  JSON.stringify(
    {
      format: 'keen-fox trades',
      version: 6,
      trades: trades.map((t) => ({ ...t, remark: remarks.get(t.ref) ?? null })),
      // Each once and whole, with its identity: what is taken in again.
      executions: rowsUnderHeads(executionColumns(trades, all)),
    },
    null,
    1,
  );

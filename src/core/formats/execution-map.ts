// Which column of a table of executions is what, and how its cells are written: guessed from its headings, corrected by the trader.
import { type DateOrder, type Decimals, dateIn, numberIn } from './cells.ts';

/** What a column can hold. */
export type ExecutionColumn =
  | 'date'
  | 'time'
  | 'symbol'
  | 'side'
  | 'qty'
  | 'price'
  | 'commission'
  | 'fees'
  | 'account'
  | 'execution'
  | 'number'
  | 'order'
  | 'route'
  | 'liquidity'
  | 'status'
  | 'risk'
  | 'stop'
  | 'target';

/** How a table is read. Columns by their numbers, −1 where there is none. */
export interface ExecutionMap {
  columns: Record<ExecutionColumn, number>;
  /** The place of the row of headings, from 0: what is above it is not read. −1: there is none. */
  heading: number;
  dates: DateOrder;
  decimals: Decimals;
  /** The zone that times are written in, as the IANA database names it, where they do not say one themselves. */
  zone: string;
  /** Costs are written below zero, as what leaves the account. */
  minusIsCost: boolean;
  /** The account of rows that name none. */
  account: string;
  /** Rows without a number that say the same: parts of one order, or one of them twice. */
  alike: 'each counts' | 'one counts';
  /** Rows without an identity that say what is kept already: the same ones again, or more of them. */
  again: 'repeat' | 'continue';
}

/** Columns with the words that are over them, the likeliest first; those without which nothing can be read. */
export const EXECUTION_COLUMNS: readonly (readonly [
  ExecutionColumn,
  name: string,
  needed: boolean,
  words: readonly string[],
])[] = [
  [
    'date',
    'Date, with the time or alone',
    true,
    [
      'date time',
      'datetime',
      'timestamp',
      'trade date',
      'execution date',
      'date',
      'executed',
      'transacttime',
    ],
  ],
  [
    'time',
    'Time of day, where it is apart',
    false,
    ['exec time', 'execution time', 'fill time', 'trade time', 'time of day', 'time'],
  ],
  ['symbol', 'Symbol', true, ['symbol', 'ticker', 'instrument', 'security', 'underlying']],
  [
    'side',
    'Side; without it sales are below zero',
    false,
    ['side', 'action', 'buy sell', 'b s', 'direction', 'transaction', 'type'],
  ],
  [
    'qty',
    'Shares or contracts',
    true,
    [
      'filled qty',
      'filled quantity',
      'fill qty',
      'executed qty',
      'exec qty',
      'quantity',
      'qty',
      'shares',
      'contracts',
      'size',
      'filled',
      'volume',
      'lastqty',
    ],
  ],
  [
    'price',
    'Price',
    true,
    [
      'fill price',
      'exec price',
      'execution price',
      'executed price',
      'trade price',
      'avg price',
      'average price',
      'price',
      'lastpx',
    ],
  ],
  ['commission', 'Commission', false, ['commission', 'comm', 'commissions']],
  ['fees', 'Fees', false, ['fees', 'fee', 'other fees', 'regulatory fees', 'ecn fee', 'venue fee']],
  ['account', 'Account', false, ['account', 'account id', 'acct']],
  [
    'execution',
    'Number of the execution',
    false,
    ['execution', 'execution id', 'exec id', 'trade id', 'fill id', 'fill no', 'exec no', 'id', 'execid'],
  ],
  ['number', 'Number in the file it came from first', false, ['their number']],
  ['order', 'Number of the order', false, ['order', 'order id', 'order number', 'orderid']],
  ['route', 'Route', false, ['route', 'exchange', 'venue', 'destination', 'market']],
  ['liquidity', 'Liquidity, added or removed', false, ['liquidity', 'liq', 'liquidity flag', 'add remove']],
  ['status', 'Status: what was not executed is left out', false, ['status', 'order status', 'state']],
  ['risk', 'Risk of the trade, in dollars', false, ['risk', 'initial risk', '1r', 'planned risk']],
  ['stop', 'Planned stop', false, ['planned stop', 'initial stop', 'stop loss', 'stop']],
  ['target', 'Planned target', false, ['planned target', 'profit target', 'take profit', 'target']],
];

/** A heading, or a word of a cell, as plain words. */
export const plain = (heading: string): string =>
  heading
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/g, ' ')
    .trim();
/** Headings of other dates and prices than those of an execution. */
const OTHERS = /\b(settle\w*|limit|expir\w*|strike|trigger|placed|submitted|order (?:date|time|qty|price))\b/;

/** Which column is what, by the words over them: the same words first, then headings in which they are found. */
function columnsOf(headings: readonly string[]): Record<ExecutionColumn, number> {
  const names = headings.map(plain);
  const columns = Object.fromEntries(EXECUTION_COLUMNS.map(([id]) => [id, -1])) as Record<
    ExecutionColumn,
    number
  >;
  const taken = new Set<number>();
  const seek = (fits: (name: string, word: string) => boolean) => {
    for (const [id, , , words] of EXECUTION_COLUMNS) {
      if (columns[id] >= 0) continue;
      const at = words.map((w) => names.findIndex((n, k) => !taken.has(k) && fits(n, w))).find((k) => k >= 0);
      if (at === undefined) continue;
      columns[id] = at;
      taken.add(at);
    }
  };
  seek((name, word) => name === word);
  seek((name, word) => !OTHERS.test(name) && ` ${name} `.includes(` ${word} `));
  return columns;
}

/** The row with the most words that stand over columns; the first of those that are equal. */
function headingOf(rows: readonly (readonly string[])[]): number {
  const known = (row: readonly string[]) => Object.values(columnsOf(row)).filter((k) => k >= 0).length;
  const counts = rows.slice(0, 30).map(known);
  const most = Math.max(0, ...counts);
  if (most >= 3) return counts.indexOf(most);
  const [first = []] = rows;
  return first.some((c) => dateIn(c) !== null) && first.some((c) => numberIn(c) !== null) ? -1 : 0;
}

/** A first guess from the headings and the rows beneath; the trader corrects it. `heading`: where the headings are, if that is known. */
export function guessExecutionMap(
  rows: readonly (readonly string[])[],
  heading = headingOf(rows),
): ExecutionMap {
  const columns = columnsOf(rows[heading] ?? []);
  const cells = (c: ExecutionColumn) => rows.slice(heading + 1).map((r) => r[columns[c]] ?? '');
  const dayFirst = cells('date').some((t) => /^(1[3-9]|2\d|3[01])[-/.]\d{1,2}[-/.]/.test(t.trim()));
  // A comma before one, two or four figures stands before cents.
  const decimals = cells('price').some((t) => /^\s*\$?\d+,(?:\d{1,2}|\d{4})\s*$/.test(t)) ? 'comma' : 'point';
  const costs = [...cells('commission'), ...cells('fees')]
    .map((t) => numberIn(t, decimals) ?? 0)
    .filter((n) => n !== 0);
  return {
    columns,
    heading,
    dates: dayFirst ? 'day first' : 'month first',
    decimals,
    zone: 'America/New_York',
    minusIsCost: costs.filter((n) => n < 0).length > costs.length / 2,
    account: 'imported',
    alike: 'each counts',
    again: 'repeat',
  };
}

// Executions from a table that somebody else wrote: which column is what, and every row that cannot be taken, with the reason.
import { NO_COSTS } from '../account/index.ts';
import { contractOf, nameOf } from '../instruments/index.ts';
import type { JoinedFrom, TradeRecord, When } from '../review/index.ts';
import { type Money, money, PRICE_SCALE } from '../units/index.ts';
import { type DateOrder, type Decimals, dateIn, numberIn, timeIn } from './cells.ts';

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
  | 'order'
  | 'route'
  | 'liquidity'
  | 'risk';

/** How a table is read. Columns by their numbers, −1 where there is none. */
export interface ExecutionMap {
  columns: Record<ExecutionColumn, number>;
  dates: DateOrder;
  decimals: Decimals;
  /** The zone that times are written in, as the IANA database names it. */
  zone: string;
  /** Costs are written below zero, as what leaves the account. */
  minusIsCost: boolean;
}

/** A row that cannot be taken, and why. `line` counts from 1 and includes the heading. */
export interface BadExecution {
  line: number;
  column: string;
  value: string;
  reason: string;
}

/** Executions of a table. `doubled` are rows left out because another row has the same execution id. */
export interface ReadExecutions {
  executions: JoinedFrom[];
  bad: BadExecution[];
  doubled: number;
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
    ['date/time', 'datetime', 'date time', 'timestamp', 'date', 'trade date', 'executed', 'transacttime'],
  ],
  ['time', 'Time of day, where it is apart', false, ['time', 'exec time', 'execution time', 'time of day']],
  ['symbol', 'Symbol', true, ['symbol', 'ticker', 'instrument', 'security', 'underlying']],
  [
    'side',
    'Side; without it sales are below zero',
    false,
    ['side', 'action', 'buy/sell', 'b/s', 'type', 'direction'],
  ],
  [
    'qty',
    'Shares or contracts',
    true,
    ['quantity', 'qty', 'shares', 'filled qty', 'size', 'volume', 'contracts', 'lastqty'],
  ],
  ['price', 'Price', true, ['price', 'fill price', 'avg price', 'execution price', 'exec price', 'lastpx']],
  ['commission', 'Commission', false, ['commission', 'comm', 'commissions']],
  ['fees', 'Fees', false, ['fees', 'fee', 'other fees', 'regulatory fees', 'ecn fee', 'venue fee']],
  ['account', 'Account', false, ['account', 'account id', 'acct']],
  [
    'execution',
    'Number of the execution',
    false,
    ['execution', 'execution id', 'exec id', 'trade id', 'fill id', 'id', 'execid'],
  ],
  ['order', 'Number of the order', false, ['order', 'order id', 'order number', 'orderid']],
  ['route', 'Route', false, ['route', 'exchange', 'venue', 'destination', 'market']],
  ['liquidity', 'Liquidity, added or removed', false, ['liquidity', 'liq', 'liquidity flag', 'add/remove']],
  ['risk', 'Risk of the trade, in dollars', false, ['risk', 'initial risk', '1r', 'risk $', 'planned risk']],
];

/** A first guess from the headings and the rows beneath; the trader corrects it. */
export function guessExecutionMap(rows: readonly (readonly string[])[]): ExecutionMap {
  const names = (rows[0] ?? []).map((h) => h.trim().toLowerCase().replaceAll('_', ' '));
  const taken = new Set<number>();
  const columns = {} as Record<ExecutionColumn, number>;
  for (const [id, , , words] of EXECUTION_COLUMNS) {
    const at = words.map((w) => names.indexOf(w)).find((k) => k >= 0 && !taken.has(k)) ?? -1;
    columns[id] = at;
    if (at >= 0) taken.add(at);
  }
  const cells = (c: ExecutionColumn) => rows.slice(1).map((r) => r[columns[c]] ?? '');
  const dayFirst = cells('date').some((t) => /^(1[3-9]|2\d|3[01])[-/.]\d{1,2}[-/.]/.test(t.trim()));
  // A comma before one, two or four figures stands before cents.
  const decimals = cells('price').some((t) => /^\s*\$?\d+,(?:\d{1,2}|\d{4})\s*$/.test(t)) ? 'comma' : 'point';
  const costs = [...cells('commission'), ...cells('fees')]
    .map((t) => numberIn(t, decimals) ?? 0)
    .filter((n) => n !== 0);
  return {
    columns,
    dates: dayFirst ? 'day first' : 'month first',
    decimals,
    zone: 'America/New_York',
    minusIsCost: costs.filter((n) => n < 0).length > costs.length / 2,
  };
}

class Unfit extends Error {
  constructor(
    readonly column: ExecutionColumn,
    readonly reason: string,
  ) {
    super(reason);
  }
}

const SIDES: Readonly<Record<string, 'buy' | 'sell'>> = {
  b: 'buy',
  bot: 'buy',
  bought: 'buy',
  buy: 'buy',
  bto: 'buy',
  btc: 'buy',
  bc: 'buy',
  cover: 'buy',
  long: 'buy',
  '1': 'buy',
  s: 'sell',
  sld: 'sell',
  sold: 'sell',
  sell: 'sell',
  sto: 'sell',
  stc: 'sell',
  ss: 'sell',
  short: 'sell',
  '2': 'sell',
  '5': 'sell',
};
const sideIn = (text: string): 'buy' | 'sell' | null => {
  const t = text.trim().toLowerCase();
  return (
    (Object.hasOwn(SIDES, t) ? SIDES[t] : undefined) ??
    (/^buy\b|^bought\b/.test(t) ? 'buy' : /^sell\b|^sold\b|^short\b/.test(t) ? 'sell' : null)
  );
};
const liquidityIn = (text: string): 'added' | 'removed' | null => {
  const t = text.trim().toLowerCase();
  if (/^(a|add|added|maker|passive|1)$/.test(t)) return 'added';
  return /^(r|rem|remove|removed|taker|aggressive|2)$/.test(t) ? 'removed' : null;
};

/** The name of what was traded: a symbol, or an option as the OCC writes it. Null for anything else. */
export function instrumentIn(text: string): string | null {
  const t = text.trim().toUpperCase();
  const option = /^([A-Z]{1,6}) *(\d{6}[CP]\d{8})$/.exec(t);
  if (option) {
    const contract = contractOf(`${(option[1] as string).padEnd(6)}${option[2]}`);
    return contract && nameOf(contract);
  }
  return /^[A-Z][A-Z0-9.\-/]{0,11}$/.test(t) ? t : null;
}

const MOST_SHARES = 1e9;
const MOST_DOLLARS = 1e7;

/**
 * Reads a table, heading first, into executions. Rows that cannot be taken are listed and left out. `place` says where a wall time of the map's zone
 * lies in New York; null where there is no such time.
 */
export function readExecutions(
  rows: readonly (readonly string[])[],
  map: ExecutionMap,
  place: (date: string, ms: number) => When | null,
): ReadExecutions {
  const out: ReadExecutions = { executions: [], bad: [], doubled: 0 };
  const headings = rows[0] ?? [];
  const ids = new Set<string>();
  for (let k = 1; k < rows.length; k++) {
    const cells = rows[k] as readonly string[];
    if (cells.every((c) => c.trim() === '')) continue;
    try {
      const x = readRow(cells, map, place);
      if (x.id !== '') {
        const id = JSON.stringify([x.account, x.symbol, x.id]);
        if (ids.has(id)) {
          out.doubled++;
          continue;
        }
        ids.add(id);
      }
      out.executions.push(x);
    } catch (e) {
      if (!(e instanceof Unfit)) throw e;
      const column = map.columns[e.column];
      out.bad.push({
        line: k + 1,
        column: headings[column]?.trim() || e.column,
        value: (cells[column] ?? '').slice(0, 80),
        reason: e.reason,
      });
    }
  }
  return out;
}

function readRow(
  cells: readonly string[],
  { columns, dates, decimals, minusIsCost }: ExecutionMap,
  place: (date: string, ms: number) => When | null,
): JoinedFrom {
  const cell = (c: ExecutionColumn) => (cells[columns[c]] ?? '').trim();
  const symbol = instrumentIn(cell('symbol'));
  if (symbol === null) throw new Unfit('symbol', 'no symbol: letters, or an option as the OCC writes it');
  const when = whenOf(cell, columns, dates, place);
  const qty = numberIn(cell('qty'), decimals);
  if (qty === null) throw new Unfit('qty', 'not a number');
  if (qty === 0) throw new Unfit('qty', 'nothing was traded: a number above zero');
  if (Math.abs(qty) > MOST_SHARES) throw new Unfit('qty', 'more than a thousand million');
  const written = columns.side >= 0 ? sideIn(cell('side')) : qty > 0 ? 'buy' : 'sell';
  if (written === null) throw new Unfit('side', 'neither bought nor sold: write buy or sell');
  const paid = numberIn(cell('price'), decimals);
  if (paid === null) throw new Unfit('price', 'not a number');
  if (paid < 0) throw new Unfit('price', 'a price is not below zero');
  if (paid > MOST_DOLLARS) throw new Unfit('price', 'above $10,000,000');
  const cost = (c: 'commission' | 'fees'): Money => {
    const text = cell(c);
    const n = text === '' ? 0 : numberIn(text, decimals);
    if (n === null) throw new Unfit(c, 'not a number');
    return money(Math.round((minusIsCost ? -n : n) * PRICE_SCALE) || 0);
  };
  const risk = cell('risk') === '' ? null : numberIn(cell('risk'), decimals);
  if (cell('risk') !== '' && !(risk !== null && risk > 0))
    throw new Unfit('risk', 'dollars above zero, or empty');
  return {
    ...when,
    id: cell('execution'),
    order: cell('order') || null,
    side: written,
    role: null,
    qty: Math.abs(qty),
    price: Math.round(paid * PRICE_SCALE),
    liquidity: liquidityIn(cell('liquidity')),
    route: cell('route') || null,
    better: 0,
    costs: { ...NO_COSTS, commission: cost('commission'), venue: cost('fees') },
    account: cell('account') || 'imported',
    symbol,
    risk: risk === null ? null : risk * PRICE_SCALE,
  };
}

function whenOf(
  cell: (c: ExecutionColumn) => string,
  columns: ExecutionMap['columns'],
  dates: DateOrder,
  place: (date: string, ms: number) => When | null,
): When {
  const date = dateIn(cell('date'), dates);
  if (date === null)
    throw new Unfit(
      'date',
      `not a date: write 2027-03-09, or ${dates === 'month first' ? '3/9/2027' : '9/3/2027'} with the ${dates}`,
    );
  const column = columns.time >= 0 ? 'time' : 'date';
  const at = timeIn(cell(column));
  if (at === null) throw new Unfit(column, 'no time of day: write 09:31:05');
  const when = place(date, at);
  if (when === null) throw new Unfit(column, 'no such time: clocks were put forward over it');
  return when;
}

/** What makes two executions the same one: for recognising what has been taken in before. */
export const sameness = (
  x: Pick<JoinedFrom, 'account' | 'symbol' | 'date' | 'at' | 'side' | 'qty' | 'price'>,
): string => JSON.stringify([x.account, x.symbol, x.date, x.at, x.side, x.qty, x.price]);

/** The same of every execution of a trade, as it was before it was parted because it turned the position. */
export const samenessOf = (t: Pick<TradeRecord, 'account' | 'symbol' | 'executions'>): string[] =>
  t.executions
    .filter((x) => x.whole !== 0)
    .map((x) => sameness({ ...x, qty: x.whole ?? x.qty, account: t.account, symbol: t.symbol }));

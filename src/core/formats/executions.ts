// Executions from a table that somebody else wrote: which column is what, and every row that cannot be taken, with the reason.
import { contractOf, nameOf } from '../instruments/index.ts';
import type { JoinedFrom, TradeRecord, When } from '../review/index.ts';
import { type Money, money, PRICE_SCALE } from '../units/index.ts';
import { type DateOrder, type Decimals, dateIn, instantIn, numberIn, timeIn, zoneIn } from './cells.ts';

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
  /** Rows without a number that say the same: parts of one order, or one of them twice. */
  alike: 'each counts' | 'one counts';
}

/** A row that cannot be taken, and why. `line` counts rows of the file from 1. */
export interface BadExecution {
  line: number;
  column: string;
  value: string;
  reason: string;
}

/** Executions of a table, rising where it is written from the last to the first. `doubled` are rows that say again what another one with their number says. */
export interface ReadExecutions {
  executions: JoinedFrom[];
  bad: BadExecution[];
  doubled: number;
  /** Rows without a number that say what another one says. */
  alike: number;
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
  ['order', 'Number of the order', false, ['order', 'order id', 'order number', 'orderid']],
  ['route', 'Route', false, ['route', 'exchange', 'venue', 'destination', 'market']],
  ['liquidity', 'Liquidity, added or removed', false, ['liquidity', 'liq', 'liquidity flag', 'add remove']],
  ['status', 'Status: what was not executed is left out', false, ['status', 'order status', 'state']],
  ['risk', 'Risk of the trade, in dollars', false, ['risk', 'initial risk', '1r', 'planned risk']],
  ['stop', 'Planned stop', false, ['planned stop', 'initial stop', 'stop loss', 'stop']],
  ['target', 'Planned target', false, ['planned target', 'profit target', 'take profit', 'target']],
];

/** A heading as plain words. */
const plain = (heading: string): string =>
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
    alike: 'each counts',
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
  const t = plain(text);
  return (
    (Object.hasOwn(SIDES, t) ? SIDES[t] : undefined) ??
    (/^(?:buy|bought)\b|\bcover$/.test(t) ? 'buy' : /^(?:sell|sold|short)\b/.test(t) ? 'sell' : null)
  );
};
/** Whether a status says that nothing was executed. */
const notExecuted = (text: string): boolean => {
  const t = plain(text);
  return (
    /\b(?:unfilled|not filled|unexecuted)\b/.test(t) ||
    (!/fill|exec/.test(t) &&
      /cancel|reject|expire|pending|working|replaced|deleted|bust|void|^(?:new|open|queued)$/.test(t))
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

const NONE = money(0);
const MOST_SHARES = 1e9;
const MOST_DOLLARS = 1e7;

/** Says where a wall time of the map's zone, or of the zone that a cell says itself, lies in New York; null where there is no such time. */
export type Place = (date: string, ms: number, zone: string | null) => When | null;

/** Reads a table into executions. Rows that cannot be taken are listed and left out. */
export function readExecutions(
  rows: readonly (readonly string[])[],
  map: ExecutionMap,
  place: Place,
): ReadExecutions {
  const out: ReadExecutions = { executions: [], bad: [], doubled: 0, alike: 0 };
  const headings = rows[map.heading] ?? [];
  const readRow = rowReader(map, place);
  const kindOf = seenBefore();
  for (let k = map.heading + 1; k < rows.length; k++) {
    const cells = rows[k] as readonly string[];
    if (cells.every((c) => c.trim() === '')) continue;
    try {
      const x = readRow(cells);
      const kind = kindOf(x, k + 1);
      if (kind === 'doubled') out.doubled++;
      else if (kind === 'alike') out.alike++;
      if (kind === 'new' || (kind === 'alike' && map.alike !== 'one counts')) out.executions.push(x);
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
  if (falls(out.executions)) out.executions.reverse();
  return out;
}

/** Tells whether a row says again what one before it says: with the same number, or without any. Numbers may begin anew on every day. */
function seenBefore(): (x: JoinedFrom, line: number) => 'new' | 'doubled' | 'alike' {
  const seen = new Map<string, { line: number; says: string }>();
  return (x, line) => {
    const says = sameness(x);
    const key = JSON.stringify(x.id === '' ? [says, x.order] : [x.account, x.symbol, x.date, x.id]);
    const other = seen.get(key);
    if (!other) {
      seen.set(key, { line, says });
      return 'new';
    }
    if (x.id === '') return 'alike';
    if (other.says !== says)
      throw new Unfit('execution', `line ${other.line} has this number, and says something else`);
    return 'doubled';
  };
}

/** Whether times fall more often than they rise: the file begins with the last of its executions. */
function falls(list: readonly JoinedFrom[]): boolean {
  let steps = 0;
  for (let k = 1; k < list.length; k++) {
    const [a, b] = [list[k - 1] as JoinedFrom, list[k] as JoinedFrom];
    if (a.date !== b.date) steps += a.date < b.date ? 1 : -1;
    else steps += Math.sign(b.at - a.at);
  }
  return steps < 0;
}

/** Reads rows of one table: what follows from its map is made once. @throws Unfit for a row that cannot be taken. */
function rowReader(
  { columns, dates, decimals, minusIsCost }: ExecutionMap,
  place: Place,
): (cells: readonly string[]) => JoinedFrom {
  let row: readonly string[] = [];
  const cell = (c: ExecutionColumn) => (row[columns[c]] ?? '').trim();
  const cost = (c: 'commission' | 'fees'): Money => {
    const text = cell(c);
    const n = text === '' ? 0 : numberIn(text, decimals);
    if (n === null) throw new Unfit(c, 'not a number');
    if (Math.abs(n) > MOST_DOLLARS) throw new Unfit(c, 'above $10,000,000');
    return money(Math.round((minusIsCost ? -n : n) * PRICE_SCALE) || 0);
  };
  const said = (c: 'risk' | 'stop' | 'target'): number | null => {
    if (cell(c) === '') return null;
    const n = numberIn(cell(c), decimals);
    if (n === null || n <= 0 || n > MOST_DOLLARS) throw new Unfit(c, 'dollars above zero, or empty');
    return unitsOf(n);
  };
  return (cells) => {
    row = cells;
    if (notExecuted(cell('status'))) throw new Unfit('status', 'nothing was executed');
    const symbol = instrumentIn(cell('symbol'));
    if (symbol === null) throw new Unfit('symbol', 'no symbol: letters, or an option as the OCC writes it');
    const { date, at } = whenOf(cell, columns, dates, place);
    const { side, qty } = sizeOf(cell, columns, decimals);
    const paid = numberIn(cell('price'), decimals);
    if (paid === null) throw new Unfit('price', 'not a number');
    if (paid < 0) throw new Unfit('price', 'a price is not below zero');
    if (paid > MOST_DOLLARS) throw new Unfit('price', 'above $10,000,000');
    return {
      date,
      at,
      id: cell('execution'),
      order: cell('order') || null,
      side,
      role: null,
      qty,
      price: unitsOf(paid),
      liquidity: liquidityIn(cell('liquidity')),
      route: cell('route') || null,
      better: 0,
      costs: { commission: cost('commission'), venue: cost('fees'), sec: NONE, taf: NONE },
      account: cell('account') || 'imported',
      symbol,
      risk: said('risk'),
      exits: { stop: said('stop'), target: said('target') },
    };
  };
}

function sizeOf(
  cell: (c: ExecutionColumn) => string,
  columns: ExecutionMap['columns'],
  decimals: Decimals,
): { side: 'buy' | 'sell'; qty: number } {
  const qty = numberIn(cell('qty'), decimals);
  if (qty === null) throw new Unfit('qty', 'not a number');
  if (qty === 0) throw new Unfit('qty', 'nothing was traded: a number above zero');
  if (Math.abs(qty) > MOST_SHARES) throw new Unfit('qty', 'more than a thousand million');
  const side = columns.side >= 0 ? sideIn(cell('side')) : qty > 0 ? 'buy' : 'sell';
  if (side === null) throw new Unfit('side', 'neither bought nor sold: write buy or sell');
  if (columns.side >= 0 && side === 'buy' && qty < 0)
    throw new Unfit('qty', 'bought, and below zero: one of the two is wrong');
  return { side, qty: Math.abs(qty) };
}

/** Dollars in 1/10,000, kept to the eighth place: a price may be an average. */
const unitsOf = (dollars: number): number => Math.round(dollars * 1e8) / 1e4;

function whenOf(
  cell: (c: ExecutionColumn) => string,
  columns: ExecutionMap['columns'],
  dates: DateOrder,
  place: Place,
): When {
  const column = columns.time >= 0 ? 'time' : 'date';
  const counted = instantIn(cell(column));
  const { zone, rest } = zoneIn(cell(column));
  const date = counted?.date ?? dateIn(cell('date'), dates);
  if (date === null)
    throw new Unfit(
      'date',
      `not a date: write 2027-03-09, or ${dates === 'month first' ? '3/9/2027' : '9/3/2027'} with the ${dates}`,
    );
  const at = counted?.at ?? timeIn(rest);
  if (at === null) throw new Unfit(column, 'no time of day: write 09:31:05');
  const when = place(date, at, counted ? 'UTC' : zone);
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

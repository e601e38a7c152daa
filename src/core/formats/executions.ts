// Executions from a table that somebody else wrote, read by its map; and every row that cannot be taken, with the reason.
import { contractOf, isOption, nameOf } from '../instruments/index.ts';
import type { JoinedFrom, KeptOne, TradeRecord, When } from '../review/index.ts';
import { type Money, money, PRICE_SCALE } from '../units/index.ts';
import { type DateOrder, type Decimals, dateIn, instantIn, numberIn, timeIn, zoneIn } from './cells.ts';
import { type ExecutionColumn, type ExecutionMap, plain } from './execution-map.ts';
import { placeIn, sameness } from './identity.ts';

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

const NAMED = /^[A-Z.]{1,6} \d{4}-\d\d-\d\d \d+(?:\.\d+)?(?:\/\d+(?:\.\d+)?)? (?:call|put)$/;
/** The name of what was traded: a symbol, or an option as the OCC writes it. Null for anything else. */
export function instrumentIn(text: string): string | null {
  const t = text.trim().toUpperCase();
  const option = /^([A-Z]{1,6}) *(\d{6}[CP]\d{8})$/.exec(t);
  if (option) {
    const contract = contractOf(`${(option[1] as string).padEnd(6)}${option[2]}`);
    return contract && nameOf(contract);
  }
  if (/^[A-Z][A-Z0-9.\-/]{0,11}$/.test(t)) return t;
  // A contract or a vertical by its name here.
  const named = t.replaceAll('_', ' ').replace(/ (CALL|PUT)$/, (x) => x.toLowerCase());
  return isOption(named) && NAMED.test(named) ? named : null;
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
    const own = x.place !== undefined;
    const key = JSON.stringify(
      own ? [says, x.place] : x.id === '' ? [says, x.order] : [x.account, x.symbol, x.date, x.id],
    );
    const other = seen.get(key);
    if (!other) {
      seen.set(key, { line, says });
      return 'new';
    }
    if (!own && x.id === '') return 'alike';
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
  { columns, dates, decimals, minusIsCost, account }: ExecutionMap,
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
    const told: JoinedFrom = {
      date,
      at,
      id: cell('number') || cell('execution'),
      order: cell('order') || null,
      side,
      role: null,
      qty,
      price: unitsOf(paid),
      liquidity: liquidityIn(cell('liquidity')),
      route: cell('route') || null,
      better: 0,
      costs: { commission: cost('commission'), venue: cost('fees'), sec: NONE, taf: NONE },
      account: cell('account') || account.trim() || 'imported',
      symbol,
      risk: said('risk'),
      exits: { stop: said('stop'), target: said('target') },
    };
    const nth = placeIn(cell('execution'), told);
    // An identity of ours is no number that a file gave.
    return nth === null ? told : { ...told, ...nth, id: cell('number') };
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

/** What is kept of a trade's executions, each as it was before it was parted because it turned the position. */
export const keptOnesOf = (t: Pick<TradeRecord, 'account' | 'symbol' | 'executions'>): KeptOne[] =>
  t.executions
    .filter((x) => x.whole !== 0)
    .map((x) => ({
      says: sameness({ ...x, qty: x.whole ?? x.qty, account: t.account, symbol: t.symbol }),
      id: x.id,
      ...(x.place === undefined ? {} : { place: x.place }),
    }));

import { type BarRow, leastVolume, type OwnBars, type OwnDay, type PlannedPrint } from '../sim/index.ts';
import {
  AFTER_CLOSE,
  fromDollars,
  holidayOn,
  isTradingDay,
  MINUTE,
  PRE_OPEN,
  type Price,
  tickSize,
} from '../units/index.ts';
import { dateIn, timeIn } from './cells.ts';
import { headingRow } from './file-kind.ts';

/** What an imported file's rows are. */
export type ImportKind = 'minute bars' | 'daily bars' | 'prints';

/** Which column holds what, by its number; −1 where there is none. Without a symbol column the file's name is the symbol. */
export interface ColumnMap {
  symbol: number;
  date: number;
  /** Time of day; −1 when the date column has both, or for daily bars. */
  time: number;
  open: number;
  high: number;
  low: number;
  /** Of a bar the close, of a print its price. */
  close: number;
  volume: number;
}

/** A row that cannot be taken, and why. `line` counts from 1 and includes the heading. */
interface BadRow {
  file: string;
  line: number;
  column: string;
  value: string;
  reason: string;
}

export interface ReadTable {
  symbols: OwnDay['symbols'];
  bad: BadRow[];
  good: number;
  /** Prices that were moved to the nearest half tick. */
  rounded: number;
}

const HEADINGS: Record<keyof ColumnMap, readonly string[]> = {
  symbol: ['symbol', 'ticker', 'sym', 'code'],
  date: ['date', 'datetime', 'timestamp', 'day', 'time'],
  time: ['time', 'hour', 'clock'],
  open: ['open', 'o'],
  high: ['high', 'h'],
  low: ['low', 'l'],
  close: ['close', 'c', 'price', 'last'],
  volume: ['volume', 'vol', 'v', 'size', 'qty', 'shares'],
};

/** A first guess of the columns from their headings; the trader corrects it. */
export function guessColumns(headings: readonly string[]): ColumnMap {
  const names = headings.map((h) => h.trim().toLowerCase());
  const find = (key: keyof ColumnMap, not = -1) => {
    for (const word of HEADINGS[key]) {
      const i = names.indexOf(word);
      if (i >= 0 && i !== not) return i;
    }
    return -1;
  };
  const date = find('date');
  return {
    symbol: find('symbol'),
    date,
    time: find('time', date),
    open: find('open'),
    high: find('high'),
    low: find('low'),
    close: find('close'),
    volume: find('volume'),
  };
}

class Unfit extends Error {
  constructor(
    readonly column: keyof ColumnMap,
    readonly reason: string,
  ) {
    super(reason);
  }
}

interface Row {
  symbol: string;
  date: string;
  at: number;
  bar: Omit<BarRow, 'start'>;
}

/** Reads one table into bars; what stands above its headings is not read. Rows that cannot be taken are listed and left out; nothing else is changed but prices off the tick. */
export function readTable(
  file: string,
  rows: readonly (readonly string[])[],
  map: ColumnMap,
  kind: ImportKind,
): ReadTable {
  const out: ReadTable = { symbols: [], bad: [], good: 0, rounded: 0 };
  const above = headingRow(rows);
  const headings = rows[above] ?? [];
  const fallback = file
    .replace(/\.[^.]*$/, '')
    .replace(/[^A-Za-z0-9]/g, '')
    .toUpperCase()
    .slice(0, 6);
  const bySymbol = new Map<string, Map<string, { start: number; bar: BarRow; trades: PlannedPrint[] }[]>>();
  const seen = new Set<string>();
  const tick = (units: number): number => {
    // Trades at the midpoint stand on half a cent.
    const step = Math.max(1, tickSize(units as Price) / 2);
    const near = Math.round(units / step) * step;
    if (near !== units) out.rounded++;
    return near;
  };
  rows.slice(above + 1).forEach((cells, k) => {
    if (cells.every((c) => c.trim() === '')) return;
    try {
      const row = readRow(cells, map, kind, fallback, tick);
      const key = `${row.symbol} ${row.date} ${row.at}`;
      if (kind !== 'prints' && seen.has(key))
        throw new Unfit(
          kind === 'daily bars' ? 'date' : map.time >= 0 ? 'time' : 'date',
          `there is already a bar of ${row.symbol} at this time`,
        );
      seen.add(key);
      const days = bySymbol.get(row.symbol) ?? new Map();
      bySymbol.set(row.symbol, days);
      const list = days.get(row.date) ?? [];
      days.set(row.date, list);
      list.push({
        start: row.at,
        bar: { ...row.bar, start: row.at },
        trades: [{ at: row.at, price: row.bar.close, qty: row.bar.volume }],
      });
      out.good++;
    } catch (e) {
      if (!(e instanceof Unfit)) throw e;
      const column = map[e.column];
      out.bad.push({
        file,
        line: above + k + 2,
        column: headings[column]?.trim() || e.column,
        value: cells[column] ?? '',
        reason: e.reason,
      });
    }
  });
  out.symbols = [...bySymbol].map(([symbol, days]) => ({
    symbol,
    days: [...days].map(([date, list]): OwnBars => {
      list.sort((a, b) => a.start - b.start);
      if (kind === 'daily bars') {
        const [first] = list;
        return { date, minutes: [], daily: first ? first.bar : null };
      }
      return {
        date,
        minutes: kind === 'prints' ? minutesOfPrints(list.flatMap((x) => x.trades)) : list.map((x) => x.bar),
        daily: null,
      };
    }),
  }));
  return out;
}

/** Time of day of a row; a minute bar stands at the start of its minute. */
function timeOf(cell: (c: 'time' | 'date') => string, column: 'time' | 'date', kind: ImportKind): number {
  const t = timeIn(cell(column));
  if (t === null) throw new Unfit(column, 'no time of day: write 09:31 or 09:31:05');
  if (t < PRE_OPEN || t >= AFTER_CLOSE)
    throw new Unfit(column, 'outside the sessions, 04:00 to 20:00 New York time');
  return kind === 'minute bars' ? t - (t % MINUTE) : t;
}

function volumeOf(text: string, kind: ImportKind): number {
  const shares = text.replaceAll(',', '');
  const volume = Number(shares);
  if (shares === '' || !Number.isFinite(volume)) throw new Unfit('volume', 'not a number');
  if (volume < 0 || !Number.isInteger(volume))
    throw new Unfit('volume', 'shares are a whole number, zero or more');
  if (kind === 'daily bars' && volume < 100)
    throw new Unfit('volume', 'a daily bar needs at least 100 shares to be spread over the day');
  if (kind === 'prints' && volume === 0) throw new Unfit('volume', 'a print has at least one share');
  return volume;
}

/** What the numbers of a bar have to be to one another. */
function checkBar(bar: Row['bar'], kind: ImportKind): void {
  const { close, volume } = bar;
  if (bar.high < bar.low) throw new Unfit('high', 'the high is below the low');
  if (bar.open > bar.high || bar.open < bar.low)
    throw new Unfit('open', 'the open lies outside the bar’s high and low');
  if (close > bar.high || close < bar.low)
    throw new Unfit('close', 'the close lies outside the bar’s high and low');
  const need = leastVolume(bar);
  if (kind === 'minute bars' && volume > 0 && volume < need)
    throw new Unfit(
      'volume',
      `${volume} ${volume === 1 ? 'share' : 'shares'} cannot trade at ${need} prices`,
    );
}

function readRow(
  cells: readonly string[],
  map: ColumnMap,
  kind: ImportKind,
  fallback: string,
  tick: (units: number) => number,
): Row {
  const cell = (c: keyof ColumnMap) => (cells[map[c]] ?? '').trim();
  const symbol = map.symbol < 0 ? fallback : cell('symbol').toUpperCase();
  if (!/^[A-Z][A-Z0-9.]{0,5}$/.test(symbol)) throw new Unfit('symbol', 'a symbol has one to six letters');
  const date = dateIn(cell('date'));
  if (!date) throw new Unfit('date', 'not a date: write 2027-03-09, 20270309 or 3/9/2027');
  if (!isTradingDay(date))
    throw new Unfit(
      'date',
      `the exchange is closed on ${date}${holidayOn(date) ? ` (${holidayOn(date)})` : ' (weekend)'}`,
    );
  const at = kind === 'daily bars' ? 0 : timeOf(cell, map.time >= 0 ? 'time' : 'date', kind);
  const price = (c: 'open' | 'high' | 'low' | 'close') => {
    const text = cell(c).replace(/^\$/, '').replaceAll(',', '');
    const n = Number(text);
    if (text === '' || !Number.isFinite(n)) throw new Unfit(c, 'not a number');
    if (n <= 0) throw new Unfit(c, 'a price is above zero');
    if (n > 100_000) throw new Unfit(c, 'above $100,000, the most a book holds');
    return tick(fromDollars(n));
  };
  const close = price('close');
  const bar =
    kind === 'prints'
      ? { open: close, high: close, low: close }
      : { open: price('open'), high: price('high'), low: price('low') };
  const volume = volumeOf(cell('volume'), kind);
  checkBar({ ...bar, close, volume }, kind);
  return { symbol, date, at, bar: { ...bar, close, volume } };
}

/** Prints by minute, so that a day of them is handled like a day of bars. */
function minutesOfPrints(prints: readonly PlannedPrint[]): BarRow[] {
  const out = new Map<number, PlannedPrint[]>();
  for (const p of prints) {
    const start = p.at - (p.at % MINUTE);
    out.set(start, [...(out.get(start) ?? []), p]);
  }
  return [...out].map(([start, trades]) => ({
    start,
    open: (trades[0] as PlannedPrint).price,
    high: Math.max(...trades.map((t) => t.price)),
    low: Math.min(...trades.map((t) => t.price)),
    close: (trades[trades.length - 1] as PlannedPrint).price,
    volume: trades.reduce((a, t) => a + t.qty, 0),
    trades,
  }));
}

/** Several files as one list: the same symbol's days are joined. */
export function joinTables(tables: readonly ReadTable[]): ReadTable {
  const symbols = new Map<string, OwnBars[]>();
  for (const t of tables)
    for (const s of t.symbols) symbols.set(s.symbol, [...(symbols.get(s.symbol) ?? []), ...s.days]);
  return {
    symbols: [...symbols]
      .sort()
      .map(([symbol, days]) => ({ symbol, days: days.sort((a, b) => (a.date < b.date ? -1 : 1)) })),
    bad: tables.flatMap((t) => t.bad),
    good: tables.reduce((a, t) => a + t.good, 0),
    rounded: tables.reduce((a, t) => a + t.rounded, 0),
  };
}

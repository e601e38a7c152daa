import { csv } from './csv.ts';

/** One line of a watchlist. `grade` is A, B, C or nothing. */
export interface WatchRow {
  symbol: string;
  grade: '' | 'A' | 'B' | 'C';
  note: string;
}

/** A watchlist as CSV: symbol, grade, note. */
export const watchlistCsv = (rows: readonly WatchRow[]): string =>
  csv([['symbol', 'grade', 'note'], ...rows.map((r) => [r.symbol, r.grade, r.note])]);

/**
 * Reads the cells of a CSV as a watchlist. With a head that names a symbol column, that column and
 * those called grade and note are read; without one, the first column. Every symbol is kept once,
 * whether it trades or not.
 * @returns the rows, and each line that holds no symbol with what stood there.
 */
export function readWatchlist(cells: readonly (readonly string[])[]): {
  rows: WatchRow[];
  bad: { line: number; value: string }[];
} {
  const heads = cells[0]?.map((c) => c.trim().toLowerCase()) ?? [];
  const named = heads.findIndex((h) => h === 'symbol' || h === 'ticker' || h === 'code');
  const at = {
    symbol: Math.max(0, named),
    grade: named < 0 ? -1 : heads.indexOf('grade'),
    note: named < 0 ? -1 : heads.indexOf('note'),
  };
  const rows: WatchRow[] = [];
  const bad: { line: number; value: string }[] = [];
  cells.forEach((line, k) => {
    if ((named >= 0 && k === 0) || line.every((c) => c.trim() === '')) return;
    const symbol = (line[at.symbol] ?? '').trim().toUpperCase();
    if (!/^[A-Z]{1,5}$/.test(symbol)) {
      bad.push({ line: k + 1, value: line[at.symbol] ?? '' });
      return;
    }
    if (rows.some((r) => r.symbol === symbol)) return;
    const grade = (line[at.grade] ?? '').trim().toUpperCase();
    // A note that our own file guarded against formulas comes back as it was.
    const note = (line[at.note] ?? '').replace(/^'(?=[=+\-@\t\r])/, '');
    rows.push({ symbol, grade: grade === 'A' || grade === 'B' || grade === 'C' ? grade : '', note });
  });
  return { rows, bad };
}

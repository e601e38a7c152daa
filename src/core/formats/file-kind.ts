/** What a file is called by the look of its first and last bytes, where it cannot be read as a table. */

const PARQUET = [0x50, 0x41, 0x52, 0x31];
const isAt = (bytes: Uint8Array, from: number): boolean => PARQUET.every((b, k) => bytes[from + k] === b);
/** Tab, line feed, form feed and carriage return are in texts; other control characters are not. */
const isControl = (b: number): boolean => b < 32 && b !== 9 && b !== 10 && b !== 12 && b !== 13;

/**
 * Why a file cannot be a table, in words, or null where it may be one.
 * @param head its first bytes, some thousands or all.
 * @param tail its last four.
 */
export function notATable(name: string, head: Uint8Array, tail: Uint8Array): string | null {
  if (head.length === 0) return `${name} is empty: a table has a line of headings and rows beneath it.`;
  if (/\.parquet$/i.test(name))
    return isAt(head, 0) && isAt(tail, 0)
      ? null
      : `${name} is no whole Parquet file: such a file starts and ends with the letters PAR1. Export it again, or as CSV.`;
  if (head.some(isControl))
    return `${name} is no table: it holds bytes that are no text. CSV and Parquet can be read.`;
  return null;
}

/** More columns than any table of bars or executions has: choosing among them would be no help. */
export const MOST_COLUMNS = 500;
/** Lines that may stand above the headings: a title, a date, an account. */
const MOST_ABOVE = 20;

/** The row of headings of a table, from 0: the first that has more than one cell. */
export const headingRow = (rows: readonly (readonly string[])[]): number =>
  Math.max(
    0,
    rows.slice(0, MOST_ABOVE).findIndex((r) => r.filter((c) => c.trim() !== '').length > 1),
  );

/** How a text is encoded by its first two bytes, where it is not UTF-8. */
export const encodingOf = ([a, b]: Uint8Array): 'utf-16le' | 'utf-16be' | null =>
  a === 0xff && b === 0xfe ? 'utf-16le' : a === 0xfe && b === 0xff ? 'utf-16be' : null;

/** Said of a table that is too wide. */
export const tooWide = (name: string, columns: number): string =>
  `${name} has ${columns.toLocaleString('en-US')} columns; at most ${MOST_COLUMNS} can be read. Take out those that say nothing of time, symbol, price or size.`;

/** Why the rows of a file are no table, in words, or null. */
export function noRows(name: string, all: readonly (readonly string[])[]): string | null {
  const rows = all.slice(headingRow(all));
  const [heading = []] = rows;
  if (heading.length > MOST_COLUMNS) return tooWide(name, heading.length);
  if (heading.filter((c) => c.trim() !== '').length < 2)
    return `${name} has no columns: its first line should name them, with commas, semicolons or tabs between (date, time, open, high, low, close, volume).`;
  if (!rows.slice(1).some((r) => r.some((c) => c.trim() !== '')))
    return `${name} has headings but no rows beneath them.`;
  return null;
}

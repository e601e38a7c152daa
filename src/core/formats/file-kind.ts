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

/** Why the rows of a file are no table, in words, or null. */
export function noRows(name: string, rows: readonly (readonly string[])[]): string | null {
  const [heading = []] = rows;
  if (heading.filter((c) => c.trim() !== '').length < 2)
    return `${name} has no columns: its first line should name them, with commas, semicolons or tabs between (date, time, open, high, low, close, volume).`;
  if (!rows.slice(1).some((r) => r.some((c) => c.trim() !== '')))
    return `${name} has headings but no rows beneath them.`;
  return null;
}

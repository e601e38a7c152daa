// A file as a table of text cells, whatever it is written in.
import { parquetReadObjects } from 'hyparquet';
import Papa from 'papaparse';
import {
  encodingOf,
  MOST_COLUMNS,
  noRows,
  notATable,
  rowsOfJsonLines,
  tooWide,
} from '../../core/formats/index.ts';

/** Larger files would not fit into a tab's memory beside the market. */
const MOST_BYTES = 200_000_000;
/** Rows that are looked at before it is known what they are. */
export const LOOK_ROWS = 40;
const HEAD_BYTES = 4_096;
const LOOK_BYTES = 200_000;

/** Hears how far reading has come, in bytes. */
export type Progress = (file: string, done: number, of: number) => void;

/** @throws Error in words for a file that would not fit. */
export function tooLarge(file: File): void {
  if (file.size > MOST_BYTES)
    throw new Error(
      `${file.name} has ${Math.round(file.size / 1e6)} MB; at most ${MOST_BYTES / 1e6} MB can be read. Split it by symbol or month.`,
    );
}

/** The first rows of a file as text cells, the heading first. */
export async function rowsOf(given: File, most: number, tell: Progress): Promise<string[][]> {
  tooLarge(given);
  const bytes = async (part: Blob) => new Uint8Array(await part.arrayBuffer());
  const encoding = encodingOf(await bytes(given.slice(0, 2)));
  const file = encoding
    ? new File([new TextDecoder(encoding).decode(await given.arrayBuffer())], given.name)
    : given;
  const [head, tail] = [await bytes(file.slice(0, HEAD_BYTES)), await bytes(file.slice(-4))];
  const wrong = notATable(file.name, head, tail);
  if (wrong) throw new Error(wrong);
  const rows = await (/\.parquet$/i.test(file.name)
    ? fromParquet(file, most, tell)
    : /\.(jsonl|ndjson)$/i.test(file.name)
      ? fromJsonLines(file, most, tell)
      : fromCsv(file, most, tell));
  const none = noRows(file.name, rows);
  if (none) throw new Error(none);
  return rows;
}

function fromCsv(file: File, most: number, tell: Progress): Promise<string[][]> {
  return new Promise((resolve, reject) => {
    const rows: string[][] = [];
    Papa.parse<string[]>(file, {
      skipEmptyLines: false,
      ...(Number.isFinite(most) ? { preview: most } : {}),
      chunk(part, parser) {
        // What follows a quote that is never closed would be one cell.
        const open = part.errors.find((e) => e.code === 'MissingQuotes');
        if (open) {
          reject(
            new Error(
              `${file.name} has a quote in row ${rows.length + (open.row ?? 0) + 1} that is never closed, so nothing after it can be told apart. Close it, or take it away.`,
            ),
          );
          return parser.abort();
        }
        const wide = part.data.find((row) => row.length > MOST_COLUMNS);
        if (wide) {
          reject(new Error(tooWide(file.name, wide.length)));
          return parser.abort();
        }
        for (const row of part.data) rows.push(row);
        tell(file.name, part.meta.cursor, file.size);
      },
      complete: () => resolve(rows),
      error: (e) => reject(new Error(`${file.name} could not be read: ${e.message}`)),
    });
  });
}

async function fromParquet(file: File, most: number, tell: Progress): Promise<string[][]> {
  tell(file.name, 0, file.size);
  const found = await parquetReadObjects({
    file: await file.arrayBuffer(),
    ...(Number.isFinite(most) ? { rowEnd: most - 1 } : {}),
  }).catch((e: unknown) => {
    throw new Error(
      `${file.name} is a Parquet file that cannot be read: it is damaged, or packed in a way that is not known here. Export it again without compression, or as CSV.`,
      { cause: e },
    );
  });
  const headings = Object.keys(found[0] ?? {});
  return [headings, ...found.map((row) => headings.map((h) => asText(row[h])))];
}

/** One object a line; the columns are the names in the first of them. */
async function fromJsonLines(file: File, most: number, tell: Progress): Promise<string[][]> {
  tell(file.name, 0, file.size);
  return rowsOfJsonLines(
    file.name,
    await (most <= LOOK_ROWS ? file.slice(0, LOOK_BYTES) : file).text(),
    most,
  );
}

/** A timestamp column of Parquet comes as a date in universal time; it is taken as New York time, as files of bars usually are. */
function asText(v: unknown): string {
  if (v instanceof Date) return v.toISOString().replace('Z', '');
  return v === null || v === undefined ? '' : String(v);
}

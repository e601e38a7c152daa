import { parquetReadObjects } from 'hyparquet';
import Papa from 'papaparse';
import {
  joinTables,
  noRows,
  notATable,
  type ReadTable,
  readTable,
  rowsOfJsonLines,
} from '../core/formats/index.ts';
import type { ImportAnswer, ImportRequest } from './import-protocol.ts';

/** Larger files would not fit into a tab's memory beside the market. */
const MOST_BYTES = 200_000_000;
const LOOK_ROWS = 6;
const HEAD_BYTES = 4_096;
const LOOK_BYTES = 200_000;

const tell = (m: ImportAnswer) => postMessage(m);

self.onmessage = (e: MessageEvent<ImportRequest>) => {
  obey(e.data).catch((error: unknown) =>
    tell({ kind: 'failed', message: error instanceof Error ? error.message : String(error) }),
  );
};

async function obey(r: ImportRequest): Promise<void> {
  if (r.kind === 'look') {
    tell({ kind: 'looked', rows: await rowsOf(r.file, LOOK_ROWS) });
    return;
  }
  const tables: ReadTable[] = [];
  for (const file of r.files)
    tables.push(readTable(file.name, await rowsOf(file, Number.POSITIVE_INFINITY), r.map, r.as));
  tell({ kind: 'read', table: joinTables(tables) });
}

/** The first rows of a file as text cells, the heading first. */
async function rowsOf(file: File, most: number): Promise<string[][]> {
  if (file.size > MOST_BYTES)
    throw new Error(
      `${file.name} has ${Math.round(file.size / 1e6)} MB; at most ${MOST_BYTES / 1e6} MB can be read. Split it by symbol or month.`,
    );
  const bytes = async (part: Blob) => new Uint8Array(await part.arrayBuffer());
  const [head, tail] = [await bytes(file.slice(0, HEAD_BYTES)), await bytes(file.slice(-4))];
  const wrong = notATable(file.name, head, tail);
  if (wrong) throw new Error(wrong);
  const rows = await (/\.parquet$/i.test(file.name)
    ? fromParquet(file, most)
    : /\.(jsonl|ndjson)$/i.test(file.name)
      ? fromJsonLines(file, most)
      : fromCsv(file, most));
  const none = noRows(file.name, rows);
  if (none) throw new Error(none);
  return rows;
}

function fromCsv(file: File, most: number): Promise<string[][]> {
  return new Promise((resolve, reject) => {
    const rows: string[][] = [];
    Papa.parse<string[]>(file, {
      skipEmptyLines: false,
      ...(Number.isFinite(most) ? { preview: most } : {}),
      chunk(part) {
        for (const row of part.data) rows.push(row);
        tell({ kind: 'progress', file: file.name, done: part.meta.cursor, of: file.size });
      },
      complete: () => resolve(rows),
      error: (e) => reject(new Error(`${file.name} could not be read: ${e.message}`)),
    });
  });
}

async function fromParquet(file: File, most: number): Promise<string[][]> {
  tell({ kind: 'progress', file: file.name, done: 0, of: file.size });
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
async function fromJsonLines(file: File, most: number): Promise<string[][]> {
  tell({ kind: 'progress', file: file.name, done: 0, of: file.size });
  return rowsOfJsonLines(
    file.name,
    await (most === LOOK_ROWS ? file.slice(0, LOOK_BYTES) : file).text(),
    most,
  );
}

/** A timestamp column of Parquet comes as a date in universal time; it is taken as New York time, as files of bars usually are. */
function asText(v: unknown): string {
  if (v instanceof Date) return v.toISOString().replace('Z', '');
  return v === null || v === undefined ? '' : String(v);
}

// Rows as bytes of a file, piece by piece.
import { ByteWriter, ParquetWriter, schemaFromColumnData } from 'hyparquet-writer';
import Papa from 'papaparse';
import type { Format } from './asked.ts';
import type { Cell, Column } from './tables.ts';

/** Makes the bytes of one file. */
interface Encoder {
  head(): Uint8Array;
  rows(rows: readonly (readonly Cell[])[]): Uint8Array;
  end(): Uint8Array;
}

export const MEDIA_TYPES: Readonly<Record<Format, string>> = {
  csv: 'text/csv; charset=utf-8',
  jsonl: 'application/jsonl; charset=utf-8',
  parquet: 'application/vnd.apache.parquet',
};

const NOTHING = new Uint8Array();
const utf8 = new TextEncoder();

function csv(columns: readonly Column[]): Encoder {
  const lines = (rows: Cell[][]) => utf8.encode(`${Papa.unparse(rows, { newline: '\n' })}\n`);
  return {
    head: () => lines([columns.map((c) => c.name)]),
    rows: (rows) => (rows.length === 0 ? NOTHING : lines(rows as Cell[][])),
    end: () => NOTHING,
  };
}

function jsonl(columns: readonly Column[]): Encoder {
  return {
    head: () => NOTHING,
    rows: (rows) =>
      utf8.encode(
        rows
          .map(
            (row) =>
              `${JSON.stringify(Object.fromEntries(columns.map((c, k) => [c.name, row[k] ?? null])))}\n`,
          )
          .join(''),
      ),
    end: () => NOTHING,
  };
}

const PARQUET_TYPES = { text: 'STRING', number: 'DOUBLE', integer: 'INT64' } as const;
/** Counts may be beyond 32 bits: some companies have billions of shares. */
const parquetCell = (cell: Cell, type: Column['type']) =>
  type === 'integer' && typeof cell === 'number' ? BigInt(cell) : cell;
/** Rows of one group in a Parquet file: many small symbols share one. */
const GROUP = 50_000;

function parquet(columns: readonly Column[]): Encoder {
  const writer = new ByteWriter();
  const dataOf = (rows: readonly (readonly Cell[])[]) =>
    columns.map(({ name, type }, k) => ({
      name,
      type: PARQUET_TYPES[type],
      data: rows.map((r) => parquetCell(r[k] ?? null, type)),
    }));
  const file = new ParquetWriter({ writer, schema: schemaFromColumnData({ columnData: dataOf([]) }) });
  let waiting: (readonly Cell[])[] = [];
  const taken = (): Uint8Array => {
    const bytes = writer.getBytes().slice();
    writer.index = 0;
    return bytes;
  };
  const flush = () => {
    if (waiting.length > 0)
      void file.write({
        columnData: dataOf(waiting).map(({ type: _, ...c }) => c),
        rowGroupSize: waiting.length,
      });
    waiting = [];
  };
  return {
    head: taken,
    rows(rows) {
      waiting = waiting.length === 0 ? [...rows] : waiting.concat(rows);
      if (waiting.length >= GROUP) flush();
      return taken();
    },
    end() {
      flush();
      void file.finish();
      return taken();
    },
  };
}

const ENCODERS = { csv, jsonl, parquet };

/** What writes rows of these columns in a format. */
export const encoderOf = (format: Format, columns: readonly Column[]): Encoder => ENCODERS[format](columns);

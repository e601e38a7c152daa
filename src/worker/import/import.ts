import {
  type ColumnMap,
  headingRow,
  type ImportKind,
  joinTables,
  type ReadTable,
  readTable,
} from '../../core/formats/index.ts';
import type { Jobs } from '../call/serve.ts';
import { LOOK_ROWS, rowsOf } from '../rows/table-rows.ts';

export type ImportRequest =
  /** The heading and the first rows of a file. */
  | { kind: 'look'; file: File }
  /** Files as bars; rows that cannot be taken are listed in the answer. */
  | { kind: 'read'; files: File[]; map: ColumnMap; as: ImportKind };
export interface ImportAnswers {
  look: string[][];
  read: ReadTable;
}
/** The file that is being read, and which share of it has been. */
export interface ImportProgress {
  file: string;
  part: number;
}

/** Reads the trader's own market data; nothing is kept. */
export const importJobs: Jobs<ImportRequest, ImportAnswers, ImportProgress> = {
  async look({ file }) {
    const rows = await rowsOf(file, LOOK_ROWS, () => {});
    return rows.slice(headingRow(rows));
  },
  async read({ files, map, as }, progress) {
    const tables: ReadTable[] = [];
    for (const file of files) {
      const rows = await rowsOf(file, Number.POSITIVE_INFINITY, (name, done, of) =>
        progress({ file: name, part: of === 0 ? 1 : done / of }),
      );
      tables.push(readTable(file.name, rows, map, as));
    }
    return joinTables(tables);
  },
};

import type { ColumnMap, ImportKind, ReadTable } from '../core/formats/index.ts';

/** What the import worker is asked: to look at the first rows, or to read everything. */
export type ImportRequest =
  | { kind: 'look'; file: File }
  | { kind: 'read'; files: File[]; map: ColumnMap; as: ImportKind };

/** What it says: progress in bytes, then one result or one failure. */
export type ImportAnswer =
  | { kind: 'looked'; rows: string[][] }
  | { kind: 'progress'; file: string; done: number; of: number }
  | { kind: 'read'; table: ReadTable }
  | { kind: 'failed'; message: string };

import { headingRow, joinTables, type ReadTable, readTable } from '../core/formats/index.ts';
import type { ImportAnswer, ImportRequest } from './import-protocol.ts';
import { LOOK_ROWS, rowsOf } from './table-rows.ts';

const tell = (m: ImportAnswer) => postMessage(m);
const progress = (file: string, done: number, of: number) => tell({ kind: 'progress', file, done, of });

self.onmessage = (e: MessageEvent<ImportRequest>) => {
  obey(e.data).catch((error: unknown) =>
    tell({ kind: 'failed', message: error instanceof Error ? error.message : String(error) }),
  );
};

async function obey(r: ImportRequest): Promise<void> {
  if (r.kind === 'look') {
    const rows = await rowsOf(r.file, LOOK_ROWS, progress);
    tell({ kind: 'looked', rows: rows.slice(headingRow(rows)) });
    return;
  }
  const tables: ReadTable[] = [];
  for (const file of r.files)
    tables.push(readTable(file.name, await rowsOf(file, Number.POSITIVE_INFINITY, progress), r.map, r.as));
  tell({ kind: 'read', table: joinTables(tables) });
}

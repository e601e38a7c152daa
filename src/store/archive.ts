// The whole app as one file: a header, one line of JSON for every record, and a last line that says how many there are, packed with gzip.
import type { IDBPDatabase } from 'idb';
import { tagged } from '../core/formats/index.ts';
import {
  FORMAT,
  type Line,
  type Names,
  opened,
  PIECE,
  type Progress,
  REAL,
  STORES,
  VERSION,
} from './archive-places.ts';
import { KEYED_APART } from './shapes.ts';

/** Writes everything. `made` is the date and time of the wall. */
export async function writeArchive(
  made: string,
  progress: Progress = () => {},
  names: Names = REAL,
): Promise<Blob> {
  const dbs = await opened(names);
  const packer = new CompressionStream('gzip');
  const blob = new Response(packer.readable).blob();
  const writer = packer.writable.getWriter();
  const encoder = new TextEncoder();
  const write = (x: unknown) => writer.write(encoder.encode(`${JSON.stringify(x)}\n`));
  const places = Object.entries(STORES).flatMap(([name, stores]) => stores.map((store) => ({ name, store })));
  let [all, done] = [0, 0];
  for (const { name, store } of places) all += (await dbs[name]?.count(store)) ?? 0;
  await write({ format: FORMAT, version: VERSION, made });
  for (const { name, store } of places)
    for await (const { keys, values } of piecesOf(dbs[name] as IDBPDatabase, store)) {
      for (const [k, value] of values.entries()) {
        const line: Line = { db: name, store, value: tagged(value) };
        await write(KEYED_APART.has(store) ? { ...line, key: keys[k] } : line);
      }
      done += keys.length;
      progress(done / Math.max(1, all));
    }
  for (const db of Object.values(dbs)) db.close();
  await write({ end: done });
  await writer.close();
  return new Blob([await blob], { type: 'application/gzip' });
}

/** All records of a store with their keys, some at a time. */
async function* piecesOf(db: IDBPDatabase, store: string) {
  let last: IDBValidKey | null = null;
  for (;;) {
    const range: IDBKeyRange | null = last === null ? null : IDBKeyRange.lowerBound(last, true);
    const [keys, values] = await Promise.all([
      db.getAllKeys(store, range, PIECE),
      db.getAll(store, range, PIECE),
    ]);
    yield { keys, values };
    if (keys.length < PIECE) return;
    last = keys[keys.length - 1] as IDBValidKey;
  }
}

// What an archive is made of, for who writes it, reads it, or takes it in.
import { deleteDB, type IDBPDatabase, openDB } from 'idb';
import { openTables } from './migrations.ts';
import { openRehearsals } from './rehearsals.ts';
import { KEYED_APART } from './shapes.ts';

export const FORMAT = 'keen-fox archive';
export const VERSION = 1;
const MAIN = 'keen-fox';
const REHEARSALS = 'keen-fox-rehearsals';
/** Databases and their stores. */
export const STORES: Readonly<Record<string, readonly string[]>> = {
  [MAIN]: [
    'attempts',
    'entries',
    'own',
    'keep',
    'settings',
    'past',
    'trades',
    'remarks',
    'imports',
    'afters',
    'pictures',
    'pages',
    'mappings',
  ],
  [REHEARSALS]: ['rehearsals', 'days', 'members', 'draft'],
};
/** Records that are read or written at once. */
export const PIECE = 400;

/** Hears a share from 0 to 1. */
export type Progress = (part: number) => void;

/** One record of an archive. */
export interface Line {
  db: string;
  store: string;
  key?: IDBValidKey;
  value: unknown;
}

/** What the databases are called here: others in tests. */
export type Names = Record<typeof MAIN | typeof REHEARSALS, string>;
export const REAL: Names = { [MAIN]: MAIN, [REHEARSALS]: REHEARSALS };

/** The databases of an archive, brought to their versions of now. */
export async function opened(names: Names): Promise<Record<string, IDBPDatabase>> {
  (await openTables(names[MAIN])).close();
  (await openRehearsals(names[REHEARSALS])).close();
  return { [MAIN]: await openDB(names[MAIN]), [REHEARSALS]: await openDB(names[REHEARSALS]) };
}

/** How far the taking in of an archive has come: laid ready, what was here copied, written; then the next start settles it. */
export interface Incoming {
  how: Taking;
  step: 'ready' | 'copied' | 'written';
}

/** Where it is said that an archive lies ready. Said last: what has no word here was not laid ready to its end. */
export const openIncoming = (names: Names): Promise<IDBPDatabase> =>
  openDB(incomingName(names), 2, {
    upgrade(fresh, from) {
      if (from === 1) for (const s of [...fresh.objectStoreNames]) fresh.deleteObjectStore(s);
      fresh.createObjectStore('state');
    },
  });
export const incomingName = (names: Names): string => `${names[MAIN]}-incoming`;

const beside = (names: Names, tail: string): Names => ({
  [MAIN]: `${names[MAIN]}-${tail}`,
  [REHEARSALS]: `${names[REHEARSALS]}-${tail}`,
});
/** Where what an archive holds lies until the app starts again. */
export const comingNames = (names: Names): Names => beside(names, 'coming');
/** Where what was here lies until what came in has started once. */
export const beforeNames = (names: Names): Names => beside(names, 'before');

/** Takes databases away. */
export async function drop(names: Names): Promise<void> {
  for (const name of Object.values(names)) await deleteDB(name);
}

/** Every record under some names, as lines of an archive. */
export async function linesOf(names: Names): Promise<Line[]> {
  const dbs = await opened(names);
  const out: Line[] = [];
  for (const [db, stores] of Object.entries(STORES))
    for (const store of stores) {
      const from = dbs[db] as IDBPDatabase;
      const tx = from.transaction(store);
      const [keys, values] = await Promise.all([tx.store.getAllKeys(), tx.store.getAll()]);
      values.forEach((value: unknown, k) => {
        out.push({ db, store, value, ...(KEYED_APART.has(store) ? { key: keys[k] as IDBValidKey } : {}) });
      });
    }
  for (const db of Object.values(dbs)) db.close();
  return out;
}

/** Writes records under some names, each database in one step; `clear`: in place of what is there. */
export async function putLines(
  names: Names,
  lines: readonly Line[],
  clear: boolean,
  progress: Progress = () => {},
): Promise<void> {
  const dbs = await opened(names);
  let done = 0;
  try {
    for (const [name, stores] of Object.entries(STORES)) {
      const put = lines.filter((l) => l.db === name);
      const tx = (dbs[name] as IDBPDatabase).transaction(stores as string[], 'readwrite', {
        durability: 'strict',
      });
      // A write that fails ends the step, and is told by it.
      tx.done.catch(() => {});
      if (clear) for (const s of stores) void tx.objectStore(s).clear();
      for (let k = 0; k < put.length; k += PIECE) {
        progress(done / Math.max(1, lines.length));
        const piece = put.slice(k, k + PIECE);
        await Promise.all(piece.map(({ store, value, key }) => tx.objectStore(store).put(value, key)));
        done += piece.length;
      }
      await tx.done;
    }
  } finally {
    for (const db of Object.values(dbs)) db.close();
  }
}

/** Whether an archive takes the place of what is there, or joins it. */
export type Taking = 'replace' | 'merge';

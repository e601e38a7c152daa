// What an archive is made of, for who writes it, reads it, or takes it in.
import { type IDBPDatabase, openDB } from 'idb';
import { openTables } from './migrations.ts';
import { openRehearsals } from './rehearsals.ts';

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
/** Records of these have their key beside them. */
export const KEYED_APART: ReadonlySet<string> = new Set(['keep', 'settings', 'members', 'draft']);
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

/** Where an archive lies ready until the app starts again. */
export const openIncoming = (names: Names): Promise<IDBPDatabase> =>
  openDB(incomingName(names), 1, {
    upgrade(fresh) {
      fresh.createObjectStore('lines', { autoIncrement: true });
      // Said last: what has no word here was not laid ready to its end.
      fresh.createObjectStore('how');
    },
  });
export const incomingName = (names: Names): string => `${names[MAIN]}-incoming`;

/** Whether an archive takes the place of what is there, or joins it. */
export type Taking = 'replace' | 'merge';

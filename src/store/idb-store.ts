import type { IDBPDatabase } from 'idb';
import type { LogEntry, SavedSession } from '../session/log.ts';
import type { Store } from '../session/ports.ts';
import { openStore, type Schema } from './migrations.ts';
import { sound } from './shapes.ts';

const strict = { durability: 'strict' } as const;
/** Works on the connection. */
type On = <T>(work: (db: IDBPDatabase<Schema>) => Promise<T>) => Promise<T>;

/** The store in IndexedDB, on one connection, which is made anew where the browser cuts it. Every write is one transaction and resolves when it is durable. */
export async function idbStore(name = 'keen-fox'): Promise<Store & { close(): Promise<void> }> {
  let open: Promise<IDBPDatabase<Schema>> | null = null;
  const connection = (): Promise<IDBPDatabase<Schema>> => {
    open ??= openStore(name, () => {
      open = null;
    }).catch((e: unknown) => {
      open = null;
      throw e;
    });
    return open;
  };
  await connection();
  /** Works on the connection; one that is being cut is not used again. */
  async function on<T>(work: (db: IDBPDatabase<Schema>) => Promise<T>): Promise<T> {
    const db = await connection();
    try {
      return await work(db);
    } catch (e) {
      if (e instanceof Error && e.name === 'InvalidStateError') open = null;
      throw e;
    }
  }
  return { close: async () => (await open)?.close(), ...attemptStore(on), ...besideAttempts(on) };
}

type OfAttempts = 'load' | 'append' | 'save' | 'beat' | 'begin' | 'note' | 'attempts' | 'log';

/** Attempts: their logs and states, and the one that is under way. */
function attemptStore(on: On): Pick<Store, OfAttempts> {
  const logOf = (attempt: number): Promise<LogEntry[]> =>
    on(async (db) =>
      (await db.getAll('entries', IDBKeyRange.bound([attempt, 0], [attempt, Number.MAX_SAFE_INTEGER]))).map(
        ({ attempt: _, ...entry }) => entry,
      ),
    );
  return {
    load: () =>
      on(async (db) => {
        const tx = db.transaction(['keep', 'attempts']);
        const keep = tx.objectStore('keep');
        const [current, saved, heartbeat] = await Promise.all([
          keep.get('current'),
          keep.get('session'),
          keep.get('heartbeat'),
        ]);
        const attempt =
          current === undefined ? undefined : await tx.objectStore('attempts').get(current as number);
        return {
          attempt: attempt ?? null,
          saved: (saved as SavedSession | undefined) ?? null,
          log: attempt ? await logOf(attempt.id) : [],
          heartbeat: (heartbeat as number | undefined) ?? null,
        };
      }),
    append: (attempt, entries, trades = []) =>
      on(async (db) => {
        const tx = db.transaction(['entries', 'trades'], 'readwrite', strict);
        for (const entry of entries) tx.objectStore('entries').put({ ...entry, attempt });
        for (const trade of trades) tx.objectStore('trades').put(trade);
        await tx.done;
      }),
    save: (state) =>
      on(async (db) => {
        await db.put('keep', state, 'session');
      }),
    beat: (now) =>
      on(async (db) => {
        await db.put('keep', now, 'heartbeat');
      }),
    begin: (attempt, log) =>
      on(async (db) => {
        const tx = db.transaction(['keep', 'attempts', 'entries'], 'readwrite', strict);
        const keep = tx.objectStore('keep');
        tx.objectStore('attempts').put(attempt);
        for (const entry of log) tx.objectStore('entries').put({ ...entry, attempt: attempt.id });
        keep.put(attempt.id, 'current');
        keep.delete('session');
        // Whoever loads the page again at once is where he went back to.
        if (attempt.from) keep.put(attempt.reached, 'heartbeat');
        else keep.delete('heartbeat');
        await tx.done;
      }),
    note: (attempt) =>
      on(async (db) => {
        await db.put('attempts', attempt);
      }),
    attempts: () => on(async (db) => sound('attempts', await db.getAll('attempts'))),
    log: logOf,
  };
}

/** Own days, settings, and sessions of earlier versions. */
const besideAttempts = (on: On): Omit<Store, OfAttempts> => ({
  ownDays: () => on(async (db) => sound('own', await db.getAll('own'))),
  keepOwnDay: (day) =>
    on(async (db) => {
      await db.put('own', day);
    }),
  dropOwnDay: (id) =>
    on(async (db) => {
      await db.delete('own', id);
    }),
  settings: () => on((db) => db.get('settings', 'settings')),
  keepSettings: (settings) =>
    on(async (db) => {
      const tx = db.transaction('settings', 'readwrite', strict);
      tx.store.put(settings, 'settings');
      await tx.done;
    }),
  past: () => on(async (db) => sound('past', await db.getAll('past'))),
  putAside: () =>
    on(async (db) => {
      const tx = db.transaction('past', 'readwrite');
      const fresh = (await tx.store.getAll()).filter((p) => !p.told);
      for (const p of fresh) tx.store.put({ ...p, told: true });
      await tx.done;
      return fresh;
    }),
  setAside: (what) =>
    on(async (db) => {
      const tx = db.transaction(['keep', 'past'], 'readwrite', strict);
      tx.objectStore('past').put({ ...what, told: false });
      tx.objectStore('keep').clear();
      await tx.done;
    }),
});

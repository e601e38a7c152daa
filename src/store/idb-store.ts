import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import type { OwnDay } from '../core/sim/index.ts';
import type { AttemptInfo, LogEntry, SavedSession } from '../session/log.ts';
import type { Store } from '../session/ports.ts';

type Kept = LogEntry & { attempt: number };

interface Schema extends DBSchema {
  entries: { key: [number, number]; value: Kept };
  attempts: { key: number; value: AttemptInfo };
  own: { key: string; value: OwnDay };
  /** `session`: the last whole state; `heartbeat`: the time it had reached; `current`: the attempt under way. */
  keep: { key: 'session' | 'heartbeat' | 'current'; value: SavedSession | number };
}

/**
 * The store in IndexedDB. Every write is one transaction and resolves when it is durable. Version 2
 * keeps attempts; a session of version 1 ran on another market and cannot be gone on with, so its
 * log is kept as attempt 0, to be read, and a new one begins.
 */
export async function idbStore(name = 'keen-fox'): Promise<Store> {
  const db: IDBPDatabase<Schema> = await openDB<Schema>(name, 2, {
    async upgrade(fresh, from, _to, tx) {
      fresh.createObjectStore('entries', { keyPath: ['attempt', 'seq'] });
      fresh.createObjectStore('attempts', { keyPath: 'id' });
      fresh.createObjectStore('own', { keyPath: 'id' });
      if (from === 0) {
        fresh.createObjectStore('keep');
        return;
      }
      const old = tx as unknown as { objectStore(name: string): { getAll(): Promise<LogEntry[]> } };
      const log = await old.objectStore('log').getAll();
      for (const e of log) await tx.objectStore('entries').put({ ...e, attempt: 0 });
      const reached = log[log.length - 1]?.at ?? 0;
      if (log.length > 0)
        await tx.objectStore('attempts').put({ id: 0, day: { kind: 'practice', id: 'gap-and-go', seed: 7 }, from: null, reached, net: 0, r: 0, trades: 0 });
      await tx.objectStore('keep').clear();
      (fresh as unknown as IDBDatabase).deleteObjectStore('log');
    },
  });
  const strict = { durability: 'strict' } as const;
  const logOf = async (attempt: number): Promise<LogEntry[]> =>
    (await db.getAll('entries', IDBKeyRange.bound([attempt, 0], [attempt, Number.MAX_SAFE_INTEGER]))).map(({ attempt: _, ...entry }) => entry);
  return {
    async load() {
      const tx = db.transaction(['keep', 'attempts']);
      const keep = tx.objectStore('keep');
      const [current, saved, heartbeat] = await Promise.all([keep.get('current'), keep.get('session'), keep.get('heartbeat')]);
      const attempt = current === undefined ? undefined : await tx.objectStore('attempts').get(current as number);
      return {
        attempt: attempt ?? null,
        saved: (saved as SavedSession | undefined) ?? null,
        log: attempt ? await logOf(attempt.id) : [],
        heartbeat: (heartbeat as number | undefined) ?? null,
      };
    },
    async append(attempt, entries) {
      const tx = db.transaction('entries', 'readwrite', strict);
      for (const entry of entries) tx.store.put({ ...entry, attempt });
      await tx.done;
    },
    async save(state) {
      await db.put('keep', state, 'session');
    },
    async beat(now) {
      await db.put('keep', now, 'heartbeat');
    },
    async begin(attempt, log) {
      const tx = db.transaction(['keep', 'attempts', 'entries'], 'readwrite', strict);
      const keep = tx.objectStore('keep');
      tx.objectStore('attempts').put(attempt);
      for (const entry of log) tx.objectStore('entries').put({ ...entry, attempt: attempt.id });
      keep.put(attempt.id, 'current');
      keep.delete('session');
      keep.delete('heartbeat');
      await tx.done;
    },
    async note(attempt) {
      await db.put('attempts', attempt);
    },
    attempts: () => db.getAll('attempts'),
    log: logOf,
    ownDays: () => db.getAll('own'),
    async keepOwnDay(day) {
      await db.put('own', day);
    },
    async dropOwnDay(id) {
      await db.delete('own', id);
    },
  };
}

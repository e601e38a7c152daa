import type { LogEntry, SavedSession } from '../session/log.ts';
import type { Store } from '../session/ports.ts';
import { openStore } from './migrations.ts';

/** The store in IndexedDB, on one connection. Every write is one transaction and resolves when it is durable. */
export async function idbStore(name = 'keen-fox'): Promise<Store> {
  const db = await openStore(name);
  const strict = { durability: 'strict' } as const;
  const logOf = async (attempt: number): Promise<LogEntry[]> =>
    (await db.getAll('entries', IDBKeyRange.bound([attempt, 0], [attempt, Number.MAX_SAFE_INTEGER]))).map(
      ({ attempt: _, ...entry }) => entry,
    );
  return {
    async load() {
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
    },
    async append(attempt, entries, trades = []) {
      const tx = db.transaction(['entries', 'trades'], 'readwrite', strict);
      for (const entry of entries) tx.objectStore('entries').put({ ...entry, attempt });
      for (const trade of trades) tx.objectStore('trades').put(trade);
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
      // Whoever loads the page again at once is where he went back to.
      if (attempt.from) keep.put(attempt.reached, 'heartbeat');
      else keep.delete('heartbeat');
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
    settings: () => db.get('settings', 'settings'),
    async keepSettings(settings) {
      const tx = db.transaction('settings', 'readwrite', strict);
      tx.store.put(settings, 'settings');
      await tx.done;
    },
    past: () => db.getAll('past'),
    async putAside() {
      const tx = db.transaction('past', 'readwrite');
      const fresh = (await tx.store.getAll()).filter((p) => !p.told);
      for (const p of fresh) tx.store.put({ ...p, told: true });
      await tx.done;
      return fresh;
    },
  };
}

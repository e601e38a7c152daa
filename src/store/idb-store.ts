import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import type { LogEntry, SavedSession } from '../session/log.ts';
import type { Store } from '../session/ports.ts';

interface Schema extends DBSchema {
  log: { key: number; value: LogEntry };
  /** `session`: the last whole state; `heartbeat`: the time of day it had reached. */
  keep: { key: 'session' | 'heartbeat'; value: SavedSession | number };
}

/** The store in IndexedDB. Every write is one transaction and resolves when it is durable. */
export async function idbStore(name = 'keen-fox'): Promise<Store> {
  const db: IDBPDatabase<Schema> = await openDB<Schema>(name, 1, {
    upgrade(fresh) {
      fresh.createObjectStore('log', { keyPath: 'seq' });
      fresh.createObjectStore('keep');
    },
  });
  const strict = { durability: 'strict' } as const;
  return {
    async load() {
      const tx = db.transaction(['log', 'keep']);
      const [saved, heartbeat, log] = await Promise.all([
        tx.objectStore('keep').get('session'),
        tx.objectStore('keep').get('heartbeat'),
        tx.objectStore('log').getAll(),
      ]);
      return { saved: (saved as SavedSession | undefined) ?? null, log, heartbeat: (heartbeat as number | undefined) ?? null };
    },
    async append(entries) {
      const tx = db.transaction('log', 'readwrite', strict);
      for (const entry of entries) tx.store.put(entry);
      await tx.done;
    },
    async save(state) {
      await db.put('keep', state, 'session');
    },
    async beat(now) {
      await db.put('keep', now, 'heartbeat');
    },
    async clear() {
      const tx = db.transaction(['log', 'keep'], 'readwrite', strict);
      await Promise.all([tx.objectStore('log').clear(), tx.objectStore('keep').clear()]);
      await tx.done;
    },
  };
}

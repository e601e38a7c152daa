// Records that cannot be read: found, taken out as a file, and set aside, never thrown away in silence.
import { openDB } from 'idb';
import { tagged } from '../core/formats/index.ts';
import type { AttemptInfo, LogEntry } from '../session/log.ts';
import { type Names, opened, REAL, STORES } from './archive-places.ts';
import { journalOf } from './migrations.ts';
import { wrongWith } from './shapes.ts';

/** One record that does not fit its store. */
export interface Damaged {
  db: string;
  store: string;
  key: IDBValidKey;
  /** What is wrong with it. */
  why: string;
}

/** What is kept and cannot be read, of some stores or of all. */
export async function findDamaged(wanted?: readonly string[], names: Names = REAL): Promise<Damaged[]> {
  const dbs = await opened(names);
  const out: Damaged[] = [];
  for (const [name, stores] of Object.entries(STORES))
    for (const store of stores.filter((s) => !wanted || wanted.includes(s))) {
      const db = dbs[name];
      if (!db) continue;
      const tx = db.transaction(store);
      for (let at = await tx.store.openCursor(); at; at = await at.continue()) {
        const why = wrongWith(store, at.value, at.key);
        if (why) out.push({ db: name, store, key: at.key, why });
      }
    }
  for (const db of Object.values(dbs)) db.close();
  return out;
}

/** A damaged record as text, to be kept as a file. */
export async function damagedText(d: Damaged, names: Names = REAL): Promise<string> {
  const dbs = await opened(names);
  const value: unknown = await dbs[d.db]?.get(d.store, d.key);
  for (const db of Object.values(dbs)) db.close();
  return JSON.stringify({ ...d, value: tagged(value) }, null, 1);
}

/** Puts a record where nothing of the app reads it. It is written there before it is taken away here. */
export async function setAside(d: Damaged, names: Names = REAL): Promise<void> {
  const dbs = await opened(names);
  const aside = await openDB(`${names['keen-fox']}-aside`, 1, {
    upgrade(fresh) {
      fresh.createObjectStore('records', { autoIncrement: true });
    },
  });
  const db = dbs[d.db];
  if (db) {
    await aside.add('records', { ...d, value: await db.get(d.store, d.key) });
    await db.delete(d.store, d.key);
  }
  aside.close();
  for (const one of Object.values(dbs)) one.close();
}

/** Puts the session under way aside: what happened in it is kept to be read, its trades stay, and none is under way. */
export async function putSessionAside(names: Names = REAL): Promise<void> {
  const dbs = await opened(names);
  const db = dbs['keen-fox'];
  if (db) {
    const current = (await db.get('keep', 'current')) as number | undefined;
    const attempt = current === undefined ? undefined : await db.get('attempts', current);
    const log = (
      current === undefined
        ? []
        : await db.getAll('entries', IDBKeyRange.bound([current, 0], [current, Number.MAX_SAFE_INTEGER]))
    ).filter((e) => wrongWith('entries', e, null) === null) as LogEntry[];
    const tx = db.transaction(['keep', 'past'], 'readwrite');
    if (attempt && wrongWith('attempts', attempt, null) === null) {
      const { id, day, reached } = attempt as AttemptInfo;
      void tx.objectStore('past').put({ id, day, reached, trades: [], journal: journalOf(log), told: false });
    }
    void tx.objectStore('keep').clear();
    await tx.done;
  }
  for (const one of Object.values(dbs)) one.close();
}

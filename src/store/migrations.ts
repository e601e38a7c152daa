import {
  type DBSchema,
  deleteDB,
  type IDBPDatabase,
  type IDBPTransaction,
  openDB,
  type StoreNames,
} from 'idb';
import type { Fill, Trade } from '../core/orders/index.ts';
import { reviewTrade } from '../core/review/index.ts';
import type { OwnDay } from '../core/sim/index.ts';
import type { DayRef } from '../session/day-ref.ts';
import type { AttemptInfo, LogEntry, PastSession, SavedSession } from '../session/log.ts';
import { withCosts } from '../session/upgrade.ts';

export interface Schema extends DBSchema {
  entries: { key: [number, number]; value: LogEntry & { attempt: number } };
  attempts: { key: number; value: AttemptInfo };
  own: { key: string; value: OwnDay };
  /** `session`: the last whole state; `heartbeat`: the time it had reached; `current`: the attempt under way. */
  keep: { key: 'session' | 'heartbeat' | 'current'; value: SavedSession | number };
  settings: { key: 'settings'; value: unknown };
  past: { key: number; value: PastSession };
}

/**
 * Version 1 kept one log and a session on another market. Version 2 kept attempts, with a state of the
 * broker that had no wires. Version 3 keeps what is described in {@link Schema}, settings included.
 */
const VERSION = 3;

/** Opens the database, bringing what an earlier version left to this one. Nothing of the trader's is thrown away in silence. */
export async function openStore(name: string): Promise<IDBPDatabase<Schema>> {
  const db = await openDB<Schema>(name, VERSION, {
    async upgrade(fresh, from, _to, tx) {
      if (from < 2) {
        fresh.createObjectStore('entries', { keyPath: ['attempt', 'seq'] });
        fresh.createObjectStore('attempts', { keyPath: 'id' });
        fresh.createObjectStore('own', { keyPath: 'id' });
        if (from === 0) fresh.createObjectStore('keep');
      }
      fresh.createObjectStore('settings');
      fresh.createObjectStore('past', { keyPath: 'id' });
      if (from === 1) await fromFirst(fresh, tx);
      if (from === 2) await fromSecond(tx);
    },
  });
  await takeSettings(db, `${name}-settings`);
  return db;
}

type Upgrade = IDBPTransaction<Schema, StoreNames<Schema>[], 'versionchange'>;
/** What the log of the earlier versions had: events with their words. */
interface OldEntry {
  seq: number;
  at: number;
  attempt: number;
  events?: { at: number; text: string }[];
}
interface OldSession {
  version: 2;
  state: { broker: { trades: Record<number, Trade>; fills: Fill[] } };
}

const FIRST: DayRef = { kind: 'practice', id: 'gap-and-go', seed: 7 };
const journalOf = (log: readonly OldEntry[]): PastSession['journal'] =>
  log.flatMap((e) => e.events?.map(({ at, text }) => ({ at, text })) ?? []);

async function fromFirst(db: IDBPDatabase<Schema>, tx: Upgrade): Promise<void> {
  const old = tx as unknown as { objectStore(name: string): { getAll(): Promise<OldEntry[]> } };
  const log = await old.objectStore('log').getAll();
  if (log.length > 0)
    await tx.objectStore('past').put({
      id: 0,
      day: FIRST,
      reached: log[log.length - 1]?.at ?? 0,
      trades: [],
      journal: journalOf(log),
      told: false,
    });
  await tx.objectStore('keep').clear();
  (db as unknown as IDBDatabase).deleteObjectStore('log');
}

async function fromSecond(tx: Upgrade): Promise<void> {
  const keep = tx.objectStore('keep');
  const current = (await keep.get('current')) as number | undefined;
  const saved = (await keep.get('session')) as unknown as OldSession | undefined;
  const entries = (await tx.objectStore('entries').getAll()) as unknown as OldEntry[];
  for (const attempt of await tx.objectStore('attempts').getAll()) {
    const broker = withCosts(attempt.id === current ? saved?.state.broker : undefined);
    const trades = Object.values(broker?.trades ?? {}).flatMap(
      (t) => reviewTrade(t, broker?.fills.filter((f) => f.tradeId === t.id) ?? []) ?? [],
    );
    const journal = journalOf(entries.filter((e) => e.attempt === attempt.id));
    if (trades.length + journal.length > 0)
      await tx
        .objectStore('past')
        .put({ id: attempt.id, day: attempt.day, reached: attempt.reached, trades, journal, told: false });
  }
  // Its market and its orders cannot be gone on with: the day under way begins anew.
  await tx.objectStore('entries').clear();
  await keep.clear();
}

/** Settings lay in a database of their own, written by whichever tab came last. */
async function takeSettings(db: IDBPDatabase<Schema>, name: string): Promise<void> {
  if ((await db.count('settings')) > 0) return;
  let there = true;
  const old = await openDB(name, 1, {
    upgrade() {
      there = false;
    },
  });
  const kept = there ? ((await old.get('settings', 'settings')) as unknown) : undefined;
  old.close();
  if (kept !== undefined) await db.put('settings', kept, 'settings');
  await deleteDB(name);
}

import {
  type DBSchema,
  deleteDB,
  type IDBPDatabase,
  type IDBPTransaction,
  openDB,
  type StoreNames,
} from 'idb';
import { NO_COSTS } from '../core/account/index.ts';
import {
  type Broker,
  eventText,
  everything,
  type Fill,
  type OrderEvent,
  type Trade,
} from '../core/orders/index.ts';
import { type Aftermath, type Remark, reviewTrade, type TradeRecord } from '../core/review/index.ts';
import type { OwnDay } from '../core/sim/index.ts';
import type { DayRef } from '../session/day-ref.ts';
import type { AttemptInfo, LogEntry, PastSession, SavedSession } from '../session/log.ts';
import type { KeptImport, KeptMapping, KeptPicture, Page } from './kept.ts';

export interface Schema extends DBSchema {
  entries: { key: [number, number]; value: LogEntry & { attempt: number } };
  attempts: { key: number; value: AttemptInfo };
  own: { key: string; value: OwnDay };
  /** `session`: the last whole state; `heartbeat`: the time it had reached; `current`: the attempt under way. */
  keep: { key: 'session' | 'heartbeat' | 'current'; value: SavedSession | number };
  settings: { key: 'settings'; value: unknown };
  past: { key: number; value: PastSession };
  /** Every trade, by its number for good; what the trader says of it; and what was imported. */
  trades: { key: string; value: TradeRecord };
  remarks: { key: string; value: Remark };
  imports: { key: number; value: KeptImport };
  /** What is known of a trade once its day is over. */
  afters: { key: string; value: Aftermath };
  /** Pictures that were pasted to a trade. */
  pictures: { key: [string, number]; value: KeptPicture };
  /** Words of the trader for a day or a week, how columns of a file were read, by name. */
  pages: { key: string; value: Page };
  mappings: { key: string; value: KeptMapping };
}

/**
 * Version 1 kept one log and a session on another market. Version 2 kept attempts, with a state of the
 * broker that had no wires. Version 3 kept sessions on a market that went by scripts. Version 4 kept no
 * trades apart from their session. Version 5 keeps what is described in {@link Schema}.
 */
const VERSION = 5;

/** Opens the database, bringing what an earlier version left to this one. Nothing of the trader's is thrown away in silence. */
export async function openStore(name: string, cut: () => void = () => {}): Promise<IDBPDatabase<Schema>> {
  const db = await openTables(name, cut);
  await takeSettings(db, `${name}-settings`);
  return db;
}

/** The same for who reads trades and writes what is said of them, beside the session. */
export const openTables = (name: string, cut: () => void = () => {}): Promise<IDBPDatabase<Schema>> =>
  openDB<Schema>(name, VERSION, {
    // The browser has cut the connection by itself.
    terminated: cut,
    async upgrade(fresh, from, _to, tx) {
      if (from < 2) {
        fresh.createObjectStore('entries', { keyPath: ['attempt', 'seq'] });
        fresh.createObjectStore('attempts', { keyPath: 'id' });
        fresh.createObjectStore('own', { keyPath: 'id' });
        if (from === 0) fresh.createObjectStore('keep');
      }
      if (from < 3) {
        fresh.createObjectStore('settings');
        fresh.createObjectStore('past', { keyPath: 'id' });
      }
      if (from === 1) await fromFirst(fresh, tx);
      if (from === 2 || from === 3) await putAside(tx);
      if (from < 5) {
        fresh.createObjectStore('trades', { keyPath: 'ref' });
        fresh.createObjectStore('remarks', { keyPath: 'ref' });
        fresh.createObjectStore('imports', { keyPath: 'id' });
        fresh.createObjectStore('afters', { keyPath: 'ref' });
        fresh.createObjectStore('pictures', { keyPath: ['ref', 'n'] });
        fresh.createObjectStore('pages', { keyPath: 'of' });
        fresh.createObjectStore('mappings', { keyPath: 'name' });
      }
    },
  });

type Upgrade = IDBPTransaction<Schema, StoreNames<Schema>[], 'versionchange'>;
/** What the log of earlier versions had: events with their words, later as they are now. */
interface OldEntry {
  at: number;
  events?: readonly { at: number; text?: string }[];
}
interface OldSession {
  state: { broker: { trades: Record<number, Trade>; fills: Fill[] } };
}

/** Orders, fills and trades once knew a commission only. */
function withCosts<T>(x: T): T {
  if (Array.isArray(x)) return x.map(withCosts) as T;
  if (typeof x !== 'object' || x === null || ArrayBuffer.isView(x)) return x;
  const out: Record<string, unknown> = {};
  for (const [key, value] of Object.entries(x)) out[key] = withCosts(value);
  if (typeof out.commission !== 'number' || 'venue' in out) return out as T;
  const { commission, ...others } = out;
  const costs = out.kind === 'trade over' ? commission : { ...NO_COSTS, commission };
  return { ...others, costs } as T;
}

const FIRST: DayRef = { kind: 'practice', id: 'gap-and-go', seed: 7 };
/** What a log has told, as it is kept of a session that cannot be gone on with. */
export const journalOf = (log: readonly OldEntry[]): PastSession['journal'] =>
  log.flatMap((e) => e.events?.map((x) => ({ at: x.at, text: x.text ?? eventText(x as OrderEvent) })) ?? []);

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

/** Sessions whose orders or whose market cannot be gone on with: what can be read of them is kept, and the day begins anew. */
async function putAside(tx: Upgrade): Promise<void> {
  const keep = tx.objectStore('keep');
  const current = (await keep.get('current')) as number | undefined;
  const saved = (await keep.get('session')) as unknown as OldSession | undefined;
  const entries = withCosts(await tx.objectStore('entries').getAll()) as unknown as (OldEntry & {
    attempt: number;
  })[];
  for (const attempt of await tx.objectStore('attempts').getAll()) {
    const broker = withCosts(attempt.id === current ? saved?.state.broker : undefined);
    const { trades: all, fills } = broker ? recordsOf(broker) : { trades: [], fills: [] };
    const trades = all.flatMap(
      (t) =>
        reviewTrade(
          t,
          fills.filter((f) => f.tradeId === t.id),
        ) ?? [],
    );
    const journal = journalOf(entries.filter((e) => e.attempt === attempt.id));
    if (trades.length + journal.length > 0)
      await tx
        .objectStore('past')
        .put({ id: attempt.id, day: attempt.day, reached: attempt.reached, trades, journal, told: false });
  }
  await tx.objectStore('entries').clear();
  await keep.clear();
}

/** Version 2 kept all trades and fills in one place; later what has ended lies on shelves. */
const recordsOf = (broker: OldSession['state']['broker']): { trades: Trade[]; fills: Fill[] } =>
  Array.isArray(broker.fills)
    ? { trades: Object.values(broker.trades), fills: broker.fills }
    : everything(broker as unknown as Broker);

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

// What is kept for review, beside the session that writes the trades: what the trader says of them, and what was imported.
import type { IDBPTransaction } from 'idb';
import type { Aftermath, Remark, TradeRecord } from '../core/review/index.ts';
import type { OwnDay } from '../core/sim/index.ts';
import type { AttemptInfo, LogEntry } from '../session/log.ts';
import type { KeptImport, KeptMapping, KeptPicture, Page } from './kept.ts';
import { openTables, type Schema } from './migrations.ts';
import { sound } from './shapes.ts';

/** What becomes of trades when executions come or go: new ones, others under their numbers, and those that are no more. */
export interface TradesChanged {
  fresh: readonly (Omit<TradeRecord, 'ref' | 'source'> & { remark?: Omit<Remark, 'ref'> })[];
  /** What a file says of trades that are kept already, of which nothing is said yet. */
  remarks?: readonly Remark[];
  changed: readonly TradeRecord[];
  gone: readonly string[];
}

const OF_TRADES = ['imports', 'trades', 'remarks', 'pictures'] as const;

/** What is read whole. */
type Listed = 'trades' | 'attempts' | 'remarks' | 'imports' | 'afters' | 'own' | 'mappings';

type Rewriting = IDBPTransaction<Schema, typeof OF_TRADES, 'readwrite'>;
/** Takes a trade away, with what was said of it. */
function dropTrade(tx: Rewriting, ref: string): void {
  void tx.objectStore('trades').delete(ref);
  void tx.objectStore('remarks').delete(ref);
  void tx.objectStore('pictures').delete(IDBKeyRange.bound([ref, 0], [ref, Number.MAX_SAFE_INTEGER]));
}

/** A trade whose executions say which file they came with: this one, where they say none yet. */
const cameWith = <T extends Pick<TradeRecord, 'executions'>>(t: T, file: number): T => ({
  ...t,
  executions: t.executions.map((x) => ({ ...x, file: x.file ?? file })),
});

/** Where review reads and writes. A call that has resolved survives a crash of the page. */
export interface ReviewStore {
  trades(): Promise<TradeRecord[]>;
  attempts(): Promise<AttemptInfo[]>;
  log(attempt: number): Promise<LogEntry[]>;
  remarks(): Promise<Remark[]>;
  keepRemark(r: Remark): Promise<void>;
  imports(): Promise<KeptImport[]>;
  /** Keeps a file's trades, and what became by it of those that were there: all of it, or none. */
  keepImport(what: Omit<KeptImport, 'id'>, trades: TradesChanged): Promise<KeptImport>;
  /** Takes a file out, with what becomes of trades that other files had a part in. */
  removeImport(id: number, trades: TradesChanged): Promise<void>;
  afters(): Promise<Aftermath[]>;
  keepAfters(list: readonly Aftermath[]): Promise<void>;
  ownDays(): Promise<OwnDay[]>;
  pictures(ref: string): Promise<KeptPicture[]>;
  keepPicture(p: Omit<KeptPicture, 'n'>): Promise<void>;
  dropPicture(ref: string, n: number): Promise<void>;
  page(of: string): Promise<string>;
  keepPage(p: Page): Promise<void>;
  mappings(): Promise<KeptMapping[]>;
  keepMapping(m: KeptMapping): Promise<void>;
  close(): void;
}

/** Opens it. @throws where the browser gives no room. */
export async function openReview(name = 'keen-fox'): Promise<ReviewStore> {
  const db = await openTables(name);
  /** All records of a store that can be read. */
  const all =
    <S extends Listed>(store: S) =>
    async (): Promise<Schema[S]['value'][]> =>
      sound(store, await db.getAll(store));
  return {
    trades: all('trades'),
    attempts: all('attempts'),
    log: (attempt) =>
      db.getAll('entries', IDBKeyRange.bound([attempt, 0], [attempt, Number.MAX_SAFE_INTEGER])),
    remarks: all('remarks'),
    async keepRemark(r) {
      await db.put('remarks', r);
    },
    imports: all('imports'),
    async keepImport(what, { fresh, changed, gone, remarks = [] }) {
      const tx = db.transaction(OF_TRADES, 'readwrite', { durability: 'strict' });
      const ids = await tx.objectStore('imports').getAllKeys();
      const id = 1 + Math.max(0, ...ids);
      const kept = { ...what, id };
      void tx.objectStore('imports').put(kept);
      const trades = tx.objectStore('trades');
      fresh.forEach(({ remark, ...t }, k) => {
        const ref = `i${id}.${k + 1}`;
        void trades.put({ ...cameWith(t, id), ref, source: { kind: 'import', id } });
        if (remark) void tx.objectStore('remarks').put({ ...remark, ref });
      });
      for (const r of remarks) void tx.objectStore('remarks').put(r);
      for (const t of changed) void trades.put(cameWith(t, id));
      for (const ref of gone) dropTrade(tx, ref);
      await tx.done;
      return kept;
    },
    async removeImport(id, { fresh, changed, gone }) {
      const tx = db.transaction(OF_TRADES, 'readwrite');
      void tx.objectStore('imports').delete(id);
      const range = IDBKeyRange.bound(`i${id}.`, `i${id}/`, false, true);
      void tx.objectStore('trades').delete(range);
      void tx.objectStore('remarks').delete(range);
      void tx.objectStore('pictures').delete(IDBKeyRange.bound([`i${id}.`], [`i${id}/`], false, true));
      for (const ref of gone) if (!ref.startsWith(`i${id}.`)) dropTrade(tx, ref);
      const trades = tx.objectStore('trades');
      const refs = await trades.getAllKeys();
      fresh.forEach((t, k) => {
        const file = t.executions[0]?.file ?? 0;
        const last = Math.max(
          0,
          ...refs.flatMap((r) => (r.startsWith(`i${file}.`) ? [Number(r.split('.')[1])] : [])),
        );
        void trades.put({ ...t, ref: `i${file}.${last + k + 1}`, source: { kind: 'import', id: file } });
      });
      for (const t of changed) void trades.put(t);
      await tx.done;
    },
    afters: all('afters'),
    async keepAfters(list) {
      const tx = db.transaction('afters', 'readwrite');
      for (const a of list) void tx.store.put(a);
      await tx.done;
    },
    ownDays: all('own'),
    pictures: (ref) => db.getAll('pictures', IDBKeyRange.bound([ref, 0], [ref, Number.MAX_SAFE_INTEGER])),
    async keepPicture(p) {
      const tx = db.transaction('pictures', 'readwrite');
      const keys = await tx.store.getAllKeys(IDBKeyRange.bound([p.ref, 0], [p.ref, Number.MAX_SAFE_INTEGER]));
      void tx.store.put({ ...p, n: 1 + Math.max(0, ...keys.map(([, n]) => n)) });
      await tx.done;
    },
    async dropPicture(ref, n) {
      await db.delete('pictures', [ref, n]);
    },
    page: async (of) => (await db.get('pages', of))?.words ?? '',
    async keepPage(p) {
      await db.put('pages', p);
    },
    mappings: all('mappings'),
    close: () => db.close(),
    async keepMapping(m) {
      await db.put('mappings', m);
    },
  };
}

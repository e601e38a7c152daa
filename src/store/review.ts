// What is kept for review, beside the session that writes the trades: what the trader says of them, and what was imported.
import type { Aftermath, Remark, TradeRecord } from '../core/review/index.ts';
import type { OwnDay } from '../core/sim/index.ts';
import type { AttemptInfo, LogEntry } from '../session/log.ts';
import type { KeptImport, KeptMapping, KeptPicture, Page } from './kept.ts';
import { openTables } from './migrations.ts';

/** Where review reads and writes. A call that has resolved survives a crash of the page. */
export interface ReviewStore {
  trades(): Promise<TradeRecord[]>;
  attempts(): Promise<AttemptInfo[]>;
  log(attempt: number): Promise<LogEntry[]>;
  remarks(): Promise<Remark[]>;
  keepRemark(r: Remark): Promise<void>;
  imports(): Promise<KeptImport[]>;
  /** Keeps a file's trades: all of them, or none. */
  keepImport(
    what: Omit<KeptImport, 'id'>,
    trades: readonly Omit<TradeRecord, 'ref' | 'source'>[],
  ): Promise<KeptImport>;
  removeImport(id: number): Promise<void>;
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
}

/** Opens it. @throws where the browser gives no room. */
export async function openReview(name = 'keen-fox'): Promise<ReviewStore> {
  const db = await openTables(name);
  return {
    trades: () => db.getAll('trades'),
    attempts: () => db.getAll('attempts'),
    log: (attempt) =>
      db.getAll('entries', IDBKeyRange.bound([attempt, 0], [attempt, Number.MAX_SAFE_INTEGER])),
    remarks: () => db.getAll('remarks'),
    async keepRemark(r) {
      await db.put('remarks', r);
    },
    imports: () => db.getAll('imports'),
    async keepImport(what, trades) {
      const tx = db.transaction(['imports', 'trades'], 'readwrite', { durability: 'strict' });
      const ids = await tx.objectStore('imports').getAllKeys();
      const id = 1 + Math.max(0, ...ids);
      const kept = { ...what, id };
      void tx.objectStore('imports').put(kept);
      trades.forEach((t, k) => {
        void tx.objectStore('trades').put({ ...t, ref: `i${id}.${k + 1}`, source: { kind: 'import', id } });
      });
      await tx.done;
      return kept;
    },
    async removeImport(id) {
      const tx = db.transaction(['imports', 'trades', 'remarks', 'pictures'], 'readwrite');
      void tx.objectStore('imports').delete(id);
      const range = IDBKeyRange.bound(`i${id}.`, `i${id}/`, false, true);
      void tx.objectStore('trades').delete(range);
      void tx.objectStore('remarks').delete(range);
      void tx.objectStore('pictures').delete(IDBKeyRange.bound([`i${id}.`], [`i${id}/`], false, true));
      await tx.done;
    },
    afters: () => db.getAll('afters'),
    async keepAfters(list) {
      const tx = db.transaction('afters', 'readwrite');
      for (const a of list) void tx.store.put(a);
      await tx.done;
    },
    ownDays: () => db.getAll('own'),
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
    mappings: () => db.getAll('mappings'),
    async keepMapping(m) {
      await db.put('mappings', m);
    },
  };
}

// Rehearsals in IndexedDB, in a database of their own: what was asked, each day as it is done, and the members of scans.
import { type DBSchema, openDB } from 'idb';
import type { RehearsalDay, RehearsalTerms } from '../core/rehearsal/index.ts';
import type { Members } from '../session/members.ts';
import type { HandDay, RehearsalDesk } from '../session/rehearse.ts';
import { sound } from './shapes.ts';

/** One rehearsal: its terms do not change once it has begun. */
export interface KeptRehearsal {
  id: number;
  name: string;
  /** When it was begun, as a date and time of the wall. */
  made: string;
  /** The version of the market that it is run in. */
  market: number;
  terms: RehearsalTerms;
  desk: RehearsalDesk;
  days: RehearsalDay[];
  state: 'running' | 'stopped' | 'done';
}

interface Schema extends DBSchema {
  rehearsals: { key: number; value: KeptRehearsal };
  days: { key: [number, number]; value: { rehearsal: number; day: number; hands: HandDay[] } };
  members: { key: string; value: Members };
  draft: { key: 'draft'; value: unknown };
}

/** Where rehearsals are kept. A call that has resolved survives a crash of the page. */
export interface RehearsalStore {
  all(): Promise<KeptRehearsal[]>;
  keep(r: KeptRehearsal): Promise<void>;
  remove(id: number): Promise<void>;
  /** What each day that is done came to, by its place; those that are not are left out. */
  days(id: number): Promise<Map<number, HandDay[]>>;
  keepDay(id: number, day: number, hands: HandDay[]): Promise<void>;
  members(key: string): Promise<Members | null>;
  keepMembers(key: string, members: Members): Promise<void>;
  /** What was last written into the form; whoever reads it checks it. */
  draft(): Promise<unknown>;
  keepDraft(draft: unknown): Promise<void>;
  close(): void;
}

/** Opens it. @throws where the browser gives no room. */
export async function openRehearsals(name = 'keen-fox-rehearsals'): Promise<RehearsalStore> {
  const db = await openDB<Schema>(name, 1, {
    upgrade(fresh) {
      fresh.createObjectStore('rehearsals', { keyPath: 'id' });
      fresh.createObjectStore('days', { keyPath: ['rehearsal', 'day'] });
      fresh.createObjectStore('members');
      fresh.createObjectStore('draft');
    },
  });
  const daysOf = (id: number) => IDBKeyRange.bound([id, 0], [id, Number.MAX_SAFE_INTEGER]);
  return {
    all: async () => sound('rehearsals', await db.getAll('rehearsals')),
    async keep(r) {
      await db.put('rehearsals', r);
    },
    async remove(id) {
      const tx = db.transaction(['rehearsals', 'days'], 'readwrite');
      void tx.objectStore('rehearsals').delete(id);
      void tx.objectStore('days').delete(daysOf(id));
      await tx.done;
    },
    async days(id) {
      return new Map(sound('days', await db.getAll('days', daysOf(id))).map((d) => [d.day, d.hands]));
    },
    async keepDay(rehearsal, day, hands) {
      await db.put('days', { rehearsal, day, hands });
    },
    async members(key) {
      return (await db.get('members', key)) ?? null;
    },
    async keepMembers(key, members) {
      await db.put('members', members, key);
    },
    draft: () => db.get('draft', 'draft'),
    close: () => db.close(),
    async keepDraft(draft) {
      await db.put('draft', draft, 'draft');
    },
  };
}

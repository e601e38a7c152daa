// What lies ready of an archive is taken in before anything else of the app is read: it replaces what is there, or joins it, in one step.
import { deleteDB, type IDBPDatabase } from 'idb';
import {
  incomingName,
  type Line,
  type Names,
  opened,
  openIncoming,
  PIECE,
  type Progress,
  REAL,
  STORES,
  type Taking,
} from './archive-places.ts';

/** Takes in what lies ready, before anything else of the app is read. @throws Error where it cannot be taken in: it is dropped then, and everything stays. */
export async function takeIncoming(
  names: Names = REAL,
  progress: Progress = () => {},
): Promise<Taking | null> {
  const there = await indexedDB.databases();
  if (!there.some((d) => d.name === incomingName(names))) return null;
  progress(0);
  const incoming = await openIncoming(names);
  const how = (await incoming.get('how', 'how')) as Taking | undefined;
  const lines = how ? ((await incoming.getAll('lines')) as Line[]) : [];
  incoming.close();
  try {
    if (how) await write(lines, how, names, progress);
  } finally {
    progress(1);
    await deleteDB(incomingName(names));
  }
  return how ?? null;
}

/** What is to be written is worked out for all databases before the first of them is changed. */
async function write(lines: readonly Line[], how: Taking, names: Names, progress: Progress): Promise<void> {
  const dbs = await opened(names);
  let done = 0;
  try {
    const all: { db: IDBPDatabase; stores: readonly string[]; put: readonly Line[] }[] = [];
    for (const [name, stores] of Object.entries(STORES)) {
      const db = dbs[name] as IDBPDatabase;
      const mine = lines.filter((l) => l.db === name);
      all.push({ db, stores, put: how === 'merge' ? await joined(db, mine) : mine });
    }
    for (const { db, stores, put } of all) {
      const tx = db.transaction(stores as string[], 'readwrite', { durability: 'strict' });
      if (how === 'replace') for (const s of stores) void tx.objectStore(s).clear();
      for (let k = 0; k < put.length; k += PIECE) {
        progress(done / Math.max(1, lines.length));
        const piece = put.slice(k, k + PIECE);
        await Promise.all(piece.map(({ store, value, key }) => tx.objectStore(store).put(value, key)));
        done += piece.length;
      }
      await tx.done;
    }
  } finally {
    for (const db of Object.values(dbs)) db.close();
  }
}

type Fields = Record<string, unknown>;
/** By how much numbers of each kind are moved, so that they go on from those that are there. */
type Shift = Record<'attempts' | 'imports' | 'rehearsals' | 'own', number>;

const plus = (x: unknown, by: number): number => (x as number) + by;
const refPlus = (ref: unknown, s: Shift): string =>
  String(ref).replace(
    /^([ai])(\d+)\./,
    (_, kind: string, n: string) => `${kind}${Number(n) + (kind === 'a' ? s.attempts : s.imports)}.`,
  );
const ownPlus = (id: unknown, s: Shift): string =>
  String(id).replace(/^own (\d+)$/, (_, n: string) => `own ${Number(n) + s.own}`);
const dayPlus = (day: unknown, s: Shift): unknown => {
  const d = day as Fields;
  return d.kind === 'own' ? { ...d, id: ownPlus(d.id, s) } : d;
};

/** How the numbers of a record are moved; what has none is not named. */
const MOVED: Readonly<Record<string, (v: Fields, s: Shift) => Fields>> = {
  attempts: (v, s) => ({
    id: plus(v.id, s.attempts),
    day: dayPlus(v.day, s),
    from: v.from ? { ...(v.from as Fields), attempt: plus((v.from as Fields).attempt, s.attempts) } : null,
    ...(v.watches === undefined ? {} : { watches: plus(v.watches, s.attempts) }),
  }),
  entries: (v, s) => ({ attempt: plus(v.attempt, s.attempts) }),
  own: (v, s) => ({ id: ownPlus(v.id, s) }),
  trades: (v, s) => {
    const from = v.source as Fields;
    const executions = (v.executions as Fields[]).map((x) =>
      x.file === undefined ? x : { ...x, file: plus(x.file, s.imports) },
    );
    return {
      ref: refPlus(v.ref, s),
      executions,
      day: String(v.day).replace(
        /^(\["own","own )(\d+)/,
        (_, head: string, n: string) => `${head}${Number(n) + s.own}`,
      ),
      source:
        from.kind === 'attempt'
          ? { ...from, attempt: plus(from.attempt, s.attempts) }
          : { ...from, id: plus(from.id, s.imports) },
    };
  },
  remarks: (v, s) => ({ ref: refPlus(v.ref, s) }),
  afters: (v, s) => ({ ref: refPlus(v.ref, s) }),
  pictures: (v, s) => ({ ref: refPlus(v.ref, s) }),
  imports: (v, s) => ({ id: plus(v.id, s.imports) }),
  rehearsals: (v, s) => ({ id: plus(v.id, s.rehearsals) }),
  days: (v, s) => ({ rehearsal: plus(v.rehearsal, s.rehearsals) }),
};
/** Of these the ones that are there stay; choices and the session under way always do. */
const KEPT: Readonly<Record<string, string | null>> = { pages: 'of', mappings: 'name', members: null };

/** Records of an archive beside those that are there. */
async function joined(db: IDBPDatabase, lines: readonly Line[]): Promise<Line[]> {
  const numbers = async (store: string, of: (key: unknown) => number): Promise<number> =>
    db.objectStoreNames.contains(store) ? Math.max(0, ...(await db.getAllKeys(store)).map(of)) : 0;
  const shift: Shift = {
    attempts: await numbers('attempts', Number),
    imports: await numbers('imports', Number),
    rehearsals: await numbers('rehearsals', Number),
    own: await numbers('own', (k) => Number(/^own (\d+)$/.exec(String(k))?.[1] ?? 0)),
  };
  const out: Line[] = [];
  for (const line of lines) {
    const value = line.value as Fields;
    const moved = MOVED[line.store];
    const field = KEPT[line.store];
    if (moved) out.push({ ...line, value: { ...value, ...moved(value, shift) } });
    else if (field !== undefined) {
      const key = field === null ? line.key : (value[field] as IDBValidKey);
      if (key !== undefined && (await db.getKey(line.store, key)) === undefined) out.push(line);
    }
  }
  return out;
}

// An archive read and checked to its end; what is taken in lies apart, whole, until the app starts again.
import { deleteDB } from 'idb';
import { untagged } from '../core/formats/index.ts';
import {
  FORMAT,
  incomingName,
  KEYED_APART,
  type Line,
  type Names,
  openIncoming,
  PIECE,
  type Progress,
  REAL,
  STORES,
  type Taking,
  VERSION,
} from './archive-places.ts';

/** Unpacked, an archive is at most this long, and this many times its packed size: what is more is no archive of this app. */
const MOST_CHARS = 4e9;
const MOST_TIMES = 200;
const MOST_LINE = 400e6;

/** What an archive holds, by store; and when it was made. */
export interface ArchiveSummary {
  made: string;
  counts: Readonly<Record<string, number>>;
}

/** Lines of a packed text, as they are unpacked. @throws Error where it is cut off, no gzip, or far longer than it should be. */
async function* linesOf(file: Blob, progress: Progress): AsyncGenerator<string> {
  let read = 0;
  const counted = file.stream().pipeThrough(
    new TransformStream<Uint8Array<ArrayBuffer>, Uint8Array<ArrayBuffer>>({
      transform(part, out) {
        read += part.byteLength;
        progress(read / Math.max(1, file.size));
        out.enqueue(part);
      },
    }),
  );
  const reader = counted
    .pipeThrough(new DecompressionStream('gzip'))
    .pipeThrough(new TextDecoderStream('utf-8', { fatal: true }))
    .getReader();
  let chars = 0;
  let rest: string[] = [];
  let length = 0;
  for (;;) {
    const { done, value } = await reader.read().catch(() => {
      throw new Error('It is no archive, or it is cut off: it cannot be unpacked.');
    });
    if (done) break;
    chars += value.length;
    if (chars > Math.min(MOST_CHARS, 1e6 + MOST_TIMES * file.size)) {
      void reader.cancel().catch(() => {});
      throw new Error('Unpacked it is far longer than an archive of this app: it is not taken.');
    }
    let from = 0;
    for (let end = value.indexOf('\n'); end >= 0; end = value.indexOf('\n', from)) {
      rest.push(value.slice(from, end));
      yield rest.join('');
      [rest, length] = [[], 0];
      from = end + 1;
    }
    const tail = value.slice(from);
    rest.push(tail);
    length += tail.length;
    if (length > MOST_LINE)
      throw new Error('One of its records is far larger than any of this app: it is not taken.');
  }
  if (length > 0) yield rest.join('');
}

const isObject = (x: unknown): x is Record<string, unknown> =>
  typeof x === 'object' && x !== null && !Array.isArray(x);

/** Reads an archive record by record. @throws Error in words at the first thing that is wrong, with its line. */
async function* recordsOf(file: Blob, progress: Progress): AsyncGenerator<Line | { made: string }> {
  let [n, records, ended] = [0, 0, false];
  for await (const text of linesOf(file, progress)) {
    n++;
    try {
      if (ended) throw new Error('something comes after its end');
      const x: unknown = JSON.parse(text);
      if (!isObject(x)) throw new Error('it is no record');
      if (n === 1) yield headOf(x);
      else if (typeof x.end === 'number') {
        if (x.end !== records) throw new Error(`it should hold ${x.end} records, and holds ${records}`);
        ended = true;
      } else {
        records++;
        yield recordOf(x);
      }
    } catch (e) {
      const why = e instanceof SyntaxError ? 'it is no JSON' : e instanceof Error ? e.message : String(e);
      throw new Error(`Line ${n} of the archive: ${why}. Nothing has been changed.`);
    }
  }
  if (!ended) throw new Error('The archive is cut off: its last line is missing. Nothing has been changed.');
}

function headOf(x: Record<string, unknown>): { made: string } {
  if (x.format !== FORMAT) throw new Error('it does not begin as an archive of this app does');
  if (x.version !== VERSION)
    throw new Error(`it is of version ${String(x.version)}; this app reads version ${VERSION}`);
  return { made: typeof x.made === 'string' ? x.made.slice(0, 40) : '' };
}

function recordOf({ db, store, key, value: kept }: Record<string, unknown>): Line {
  if (
    typeof db !== 'string' ||
    typeof store !== 'string' ||
    !Object.hasOwn(STORES, db) ||
    !STORES[db]?.includes(store)
  )
    throw new Error('it belongs to no place of this app');
  const value = untagged(kept);
  const why = wrongWith(store, value, key);
  if (why) throw new Error(why);
  return { db, store, value, ...(KEYED_APART.has(store) ? { key: key as IDBValidKey } : {}) };
}

const number = (x: unknown): boolean => typeof x === 'number' && Number.isFinite(x);
const text = (x: unknown): boolean => typeof x === 'string';
const or = (ok: (x: unknown) => boolean) => (x: unknown) => x === null || ok(x);
const listOf = (ok: (x: unknown) => boolean) => (x: unknown) => Array.isArray(x) && x.every(ok);
type Shape = Readonly<Record<string, (x: unknown) => boolean>>;
const shaped = (shape: Shape) => (x: unknown) =>
  isObject(x) && Object.entries(shape).every(([field, ok]) => ok(x[field]));
const side = (x: unknown): boolean => x === 'buy' || x === 'sell';
const when: Shape = { date: (x) => typeof x === 'string' && /^\d{4}-\d\d-\d\d$/.test(x), at: number };
const costs = shaped({ commission: number, venue: number, sec: number, taf: number });
/** What a record has to have, so that nothing that reads it fails. */
const SHAPES: Readonly<Record<string, Shape>> = {
  attempts: { id: number, day: isObject, reached: number, net: number, r: number, trades: number },
  entries: { attempt: number, seq: number, at: number, events: Array.isArray },
  own: { id: text, title: text, symbols: Array.isArray },
  past: { id: number, trades: Array.isArray, journal: Array.isArray },
  trades: {
    ref: text,
    source: (x) =>
      shaped({ kind: (k) => k === 'import', id: number })(x) ||
      shaped({
        kind: (k) => k === 'attempt',
        attempt: number,
        trade: number,
        at: shaped({ opened: number, closed: or(number) }),
      })(x),
    scenario: text,
    day: text,
    account: text,
    symbol: text,
    direction: (x) => x === 'long' || x === 'short',
    shares: number,
    averageEntry: number,
    averageExit: or(number),
    opened: shaped(when),
    closed: or(shaped(when)),
    held: or(number),
    net: number,
    gross: number,
    costs,
    risk: or(number),
    mfe: or(number),
    mae: or(number),
    float: or(number),
    executions: listOf(
      shaped({ ...when, id: text, side, qty: number, price: number, better: number, costs }),
    ),
  },
  remarks: { ref: text, setup: text, tags: listOf(text), grade: text, broke: text, words: text },
  imports: { id: number, file: text, trades: number },
  afters: { ref: text, net: number },
  pictures: { ref: text, n: number, type: text, bytes: (x) => x instanceof Uint8Array },
  pages: { of: text, words: text },
  mappings: { name: text, headings: listOf(text), mapping: shaped({ columns: isObject }) },
  rehearsals: { id: number, terms: isObject, days: Array.isArray },
  days: { rehearsal: number, day: number, hands: Array.isArray },
};

function wrongWith(store: string, value: unknown, key: unknown): string | null {
  if (KEYED_APART.has(store)) {
    if (typeof key !== 'string') return `a record of “${store}” has no key`;
    return store === 'keep' && key === 'session' && !(isObject(value) && value.version === 7)
      ? 'its session is of another version of the app'
      : null;
  }
  if (!isObject(value)) return `a record of “${store}” is none`;
  const bad = Object.entries(SHAPES[store] ?? {}).find(([field, ok]) => !ok(value[field]));
  return bad ? `a record of “${store}” has no fitting “${bad[0]}”` : null;
}

/** Reads an archive through, and says what it holds. Changes nothing. @throws Error in words where it is not whole or not of this app. */
export async function checkArchive(file: Blob, progress: Progress = () => {}): Promise<ArchiveSummary> {
  const counts: Record<string, number> = {};
  let made = '';
  for await (const x of recordsOf(file, progress)) {
    if ('made' in x) made = x.made;
    else counts[x.store] = (counts[x.store] ?? 0) + 1;
  }
  return { made, counts };
}

/** Lays an archive ready for the next start of the app. @throws Error where it is not whole: nothing is laid ready then. */
export async function layReady(
  file: Blob,
  how: Taking,
  progress: Progress = () => {},
  names: Names = REAL,
): Promise<void> {
  await deleteDB(incomingName(names));
  const db = await openIncoming(names);
  try {
    let batch: Line[] = [];
    const flush = async () => {
      const tx = db.transaction('lines', 'readwrite');
      for (const l of batch) void tx.store.add(l);
      await tx.done;
      batch = [];
    };
    for await (const x of recordsOf(file, progress)) {
      if ('made' in x) continue;
      batch.push(x);
      if (batch.length >= PIECE) await flush();
    }
    await flush();
    await db.put('how', how, 'how');
  } finally {
    db.close();
  }
}

// An archive read and checked to its end; what is taken in lies apart, whole, until the app starts again.
import { deleteDB } from 'idb';
import { untagged } from '../core/formats/index.ts';
import {
  comingNames,
  drop,
  FORMAT,
  type Incoming,
  incomingName,
  type Line,
  type Names,
  openIncoming,
  PIECE,
  type Progress,
  putLines,
  REAL,
  STORES,
  type Taking,
  VERSION,
} from './archive-places.ts';
import { isObject } from './fits.ts';
import { KEYED_APART, wrongWith } from './shapes.ts';

/** Unpacked, an archive is at most this long, and this many times its packed size: what is more is no archive of this app. */
const MOST_CHARS = 4e9;
const MOST_TIMES = 200;
const MOST_LINE = 400e6;

/** What an archive holds, by store; and when it was made. */
export interface ArchiveSummary {
  made: string;
  counts: Readonly<Record<string, number>>;
  /** Its length unpacked: about the room that it takes. */
  size: number;
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

/** Reads an archive record by record. @throws Error in words at the first thing that is wrong, with its line. */
async function* recordsOf(
  file: Blob,
  progress: Progress,
  hear: (chars: number) => void = () => {},
): AsyncGenerator<Line | { made: string }> {
  let [n, records, ended] = [0, 0, false];
  for await (const text of linesOf(file, progress)) {
    n++;
    hear(text.length);
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

/** Reads an archive through, and says what it holds. Changes nothing. @throws Error in words where it is not whole or not of this app. */
export async function checkArchive(file: Blob, progress: Progress = () => {}): Promise<ArchiveSummary> {
  const counts: Record<string, number> = {};
  let made = '';
  let size = 0;
  for await (const x of recordsOf(file, progress, (chars) => {
    size += chars;
  })) {
    if ('made' in x) made = x.made;
    else counts[x.store] = (counts[x.store] ?? 0) + 1;
  }
  return { made, counts, size };
}

/** Opens what lies under some names as the app does. @throws Error in words where something of it cannot be opened. */
export type Trial = (names: Names, progress: Progress) => Promise<void>;

/** Lays an archive ready for the next start of the app, once it has been opened on trial. @throws Error where it is not whole or cannot be opened: nothing is laid ready then. */
export async function layReady(
  file: Blob,
  how: Taking,
  progress: Progress = () => {},
  names: Names = REAL,
  trial: Trial = async () => {},
): Promise<void> {
  await deleteDB(incomingName(names));
  const coming = comingNames(names);
  await drop(coming);
  try {
    let batch: Line[] = [];
    for await (const x of recordsOf(file, (part) => progress(part / 2))) {
      if ('made' in x) continue;
      batch.push(x);
      if (batch.length < PIECE) continue;
      await putLines(coming, batch, false);
      batch = [];
    }
    await putLines(coming, batch, false);
    await trial(coming, (part) => progress((1 + part) / 2));
    const db = await openIncoming(names);
    await db.put('state', { how, step: 'ready' } satisfies Incoming, 'state');
    db.close();
  } catch (e) {
    await drop(coming);
    throw e;
  }
}

// A table as the answer to a request: streamed, a few at once, or why not.
import { type Asked, practiceDayId, type Question, readAsked, Unanswerable } from './asked.ts';
import { breathe } from './breathe.ts';
import { encoderOf, MEDIA_TYPES } from './encode.ts';
import type { Table } from './tables.ts';

/** Tables that are being sent at once; each keeps a core busy. */
const MOST_AT_ONCE = 2;
/** What is being sent: since when its reader has taken nothing, and how to end it. */
const underWay = new Set<{ since: number; end(): void }>();
const NOTHING = new Uint8Array();
/** Whoever takes nothing for so long has gone away; where others wait for their turn, much sooner. */
const PATIENCE = 60_000;
const PATIENCE_OF_OTHERS = 5_000;

/** Ends what nobody takes, where others wait. @returns whether there is room. */
function makesRoom(): boolean {
  for (const s of underWay)
    if (underWay.size >= MOST_AT_ONCE && performance.now() - s.since > PATIENCE_OF_OTHERS) s.end();
  return underWay.size < MOST_AT_ONCE;
}

/**
 * Answers with a table, or with what is wrong and what would be right.
 * @param takes which questions it takes beside the format.
 */
export function answerTable(
  request: Request,
  name: string,
  takes: readonly Question[],
  table: (asked: Asked) => Table,
): Response {
  try {
    const asked = readAsked(request.url, takes);
    if (!makesRoom())
      throw new Unanswerable(
        429,
        `${MOST_AT_ONCE} tables are being sent already. Ask again when one is done.`,
      );
    const { columns, pieces } = table(asked);
    return new Response(
      request.method === 'HEAD' ? null : streamOf(encoderOf(asked.format, columns), pieces),
      {
        headers: {
          'Content-Type': MEDIA_TYPES[asked.format],
          'Content-Disposition': `attachment; filename="${name}.${asked.format}"`,
          'Cache-Control': 'no-store',
        },
      },
    );
  } catch (e) {
    if (!(e instanceof Unanswerable)) throw e;
    return refusal(e);
  }
}

/** The same for a table of one day. */
export function answerDay(
  request: Request,
  day: string,
  name: string,
  takes: readonly Question[],
  table: (day: string, asked: Asked) => Table,
): Response {
  return answerTable(request, `${day}-${name}`, takes, (asked) => table(practiceDayId(day), asked));
}

/** Why a request is not answered, in one line. */
export const refusal = ({ status, message }: Unanswerable): Response =>
  new Response(`${message}\n`, {
    status,
    headers: {
      'Content-Type': 'text/plain; charset=utf-8',
      ...(status === 429 ? { 'Retry-After': '5' } : {}),
    },
  });

/** Bytes as they are asked for; whoever goes away ends the work. */
function streamOf(
  encoder: ReturnType<typeof encoderOf>,
  pieces: Table['pieces'],
): ReadableStream<Uint8Array> {
  const rows = pieces[Symbol.iterator]();
  let open = true;
  let gone: NodeJS.Timeout | undefined;
  const mine = { since: performance.now(), end: () => {} };
  underWay.add(mine);
  const done = () => {
    clearTimeout(gone);
    underWay.delete(mine);
    open = false;
  };
  const waitFor = (c: ReadableStreamDefaultController<Uint8Array>) => {
    clearTimeout(gone);
    mine.since = performance.now();
    mine.end = () => {
      done();
      c.error(new Error('nobody takes what was asked for'));
    };
    gone = setTimeout(mine.end, PATIENCE);
    gone.unref();
  };
  return new ReadableStream<Uint8Array>({
    start(c) {
      waitFor(c);
      c.enqueue(encoder.head());
    },
    async pull(c) {
      waitFor(c);
      try {
        // A piece may be of a symbol that has not traded.
        for (let bytes: Uint8Array = NOTHING; open && bytes.length === 0; ) {
          await breathe();
          const next = rows.next();
          bytes = next.done ? encoder.end() : encoder.rows(next.value);
          if (bytes.length > 0) c.enqueue(bytes);
          if (!next.done) continue;
          done();
          c.close();
        }
      } catch (e) {
        done();
        throw e;
      }
    },
    cancel() {
      done();
      rows.return?.();
    },
  });
}

// What the records of each store have to have, so that nothing that reads them fails.
import { isObject, listOf, maybe, misfit, number, or, type Shape, shaped, text } from './fits.ts';
import { wrongWithSession } from './session-shape.ts';

/** Records of these have their key beside them. */
export const KEYED_APART: ReadonlySet<string> = new Set(['keep', 'settings', 'members', 'draft']);

/** More companies than any market of this app has. */
const MOST_COMPANIES = 100_000;
const side = (x: unknown): boolean => x === 'buy' || x === 'sell';
const when: Shape = { date: (x) => typeof x === 'string' && /^\d{4}-\d\d-\d\d$/.test(x), at: number };
const costs = shaped({ commission: number, venue: number, sec: number, taf: number });
/** What a record has to have, so that nothing that reads it fails. */
const SHAPES: Readonly<Record<string, Shape>> = {
  attempts: {
    id: number,
    day: shaped({
      kind: text,
      id: text,
      size: maybe((x) => number(x) && (x as number) >= 1 && (x as number) <= MOST_COMPANIES),
    }),
    reached: number,
    net: number,
    r: number,
    trades: number,
  },
  entries: { attempt: number, seq: number, at: number, events: Array.isArray },
  own: { id: text, title: text, symbols: listOf(isObject) },
  past: {
    id: number,
    day: shaped({ kind: text, id: text }),
    trades: listOf(isObject),
    journal: listOf(shaped({ at: number, text })),
  },
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
  rehearsals: {
    id: number,
    name: text,
    terms: shaped({ hands: listOf(isObject), symbols: isObject, from: number, to: number, out: number }),
    desk: isObject,
    days: listOf(isObject),
  },
  days: { rehearsal: number, day: number, hands: listOf(isObject) },
};

/** What is wrong with a record of a store, in words; null where nothing is. */
export function wrongWith(store: string, value: unknown, key: unknown): string | null {
  if (KEYED_APART.has(store)) {
    if (typeof key !== 'string') return `a record of “${store}” has no key`;
    if (store !== 'keep') return null;
    if (key === 'heartbeat' && !number(value)) return 'the time of its session is no number';
    const why = key === 'session' ? wrongWithSession(value) : null;
    return why && `of the saved session: ${why}`;
  }
  if (!isObject(value)) return `a record of “${store}” is none`;
  const bad = misfit(SHAPES[store] ?? {}, value);
  return bad ? `a record of “${store}” has no fitting “${bad}”` : null;
}

/** The records of a store that can be read; the others are told of by what looks for damage. */
export const sound = <T>(store: string, records: readonly T[]): T[] =>
  records.filter((r) => wrongWith(store, r, null) === null);

// What the records of each store have to have, so that nothing that reads them fails.
/** Records of these have their key beside them. */
export const KEYED_APART: ReadonlySet<string> = new Set(['keep', 'settings', 'members', 'draft']);

/** Whether something is a record with fields. */
export const isObject = (x: unknown): x is Record<string, unknown> =>
  typeof x === 'object' && x !== null && !Array.isArray(x);

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
  attempts: {
    id: number,
    day: shaped({ kind: text, id: text }),
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
    return store === 'keep' && key === 'session' && !(isObject(value) && value.version === 7)
      ? 'its session is of another version of the app'
      : null;
  }
  if (!isObject(value)) return `a record of “${store}” is none`;
  const bad = Object.entries(SHAPES[store] ?? {}).find(([field, ok]) => !ok(value[field]));
  return bad ? `a record of “${store}” has no fitting “${bad[0]}”` : null;
}

/** The records of a store that can be read; the others are told of by what looks for damage. */
export const sound = <T>(store: string, records: readonly T[]): T[] =>
  records.filter((r) => wrongWith(store, r, null) === null);

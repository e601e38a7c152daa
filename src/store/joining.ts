// Records of an archive beside those that are there: what is there already is not put there again.
import { tagged } from '../core/formats/index.ts';
import type { Line } from './archive-places.ts';

type Fields = Record<string, unknown>;
/** What is numbered: sessions, files, rehearsals, and days of own data. */
type Kind = 'attempts' | 'imports' | 'rehearsals' | 'own';
/** The number that each thing of an archive has here. */
type Places = Record<Kind, Map<number, number>>;

const ownNumber = (id: unknown): number => Number(/^own (\d+)$/.exec(String(id))?.[1] ?? 0);
const numberOf = (kind: Kind, v: Fields): number => (kind === 'own' ? ownNumber(v.id) : Number(v.id));
const placed = (p: Places, kind: Kind, n: unknown): number => p[kind].get(Number(n)) ?? Number(n);
const ownPlaced = (id: unknown, p: Places): string =>
  String(id).replace(/^own (\d+)$/, (_, n: string) => `own ${placed(p, 'own', n)}`);
const refPlaced = (ref: unknown, p: Places): string =>
  String(ref).replace(
    /^([ai])(\d+)\./,
    (_, kind: string, n: string) => `${kind}${placed(p, kind === 'a' ? 'attempts' : 'imports', n)}.`,
  );
const dayPlaced = (day: unknown, p: Places): unknown => {
  const d = day as Fields;
  return d.kind === 'own' ? { ...d, id: ownPlaced(d.id, p) } : d;
};
const fromPlaced = (from: unknown, p: Places): unknown =>
  from ? { ...(from as Fields), attempt: placed(p, 'attempts', (from as Fields).attempt) } : null;

/** A record with the numbers that it has here; what has none is not named. */
const MOVED: Readonly<Record<string, (v: Fields, p: Places) => Fields>> = {
  attempts: (v, p) => ({
    id: placed(p, 'attempts', v.id),
    day: dayPlaced(v.day, p),
    from: fromPlaced(v.from, p),
    ...(v.watches === undefined ? {} : { watches: placed(p, 'attempts', v.watches) }),
  }),
  entries: (v, p) => ({ attempt: placed(p, 'attempts', v.attempt) }),
  own: (v, p) => ({ id: ownPlaced(v.id, p) }),
  trades: (v, p) => {
    const from = v.source as Fields;
    return {
      ref: refPlaced(v.ref, p),
      executions: (v.executions as Fields[]).map((x) =>
        x.file === undefined ? x : { ...x, file: placed(p, 'imports', x.file) },
      ),
      day: String(v.day).replace(
        /^(\["own","own )(\d+)/,
        (_, head: string, n: string) => `${head}${placed(p, 'own', n)}`,
      ),
      source:
        from.kind === 'attempt'
          ? { ...from, attempt: placed(p, 'attempts', from.attempt) }
          : { ...from, id: placed(p, 'imports', from.id) },
    };
  },
  remarks: (v, p) => ({ ref: refPlaced(v.ref, p) }),
  afters: (v, p) => ({ ref: refPlaced(v.ref, p) }),
  pictures: (v, p) => ({ ref: refPlaced(v.ref, p) }),
  imports: (v, p) => ({ id: placed(p, 'imports', v.id) }),
  rehearsals: (v, p) => ({ id: placed(p, 'rehearsals', v.id) }),
  days: (v, p) => ({ rehearsal: placed(p, 'rehearsals', v.rehearsal) }),
};

/** Where each record stands in its store. */
const KEY: Readonly<Record<string, (l: Line) => unknown>> = {
  attempts: (l) => (l.value as Fields).id,
  entries: (l) => [(l.value as Fields).attempt, (l.value as Fields).seq],
  own: (l) => (l.value as Fields).id,
  trades: (l) => (l.value as Fields).ref,
  remarks: (l) => (l.value as Fields).ref,
  afters: (l) => (l.value as Fields).ref,
  pictures: (l) => [(l.value as Fields).ref, (l.value as Fields).n],
  imports: (l) => (l.value as Fields).id,
  rehearsals: (l) => (l.value as Fields).id,
  days: (l) => [(l.value as Fields).rehearsal, (l.value as Fields).day],
  pages: (l) => (l.value as Fields).of,
  mappings: (l) => (l.value as Fields).name,
  members: (l) => l.key,
  past: (l) => (l.value as Fields).id,
};

function grouped<T, K>(list: readonly T[], by: (x: T) => K): Map<K, T[]> {
  const out = new Map<K, T[]>();
  for (const x of list) {
    const group = out.get(by(x));
    if (group) group.push(x);
    else out.set(by(x), [x]);
  }
  return out;
}

const text = (x: unknown): string => JSON.stringify(tagged(x));

/** Lines by store. */
const byStore = (lines: readonly Line[]): ((store: string) => Fields[]) => {
  const stores = grouped(lines, (l) => l.store);
  return (store) => (stores.get(store) ?? []).map((l) => l.value as Fields);
};

/**
 * Things of one kind that are the same on both sides keep the number that they have here; others get the next free ones.
 * `same` tells whether two are.
 */
function place(
  kind: Kind,
  here: readonly Fields[],
  come: readonly Fields[],
  same: (come: Fields, here: Fields) => boolean,
): Map<number, number> {
  const free = new Set(here);
  const out = new Map<number, number>();
  const fresh: Fields[] = [];
  for (const c of come) {
    const there = [...free].find((h) => same(c, h));
    if (there) {
      free.delete(there);
      out.set(numberOf(kind, c), numberOf(kind, there));
    } else fresh.push(c);
  }
  let next = Math.max(0, ...here.map((h) => numberOf(kind, h)));
  for (const c of fresh.sort((a, b) => numberOf(kind, a) - numberOf(kind, b)))
    out.set(numberOf(kind, c), ++next);
  return out;
}

/** What an archive adds to what is here. Words and choices that are here stay; what is here already is not there twice. */
export function joined(here: readonly Line[], come: readonly Line[]): Line[] {
  const [mine, theirs] = [byStore(here), byStore(come)];
  const places: Places = {
    own: place('own', mine('own'), theirs('own'), (a, b) => text({ ...a, id: 0 }) === text({ ...b, id: 0 })),
    imports: place(
      'imports',
      mine('imports'),
      theirs('imports'),
      (a, b) => text({ ...a, id: 0 }) === text({ ...b, id: 0 }),
    ),
    rehearsals: place(
      'rehearsals',
      mine('rehearsals'),
      theirs('rehearsals'),
      (a, b) => a.name === b.name && a.made === b.made && text(a.terms) === text(b.terms),
    ),
    attempts: new Map(),
  };
  places.attempts = place(
    'attempts',
    mine('attempts'),
    theirs('attempts'),
    sameSession(mine, theirs, places),
  );
  const taken = new Map<string, Set<string>>();
  const keyOf = (l: Line): string => text(KEY[l.store]?.(l));
  for (const l of here) if (KEY[l.store]) taken.set(l.store, (taken.get(l.store) ?? new Set()).add(keyOf(l)));
  const known = new Set(mine('past').map(text));
  let past = Math.max(0, ...mine('past').map((v) => Number(v.id)));
  const out: Line[] = [];
  for (const line of come) {
    if (!KEY[line.store]) continue;
    const value = line.value as Fields;
    const moved = MOVED[line.store]?.(value, places) ?? {};
    let next: Line = line.key === undefined ? { ...line, value: { ...value, ...moved } } : line;
    if (line.store === 'past' && taken.get('past')?.has(keyOf(next))) {
      // The same number may be another session.
      if (
        known.has(text(value)) ||
        mine('past').some((v) => text({ ...v, id: 0, told: 0 }) === text({ ...value, id: 0, told: 0 }))
      )
        continue;
      next = { ...line, value: { ...value, id: ++past } };
    }
    if (!taken.get(line.store)?.has(keyOf(next))) out.push(next);
  }
  return out;
}

/** Two sessions are the same where they are of one day and begin alike, and the one here has come at least as far. */
function sameSession(
  mine: (store: string) => Fields[],
  theirs: (store: string) => Fields[],
  places: Places,
): (come: Fields, here: Fields) => boolean {
  const logs = (of: (store: string) => Fields[]) =>
    grouped(
      of('entries').sort((a, b) => Number(a.seq) - Number(b.seq)),
      (e) => Number(e.attempt),
    );
  const [here, come] = [logs(mine), logs(theirs)];
  const line = (e: Fields): string => text([e.seq, e.at, e.input]);
  return (c, h) => {
    if (text(dayPlaced(c.day, places)) !== text(h.day) || (c.from === null) !== (h.from === null))
      return false;
    const [a, b] = [come.get(Number(c.id)) ?? [], here.get(Number(h.id)) ?? []];
    return (
      a.length <= b.length &&
      Number(c.reached) <= Number(h.reached) &&
      a.every((e, k) => line(e) === line(b[k] as Fields))
    );
  };
}

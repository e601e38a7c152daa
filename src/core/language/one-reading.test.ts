// No text reads as two things: every way through the forms is tried, not only the one that the reader takes.
import fc from 'fast-check';
import { formOf, KINDS, type Kind } from './forms/index.ts';
import type { Leaf, Part } from './grammar.ts';
import { printTree } from './print.ts';
import { randomTree } from './random-trees.ts';
import { inBrackets, type Slot } from './slots.ts';
import { type Token, tokenize } from './tokens.ts';
import type { Tree } from './tree.ts';
import { walk } from './walk.ts';

const draws = fc.infiniteStream(fc.double({ min: 0, max: 1, maxExcluded: true, noNaN: true }));
const RUNS = process.env.FEW_RUNS ? 200 : 2_000;

type Fields = Readonly<Record<string, unknown>>;
/** Something that may stand at a place, and where it ends. */
type Way<T> = readonly [value: T, end: number];

/** Everything that the tokens may be in a slot, by plain search. */
function waysOf(tokens: readonly Token[]) {
  const known = new Map<string, readonly Way<Tree>[]>();
  const slotAt = (slot: Slot, i: number): readonly Way<Tree>[] => {
    const key = `${slot} ${i}`;
    const found = known.get(key);
    if (found) return found;
    known.set(key, []);
    const inner = inBrackets(slot);
    const own = KINDS.filter((k) => formOf(k).slots.includes(slot)).flatMap((k) => formAt(k, i));
    const bracketed =
      inner && tokens[i]?.word === '('
        ? slotAt(inner, i + 1).flatMap(([t, j]) => (tokens[j]?.word === ')' ? [[t, j + 1] as const] : []))
        : [];
    const ways = different([...own, ...bracketed]);
    known.set(key, ways);
    return ways;
  };
  const formAt = (kind: Kind, i: number): Way<Tree>[] => {
    let ways: Way<Fields>[] = [[{ kind }, i]];
    for (const p of formOf(kind).parts) ways = ways.flatMap(([fields, j]) => partAt(p, fields, j));
    return ways.map(([fields, j]) => [formOf(kind).collapses ? collapsed(fields) : (fields as never), j]);
  };
  const wordsAt = (words: readonly string[], i: number): number | null =>
    words.every((w, k) => tokens[i + k]?.word === w && tokens[i + k]?.kind !== 'text')
      ? i + words.length
      : null;
  const valueAt = (is: Slot | Leaf<never>, fields: Fields, i: number): readonly Way<unknown>[] => {
    if (typeof is === 'string') return slotAt(is, i);
    const taken = is.take(tokens, i, fields, () => {});
    return taken && !taken.finding ? [[taken.value, taken.next]] : [];
  };
  const partAt = (p: Part, fields: Fields, i: number): Way<Fields>[] => {
    const set = (value: unknown, j: number): Way<Fields> => [
      { ...fields, [(p as { key: string }).key]: value },
      j,
    ];
    if (p.how === 'words' || p.how === 'flag') {
      const j = wordsAt(p.words, i);
      if (p.how === 'words') return j === null ? [] : [[fields, j]];
      return [set(false, i), ...(j === null ? [] : [set(true, j)])];
    }
    if (p.how === 'one') return valueAt(p.is as Slot, fields, i).map(([v, j]) => set(v, j));
    if (p.how === 'maybe') return [set(null, i), ...betweenAt(p, fields, i).map(([v, j]) => set(v, j))];
    if (p.by === 'lines' || (p.by === 'block' && i === tokens.length)) return [set([], i)];
    if (p.by === 'block') return slotAt(p.is, i).map(([v, j]) => set([v], j));
    return listsAt(p.is, p.by, i).map(([list, j]) => set(list, j));
  };
  const betweenAt = (p: Extract<Part, { how: 'maybe' }>, fields: Fields, i: number): Way<unknown>[] => {
    const led = wordsAt(p.lead, i);
    const there = led === null ? [] : valueAt(p.is as Slot, fields, led);
    return there.flatMap(([v, j]) => {
      const end = wordsAt(p.tail, j);
      return end === null ? [] : [[v, end] as const];
    });
  };
  const listsAt = (slot: Slot, by: string, i: number): Way<readonly Tree[]>[] => {
    const joined = by === 'and' || by === 'or';
    const out: Way<readonly Tree[]>[] = joined ? [] : [[[], i]];
    const grow = (list: readonly Tree[], from: number): void => {
      const j = joined && list.length > 0 ? wordsAt([by], from) : from;
      if (j === null) return;
      for (const [t, end] of slotAt(slot, j)) {
        if (end === from || (by === 'once each' && list.some((x) => x.kind === t.kind))) continue;
        const next = [...list, t];
        out.push([
          by === 'once each' ? [...next].sort((a, b) => KINDS.indexOf(a.kind) - KINDS.indexOf(b.kind)) : next,
          end,
        ]);
        grow(next, end);
      }
    };
    grow([], i);
    return out;
  };
  return (slot: Slot) => different(slotAt(slot, 0).filter(([, j]) => j === tokens.length)).map(([t]) => t);
}
const different = <T>(ways: readonly Way<T>[]): Way<T>[] => [
  ...new Map(ways.map((w) => [JSON.stringify(w), w])).values(),
];
function collapsed(fields: Fields): Tree {
  const { of, base, shifts } = fields as { of?: Tree[]; base?: Tree; shifts?: Tree[] };
  if (of?.length === 1) return of[0] as Tree;
  return shifts?.length === 0 ? (base as Tree) : (fields as never);
}

test.each(['statement', 'condition', 'exit', 'price', 'instrument'] as Slot[])(
  'no printed %s reads as two things by the forms, and the reader takes the one',
  (slot) => {
    fc.assert(
      fc.property(draws, (stream) => {
        const tree = randomTree(slot, () => stream.next().value as number);
        const [line = ''] = printTree(tree).split('\n');
        const tokens = tokenize(line).filter((t) => t.kind !== 'line end');
        const ways = waysOf(tokens)(slot).map((t) => JSON.stringify(t));
        expect([line, ways.length]).toEqual([line, 1]);
        expect([line, JSON.stringify(walk(slot, tokens).got?.tree)]).toEqual([line, ways[0]]);
      }),
      { numRuns: RUNS },
    );
  },
);

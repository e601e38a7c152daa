// Reads tokens by the forms: every slot as the form in it that takes the most.
import { KINDS } from './forms/index.ts';
import type { Before, Leaf, Many, Part } from './grammar.ts';
import type { Mark, Role, Span } from './marks.ts';
import { openings } from './openings.ts';
import { printParts, printTree } from './print.ts';
import { type Finding, type Problem, placed } from './problems.ts';
import { candidates, NONE, type Rule } from './rules.ts';
import { inBrackets, type Slot } from './slots.ts';
import { type Token, tokenize } from './tokens.ts';
import type { Tree, TreeIn } from './tree.ts';

/** One after another, each its own or a list of them. */
interface Row<T> {
  is: T | Row<T>;
  one: boolean;
  before: Row<T> | null;
}
type Marks = Row<Mark>;
type Found = Row<{ finding: Finding; span: Span }>;
const joined = <T>(before: Row<T> | null, list: Row<T> | null): Row<T> | null =>
  list === null ? before : before === null ? list : { is: list, one: false, before };
function listed<T>(row: Row<T> | null): T[] {
  const out: T[] = [];
  for (let r = row; r; r = r.before) {
    if (r.one) out.push(r.is as T);
    else out.push(...listed(r.is as Row<T>).reverse());
  }
  return out.reverse();
}
/** How far a reading has come: everything in it is shared with the readings it branched from. */
interface At {
  i: number;
  marks: Marks | null;
  found: Found | null;
  /** How many findings. */
  flaws: number;
  /** The oldest version whose retired form was used; null: none. */
  retired: number | null;
  /** Open brackets. */
  depth: number;
}
interface Got {
  tree: Tree;
  at: At;
}
type Hope = { word: string } | { leaf: Leaf<never>; before: Before } | { slot: Slot };

/** One attempt to read tokens: the farthest place that anything came to, and what could have stood there. */
export interface Walk {
  tokens: readonly Token[];
  far: number;
  hopes: Hope[];
  places: Map<object, Span>;
  expect: (i: number, word: string) => void;
  /** What each rule came to where it was tried: many sentences begin alike, and a part is read once. */
  known: Map<Rule, Map<number, Outcome>>;
}
/** What a rule comes to at a place by itself, and how far it came. */
interface Outcome {
  got: Got | null;
  far: number;
  hopes: readonly Hope[];
}

/** Reads a slot from the first token on; what is left over is seen by where it stopped. */
export function walk<S extends Slot>(
  slot: S,
  tokens: readonly Token[],
): { walk: Walk; got: (Got & { tree: TreeIn<S> }) | null } {
  const w: Walk = {
    tokens,
    far: 0,
    hopes: [],
    places: new Map(),
    expect: (i, word) => hopeWord(w, i, word),
    known: new Map(),
  };
  const got = slotAt(w, slot, beginning(0, 0));
  return { walk: w, got: got as (Got & { tree: TreeIn<S> }) | null };
}

const beginning = (i: number, depth: number): At => ({
  i,
  marks: null,
  found: null,
  flaws: 0,
  retired: null,
  depth,
});

function reached(w: Walk, i: number): void {
  if (i <= w.far) return;
  w.far = i;
  w.hopes = [];
}
function hope(w: Walk, i: number, h: Hope): void {
  if (i < w.far) return;
  reached(w, i);
  w.hopes.push(h);
}
const hopeWord = (w: Walk, i: number, word: string): void => {
  if (i >= w.far) hope(w, i, { word });
};

/** The reading of a slot that goes farthest; of those the one with the fewest flaws. */
function slotAt(w: Walk, slot: Slot, at: At): Got | null {
  const t = w.tokens[at.i];
  const rules = t ? candidates(slot, t) : NONE;
  const inner = inBrackets(slot);
  let best: Got | null = null;
  for (const rule of rules) {
    const got = ruleAt(w, rule, at);
    if (got && (!best || isBetter(got, best, rule))) best = got;
  }
  if (inner && t?.word === '(') {
    const got = bracketsAt(w, inner, at);
    if (got && (!best || got.at.i > best.at.i)) best = got;
  }
  if (!best && (rules.length === 0 || w.far <= at.i)) hope(w, at.i, { slot });
  return best;
}

/** Farther is better, then less flawed; of two that are flawed alike the one that was declared for this very slip. */
function isBetter(got: Got, than: Got, rule: Rule): boolean {
  if (got.at.i !== than.at.i) return got.at.i > than.at.i;
  return rule.insists || got.at.flaws < than.at.flaws || (got.at.flaws === than.at.flaws && got.at.flaws > 0);
}

function bracketsAt(w: Walk, slot: Slot, at: At): Got | null {
  const open = word(w, at, '(', 'word');
  const got = open && slotAt(w, slot, open);
  const close = got && word(w, got.at, ')', 'word');
  return close ? { tree: (got as Got).tree, at: close } : null;
}

/** A rule at a place, tried once: what follows there on another way is joined to what came before it. */
function ruleAt(w: Walk, rule: Rule, start: At): Got | null {
  if (rule.inBrackets && start.depth === 0) return null;
  const places = w.known.get(rule) ?? new Map<number, Outcome>();
  w.known.set(rule, places);
  const place = 2 * start.i + (start.depth > 0 ? 1 : 0);
  let known = places.get(place);
  if (!known) {
    const { far, hopes } = w;
    Object.assign(w, { far: start.i, hopes: [] });
    const got = triedAt(w, rule, beginning(start.i, Math.min(1, start.depth)));
    known = { got, far: w.far, hopes: w.hopes };
    Object.assign(w, { far, hopes });
    places.set(place, known);
  }
  if (known.far > w.far) {
    w.far = known.far;
    w.hopes = [...known.hopes];
  } else if (known.far === w.far) w.hopes.push(...known.hopes);
  if (!known.got) return null;
  const { tree, at } = known.got;
  return {
    tree,
    at: {
      i: at.i,
      marks: joined(start.marks, at.marks),
      found: joined(start.found, at.found),
      flaws: start.flaws + at.flaws,
      retired:
        start.retired === null
          ? at.retired
          : at.retired === null
            ? start.retired
            : Math.min(start.retired, at.retired),
      depth: start.depth,
    },
  };
}

function triedAt(w: Walk, rule: Rule, start: At): Got | null {
  const fields: Record<string, unknown> = rule.kind === null ? {} : { kind: rule.kind };
  let at: At | null = start;
  const { far, hopes } = w;
  const hoped = hopes.length;
  for (const p of rule.parts) {
    at = partAt(w, p, at, fields);
    if (at) continue;
    if (rule.unsaid) Object.assign(w, { far, hopes: hopes.slice(0, hoped) });
    return null;
  }
  const span = { from: w.tokens[start.i]?.from ?? 0, to: w.tokens[at.i - 1]?.to ?? 0 };
  const tree = treeOf(rule, fields);
  if (tree === null) return null;
  if (!w.places.has(tree)) w.places.set(tree, span);
  if (rule.wrong) at = flawed(at, rule.wrong(fields as never, printTree), span);
  if (rule.retired !== null)
    at = { ...at, retired: at.retired === null ? rule.retired : Math.min(at.retired, rule.retired) };
  return { tree, at };
}

function treeOf(rule: Rule, fields: Record<string, unknown>): Tree | null {
  if (rule.becomes) return rule.becomes(fields as never);
  if (rule.ours) {
    const said = tokenize(printParts(rule.ours.parts, fields));
    const { got } = walk(rule.ours.slot, said);
    return got?.at.i === said.length ? got.tree : null;
  }
  return rule.collapses ? collapsed(fields as never) : (fields as never);
}
/** A list of one is that one; a price without distances is its base. */
function collapsed(tree: { of?: readonly Tree[]; base?: Tree; shifts?: readonly Tree[] } & Tree): Tree {
  if (tree.of?.length === 1) return tree.of[0] as Tree;
  return tree.shifts?.length === 0 ? (tree.base as Tree) : tree;
}

const flawed = (at: At, finding: Finding, span: Span): At => ({
  ...at,
  found: { is: { finding, span }, one: true, before: at.found },
  flaws: at.flaws + 1,
});

function partAt(w: Walk, p: Part, at: At, fields: Record<string, unknown>): At | null {
  switch (p.how) {
    case 'words':
      return wordsAt(w, p.words, at);
    case 'flag': {
      const next = wordsAt(w, p.words, at);
      fields[p.key] = next !== null;
      return next ?? at;
    }
    case 'one':
      return valueAt(w, p.key, p.is as Slot | Leaf<never>, at, fields);
    case 'maybe': {
      const led = p.lead.length === 0 ? at : wordsAt(w, p.lead, at);
      const value = led && valueAt(w, p.key, p.is as Slot | Leaf<never>, led, fields);
      const next = value && wordsAt(w, p.tail, value);
      if (!next) fields[p.key] = null;
      return next ?? at;
    }
    case 'many':
      return manyAt(w, p, at, fields);
  }
}

function valueAt(
  w: Walk,
  key: string,
  is: Slot | Leaf<never>,
  at: At,
  fields: Record<string, unknown>,
): At | null {
  if (typeof is === 'string') {
    const got = slotAt(w, is, at);
    if (!got) return null;
    fields[key] = got.tree;
    return got.at;
  }
  const taken = is.take(w.tokens, at.i, fields, w.expect);
  if (!taken) {
    if (at.i >= w.far) hope(w, at.i, { leaf: is, before: fields });
    return null;
  }
  fields[key] = taken.value;
  let marks = at.marks;
  for (let i = at.i; i < taken.next; i++)
    marks = { is: markOf(w.tokens[i] as Token, is.role), one: true, before: marks };
  const next = { ...at, i: taken.next, marks };
  reached(w, taken.next);
  if (!taken.finding) return next;
  const [from, to] = [w.tokens[at.i]?.from ?? 0, w.tokens[taken.next - 1]?.to ?? 0];
  return flawed(next, taken.finding, { from, to });
}

function manyAt(
  w: Walk,
  { key, is: slot, by }: Many<string, Slot>,
  start: At,
  fields: Record<string, unknown>,
): At | null {
  const list: Tree[] = [];
  fields[key] = list;
  // What stands on lines of its own is put in its place by the reader of scripts.
  if (by === 'lines' || (by === 'block' && start.i === w.tokens.length)) return start;
  if (by === 'block') {
    const got = slotAt(w, slot, start);
    if (got) list.push(got.tree);
    return got?.at ?? null;
  }
  let at = start;
  for (;;) {
    const led: At | null = list.length > 0 && (by === 'and' || by === 'or') ? word(w, at, by, 'word') : at;
    const got = led && slotAt(w, slot, led);
    if (!got) break;
    if (by !== 'once each' || !list.some((x) => x.kind === got.tree.kind)) list.push(got.tree);
    at = got.at;
  }
  if (by === 'once each') list.sort((a, b) => KINDS.indexOf(a.kind) - KINDS.indexOf(b.kind));
  return list.length === 0 && (by === 'and' || by === 'or') ? null : at;
}

function wordsAt(w: Walk, list: readonly string[], start: At): At | null {
  let at: At | null = start;
  for (const text of list) {
    at = word(w, at, text, 'word');
    if (!at) return null;
  }
  return at;
}

function word(w: Walk, at: At, text: string, role: Role): At | null {
  const t = w.tokens[at.i];
  if (!t || t.word !== text || t.kind === 'text') {
    hopeWord(w, at.i, text);
    return null;
  }
  reached(w, at.i + 1);
  return {
    ...at,
    depth: at.depth + (text === '(' ? 1 : text === ')' ? -1 : 0),
    i: at.i + 1,
    marks: { is: markOf(t, role), one: true, before: at.marks },
  };
}

const markOf = (t: Token, role: Role): Mark => ({ from: t.from, to: t.to, role });

// --- what came of it

/** The marks of a reading, in their order. */
export const marksOf = (at: At | null): Mark[] => listed(at?.marks ?? null);

/** The findings of a reading with their places. */
export const findingsOf = (at: At): Problem[] =>
  listed(at.found).map(({ finding, span }) => placed(finding, span));

/** What could stand at the farthest place, as texts to choose from. */
export function choicesAt(w: Walk): string[] {
  const out = new Set<string>();
  for (const h of w.hopes) {
    if ('word' in h) out.add(h.word);
    else if ('leaf' in h) for (const c of h.leaf.choices?.(h.before) ?? []) out.add(c);
    else for (const c of openings(h.slot)) out.add(c);
  }
  return [...out];
}

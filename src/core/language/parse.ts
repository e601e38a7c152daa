import { REFERENCES } from '../market/index.ts';
import { FORMS } from './forms.ts';
import {
  type Before,
  IN_BRACKETS,
  type Leaf,
  type Many,
  type Part,
  type Role,
  SLOTS,
  type Slot,
} from './grammar.ts';
import { IDLE } from './law.ts';
import { nearestWord } from './nearest.ts';
import { printTree } from './print.ts';
import type { Finding, Fix, Problem, Span } from './problems.ts';
import { READINGS } from './readings.ts';
import { REFERENCE } from './reference-leaf.ts';
import { reserve } from './reserved.ts';
import { type Token, tokenize } from './tokens.ts';
import type { Kind, Tree, TreeIn } from './tree.ts';

/** A word of a sentence with what it does there, for the editor. */
export interface Mark extends Span {
  role: Role;
}

/** A form or another reading of one, as the parser walks it. */
interface Rule {
  /** Null for readings that are not forms. */
  kind: Kind | null;
  parts: readonly Part[];
  collapses: boolean;
  becomes: ((fields: never) => Tree | null) | null;
  wrong: ((fields: never, print: (t: Tree) => string) => Finding) | null;
  retired: number | null;
  /** Wins over what reads as far. */
  insists: boolean;
  inBrackets: boolean;
  unsaid: boolean;
}

// --- the grammar, made ready once: which rules may begin in a slot with which token

const rulesIn = new Map<Slot, Rule[]>();
for (const [kind, f] of Object.entries(FORMS)) {
  const rule: Rule = {
    kind: kind as Kind,
    parts: f.parts,
    collapses: 'collapses' in f,
    becomes: null,
    wrong: null,
    retired: null,
    insists: false,
    inBrackets: false,
    unsaid: false,
  };
  for (const slot of f.slots) rulesIn.set(slot, [...(rulesIn.get(slot) ?? []), rule]);
}
for (const r of READINGS) {
  const rule: Rule = {
    kind: null,
    parts: r.parts,
    collapses: false,
    becomes: r.becomes,
    wrong: r.wrong ?? null,
    retired: r.retired ?? null,
    insists: r.insists ?? false,
    inBrackets: r.inBrackets ?? false,
    unsaid: r.unsaid ?? false,
  };
  for (const slot of r.slots) rulesIn.set(slot, [...(rulesIn.get(slot) ?? []), rule]);
}

const beginnings = new Map<Slot, ReadonlySet<string>>();
/** Words, and kinds of tokens with a # before them, that something in a slot may begin with. */
export function beginningsOf(slot: Slot): ReadonlySet<string> {
  const known = beginnings.get(slot);
  if (known) return known;
  const out = new Set<string>();
  beginnings.set(slot, out);
  for (const rule of rulesIn.get(slot) ?? []) for (const w of startsOf(rule)) out.add(w);
  if (IN_BRACKETS[slot]) out.add('(');
  return out;
}
function startsOf({ parts }: Rule): Set<string> {
  const out = new Set<string>();
  for (const p of parts) {
    for (const w of firstOf(p)) out.add(w);
    if (p.how === 'words' || p.how === 'one' || (p.how === 'many' && (p.by === 'and' || p.by === 'or')))
      return out;
  }
  return out;
}
function firstOf(p: Part): Iterable<string> {
  if (p.how === 'words' || p.how === 'flag') return p.words.slice(0, 1);
  if (p.how === 'maybe' && p.lead.length > 0) return p.lead.slice(0, 1);
  return typeof p.is === 'string' ? beginningsOf(p.is as Slot) : (p.is as Leaf<never>).starts;
}

const rulesBy = new Map<Slot, Map<string, Rule[]>>();
for (const slot of Object.keys(SLOTS) as Slot[]) {
  const by = new Map<string, Rule[]>();
  for (const rule of rulesIn.get(slot) ?? [])
    for (const w of startsOf(rule)) by.set(w, [...(by.get(w) ?? []), rule]);
  rulesBy.set(slot, by);
}
const NONE: readonly Rule[] = [];
function candidates(slot: Slot, t: Token): readonly Rule[] {
  const by = rulesBy.get(slot) as Map<string, Rule[]>;
  const exact = by.get(t.word) ?? NONE;
  const kind = by.get(`#${t.kind}`);
  return kind === undefined
    ? exact
    : exact.length === 0
      ? kind
      : [...exact, ...kind.filter((r) => !exact.includes(r))];
}

// --- the words of the language
function wordsOf(p: Part): string[] {
  const own =
    p.how === 'words' || p.how === 'flag'
      ? p.words
      : p.how === 'maybe'
        ? p.lead
        : p.how === 'many'
          ? [p.by]
          : [];
  const leaf =
    (p.how === 'one' || p.how === 'maybe') && typeof p.is !== 'string' ? (p.is as Leaf<never>) : null;
  const chosen =
    leaf && leaf.role !== 'field' && leaf.role !== 'value'
      ? [...leaf.starts, ...(leaf.choices?.({}) ?? [])].flatMap((c) => c.split(' '))
      : [];
  return [...own, ...chosen];
}
for (const { parts } of Object.values(FORMS)) for (const p of parts as readonly Part[]) reserve(wordsOf(p));

// --- walking

interface Marks {
  mark: Mark;
  before: Marks | null;
}
interface Found {
  finding: Finding;
  span: Span;
  before: Found | null;
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
}

/** Reads a slot from the first token on; what is left over is seen by where it stopped. */
export function walk<S extends Slot>(
  slot: S,
  tokens: readonly Token[],
): { walk: Walk; got: (Got & { tree: TreeIn<S> }) | null } {
  const w: Walk = { tokens, far: 0, hopes: [], places: new Map(), expect: (i, word) => hopeWord(w, i, word) };
  const got = slotAt(w, slot, { i: 0, marks: null, found: null, flaws: 0, retired: null, depth: 0 });
  return { walk: w, got: got as (Got & { tree: TreeIn<S> }) | null };
}

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
  const inner = IN_BRACKETS[slot];
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

function ruleAt(w: Walk, rule: Rule, start: At): Got | null {
  if (rule.inBrackets && start.depth === 0) return null;
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
  return rule.collapses ? collapsed(fields as never) : (fields as never);
}
/** A list of one is that one; a price without distances is its base. */
function collapsed(tree: { of?: readonly Tree[]; base?: Tree; shifts?: readonly Tree[] } & Tree): Tree {
  if (tree.of?.length === 1) return tree.of[0] as Tree;
  return tree.shifts?.length === 0 ? (tree.base as Tree) : tree;
}

const flawed = (at: At, finding: Finding, span: Span): At => ({
  ...at,
  found: { finding, span, before: at.found },
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
      const next = led && valueAt(w, p.key, p.is as Slot | Leaf<never>, led, fields);
      if (!next) fields[p.key] = null;
      return next ?? at;
    }
    case 'many':
      return manyAt(w, p.key, p.is, p.by, at, fields);
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
    marks = { mark: markOf(w.tokens[i] as Token, is.role), before: marks };
  const next = { ...at, i: taken.next, marks };
  reached(w, taken.next);
  if (!taken.finding) return next;
  const [from, to] = taken.flaw === undefined ? [at.i, taken.next - 1] : [taken.flaw, taken.flaw];
  return flawed(next, taken.finding, { from: w.tokens[from]?.from ?? 0, to: w.tokens[to]?.to ?? 0 });
}

const LIFE_ORDER = Object.keys(FORMS);

function manyAt(
  w: Walk,
  key: string,
  slot: Slot,
  by: Many<string, Slot>['by'],
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
  if (by === 'once each') list.sort((a, b) => LIFE_ORDER.indexOf(a.kind) - LIFE_ORDER.indexOf(b.kind));
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
    marks: { mark: markOf(t, role), before: at.marks },
  };
}

const markOf = (t: Token, role: Role): Mark => ({ from: t.from, to: t.to, role });

// --- what came of it

/** The marks of a reading, in their order. */
export function marksOf(at: At | null): Mark[] {
  const out: Mark[] = [];
  for (let m = at?.marks ?? null; m; m = m.before) out.push(m.mark);
  return out.reverse();
}

/** The findings of a reading with their places. */
export function findingsOf(at: At): Problem[] {
  const out: Problem[] = [];
  for (let f = at.found; f; f = f.before) out.push(placed(f.finding, f.span));
  return out.reverse();
}

/** A finding in its place. */
export function placed(finding: Finding, span: Span): Problem {
  const { fixes, at: _at, ...wrong } = finding;
  return { ...wrong, span, fixes: fixes.map((text) => ({ ...span, text })) } as Problem;
}

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

/** How something in a slot may begin: the words of each form up to its first value, or the choices of that. */
function openings(slot: Slot, seen = new Set<Slot>()): string[] {
  if (seen.has(slot)) return [];
  seen.add(slot);
  return Object.values(FORMS).flatMap((f) => {
    if (!(f.slots as readonly Slot[]).includes(slot)) return [];
    const out: string[] = [];
    for (const p of f.parts as readonly Part[]) {
      if (p.how === 'words') return [...out, p.words.join(' ').replace(/ \($/, '')];
      if (p.how === 'flag') out.push(p.words.join(' '));
      else if (p.how === 'maybe' && p.lead.length > 0) out.push(p.lead.join(' '));
      else {
        const is = p.is as Slot | Leaf<never>;
        out.push(...(typeof is === 'string' ? openings(is, seen) : (is.choices?.({}) ?? [])));
        if (p.how === 'one' || p.how === 'many') return out;
      }
    }
    return out;
  });
}

// --- what other people call things
const BORROWED: readonly { words: readonly string[]; ours: string }[] = [
  ...Object.values(FORMS),
  ...REFERENCES,
]
  .flatMap((f) => Object.entries(('aka' in f && f.aka) || {}))
  .map(([theirs, ours]) => ({ words: theirs.split(' '), ours }))
  .sort((a, b) => b.words.length - a.words.length);

const MOST_TRIED = 12;
/** Letters of a word that is like many others. */
const SHORT = 5;

/** Words around a place that mean something of ours which fits there, and where they stand. */
function borrowedAt({ tokens, far }: Walk, fits: (f: Fix) => boolean): Fix | null {
  for (const { words, ours } of BORROWED) {
    for (let k = Math.max(0, far - words.length + 1); k <= far; k++) {
      const [first, last] = [tokens[k], tokens[k + words.length - 1]];
      if (!first || !last || !words.every((x, n) => tokens[k + n]?.word === x)) continue;
      const fix = { from: first.from, to: last.to, text: ours, declared: true } as const;
      if (fits(fix)) return fix;
    }
  }
  return null;
}

/** Whether a sentence with a fix in it is read as far as the fix and so many words beyond. */
function readsOn(w: Walk, text: string, slots: readonly Slot[], fix: Fix, beyond: number): boolean {
  const from = (w.tokens[0] as Token).from;
  const to = (w.tokens[w.tokens.length - 1] as Token).to;
  const tokens = tokenize(text.slice(from, fix.from) + fix.text + text.slice(fix.to, to));
  const rest = tokens.filter((t) => t.from >= fix.from - from + fix.text.length).length;
  return slots.some((slot) => walk(slot, tokens).walk.far >= tokens.length - Math.max(0, rest - beyond));
}

/**
 * Why a reading stopped where it did: what was found there, what was expected (`ends`: it could have
 * ended), and what might mend it, the likeliest first. Nothing that was typed is ever replaced by an example: that would be
 * another order.
 */
export function stopped(w: Walk, text: string, whole: readonly Slot[], ends: boolean): Problem {
  const t = w.tokens[w.far];
  const before = w.tokens[w.far - 1];
  const slots = w.hopes.flatMap((h) => ('slot' in h ? [h.slot] : []));
  const leaves = w.hopes.flatMap((h) => ('leaf' in h ? [h.leaf] : []));
  const words = [...new Set(w.hopes.flatMap((h) => ('word' in h ? [h.word] : [])))];
  const expected = expectedText(slots, leaves, words, w.far === 0 ? whole : [], ends);
  if (!t) {
    const to = before?.to ?? 0;
    const ended = [...slots.map((s) => SLOTS[s].example), ...leaves.map((l) => l.example), ...words];
    const adding = ended.map((x) => ({ from: to, to, text: before && x !== ')' ? ` ${x}` : x }));
    const span = { from: before?.from ?? 0, to };
    return { code: 'missing', expected, after: before?.text ?? null, span, fixes: adding };
  }
  const span = { from: t.from, to: t.to };
  if (t.text === '"') {
    const end = (w.tokens[w.tokens.length - 1] as Token).to;
    return { code: 'open quote', span, fixes: [{ from: end, to: end, text: '"' }] };
  }
  const borrowed = borrowedAt(w, (f) => readsOn(w, text, whole, f, f.to - f.from < SHORT ? 1 : 0));
  if (borrowed) {
    const place = { from: borrowed.from, to: borrowed.to };
    const word = text.slice(place.from, place.to);
    return { code: 'unknown word', word, nearest: borrowed.text, expected, span: place, fixes: [borrowed] };
  }
  if (t.kind !== 'word') {
    const found = t.kind === 'text' ? `“${t.text}”` : t.text;
    return { code: 'unfit', found, expected, span, fixes: remediesAt(w, text, whole, ends) };
  }
  const known = choicesAt(w).filter((k) => !/^[0-9]/.test(k));
  const firsts = [...new Set(known.flatMap((k) => k.split(' ').slice(0, 1)))];
  // A short word is near to many: of those, one after which the next word reads, too.
  const fits = (x: string | null) =>
    x !== null && readsOn(w, text, whole, { ...span, text: x }, t.text.length < SHORT ? 1 : 0);
  const nearest = [nearestWord(t.text, known), nearestWord(t.text, firsts)].find(fits) ?? null;
  // A level by its bare name.
  const level = w.hopes.some(
    (h) =>
      ('leaf' in h && h.leaf === (REFERENCE as Leaf<never>)) ||
      ('slot' in h && (h.slot === 'price' || h.slot === 'base')),
  );
  const fixes = [
    ...(nearest ? [{ ...span, text: nearest }] : remediesAt(w, text, whole, ends)),
    ...(level && /^[a-z]+$/.test(t.text) ? [{ ...span, text: `level "${t.text}"` }] : []),
  ];
  return { code: 'unknown word', word: t.text, nearest, expected, span, fixes };
}

/** What may mend a sentence that stops at a token which nothing there is like. */
function remediesAt(w: Walk, text: string, whole: readonly Slot[], ends: boolean): Fix[] {
  const t = w.tokens[w.far] as Token;
  const before = w.tokens[w.far - 1];
  const last = w.tokens[w.tokens.length - 1] as Token;
  const slots = w.hopes.flatMap((h) => ('slot' in h ? [h.slot] : []));
  const words = w.hopes.flatMap((h) => ('word' in h ? [h.word] : []));
  // An exit on the line of its order: a comma before it.
  const exit =
    ends && before && !whole.includes('rule') && (t.text === ';' || beginningsOf('exit').has(t.word));
  if (exit)
    return [...reworded(w, text), { from: before.to, to: t.text === ';' ? t.to : before.to, text: ',' }];
  // A name without its quotes: all that is left, or one word.
  const named = t.kind === 'word' && w.hopes.some((h) => 'leaf' in h && h.leaf.starts.includes('#text'));
  const quoted = named
    ? [last.to, t.to].map((to) => ({ from: t.from, to, text: `"${text.slice(t.from, to)}"` }))
    : [];
  const leading = [...words, ...(w.far === 0 ? [] : slots.flatMap((x) => openings(x)))]
    .filter((x) => x !== '+' && x !== '-')
    .slice(0, MOST_TRIED);
  return [
    ...reworded(w, text),
    ...quoted,
    ...leading.map((x) => ({ from: t.from, to: t.from, text: `${x} ` })),
    ...(w.far > 0 ? [{ from: before?.to ?? t.from, to: t.to, text: '' }] : []),
  ];
}

/** What a sentence says that is said in another order here, or on lines of its own. */
function reworded({ tokens, far }: Walk, text: string): Fix[] {
  const [first, before, t, next] = [tokens[0], tokens[far - 1], tokens[far], tokens[far + 1]];
  if (!first || !before || !t) return [];
  const end = (tokens[tokens.length - 1] as Token).to;
  if ((t.word === 'when' || t.word === 'if') && next)
    return [
      {
        from: first.from,
        to: end,
        text: `when ${text.slice(next.from, end)}: ${text.slice(first.from, before.to)}`,
      },
    ];
  if ((t.word === 'and' || t.word === 'then') && next)
    return [{ from: before.to, to: next.from, text: '\n' }];
  // Behind “with” a plan may stand, or exits are meant.
  if (before.word === 'with' && far > 1)
    return [{ from: (tokens[far - 2] as Token).to, to: t.from, text: ', ' }];
  if (IDLE.has(before.word)) return [{ from: before.from, to: t.from, text: '' }];
  // A stop of a close goes beyond the market, on the side that it closes on.
  const way = first.word === 'sell' ? 'below' : first.word === 'cover' ? 'above' : null;
  if (t.word === 'stop' && way && next)
    return [{ from: t.from, to: next.word === 'at' ? next.to : t.to, text: way, declared: true }];
  return [];
}

function expectedText(
  slots: readonly Slot[],
  leaves: readonly Leaf<never>[],
  words: readonly string[],
  whole: readonly Slot[],
  ends: boolean,
): string {
  if (whole.length > 0) return whole.map((s) => SLOTS[s].says).join(', or ');
  const parts = [...new Set([...slots.map((s) => SLOTS[s].says), ...leaves.map((l) => l.leaf)])].slice(0, 2);
  const list = [
    ...parts,
    ...(parts.length < 2
      ? words.flatMap((x) => (parts.some((p) => p.includes(x)) ? [] : [`“${x}”`])).slice(0, 6)
      : []),
    ...(ends ? ['the end'] : []),
  ];
  return list.length === 0 ? 'nothing more' : list.join(', or ');
}

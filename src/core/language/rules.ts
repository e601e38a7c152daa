// The forms and readings as the parser walks them, made ready once: which may begin in a slot with which token.
import { formOf, KINDS, type Kind } from './forms/index.ts';
import type { Leaf, Part } from './grammar.ts';
import type { Finding } from './problems.ts';
import { READINGS } from './readings/index.ts';
import { borrow, reserve } from './reserved.ts';
import { inBrackets, SLOTS, type Slot } from './slots.ts';
import { type Token, tokenize } from './tokens.ts';
import type { Tree } from './tree.ts';

/** A form or another reading of one, as the parser walks it. */
export interface Rule {
  /** Null for readings that are not forms. */
  kind: Kind | null;
  parts: readonly Part[];
  collapses: boolean;
  becomes: ((fields: never) => Tree | null) | null;
  /** What says the same in our words, and a slot to read it in. */
  ours: { parts: readonly Part[]; slot: Slot } | null;
  wrong: ((fields: never, print: (t: Tree) => string) => Finding) | null;
  retired: number | null;
  /** Wins over what reads as far. */
  insists: boolean;
  inBrackets: boolean;
  unsaid: boolean;
}

const rulesIn = new Map<Slot, Rule[]>();
const declare = (slots: readonly Slot[], over: Partial<Rule> & Pick<Rule, 'parts'>): void => {
  const rule: Rule = {
    kind: null,
    collapses: false,
    becomes: null,
    ours: null,
    wrong: null,
    retired: null,
    insists: false,
    inBrackets: false,
    unsaid: false,
    ...over,
  };
  for (const slot of slots) rulesIn.set(slot, [...(rulesIn.get(slot) ?? []), rule]);
};
for (const kind of KINDS) {
  const { slots, parts, collapses } = formOf(kind);
  declare(slots, { kind, parts, collapses: collapses ?? false });
}
for (const { slots, ours, ...reading } of READINGS) {
  const own = ours ? { ours: { parts: ours, slot: slots[0] as Slot } } : {};
  declare(slots, { ...reading, ...own } as Partial<Rule> & Pick<Rule, 'parts'>);
}

const beginnings = new Map<Slot, ReadonlySet<string>>();
/** Words, and kinds of tokens with a # before them, that something in a slot may begin with. */
export function beginningsOf(slot: Slot): ReadonlySet<string> {
  const known = beginnings.get(slot);
  if (known) return known;
  const out = new Set<string>();
  beginnings.set(slot, out);
  for (const rule of rulesIn.get(slot) ?? []) for (const w of startsOf(rule)) out.add(w);
  if (inBrackets(slot)) out.add('(');
  return out;
}
/** Whether a text begins as a sentence does. */
export function beginsSentence(text: string): boolean {
  const [first] = tokenize(text);
  return first !== undefined && beginningsOf('statement').has(first.word);
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
export const NONE: readonly Rule[] = [];
export function candidates(slot: Slot, t: Token): readonly Rule[] {
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
        ? [...p.lead, ...p.tail]
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
for (const kind of KINDS) {
  for (const p of formOf(kind).parts) reserve(wordsOf(p));
  borrow(Object.keys(formOf(kind).aka ?? {}));
}

// One line, or a piece of one, read as one of the things that may stand there.
import { isLawful } from './law.ts';
import { type Line, linesOf } from './lines.ts';
import type { Mark, Span } from './marks.ts';
import { type Fix, type Problem, placed } from './problems.ts';
import type { Slot } from './slots.ts';
import { stopped } from './stopped.ts';
import { type Token, tokenize } from './tokens.ts';
import type { Tree, TreeIn } from './tree.ts';
import { findingsOf, marksOf, type Walk, walk } from './walk.ts';

const DEEPEST = 8;
const MOST_WORDS = 500;

/** A piece that was read: as which of the things that may stand there; or what is wrong with it. */
export interface Piece {
  tree: Tree | null;
  slot: Slot;
  marks: readonly Mark[];
  problems: readonly Problem[];
  retired: boolean;
  places: ReadonlyMap<object, Span>;
}

const deepest = (tokens: readonly Token[]): Token | null => {
  let depth = 0;
  let nots = 0;
  for (const t of tokens) {
    depth += t.word === '(' ? 1 : t.word === ')' ? -1 : 0;
    nots = t.word === 'not' ? nots + 1 : 0;
    if (depth > DEEPEST || nots > DEEPEST) return t;
  }
  return null;
};

/** Why tokens are not looked at at all: too many, or too deep in brackets. */
function beyondBounds(tokens: readonly Token[]): Problem | null {
  const surplus = tokens[MOST_WORDS];
  if (surplus)
    return placed(
      { code: 'too many', what: `A sentence has at most ${MOST_WORDS} words`, fixes: [''] },
      { from: surplus.from, to: (tokens[tokens.length - 1] as Token).to },
    );
  const deep = deepest(tokens);
  return deep && placed({ code: 'too deep', fixes: [] }, { from: deep.from, to: deep.to });
}

type Attempt = { slot: Slot } & ReturnType<typeof walk>;
const isWhole = ({ got }: Attempt, tokens: readonly Token[]): boolean =>
  got !== null && got.at.i === tokens.length;

/**
 * Reads tokens as one of several things, the likeliest first: as that which takes all of them with the fewest flaws. Where none does, it is said why
 * the one stopped that came farthest, and what any of them expected there.
 */
export function readPiece(
  slots: readonly Slot[],
  tokens: readonly Token[],
  text: string,
  tries: Tries = manyTries(),
): Piece {
  const piece = attempted(slots, tokens, text);
  return piece.problems.length === 0
    ? piece
    : { ...piece, problems: piece.problems.map((p) => mendable(p, slots, tokens, text, tries)) };
}

/** The same with what might mend it, still to be proved. */
function attempted(slots: readonly Slot[], tokens: readonly Token[], text: string): Piece {
  const [first] = slots as [Slot];
  const none = { tree: null, slot: first, marks: [], retired: false, places: new Map() };
  const beyond = beyondBounds(tokens);
  if (beyond) return { ...none, problems: [beyond] };
  const attempts = slots.map((slot): Attempt => ({ slot, ...walk(slot, tokens) }));
  const whole = attempts
    .filter((a) => isWhole(a, tokens))
    .reduce<Attempt | null>((a, b) => (a?.got && b.got && a.got.at.flaws <= b.got.at.flaws ? a : b), null);
  if (whole?.got) {
    const { slot, got } = whole;
    return {
      tree: got.tree,
      slot,
      marks: marksOf(got.at),
      problems: findingsOf(got.at),
      retired: got.at.retired !== null,
      places: whole.walk.places,
    };
  }
  const best = attempts.reduce((a, b) => (b.walk.far > a.walk.far ? b : a));
  const as = attempts.filter((a) => a.walk.far === best.walk.far);
  const found = best.got && best.got.at.flaws > 0 ? findingsOf(best.got.at) : [];
  const marks = marksOf(best.got?.at ?? null);
  if (found.length > 0) return { ...none, slot: best.slot, marks, problems: found };
  const all: Walk = { ...best.walk, hopes: as.flatMap((a) => a.walk.hopes) };
  const asSlots = as.map((a) => a.slot);
  const ends = as.some((a) => a.got?.at.i === all.far);
  return {
    ...none,
    slot: best.slot,
    marks,
    problems: [stopped(all, text, asSlots, ends)],
  };
}

/** A text as what may stand in a slot; null where it is not that, or not all of it. */
export function readAs<S extends Slot>(slot: S, text: string): TreeIn<S> | null {
  const tokens = tokenize(text);
  const { got } = walk(slot, tokens);
  return got === null || got.at.i < tokens.length ? null : (got.tree as never);
}

/** Tokens read without a flaw as one of several things. */
const flawless = (slots: readonly Slot[], tokens: readonly Token[]): boolean =>
  slots.some((slot) => {
    const { got } = walk(slot, tokens);
    return got !== null && got.at.i === tokens.length && got.at.flaws === 0;
  });

/** Whether each line of a text reads without a flaw as one of several things, with exits behind its commas where it may have some. */
export function readsAs(slots: readonly Slot[], text: string): boolean {
  const { lines } = linesOf(tokenize(text), text);
  return lines.length > 0 && lines.every((line) => lineReads(slots, line));
}

function lineReads(slots: readonly Slot[], { tokens, under }: Line): boolean {
  if (!flawless(slots, tokens)) return false;
  if (under.length === 0) return true;
  const trees = slots.flatMap((slot) => (slot === 'exit' ? [] : (walk(slot, tokens).got?.tree ?? [])));
  const block = trees.some((t) => t.kind === 'when' && t.actions.length === 0);
  const exits = trees.some(holdsExits);
  return under.every((x) => (x.comma ? exits && lineReads(['exit'], x) : block && lineReads(['action'], x)));
}

/** Whether exits may stand under a tree, or under what it does once it fires. */
function holdsExits(tree: Tree | undefined): boolean {
  if (!tree) return false;
  if ('exits' in tree && Array.isArray(tree.exits)) return true;
  const inner = tree as { actions?: readonly Tree[]; orders?: readonly Tree[] };
  return [...(inner.actions ?? []), ...(inner.orders ?? [])].some(holdsExits);
}

/** What repairs are looked for with: how many words may still be read, and which symbols are listed. */
export interface Tries {
  left: number;
  isListed(symbol: string): boolean;
}

/** So many mistakes in one line are mended together, and so many words of a script are read for it in all. */
const MOST_MISTAKES = 5;
const MOST_TRIED = 400;
/** What a script may take in all. */
export const manyTries = (isListed: Tries['isListed'] = () => false): Tries => ({
  left: MOST_TRIED,
  isListed,
});
const MOST_TOKENS = 60;
const MOST_FIXES = 3;

/** A problem with what mends it: texts that read, each made of repairs that keep to the law. */
function mendable(
  problem: Problem,
  slots: readonly Slot[],
  tokens: readonly Token[],
  text: string,
  tries: Tries,
): Problem {
  const from = (tokens[0] as Token).from;
  const to = Math.max((tokens[tokens.length - 1] as Token).to, ...problem.fixes.map((f) => f.to));
  if (tokens.length > MOST_TOKENS) return { ...problem, fixes: [] };
  const piece = text.slice(from, to);
  const first = problem.fixes.map((f) => ({ ...f, from: f.from - from, to: f.to - from }));
  const texts = mended(slots, piece, first, MOST_MISTAKES, tries);
  return { ...problem, fixes: texts.slice(0, MOST_FIXES).map((t) => changeOf(piece, t, from)) };
}

/** Texts that read, after one of some repairs and what it takes after that. */
function mended(
  slots: readonly Slot[],
  text: string,
  fixes: readonly Fix[],
  depth: number,
  tries: Tries,
): string[] {
  const next = fixes.flatMap((fix) =>
    fix.declared || isLawful(text, fix, tries.isListed)
      ? [text.slice(0, fix.from) + fix.text + text.slice(fix.to)]
      : [],
  );
  const words = text.split(' ').length;
  const out = new Set<string>();
  const goOn: string[] = [];
  for (const t of new Set(next)) {
    tries.left -= words;
    if (tries.left <= 0 || out.size >= MOST_FIXES) break;
    if (readsAs(slots, t)) out.add(t);
    else goOn.push(t);
  }
  // What takes one repair comes before what takes two.
  for (const t of out.size > 0 || depth === 1 ? [] : goOn) {
    if (tries.left <= 0 || out.size >= MOST_FIXES) break;
    // To find what may mend it takes several readings.
    tries.left -= 3 * words;
    for (const x of mended(slots, t, repairsOf(slots, t), depth - 1, tries)) out.add(x);
  }
  return [...out];
}

/** What may mend the first piece of a text that does not read. */
function repairsOf(slots: readonly Slot[], text: string): readonly Fix[] {
  const { lines } = linesOf(tokenize(text), text);
  const line = lines.find((x) => !lineReads(slots, x));
  if (!line) return [];
  const pieces = [
    { tokens: line.tokens, slots },
    ...line.under.map((x) => ({ tokens: x.tokens, slots: ['exit'] as const })),
  ];
  const wrong = pieces.find((p) => !flawless(p.slots, p.tokens));
  // What is left over is a name in quotes only where nothing else has been mended.
  const fixes = wrong ? (attempted(wrong.slots, wrong.tokens, text).problems[0]?.fixes ?? []) : [];
  return fixes.filter((f) => !f.text.startsWith('"'));
}

/** The change from one text to another, as small as it can be; `at` is where the first one stands. */
function changeOf(before: string, after: string, at: number): Fix {
  let from = 0;
  while (from < before.length && before[from] === after[from]) from++;
  let end = 0;
  while (
    end < before.length - from &&
    end < after.length - from &&
    before.at(-1 - end) === after.at(-1 - end)
  )
    end++;
  return { from: at + from, to: at + before.length - end, text: after.slice(from, after.length - end) };
}

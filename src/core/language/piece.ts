// One line, or a piece of one, read as one of the things that may stand there.
import type { Slot } from './grammar.ts';
import { linesOf } from './lines.ts';
import { findingsOf, type Mark, marksOf, placed, stopped, type Walk, walk } from './parse.ts';
import type { Fix, Problem, Span } from './problems.ts';
import { type Token, tokenize } from './tokens.ts';
import type { Tree } from './tree.ts';

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
export function readPiece(slots: readonly Slot[], tokens: readonly Token[], text: string): Piece {
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
    problems: [mendable(stopped(all, text, asSlots, ends), asSlots, tokens, text)],
  };
}

/** Whether a text reads without a flaw as one of several things, and what follows its commas as exits. */
export function readsAs(slots: readonly Slot[], text: string): boolean {
  const { lines, count } = linesOf(tokenize(text), text);
  const [line] = lines;
  if (!line || lines.length > 1 || count !== 1 + line.under.length) return false;
  const flawless = (as: readonly Slot[], tokens: readonly Token[]) =>
    as.some((slot) => {
      const { got } = walk(slot, tokens);
      return got !== null && got.at.i === tokens.length && got.at.flaws === 0;
    });
  return flawless(slots, line.tokens) && line.under.every((x) => x.comma && flawless(['exit'], x.tokens));
}

/**
 * Of what may mend a piece, that after which it reads: what is surely meant, else what adds to what
 * was typed, else what leaves something out. What is surely meant need not mend all of it.
 */
function mendable(
  { problem, remedies }: ReturnType<typeof stopped>,
  slots: readonly Slot[],
  tokens: readonly Token[],
  text: string,
): Problem {
  const from = (tokens[0] as Token).from;
  const to = (tokens[tokens.length - 1] as Token).to;
  const reads = (f: Fix): boolean =>
    readsAs(slots, text.slice(from, f.from) + f.text + text.slice(f.to, Math.max(to, f.to)));
  if (remedies.sure.length > 0) return { ...problem, fixes: remedies.sure };
  const distinct = (list: readonly Fix[]) =>
    list.filter(
      (f, k) =>
        list.findIndex((x) => x.text.trim() === f.text.trim() && x.from === f.from && x.to === f.to) === k,
    );
  for (const list of [remedies.adding, remedies.leavingOut]) {
    const fixes = distinct(list).filter(reads).slice(0, 3);
    if (fixes.length > 0) return { ...problem, fixes };
  }
  // A sentence that only has to go on is begun.
  return problem.code === 'missing' ? { ...problem, fixes: distinct(remedies.adding).slice(0, 3) } : problem;
}

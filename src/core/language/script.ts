import { checkTree } from './checks.ts';
import type { Slot } from './grammar.ts';
import { beginningsOf, findingsOf, type Mark, marksOf, placed, stopped, walk } from './parse.ts';
import { printTree } from './print.ts';
import type { Fix, Problem, Span } from './problems.ts';
import { type Token, tokenize } from './tokens.ts';
import type { Exit, Rule, Statement, Tree } from './tree.ts';

/** How much a script may be, so that any text is answered at once. */
const MOST_CHARACTERS = 10 ** 4;
const DEEPEST = 8;
const MOST_PROBLEMS = 20;
const MOST_SENTENCES = 200;
const MOST_WORDS = 500;

/** A comment: on the line of the sentence with that number, or on a line of its own before it. */
interface Comment {
  sentence: number;
  alone: boolean;
  text: string;
}

/** What a text reads as. One with problems must not be run. */
export interface Parsed {
  statements: readonly Statement[];
  /** Where each statement stands, with its exits. */
  spans: readonly Span[];
  marks: readonly Mark[];
  comments: readonly Comment[];
  problems: readonly Problem[];
  /** Forms of an earlier version were used: printing says the same anew. */
  retired: boolean;
}

interface Sentence {
  tokens: Token[];
  /** How far it is indented; what stands behind a comma is a little deeper than what stands before it. */
  indent: number;
}
/** How much deeper what follows a comma stands. */
const AFTER_COMMA = 1e-3;

/** Sentences end with a line, or with a comma before an exit. A line that ends with a colon goes on. */
function sentencesOf(
  tokens: readonly Token[],
  text: string,
): {
  sentences: Sentence[];
  comments: Comment[];
  marks: Mark[];
} {
  const sentences: Sentence[] = [];
  const comments: Comment[] = [];
  const marks: Mark[] = [];
  let open: Token[] = [];
  let onLine = 0;
  const close = () => {
    const [first] = open;
    if (first) {
      const indent = first.from - (text.lastIndexOf('\n', first.from - 1) + 1);
      const before = sentences[sentences.length - 1];
      sentences.push({ tokens: open, indent: onLine > 0 && before ? before.indent + AFTER_COMMA : indent });
      onLine++;
    }
    open = [];
  };
  for (const t of tokens) {
    if (t.kind === 'comment') {
      close();
      comments.push({
        sentence: onLine > 0 ? sentences.length - 1 : sentences.length,
        alone: onLine === 0,
        text: t.text.trimEnd(),
      });
      marks.push({ from: t.from, to: t.to, role: 'comment' });
    } else if (t.kind === 'line end') {
      if (open[open.length - 1]?.word === ':') continue;
      close();
      onLine = 0;
    } else if (t.word === ',') close();
    else open.push(t);
  }
  close();
  return { sentences, comments, marks };
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

interface Read<T> {
  tree: T | null;
  marks: Mark[];
  problems: Problem[];
  retired: boolean;
  places: ReadonlyMap<object, Span>;
}

function readSlot(slot: Slot, tokens: readonly Token[], text: string): Read<Tree> {
  const none = { tree: null, marks: [], retired: false, places: new Map() };
  const deep = deepest(tokens);
  const surplus = tokens[MOST_WORDS];
  if (surplus) {
    const span = { from: surplus.from, to: (tokens[tokens.length - 1] as Token).to };
    return {
      ...none,
      problems: [
        placed({ code: 'too many', what: `A sentence has at most ${MOST_WORDS} words`, fixes: [''] }, span),
      ],
    };
  }
  if (deep)
    return { ...none, problems: [placed({ code: 'too deep', fixes: [] }, { from: deep.from, to: deep.to })] };
  const { walk: w, got } = walk(slot, tokens);
  if (!got || got.at.i < tokens.length) {
    const found = got && got.at.flaws > 0 ? findingsOf(got.at) : [];
    return {
      ...none,
      marks: marksOf(got?.at ?? null),
      problems:
        found.length > 0
          ? found
          : [mendable(stopped(w, text, slot, got?.at.i === w.far), slot, tokens, text)],
    };
  }
  return {
    tree: got.tree,
    marks: marksOf(got.at),
    problems: findingsOf(got.at),
    retired: got.at.retired !== null,
    places: w.places,
  };
}

/**
 * Of what may mend a sentence, that after which it reads: what is surely meant, else what adds to what
 * was typed, else what leaves something out. What is surely meant need not mend all of it.
 */
function mendable(
  { problem, remedies }: ReturnType<typeof stopped>,
  slot: Slot,
  tokens: readonly Token[],
  text: string,
): Problem {
  const from = (tokens[0] as Token).from;
  const to = (tokens[tokens.length - 1] as Token).to;
  const reads = (f: Fix): boolean => {
    const mended = text.slice(from, f.from) + f.text + text.slice(f.to, Math.max(to, f.to));
    const [first, ...exits] = sentencesOf(tokenize(mended), mended).sentences;
    if (!first) return false;
    const begins = slot !== 'rule' && beginningsOf('exit').has((first.tokens[0] as Token).word);
    return [first, ...exits].every(({ tokens: part }, k) => {
      const { got } = walk(k > 0 || begins ? 'exit' : slot, part);
      return got !== null && got.at.i === part.length && got.at.flaws === 0;
    });
  };
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

/** Reads a script. Every sentence that can be read is in it; every mistake is a problem with its place and, where there is one, its fix. */
export function parseScript(text: string): Parsed {
  const nothing = { statements: [], spans: [], marks: [], comments: [], retired: false };
  if (text.length > MOST_CHARACTERS) {
    const span = { from: MOST_CHARACTERS, to: text.length };
    return { ...nothing, problems: [placed({ code: 'too long', most: MOST_CHARACTERS, fixes: [''] }, span)] };
  }
  const { sentences, comments, marks } = sentencesOf(tokenize(text), text);
  const surplus = sentences[MOST_SENTENCES]?.tokens[0];
  if (surplus)
    return {
      ...nothing,
      marks,
      comments,
      problems: [
        placed(
          { code: 'too many', what: `A script has at most ${MOST_SENTENCES} sentences`, fixes: [''] },
          { from: surplus.from, to: text.length },
        ),
      ],
    };
  const read = assembled(sentences, text);
  const { statements, spans, problems, places, retired } = read;
  marks.push(...read.marks);
  if (sentences.length === 0)
    problems.push(placed({ code: 'empty', fixes: ['buy 100 at ask + 2c'] }, { from: 0, to: text.length }));
  if (problems.length === 0) {
    statements.forEach((s, k) => {
      for (const f of checkTree(s))
        if (problems.length < MOST_PROBLEMS) problems.push(inPlace(f, places, spans[k] as Span, text));
    });
  }
  return { statements, spans, marks: marks.sort((a, b) => a.from - b.from), comments, problems, retired };
}

/** What has been read of a script so far. */
interface Assembled {
  statements: Statement[];
  spans: Span[];
  marks: Mark[];
  problems: Problem[];
  places: Map<object, Span>;
  retired: boolean;
  /** What lines may hang on, outermost first: orders, pairs, attachments. */
  owners: { tree: Tree; indent: number }[];
  /** The last sentence that stands by itself. */
  last: Sentence | null;
  /** The sentence before could not be read: what hangs on it is not called stray as well. */
  lost: boolean;
}
type Hanging = 'exit' | 'chained' | 'order';

/** Reads sentence after sentence; lines that hang on another go where they belong by how far they are indented. */
function assembled(sentences: readonly Sentence[], text: string): Assembled {
  const out: Assembled = {
    statements: [],
    spans: [],
    marks: [],
    problems: [],
    places: new Map(),
    retired: false,
    owners: [],
    last: null,
    lost: false,
  };
  for (const sentence of sentences) {
    if (out.problems.length >= MOST_PROBLEMS) break;
    const slot = slotOf(out, sentence);
    const read = readSlot(slot, sentence.tokens, text);
    out.marks.push(...read.marks);
    out.problems.push(...read.problems);
    out.retired ||= read.retired;
    for (const [tree, where] of read.places) out.places.set(tree, where);
    if (slot === 'statement') {
      const whose = whoseLine(out, sentence, text);
      if (whose) out.problems.push(whose);
      else addStatement(out, read.tree as Statement | null, sentence);
    } else if (!out.lost && read.tree) hang(out, read.tree, slot, sentence);
  }
  return out;
}

/** What a sentence has to be, by its first word and its indent. What it does not hang on is let go. */
function slotOf({ owners }: Assembled, { tokens, indent }: Sentence): Hanging | 'statement' {
  const word = (tokens[0] as Token).word;
  const hangs = (['exit', 'chained'] as const).find((x) => beginningsOf(x).has(word));
  // An exit that is not indented belongs to the order before it all the same.
  const least = hangs ? 1 : 0;
  while (owners.length > least && (owners[owners.length - 1]?.indent ?? 0) >= indent) owners.pop();
  return hangs ?? (owners[owners.length - 1]?.tree.kind === 'one of' ? 'order' : 'statement');
}

/**
 * A line under a sentence, or behind the comma of one that waits, that is neither an exit nor a chained order of it: it
 * would be done at once, which nobody means who writes it there. Both readings are offered.
 */
function whoseLine(out: Assembled, sentence: Sentence, text: string): Problem | null {
  const { last } = out;
  if (!last || sentence.indent <= last.indent) return null;
  const [when, first] = [last.tokens[0] as Token, sentence.tokens[0] as Token];
  const colon = last.tokens.find((t) => t.word === ':');
  const waits = (when.word === 'when' && colon !== undefined) || out.owners.length > 1;
  if (!waits && sentence.indent % 1 !== 0) return null;
  const span = spanOf(sentence);
  const own = text.slice(span.from, span.to);
  const before = /[\s,]*$/.exec(text.slice(0, span.from))?.index ?? span.from;
  const indent = ' '.repeat(Math.floor(last.indent));
  const alone = { from: before, to: span.to, text: `\n${indent}${own}` };
  const heads = when.word === 'when' && colon ? [text.slice(when.from, colon.to)] : [];
  return {
    ...placed({ code: 'whose line', what: first.text, waits, fixes: [] }, span),
    fixes: [alone, ...heads.map((head) => ({ ...alone, text: `\n${indent}${head} ${own}` }))],
  };
}

const spanOf = ({ tokens }: Sentence): Span => ({
  from: (tokens[0] as Token).from,
  to: (tokens[tokens.length - 1] as Token).to,
});

function addStatement(out: Assembled, tree: Statement | null, sentence: Sentence): void {
  out.lost = tree === null;
  out.last = sentence;
  out.owners = [];
  if (!tree) return;
  out.statements.push(tree);
  out.spans.push(spanOf(sentence));
  out.owners.push({ tree: holderOf(tree), indent: sentence.indent });
}

/** Hangs a line on its owner; it is a problem where it has none. */
function hang(out: Assembled, tree: Tree, slot: Hanging, sentence: Sentence): void {
  const owner = out.owners[out.owners.length - 1]?.tree;
  const list = owner && linesOf(owner, slot);
  const span = spanOf(sentence);
  if (!list) {
    out.problems.push({
      ...placed({ code: 'stray exit', word: (sentence.tokens[0] as Token).text, fixes: [] }, span),
      fixes: slot === 'exit' ? [{ from: span.from, to: span.from, text: 'attach\n  ' }] : [],
    });
    return;
  }
  (list as Tree[]).push(tree);
  (out.spans[out.spans.length - 1] as Span).to = span.to;
  if (slot !== 'exit') out.owners.push({ tree: holderOf(tree), indent: sentence.indent });
}

/** What the lines under a sentence belong to: the order that waits, or that goes once another is filled. */
function holderOf(tree: Tree): Tree {
  if (tree.kind === 'when') return tree.action;
  return tree.kind === 'once filled' || tree.kind === 'once filled when' ? tree.order : tree;
}

/** The exits of a tree, the orders chained to it, or those that it joins; null where it has none. */
function linesOf(owner: Tree, which: Hanging): readonly Tree[] | null {
  if (which === 'order') return owner.kind === 'one of' ? owner.of : null;
  if (which === 'exit') return 'exits' in owner && Array.isArray(owner.exits) ? owner.exits : null;
  return 'chain' in owner && Array.isArray(owner.chain) ? owner.chain : null;
}

/** A finding where its tree stands; what is about the whole of an order is underlined on its first line. */
function inPlace(
  f: ReturnType<typeof checkTree>[number],
  places: ReadonlyMap<object, Span>,
  whole: Span,
  text: string,
): Problem {
  const span = (f.at && places.get(f.at)) ?? whole;
  const problem = placed(f, span);
  if (f.code === 'risk without stop' || f.code === 'R without stop') {
    const before = text.slice(text.lastIndexOf('\n', span.from - 1) + 1, span.from);
    const indent = /^[ \t]*/.exec(before)?.[0] ?? '';
    // Beside an exit on a line of its own; otherwise under the line of the order.
    const beside = f.code === 'R without stop' && before.trim() === '';
    const end = text.indexOf('\n', span.to);
    const at = end < 0 ? text.length : end;
    return { ...problem, fixes: [{ from: at, to: at, text: `\n${indent}${beside ? '' : '  '}stop 30c` }] };
  }
  if (f.code === 'two of a kind' || f.code === 'too many parts' || f.code === 'plan and exits')
    return { ...problem, fixes: [lineOut(span, text)] };
  return f.code === 'unfit life'
    ? {
        ...problem,
        fixes: [{ from: text[span.from - 1] === ' ' ? span.from - 1 : span.from, to: span.to, text: '' }],
      }
    : problem;
}
/** Takes a sentence out, with the line end or comma before it. */
function lineOut(span: Span, text: string) {
  const before = /[\n,][ \t]*$/.exec(text.slice(0, span.from));
  return { from: before ? before.index : span.from, to: span.to, text: '' };
}

const ATTACH = 'attach\n';
/** Reads exits by themselves, a line each, as they stand in a plan; places are those of the text. */
export function parseExits(text: string): {
  exits: readonly Exit[];
  marks: readonly Mark[];
  problems: readonly Problem[];
} {
  const { statements, marks, problems } = parseScript(ATTACH + text);
  const back = <T extends Span>(x: T): T => ({
    ...x,
    from: Math.max(0, x.from - ATTACH.length),
    to: Math.max(0, x.to - ATTACH.length),
  });
  const [s, second] = statements;
  const foreign: Problem[] = second
    ? [placed({ code: 'not an exit', fixes: [] }, { from: 0, to: text.length })]
    : [];
  return {
    exits: s?.kind === 'attach' && problems.length === 0 && !second ? s.exits : [],
    marks: marks.filter((m) => m.from >= ATTACH.length).map(back),
    problems: [
      ...problems.map((p) => ({
        ...p,
        span: back(p.span),
        fixes: p.fixes.filter((f) => f.from >= ATTACH.length).map(back),
      })),
      ...foreign,
    ],
  };
}

type ParsedRule =
  | { ok: true; rule: Rule; marks: readonly Mark[]; clauses: readonly Span[] }
  | { ok: false; problem: Problem; marks: readonly Mark[] };

/**
 * Reads a rule such as `gap > 8% and price between 2 and 20 and borrow is easy`. `and` binds
 * tighter than `or`. A bare number takes the field's own unit; another unit is a problem.
 */
export function parseRule(text: string): ParsedRule {
  const tokens = tokenize(text).filter((t) => t.kind !== 'comment' && t.kind !== 'line end');
  if (text.length > MOST_CHARACTERS)
    return {
      ok: false,
      marks: [],
      problem: placed(
        { code: 'too long', most: MOST_CHARACTERS, fixes: [''] },
        { from: MOST_CHARACTERS, to: text.length },
      ),
    };
  if (tokens.length === 0)
    return {
      ok: false,
      marks: [],
      problem: placed({ code: 'empty rule', fixes: ['gap > 8%'] }, { from: 0, to: text.length }),
    };
  const { tree, marks, problems, places } = readSlot('rule', tokens, text);
  const whole = { from: tokens[0]?.from ?? 0, to: tokens[tokens.length - 1]?.to ?? 0 };
  const [problem] = [
    ...problems,
    ...(tree && problems.length === 0 ? checkTree(tree).map((f) => inPlace(f, places, whole, text)) : []),
  ];
  if (problem || !tree) return { ok: false, marks, problem: problem as Problem };
  const rule = tree as Rule;
  return {
    ok: true,
    rule,
    marks,
    clauses: (rule.kind === 'all' ? rule.of : [rule]).map((c) => places.get(c) ?? whole),
  };
}

/** The tidy text of a script: reading it gives the same statements and comments. */
export function printScript({ statements, comments }: Pick<Parsed, 'statements' | 'comments'>): string {
  const lines = statements.flatMap((s) => printTree(s).split('\n'));
  const out: string[] = [];
  for (let n = 0; n <= lines.length; n++) {
    const line = lines[n];
    const here = comments.filter((c) => c.sentence === n || (n === lines.length && c.sentence > n));
    const indent = line?.startsWith('  ') ? '  ' : '';
    out.push(...here.filter((c) => c.alone).map((c) => indent + c.text));
    if (line !== undefined) out.push([line, ...here.filter((c) => !c.alone).map((c) => c.text)].join('  '));
  }
  return out.join('\n');
}

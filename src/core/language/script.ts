import { assemble } from './assemble.ts';
import { checkTree } from './checks.ts';
import { linesOf } from './lines.ts';
import type { Mark, Span } from './marks.ts';
import { readPiece } from './piece.ts';
import { linesIn, printTree } from './print.ts';
import { type Problem, placed } from './problems.ts';
import { scanFindings } from './scan-checks.ts';
import { tokenize } from './tokens.ts';
import type { Condition, Exit, Statement } from './tree.ts';

/** How much a script may be, so that any text is answered at once. */
const MOST_CHARACTERS = 10 ** 4;
const MOST_PROBLEMS = 20;
const MOST_LINES = 200;

/** A comment: behind the printed line with that number, or on a line of its own before it. */
interface Comment {
  line: number;
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

/** Reads a script; `isListed` tells which symbols trade, so that one in small letters may be meant. Every sentence that can be read is in it; every mistake is a problem with its place and, where there is one, its fix. */
export function parseScript(text: string, isListed?: (symbol: string) => boolean): Parsed {
  const nothing = { statements: [], spans: [], marks: [], comments: [], retired: false };
  if (text.length > MOST_CHARACTERS) {
    const span = { from: MOST_CHARACTERS, to: text.length };
    return { ...nothing, problems: [placed({ code: 'too long', most: MOST_CHARACTERS, fixes: [''] }, span)] };
  }
  const { lines, count, remarks, marks } = linesOf(tokenize(text), text);
  if (count > MOST_LINES) {
    const surplus = {
      code: 'too many',
      what: `A script has at most ${MOST_LINES} lines`,
      fixes: [],
    } as const;
    return { ...nothing, marks, problems: [placed(surplus, { from: 0, to: text.length })] };
  }
  const read = assemble(lines, text, MOST_PROBLEMS, isListed);
  const { statements, spans, places, retired } = read;
  const problems = [...read.problems];
  if (count === 0)
    problems.push(placed({ code: 'empty', fixes: ['buy 100 at ask + 2c'] }, { from: 0, to: text.length }));
  if (problems.length === 0) {
    statements.forEach((s, k) => {
      for (const f of checkTree(s))
        if (problems.length < MOST_PROBLEMS) problems.push(inPlace(f, places, spans[k] as Span, text));
    });
  }
  const printed = linesIn(statements);
  const comments = remarks.map(({ line, alone, text: words }) => {
    const tree = line && read.trees.get(line);
    const at = tree ? printed.findIndex((trees) => trees.includes(tree)) : -1;
    return { line: at < 0 ? (line ? 0 : printed.length) : at, alone, text: words };
  });
  return {
    statements,
    spans,
    marks: [...marks, ...read.marks].sort((a, b) => a.from - b.from),
    comments,
    problems,
    retired,
  };
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
  | { ok: true; rule: Condition; marks: readonly Mark[]; clauses: readonly Span[] }
  | { ok: false; problem: Problem; marks: readonly Mark[] };

/**
 * Reads what a scan looks for, such as `gap > 8% and price between 2 and 20 and borrow is easy`. `and` binds
 * tighter than `or`. A bare number takes the field's own unit; another unit is a problem, and so is what a scan cannot know.
 */
export function parseRule(text: string): ParsedRule {
  const wrong = (problem: Problem, marks: readonly Mark[] = []) => ({ ok: false, marks, problem }) as const;
  const surplus = { from: MOST_CHARACTERS, to: text.length };
  if (text.length > MOST_CHARACTERS)
    return wrong(placed({ code: 'too long', most: MOST_CHARACTERS, fixes: [''] }, surplus));
  const tokens = tokenize(text).filter((t) => t.kind !== 'comment' && t.kind !== 'line end');
  const whole = { from: tokens[0]?.from ?? 0, to: tokens[tokens.length - 1]?.to ?? 0 };
  if (tokens.length === 0) return wrong(placed({ code: 'empty rule', fixes: ['gap > 8%'] }, whole));
  const { tree, marks, problems, places } = readPiece(['condition'], tokens, text);
  const rule = tree as Condition | null;
  const findings = rule && problems.length === 0 ? [...checkTree(rule), ...scanFindings(rule)] : [];
  const [problem] = [...problems, ...findings.map((f) => inPlace(f, places, whole, text))];
  if (problem || !rule) return wrong(problem as Problem, marks);
  const clauses = (rule.kind === 'all' ? rule.of : [rule]).map((c) => places.get(c) ?? whole);
  return { ok: true, rule, marks, clauses };
}

/** The tidy text of a script: reading it gives the same statements and comments. */
export function printScript({ statements, comments }: Pick<Parsed, 'statements' | 'comments'>): string {
  const lines = statements.flatMap((s) => printTree(s).split('\n'));
  const out: string[] = [];
  for (let n = 0; n <= lines.length; n++) {
    const line = lines[n];
    const here = comments.filter((c) => c.line === n || (n === lines.length && c.line > n));
    const indent = /^ */.exec(line ?? '')?.[0] ?? '';
    out.push(...here.filter((c) => c.alone).map((c) => indent + c.text));
    if (line !== undefined) out.push([line, ...here.filter((c) => !c.alone).map((c) => c.text)].join('  '));
  }
  return out.join('\n');
}

/** A text with other statements where a sentence stands; its comments stay. */
export function withSentence(text: string, { from, to }: Span, statements: readonly Statement[]): string {
  const { comments } = parseScript(text.slice(from, to));
  return text.slice(0, from) + printScript({ statements, comments }) + text.slice(to);
}

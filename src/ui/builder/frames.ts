import {
  explain,
  parseRule,
  parseScript,
  printTree,
  type Row,
  rowsOf,
  type Statement,
  withSentence,
} from '@/core/language';

/** What a text is: a script, the exits of a plan, a rule, or what is waited for. */
export type Frame = 'script' | 'exits' | 'rule' | 'condition';

/** A sentence of a text as rows of words, and the text with another one in its place. */
export interface Sentence {
  statement: Statement;
  rows: readonly Row[];
  /** The whole text with this sentence changed. */
  text(changed: Statement): string;
  /** The text as it is. */
  now: string;
  /** Whether a statement stays within what this text is. */
  allows(made: Statement): boolean;
}

const BARE = { kind: 'attach', instrument: null, part: null, exits: [] } as const satisfies Statement;

/** The sentences of a text that read, and what is wrong with the others. */
export function sentencesIn(frame: Frame, text: string): { sentences: Sentence[]; problems: string[] } {
  if (frame === 'rule') return ofRule(text);
  if (frame === 'exits') return ofExits(text);
  if (frame === 'condition') return ofCondition(text);
  const parsed = parseScript(text);
  const empty = text.trim() === '';
  return {
    problems: empty ? [] : parsed.problems.map(explain),
    sentences: parsed.statements.map((statement, k) => {
      const { from, to } = parsed.spans[k] as { from: number; to: number };
      return {
        statement,
        rows: rowsOf(statement),
        now: text,
        allows: () => true,
        text: (changed) => {
          return withSentence(text, { from, to }, [changed]);
        },
      };
    }),
  };
}

function ofExits(text: string): ReturnType<typeof sentencesIn> {
  const empty = text.trim() === '';
  const { statements, problems } = parseScript(`attach\n${text}`);
  const [read] = statements;
  const statement = empty || read?.kind !== 'attach' ? BARE : read;
  if (problems.length > 0 && !empty) return { sentences: [], problems: problems.map(explain) };
  return {
    problems: [],
    sentences: [
      {
        statement,
        rows: rowsOf(statement).map((row, k) => (k === 0 ? { ...row, words: [] } : { ...row, indent: 0 })),
        now: text,
        allows: (made) => made.kind === 'attach' && made.instrument === null && made.part === null,
        text: (changed) =>
          printTree(changed)
            .split('\n')
            .slice(1)
            .map((line) => line.slice(2))
            .join('\n'),
      },
    ],
  };
}

function ofRule(text: string): ReturnType<typeof sentencesIn> {
  const parsed = parseRule(text);
  if (!parsed.ok) return { sentences: [], problems: [explain(parsed.problem)] };
  const statement = { kind: 'alert any when', condition: parsed.rule } as const satisfies Statement;
  const [row] = rowsOf(statement);
  return {
    problems: [],
    sentences: [
      {
        statement,
        rows: row ? [{ ...row, words: row.words.filter((w) => w.path.length > 0) }] : [],
        now: text,
        allows: (made) => made.kind === 'alert any when',
        text: (changed) => (changed.kind === 'alert any when' ? printTree(changed.condition) : text),
      },
    ],
  };
}

/** What is done when a bare condition fires does not matter to it. */
const waiting = (text: string) => parseScript(`when newly ${text}: flatten`);

/** What is wrong with a condition, in words; null where it reads. */
export function conditionProblem(text: string): string | null {
  if (text.trim() === '') return 'Write what has to become true, such as: last crosses above premarket high.';
  const { statements, problems } = waiting(text);
  const [wrong] = problems;
  if (wrong) return explain(wrong);
  return statements.length === 1 && statements[0]?.kind === 'when'
    ? null
    : 'One condition, without an action.';
}

function ofCondition(text: string): ReturnType<typeof sentencesIn> {
  const problem = conditionProblem(text);
  const [statement] = waiting(text).statements;
  if (problem !== null || statement?.kind !== 'when')
    return { sentences: [], problems: text.trim() === '' ? [] : [problem ?? 'One condition.'] };
  const [row] = rowsOf(statement);
  return {
    problems: [],
    sentences: [
      {
        statement,
        rows: row ? [{ ...row, words: row.words.filter((w) => w.path[0] === 'condition') }] : [],
        now: text,
        allows: (made) =>
          made.kind === 'when' &&
          made.newly &&
          made.until === null &&
          made.actions.length === 1 &&
          made.actions[0]?.kind === 'flatten',
        text: (changed) => (changed.kind === 'when' ? printTree(changed.condition) : text),
      },
    ],
  };
}

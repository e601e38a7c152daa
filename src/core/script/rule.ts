import { FIELDS, type Field, type FieldUnit } from '../market/index.ts';
import { type Cursor, cursor, done, peekToken, refuse, takeWords, Unreadable } from './cursor.ts';
import type { SyntaxProblem } from './problems.ts';
import { type Token, tokenize } from './tokens.ts';
import { COMPARISONS, type Rule, type RuleNumber, type Span } from './tree.ts';

export type ParsedRule = { ok: true; rule: Rule } | { ok: false; problem: SyntaxProblem };

/** How a value of each unit is written. */
export const UNIT_EXAMPLE: Record<FieldUnit, string> = {
  percent: '8%',
  dollars: '$20',
  shares: '100k',
  times: '3',
  cents: '5c',
  minutes: '90m',
  bp: '20',
  count: '3',
  atr: '0.5',
  choice: '',
  flag: '',
};
const LONGEST_FIRST = [...FIELDS].sort((a, b) => b.name.length - a.name.length);
const NAMES = FIELDS.map((f) => f.name);

/**
 * Reads a rule such as `gap > 8% and price between 2 and 20 and borrow is easy`. `and` binds
 * tighter than `or`. A bare number takes the field's own unit; another unit is a problem.
 */
export function parseRule(text: string): ParsedRule {
  const tokens = tokenize(text).filter((t) => t.kind !== 'comment' && t.kind !== 'line end');
  if (tokens.length === 0) return { ok: false, problem: { code: 'empty rule', span: { from: 0, to: text.length } } };
  const c = cursor(tokens, text.length);
  try {
    const rule = parseOr(c);
    if (!done(c)) refuse(c, '“and”, “or” or the end of the rule', ['and', 'or']);
    return { ok: true, rule };
  } catch (e) {
    if (e instanceof Unreadable) return { ok: false, problem: e.problem };
    throw e;
  }
}

/** Where a rule stands in its text. */
export function spanOf(r: Rule): Span {
  switch (r.kind) {
    case 'and':
    case 'or':
      return { from: spanOf(r.left).from, to: spanOf(r.right).to };
    case 'not':
      return spanOf(r.rule);
    default:
      return r.span;
  }
}

/** Reads a rule at the cursor and stops at the first word that does not go on with it. */
export function parseOr(c: Cursor): Rule {
  let left = parseAnd(c);
  while (takeWords(c, 'or')) left = { kind: 'or', left, right: parseAnd(c) };
  return left;
}

function parseAnd(c: Cursor): Rule {
  let left = parseOne(c);
  while (takeWords(c, 'and')) left = { kind: 'and', left, right: parseOne(c) };
  return left;
}

function parseOne(c: Cursor): Rule {
  if (takeWords(c, 'not')) return { kind: 'not', rule: parseOne(c) };
  if (takeWords(c, '(')) {
    const rule = parseOr(c);
    if (!takeWords(c, ')')) refuse(c, 'a closing bracket “)”');
    return rule;
  }
  const first = peekToken(c) as Token | undefined;
  const field = takeField(c);
  const span = { from: first?.from ?? 0, to: first?.to ?? 0 };
  const ended = () => c.tokens[c.at - 1]?.to ?? span.to;
  if (field.unit === 'flag') return { kind: 'flag', field: field.name, span: { ...span, to: ended() } };
  if (field.choices) {
    if (!takeWords(c, 'is')) refuse(c, `“is” and one of: ${field.choices.join(', ')}`, ['is']);
    const not = takeWords(c, 'not');
    const choice = field.choices.find((x) => takeWords(c, ...x.toLowerCase().split(' '))) ?? refuse(c, `one of: ${field.choices.join(', ')}`, field.choices);
    return { kind: 'is', field: field.name, choice, not, span: { ...span, to: ended() } };
  }
  if (takeWords(c, 'between')) {
    const low = parseNumber(c, field);
    if (!takeWords(c, 'and')) refuse(c, '“and” and the upper value', ['and']);
    const high = parseNumber(c, field);
    span.to = ended();
    return { kind: 'between', field: field.name, low, high, span };
  }
  for (const op of [...COMPARISONS].sort((a, b) => b.length - a.length)) {
    if (takeWords(c, op)) {
      const to = parseNumber(c, field);
      span.to = ended();
      return { kind: 'compare', field: field.name, op, to, span };
    }
  }
  return refuse(c, '>, >=, <, <= or “between”', ['between']);
}

function takeField(c: Cursor): Field {
  for (const f of LONGEST_FIRST) if (takeWords(c, ...f.name.split(' '))) return f;
  const words: Token[] = [];
  for (let i = c.at; c.tokens[i]?.kind === 'word' && !['and', 'or', 'between', 'is'].includes(c.tokens[i]?.text ?? ''); i++) words.push(c.tokens[i] as Token);
  const firstWord = words[0];
  const lastWord = words[words.length - 1];
  const expected = `a field such as ${NAMES.slice(0, 5).join(', ')}; the editor offers them all`;
  if (!firstWord || !lastWord) return refuse(c, expected, NAMES);
  c.tokens.splice(c.at, words.length, { ...firstWord, text: words.map((w) => w.text).join(' '), to: lastWord.to });
  return refuse(c, expected, NAMES);
}

function parseNumber(c: Cursor, field: Field): RuleNumber {
  const sign = takeWords(c, '-') ? -1 : 1;
  const t = peekToken(c);
  if (t?.kind !== 'number' && t?.kind !== 'money') return refuse(c, `a value such as ${UNIT_EXAMPLE[field.unit]}`);
  c.at++;
  const unit: FieldUnit | null =
    t.kind === 'money'
      ? 'dollars'
      : t.suffix === '%'
        ? 'percent'
        : t.suffix === 'c'
          ? 'cents'
          : t.suffix === 'm'
            ? 'minutes'
            : t.suffix === 'x'
              ? 'times'
              : null;
  if ((unit && unit !== field.unit) || t.suffix === 'R') {
    throw new Unreadable({
      code: 'wrong field unit',
      field: field.name,
      found: unit ?? 'R',
      expected: field.unit,
      example: `${field.name} > ${UNIT_EXAMPLE[field.unit]}`,
      span: { from: t.from, to: t.to },
    });
  }
  return { value: sign * t.value, unit: field.unit === 'percent' || field.unit === 'cents' || field.unit === 'minutes' ? field.unit : unit };
}

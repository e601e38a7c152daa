import { type Cursor, cursor, done, peekToken, refuse, takeWords, Unreadable } from './cursor.ts';
import type { SyntaxProblem } from './problems.ts';
import { type Token, tokenize } from './tokens.ts';
import type { Comparison, ScanNumber, ScanRule, ScanUnit } from './tree.ts';

/** What a rule may name: the words of a field, its unit and an example. */
export interface RuleField {
  name: string;
  unit: ScanUnit;
}

export type ParsedRule = { ok: true; rule: ScanRule } | { ok: false; problem: SyntaxProblem };

const UNIT_EXAMPLE: Record<ScanUnit, string> = {
  percent: '8%',
  dollars: '$20',
  shares: '100k',
  times: '3',
  cents: '5c',
  minutes: '90m',
  bp: '20',
  count: '3',
  atr: '0.5',
};

/**
 * Reads a scan rule such as `gap > 8% and price between 2 and 20`. `and` binds tighter than `or`.
 * A bare number takes the field's own unit; another unit is a problem.
 */
export function parseRule(text: string, fields: readonly RuleField[]): ParsedRule {
  const tokens = tokenize(text).filter((t) => t.kind !== 'comment' && t.kind !== 'line end');
  if (tokens.length === 0) return { ok: false, problem: { code: 'empty', span: { from: 0, to: text.length } } };
  const c = cursor(tokens, text.length);
  try {
    const rule = parseOr(c, fields);
    if (!done(c)) refuse(c, '“and”, “or” or the end of the rule', ['and', 'or']);
    return { ok: true, rule };
  } catch (e) {
    if (e instanceof Unreadable) return { ok: false, problem: e.problem };
    throw e;
  }
}

function parseOr(c: Cursor, fields: readonly RuleField[]): ScanRule {
  let left = parseAnd(c, fields);
  while (takeWords(c, 'or')) left = { kind: 'or', left, right: parseAnd(c, fields) };
  return left;
}

function parseAnd(c: Cursor, fields: readonly RuleField[]): ScanRule {
  let left = parseOne(c, fields);
  while (takeWords(c, 'and')) left = { kind: 'and', left, right: parseOne(c, fields) };
  return left;
}

function parseOne(c: Cursor, fields: readonly RuleField[]): ScanRule {
  if (takeWords(c, 'not')) return { kind: 'not', rule: parseOne(c, fields) };
  if (takeWords(c, '(')) {
    const rule = parseOr(c, fields);
    if (!takeWords(c, ')')) refuse(c, 'a closing bracket “)”');
    return rule;
  }
  const first = peekToken(c) as Token | undefined;
  const field = takeField(c, fields);
  const span = { from: first?.from ?? 0, to: first?.to ?? 0 };
  if (takeWords(c, 'between')) {
    const low = parseNumber(c, field);
    if (!takeWords(c, 'and')) refuse(c, '“and” and the upper value', ['and']);
    const high = parseNumber(c, field);
    span.to = c.tokens[c.at - 1]?.to ?? span.to;
    return { kind: 'between', field: field.name, low, high, span };
  }
  for (const op of ['>=', '<=', '>', '<'] as Comparison[]) {
    if (takeWords(c, op)) {
      const to = parseNumber(c, field);
      span.to = c.tokens[c.at - 1]?.to ?? span.to;
      return { kind: 'compare', field: field.name, op, to, span };
    }
  }
  return refuse(c, '>, >=, <, <= or “between”', ['between']);
}

function takeField(c: Cursor, fields: readonly RuleField[]): RuleField {
  const longestFirst = [...fields].sort((a, b) => b.name.length - a.name.length);
  for (const f of longestFirst) if (takeWords(c, ...f.name.split(' '))) return f;
  const words: Token[] = [];
  for (let i = c.at; c.tokens[i]?.kind === 'word' && !['and', 'or', 'between'].includes(c.tokens[i]?.text ?? ''); i++) words.push(c.tokens[i] as Token);
  const firstWord = words[0];
  const lastWord = words[words.length - 1];
  const names = fields.map((f) => f.name);
  if (!firstWord || !lastWord) return refuse(c, `a field: ${names.join(', ')}`, names);
  c.tokens.splice(c.at, words.length, { ...firstWord, text: words.map((w) => w.text).join(' '), to: lastWord.to });
  return refuse(c, `a field: ${names.join(', ')}`, names);
}

function parseNumber(c: Cursor, field: RuleField): ScanNumber {
  const sign = takeWords(c, '-') ? -1 : 1;
  const t = peekToken(c);
  if (t?.kind !== 'number' && t?.kind !== 'money') return refuse(c, `a value such as ${UNIT_EXAMPLE[field.unit]}`);
  c.at++;
  const unit: ScanUnit | null =
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

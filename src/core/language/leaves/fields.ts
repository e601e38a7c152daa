// Fields of a symbol and their values.
import { FIELDS, type Field, type FieldUnit, fieldOf } from '../../market/index.ts';
import { unreachable } from '../../units/index.ts';
import { ONE, readDecimal, writeDecimal } from '../decimal.ts';
import type { Before, Leaf } from '../grammar.ts';
import type { Finding } from '../problems.ts';
import type { Token } from '../tokens.ts';
import { phrase } from './names.ts';
import { between } from './random.ts';

const unitsOf = (unit: FieldUnit): readonly string[] =>
  ({ percent: ['%'], cents: ['c'], minutes: ['m'], times: ['x'] })[unit as string] ?? [];
/** How a value of each unit is written, as an example. */
export const UNIT_EXAMPLE: Readonly<Record<FieldUnit, string>> = {
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
const FIELD_MOST = 1e11;

const fieldLeaf = (fields: readonly Field[], leaf: string): Leaf<string> => {
  const split = fields.map((f) => f.name.split(' ')).sort((a, b) => b.length - a.length);
  const byFirst = new Map<string, string[][]>();
  for (const w of split) byFirst.set(w[0] as string, [...(byFirst.get(w[0] as string) ?? []), w]);
  const names = fields.map((f) => f.name);
  return {
    leaf,
    name: 'FIELD',
    role: 'field',
    example: names[0] as string,
    starts: [...byFirst.keys()],
    choices: () => names,
    write: (f) => f,
    random: (r) => names[between(r, 0, names.length - 1)] as string,
    take: (tokens, i, _before, expect) => phrase(byFirst.get(tokens[i]?.word ?? '') ?? [], tokens, i, expect),
  };
};
const isChoice = (f: Field): boolean => f.choices !== undefined;
/** A field with a number for its value. */
export const MEASURED_FIELD = fieldLeaf(
  FIELDS.filter((f) => !isChoice(f) && f.unit !== 'flag'),
  'a field such as gap, change or float',
);
export const CHOICE_FIELD = fieldLeaf(FIELDS.filter(isChoice), 'a field with choices such as borrow');
export const FLAG_FIELD = fieldLeaf(
  FIELDS.filter((f) => f.unit === 'flag'),
  'a field that is yes or no, such as restricted',
);
const fieldIn = (before: Before): Field => fieldOf(before.field as string);

/** One of the choices of the field before it. */
export const CHOICE: Leaf<string> = {
  leaf: 'one of the field’s choices',
  name: 'CHOICE',
  role: 'value',
  example: 'easy',
  starts: ['#word'],
  choices: (before) => fieldIn(before).choices ?? [],
  write: (c) => c,
  random(r, before) {
    const list = fieldIn(before).choices ?? [];
    return list[between(r, 0, list.length - 1)] as string;
  },
  take(tokens, i, before, expect) {
    const list = fieldIn(before).choices ?? [];
    const taken = phrase(
      list.map((c) => c.toLowerCase().split(' ')),
      tokens,
      i,
      expect,
    );
    if (!taken) for (const c of list) expect(i, c);
    return taken && { ...taken, value: list.find((c) => c.toLowerCase() === taken.value) as string };
  },
};

/** Shares that no company has so few of, and no day: millions are meant. */
const FEW_SHARES = 1_000;
/** A value that reads, and hardly means what it says: so few shares, or a part of a cent. Both readings are offered. */
function doubtOf(t: Token, unit: FieldUnit, value: number): Finding | null {
  if (t.unit !== '') return null;
  if (unit === 'shares' && value > 0 && value < FEW_SHARES && Number.isInteger(value))
    return { code: 'so few', found: t.digits, unit: 'shares', fixes: [`${t.digits}M`, `${t.digits} shares`] };
  if (unit === 'cents' && value > 0 && value < 1)
    return {
      code: 'so few',
      found: t.digits,
      unit: 'cents',
      fixes: [`${writeDecimal(Math.round(value * 100 * ONE))}c`, `${t.digits}c`],
    };
  return null;
}

/** Digits that are no value of a field. */
function notValue(why: 'comma' | 'places' | 'large', t: Token): Finding {
  switch (why) {
    case 'comma':
      return {
        code: 'decimal comma',
        found: t.text,
        fixes: [t.text.replace(/,(?=[^,]*$)/, '.').replaceAll(',', '')],
      };
    case 'places':
      return { code: 'places', found: t.text, step: '0.0001', fixes: [t.text.replace(/(\.\d{4})\d*/, '$1')] };
    case 'large':
      return { code: 'bounds', found: t.text, least: '-100B', most: '100B', fixes: ['100'] };
    default:
      return unreachable(why);
  }
}

/** Millions and the like, glued to a number or as the next word; none where the letter is the field's own unit. */
function bigOf(
  t: Token,
  after: Token | undefined,
  own: readonly string[],
  counts: boolean,
): { times: number; words: 0 | 1 } {
  if (!counts || own.includes(t.unit.toLowerCase())) return { times: 1, words: 0 };
  const glued = { k: 1e3, m: 1e6, b: 1e9 }[t.unit.toLowerCase()];
  if (glued !== undefined) return { times: glued, words: 0 };
  const word = t.unit === '' ? { thousand: 1e3, million: 1e6, billion: 1e9 }[after?.word ?? ''] : undefined;
  return word === undefined ? { times: 1, words: 0 } : { times: word, words: 1 };
}

/** A value in the unit of the field before it. A bare number takes that unit; another one is a finding. */
export const FIELD_VALUE: Leaf<number> = {
  leaf: 'a value such as 8% or 100k',
  name: 'VALUE',
  role: 'value',
  example: '8',
  starts: ['#number', '-', '+'],
  write(v, before) {
    const { unit } = fieldIn(before);
    const n = Math.round(v * ONE);
    if ((unit === 'shares' || unit === 'dollars') && n >= 1e6 * ONE && n % (1e5 * ONE) === 0)
      return `${writeDecimal(n / 1e6)}M`;
    if ((unit === 'shares' || unit === 'dollars') && n >= 1e4 * ONE && n % (100 * ONE) === 0)
      return `${writeDecimal(n / 1e3)}k`;
    if (unit === 'shares' && v > 0 && v < FEW_SHARES && n % ONE === 0) return `${v} shares`;
    const cents = unit === 'dollars' && n % ONE !== 0 ? 2 : 0;
    return `${writeDecimal(n, cents)}${{ percent: '%', cents: 'c', minutes: 'm' }[unit as string] ?? ''}`;
  },
  random: (r, before) =>
    ['shares', 'cents'].includes(fieldIn(before).unit)
      ? between(r, 1, 1_500)
      : r() < 0.5
        ? between(r, -100, 1_000)
        : r() < 0.5
          ? between(r, -99_999, 99_999) / ONE
          : between(r, 0, 1_000) * 1e5,
  take(tokens, i, before) {
    const sign = tokens[i]?.word === '-' ? -1 : 1;
    const at = sign === -1 || tokens[i]?.word === '+' ? i + 1 : i;
    const t = tokens[at];
    if (t?.kind !== 'number') return null;
    const field = fieldIn(before);
    const next = at + 1;
    const own = unitsOf(field.unit);
    // Where m could be minutes or millions the field decides.
    const counts = field.unit === 'shares' || field.unit === 'dollars' || field.unit === 'count';
    const big = bigOf(t, tokens[next], own, counts);
    const fits = t.unit === '' || own.includes(t.unit.toLowerCase()) || big.times > 1;
    const misfit = !fits || (t.dollar && field.unit !== 'dollars');
    if (misfit) {
      const found = t.dollar
        ? 'dollars'
        : ({ c: 'cents', '%': 'percent', r: 'R', m: 'minutes', x: 'times' }[t.unit.toLowerCase()] ?? t.unit);
      const finding: Finding = {
        code: 'field unit',
        field: field.name,
        found,
        expected: field.unit,
        example: `${field.name} > ${UNIT_EXAMPLE[field.unit]}`,
        fixes: [UNIT_EXAMPLE[field.unit]],
      };
      return { value: 0, next, finding };
    }
    const units4 = readDecimal(t.digits);
    const meant = field.unit === 'shares' && t.unit === '' && tokens[next]?.word === 'shares';
    if (typeof units4 !== 'string' && !meant) {
      const doubt = doubtOf(t, field.unit, (units4 / ONE) * big.times);
      if (doubt) return { value: 0, next, finding: doubt };
    }
    if (typeof units4 === 'string') return { value: 0, next, finding: notValue(units4, t) };
    const value = (sign * units4 * big.times) / ONE;
    if (Math.abs(value) <= FIELD_MOST)
      return {
        value: value === 0 ? 0 : value,
        next: meant ? next + 1 : next + big.words,
      };
    return {
      value: 0,
      next,
      finding: { code: 'bounds', found: t.text, least: '-100B', most: '100B', fixes: ['100'] },
    };
  },
};

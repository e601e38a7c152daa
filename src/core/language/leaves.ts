import { FIELDS, type Field, type FieldUnit, fieldOf } from '../market/index.ts';
import { type Part, PRICE_SCALE, unreachable } from '../units/index.ts';
import { ONE, readDecimal, writeDecimal, writeGrouped } from './decimal.ts';
import type { Before, Leaf, Role, Taken } from './grammar.ts';
import type { Finding } from './problems.ts';
import { isWord } from './reserved.ts';
import type { Token } from './tokens.ts';

/** Bounds of what can be written; beyond them a number is a slip. Prices in 1/10,000 dollar. */
const BOUNDS = {
  price: 100_000 * PRICE_SCALE,
  shares: 1_000_000,
  money: 100_000_000 * PRICE_SCALE,
} as const;

const between = (r: () => number, low: number, high: number): number =>
  low + Math.floor(r() * (high - low + 1));
/** A whole number of units in bounds: mostly small ones, now and then the ends. */
function number(r: () => number, least: number, most: number, step = 1): number {
  const pick = r();
  if (pick < 0.04) return least;
  if (pick < 0.08) return most;
  const top = pick < 0.7 ? Math.min(most, least + 300 * step) : most;
  return least + step * between(r, 0, Math.floor((top - least) / step));
}

interface Measure {
  leaf: string;
  name?: string;
  role: Role;
  example: string;
  /** Letters glued to the number, or as the next word; '' for none. */
  units: readonly string[];
  /** With a dollar sign: `must`, `may`, or not (left out). */
  dollar?: 'must' | 'may';
  least: number;
  most: number;
  /** Units of the value in one of what is written. */
  scale: number;
  /** The smallest step of the value. */
  step?: number;
  /** A bare number has to show its decimals, as in 0.05. */
  decimals?: true;
  write(n: number): string;
  /** What to write instead of one that is out of bounds, where a bound would be a trade at any price. */
  instead?: string;
}

/** A leaf for a number with a unit. What is out of bounds is read as the nearest bound, with a finding. */
/** A point that may be meant as a separator: one share, or a thousand. */
const THOUSAND = /^\d{1,3}\.000$/;

function measure(m: Measure): Leaf<number> {
  const { leaf, role, example, least, most, scale, step = 1 } = m;
  return {
    leaf,
    ...(m.name === undefined ? {} : { name: m.name }),
    role,
    example,
    starts: ['#number'],
    write: m.write,
    random: (r) => number(r, least, most, step),
    take(tokens, i, _before, expect) {
      const t = tokens[i];
      const unit = t?.kind === 'number' ? unitOf(m, t, tokens[i + 1], expect, i + 1) : null;
      if (!t || !unit) return null;
      const next = i + 1 + unit.words;
      const units4 = readDecimal(t.digits);
      if (typeof units4 === 'string') return { value: least, next, finding: notDecimal(units4, t, m) };
      if (m.scale === 1 && m.units[0] === '' && THOUSAND.test(t.digits))
        return {
          value: least,
          next,
          finding: {
            code: 'thousand',
            found: t.text,
            fixes: [t.digits.replace('.', ''), t.digits.split('.')[0] ?? ''],
          },
        };
      const value = (units4 * unit.times * scale) / ONE;
      if (value < least || value > most) {
        const nearest = value < least ? least : most;
        const fixes = [m.instead ?? m.write(nearest)];
        return {
          value: nearest,
          next,
          finding: { code: 'bounds', found: t.text, least: m.write(least), most: m.write(most), fixes },
        };
      }
      if (value % step === 0) return { value, next };
      const rounded = Math.max(least, Math.floor(value / step) * step);
      return {
        value: rounded,
        next,
        finding: { code: 'places', found: t.text, step: m.write(step), fixes: [m.write(rounded)] },
      };
    },
  };
}

/** Whether a number has the unit of a measure: glued, as the next word, or none; and how many it counts for. */
function unitOf(
  m: Measure,
  t: Token,
  after: Token | undefined,
  expect: (i: number, word: string) => void,
  at: number,
): { words: number; times: number } | null {
  const named = m.units.filter((u) => u !== '');
  const bare = m.units.includes('');
  const dollarFits = m.dollar === 'may' || t.dollar === (m.dollar === 'must');
  if (!dollarFits || (m.decimals && !t.dollar && !t.digits.includes('.'))) return null;
  const unit = t.unit.toLowerCase();
  if (unit !== '') {
    const thousands = bare ? { k: 1_000, m: 1_000_000 }[unit] : undefined;
    if (thousands !== undefined && (unit === 'k' || t.unit === 'M')) return { words: 0, times: thousands };
    return named.some((u) => u.toLowerCase() === unit) ? { words: 0, times: 1 } : null;
  }
  if (bare || t.dollar) return { words: 0, times: 1 };
  if (named.includes(after?.word ?? '')) return { words: 1, times: 1 };
  // What cannot be glued is offered as a word.
  if (named[0] !== undefined && named[0].length > 2) expect(at, named[named.length - 1] as string);
  return null;
}

function notDecimal(why: 'comma' | 'places' | 'large', t: Token, m: Measure): Finding {
  if (why === 'comma') {
    const would = t.digits.replace(/,(?=[^,]*$)/, '.').replaceAll(',', '');
    return { code: 'decimal comma', found: t.text, fixes: [`${t.dollar ? '$' : ''}${would}${t.unit}`] };
  }
  if (why === 'large')
    return {
      code: 'bounds',
      found: t.text,
      least: m.write(m.least),
      most: m.write(m.most),
      fixes: [m.instead ?? m.write(m.most)],
    };
  const cut = readDecimal(t.digits.replace(/(\.\d{4}).*$/, '$1')) as number;
  return {
    code: 'places',
    found: t.text,
    step: m.write(m.step ?? 1),
    fixes: [m.write(Math.max(m.least, Math.floor((cut * m.scale) / ONE)))],
  };
}

const plain = (n: number): string => String(n);
const cents = (n: number): string => writeDecimal(n, 2);

/** A price in 1/10,000 dollar: `7.40`. */
export const PRICE = measure({
  leaf: 'a price such as 7.40',
  role: 'price',
  example: '7.40',
  units: [''],
  dollar: 'may',
  least: 1,
  most: BOUNDS.price,
  scale: PRICE_SCALE,
  write: cents,
  instead: 'last',
});
/** An amount of money in 1/10,000 dollar: `$2,500`. */
export const MONEY = measure({
  leaf: 'money such as $2,500',
  role: 'size',
  example: '$2,500',
  units: [''],
  dollar: 'must',
  least: 100,
  most: BOUNDS.money,
  step: 100,
  scale: PRICE_SCALE,
  write: (n) => `$${writeGrouped(n)}`,
});
export const SHARES = measure({
  leaf: 'shares such as 400',
  role: 'size',
  example: '400',
  units: [''],
  least: 1,
  most: BOUNDS.shares,
  scale: 1,
  write: plain,
});
/** So many options or verticals: `2`. */
export const CONTRACTS = measure({
  leaf: 'a number of contracts such as 2',
  role: 'size',
  example: '2',
  units: [''],
  least: 1,
  most: 10_000,
  scale: 1,
  write: plain,
});
/** As {@link SHARES}, and 0 for none. */
export const SHARES_OR_NONE = measure({
  leaf: 'shares such as 400',
  role: 'size',
  example: '400',
  units: [''],
  least: 0,
  most: BOUNDS.shares,
  scale: 1,
  write: plain,
});
/** Cents, in price units. */
export const CENTS = measure({
  leaf: 'cents such as 5c',
  name: 'CENTS',
  role: 'offset',
  example: '5c',
  units: ['c', 'cent', 'cents'],
  least: 1,
  most: 1_000 * PRICE_SCALE,
  scale: 100,
  write: (n) => `${writeDecimal(n * 100)}c`,
});
/** Dollars with their sign, in price units. */
export const DOLLARS = measure({
  leaf: 'dollars such as $0.05',
  role: 'offset',
  example: '$0.05',
  units: [''],
  dollar: 'must',
  least: 1,
  most: 1_000 * PRICE_SCALE,
  scale: PRICE_SCALE,
  write: (n) => `$${cents(n)}`,
});
/** A decimal that can only be dollars: 0.05. */
export const DECIMAL = measure({
  leaf: 'dollars such as 0.05',
  role: 'offset',
  example: '0.05',
  units: [''],
  least: 1,
  most: 1_000 * PRICE_SCALE,
  scale: PRICE_SCALE,
  decimals: true,
  write: cents,
});
export const TICKS = measure({
  leaf: 'ticks such as 3 ticks',
  name: 'NUMBER ticks',
  role: 'offset',
  example: '3 ticks',
  units: ['tick', 'ticks'],
  least: 1,
  most: 9_999,
  scale: 1,
  write: (n) => `${n} ${n === 1 ? 'tick' : 'ticks'}`,
});
/** A percentage in 1/10,000 of a percent. */
export const PERCENT = measure({
  leaf: 'a percentage such as 1.5%',
  name: 'PERCENT',
  role: 'offset',
  example: '1.5%',
  units: ['%', 'percent'],
  least: 1,
  most: 1_000 * ONE,
  scale: ONE,
  write: (n) => `${writeDecimal(n)}%`,
});
/** Multiples of the average true range, in 1/10,000. */
export const ATRS = measure({
  leaf: 'average true ranges such as 0.5 atr',
  name: 'NUMBER atr',
  role: 'offset',
  example: '0.5 atr',
  units: ['atr'],
  least: 1,
  most: 100 * ONE,
  scale: ONE,
  write: (n) => `${writeDecimal(n)} atr`,
});
/** Multiples of R, in 1/10,000. */
export const RS = measure({
  leaf: 'R such as 1R',
  name: 'NUMBER R',
  role: 'offset',
  example: '1R',
  units: ['r'],
  least: 1,
  most: 1_000 * ONE,
  scale: ONE,
  write: (n) => `${writeDecimal(n)}R`,
});
/** A percentage of buying power, in 1/10,000 of a percent. */
export const SHARE_OF_POWER = measure({
  leaf: 'a percentage such as 20%',
  name: 'PERCENT',
  role: 'size',
  example: '20%',
  units: ['%', 'percent'],
  least: 1,
  most: 100 * ONE,
  scale: ONE,
  write: (n) => `${writeDecimal(n)}%`,
});
export const ORDER_NUMBER = measure({
  leaf: 'the number of an order such as 14',
  name: 'NUMBER',
  role: 'value',
  example: '14',
  units: [''],
  least: 1,
  most: 1_000_000_000,
  scale: 1,
  write: plain,
});
export const TARGET_NUMBER = measure({
  leaf: 'the number of a target',
  name: 'NUMBER',
  role: 'value',
  example: '1',
  units: [''],
  least: 1,
  most: 20,
  scale: 1,
  write: plain,
});
export const RANGE_MINUTES = measure({
  leaf: 'how long the range is, in whole minutes up to 60m',
  name: 'MINUTES',
  role: 'value',
  example: '5m',
  units: ['m', 'min', 'minutes'],
  least: 1,
  most: 60,
  scale: 1,
  write: (n) => `${n}m`,
});

/** The candles that a script can speak of, in minutes. */
export const CANDLES = [1, 2, 3, 5, 10, 15, 30, 60] as const;
/** The length of a candle: 1m, 2m, 3m, 5m, 10m, 15m, 30m or 60m. */
export const CANDLE: Leaf<number> = {
  leaf: 'a candle of 1m, 2m, 3m, 5m, 10m, 15m, 30m or 60m',
  role: 'value',
  example: '5m',
  starts: ['#number'],
  choices: () => CANDLES.map((n) => `${n}m`),
  write: (n) => `${n}m`,
  random: (r) => CANDLES[between(r, 0, CANDLES.length - 1)] as number,
  take(tokens, i) {
    const t = tokens[i];
    if (t?.kind !== 'number' || t.dollar || t.unit.toLowerCase() !== 'm') return null;
    const n = Number(t.digits);
    if (CANDLES.some((c) => c === n)) return { value: n, next: i + 1 };
    const nearest = CANDLES.reduce((a, b) => (Math.abs(b - n) < Math.abs(a - n) ? b : a));
    return {
      value: nearest,
      next: i + 1,
      finding: { code: 'no such candle', found: t.text, fixes: [`${nearest}m`] },
    };
  },
};

const FRACTIONS: readonly [string, Part][] = [
  ['half', { kind: 'fraction', num: 1, den: 2 }],
  ['third', { kind: 'fraction', num: 1, den: 3 }],
  ['quarter', { kind: 'fraction', num: 1, den: 4 }],
];
const ofHundred = (n: number): Part =>
  n === 100 * ONE
    ? { kind: 'all' }
    : n % ONE === 0
      ? { kind: 'fraction', num: n / ONE, den: 100 }
      : { kind: 'fraction', num: n, den: 100 * ONE };

/** A part of a position; `whole` is how all of it is written, `also` what means the same. */
const part = (leaf: string, role: Role, whole: string, also: string): Leaf<Part> => ({
  leaf,
  name: 'PART',
  role,
  example: 'half',
  starts: ['#number', whole, also, ...FRACTIONS.map(([w]) => w)],
  choices: () => [whole, ...FRACTIONS.map(([w]) => w), '25%'],
  write(p) {
    if (p.kind === 'all') return whole;
    const named = FRACTIONS.find(([, f]) => f.kind === 'fraction' && f.num === p.num && f.den === p.den);
    return named ? named[0] : `${writeDecimal((p.num * 100 * ONE) / p.den)}%`;
  },
  random(r) {
    const k = between(r, 0, 4);
    if (k === 0) return { kind: 'all' };
    if (k < 4) return (FRACTIONS[k - 1] as [string, Part])[1];
    return ofHundred(r() < 0.7 ? between(r, 1, 99) * ONE : between(r, 1, 100 * ONE - 1));
  },
  take(tokens, i, before, expect) {
    const word = tokens[i]?.word;
    if (word === whole || word === also) return { value: { kind: 'all' }, next: i + 1 };
    const named = FRACTIONS.find(([w]) => w === word);
    if (named) return { value: named[1], next: i + 1 };
    const [num, over, den] = [tokens[i], tokens[i + 1], tokens[i + 2]];
    if (num?.kind === 'number' && over?.text === '/' && den?.kind === 'number') {
      const ratio = FRACTIONS.find(
        ([, f]) => f.kind === 'fraction' && `${f.num}` === num.text && `${f.den}` === den.text,
      );
      if (ratio) return { value: ratio[1], next: i + 3 };
    }
    const taken = SHARE_OF_POWER.take(tokens, i, before, expect);
    return taken && { ...taken, value: ofHundred(taken.value) };
  },
});
/** How much of what is held is to be closed. */
export const PART = part('a part: all, half, third, quarter or 25%', 'size', 'all', 'rest');
/** For how much of its shares an exit stands. */
export const PART_OF_PLAN = part('a part: half, third, quarter, 25% or rest', 'size', 'rest', 'all');

/** A time of day in minutes after midnight. */
export const TIME: Leaf<number> = {
  leaf: 'a time such as 11:00',
  role: 'time',
  example: '15:50',
  starts: ['#time', '#number'],
  write: (n) => `${String(Math.floor(n / 60)).padStart(2, '0')}:${String(n % 60).padStart(2, '0')}`,
  random: (r) => between(r, 4 * 60, 20 * 60),
  take(tokens, i) {
    const t = tokens[i];
    if (t?.kind === 'number' && /^\d{1,2}$/.test(t.digits) && /^(|am|pm)$/i.test(t.unit)) return hourOf(t, i);
    if (t?.kind !== 'time') return null;
    const half = /^[ap]m$/.exec(tokens[i + 1]?.word ?? '')?.[0];
    const [hour = 0, m = 0] = t.text.split(':').map(Number);
    const h = half === 'pm' && hour < 12 ? hour + 12 : half === 'am' && hour === 12 ? 0 : hour;
    const value = h * 60 + m;
    // Nobody trades then: the afternoon may be meant.
    if (half === undefined && hour > 0 && h < 4 && m < 60)
      return {
        value,
        next: i + 1,
        finding: { code: 'at night', found: t.text, fixes: [TIME.write(value + 12 * 60, {})] },
      };
    if (h < 24 && m < 60) return { value, next: half ? i + 2 : i + 1 };
    return { value: 0, next: i + 1, finding: { code: 'no such time', found: t.text, fixes: [TIME.example] } };
  },
};
/** An hour without its minutes: 11, 3pm. */
function hourOf(t: Token, i: number): Taken<number> {
  const hour = Number(t.digits) + (t.unit.toLowerCase() === 'pm' && Number(t.digits) < 12 ? 12 : 0);
  const minutes = (hour % 24) * 60;
  return {
    value: minutes,
    next: i + 1,
    finding: {
      code: 'unfit',
      found: t.text,
      expected: 'a time such as 15:50',
      fixes: [TIME.write(minutes, {})],
    },
  };
}
const DAYS_IN = [31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
/** A date: 2026-04-17. */
/** Whole seconds. */
export const SECONDS = measure({
  leaf: 'seconds such as 20s',
  name: 'SECONDS',
  role: 'time',
  example: '20s',
  units: ['s', 'sec', 'seconds'],
  least: 1,
  most: 3_600,
  scale: 1,
  write: (n) => `${n}s`,
});

export const DATE: Leaf<string> = {
  leaf: 'a date such as 2026-04-17',
  role: 'time',
  example: '2026-04-17',
  starts: ['#date'],
  write: (d) => d,
  random: (r) =>
    `2026-${String(between(r, 1, 12)).padStart(2, '0')}-${String(between(r, 1, 28)).padStart(2, '0')}`,
  take(tokens, i) {
    const t = tokens[i];
    if (t?.kind !== 'date') return null;
    const [y = 0, m = 0, d = 0] = t.text.split('-').map(Number);
    const leap = (y % 4 === 0 && y % 100 !== 0) || y % 400 === 0;
    const exists = m >= 1 && m <= 12 && d >= 1 && d <= (m === 2 && !leap ? 28 : (DAYS_IN[m - 1] as number));
    if (exists)
      return { value: `${y}-${String(m).padStart(2, '0')}-${String(d).padStart(2, '0')}`, next: i + 1 };
    return { value: t.text, next: i + 1, finding: { code: 'no such time', found: t.text, fixes: [] } };
  },
};

/** A symbol in capitals; one that is also a word of the language stands in quotes. */
export const SYMBOL: Leaf<string> = {
  leaf: 'a symbol in capitals',
  name: 'SYMBOL',
  role: 'symbol',
  example: 'VULPN',
  starts: ['#word', '#text'],
  write: (s) => (isWord(s.toLowerCase()) ? `"${s}"` : s),
  random(r) {
    if (r() < 0.1) return ['AT', 'STOP', 'POWER', 'ALL', 'OF'][between(r, 0, 4)] as string;
    return Array.from({ length: between(r, 1, 5) }, () => String.fromCharCode(65 + between(r, 0, 25))).join(
      '',
    );
  },
  take(tokens, i) {
    const t = tokens[i];
    if (t?.kind === 'text') {
      if (/^[A-Z]{1,5}$/.test(t.text)) return { value: t.text, next: i + 1 };
      return {
        value: 'X',
        next: i + 1,
        finding: {
          code: 'unfit',
          found: `“${t.text}”`,
          expected: 'a symbol of one to five capitals',
          fixes: [],
        },
      };
    }
    if (t?.kind !== 'word') return null;
    const upper = t.text.toUpperCase();
    if (!/^[A-Z]{1,5}$/.test(upper)) return null;
    if (isWord(t.word)) {
      if (t.text !== upper) return null;
      return {
        value: upper,
        next: i + 1,
        finding: { code: 'quote symbol', symbol: upper, fixes: [`"${upper}"`] },
      };
    }
    if (t.text === upper) return { value: upper, next: i + 1 };
    return { value: upper, next: i + 1, finding: { code: 'symbol case', found: t.text, fixes: [upper] } };
  },
};

const text = (leaf: string, role: Role, example: string, most: number): Leaf<string> => ({
  leaf,
  name: '"TEXT"',
  role,
  example,
  starts: ['#text'],
  write: (s) => `"${s}"`,
  random: (r) =>
    Array.from({ length: between(r, 1, 12) }, () => 'abc dé–×5,#+'[between(r, 0, 11)])
      .join('')
      .trim() || 'a',
  take(tokens, i) {
    const t = tokens[i];
    if (t?.kind !== 'text') return null;
    const value = t.text.trim().slice(0, most);
    if (value !== '' && t.text.trim().length <= most) return { value, next: i + 1 };
    return {
      value: value || 'unnamed',
      next: i + 1,
      finding: {
        code: 'text length',
        found: t.text.trim().length,
        most,
        fixes: value === '' ? [example] : [`"${value}"`],
      },
    };
  },
});
export const PLAN_NAME = text('the name of a plan in quotes', 'name', '"two steps"', 40);
export const LEVEL_NAME = text('the name of a level in quotes', 'name', '"lid"', 40);
export const ACCOUNT_NAME = text('the name of an account in quotes', 'name', '"Practice cash"', 40);
export const NOTE = text('a text in quotes', 'name', '"too early"', 500);

/** One of a few phrases. */
export function oneOf<const T extends string>(leaf: string, role: Role, ...phrases: readonly T[]): Leaf<T> {
  const split = phrases.map((p) => p.split(' ')).sort((a, b) => b.length - a.length);
  return {
    leaf,
    role,
    example: phrases[0] as string,
    starts: [...new Set(split.map((w) => w[0] as string))],
    choices: () => phrases,
    write: (p) => p,
    random: (r) => phrases[between(r, 0, phrases.length - 1)] as T,
    take: (tokens, i, _before, expect) => phrase(split, tokens, i, expect) as Taken<T> | null,
  };
}

/** Takes the longest of the phrases that the tokens begin with, and tells of every word that could go on. */
function phrase(
  split: readonly (readonly string[])[],
  tokens: readonly Token[],
  i: number,
  expect: (i: number, word: string) => void,
): Taken<string> | null {
  let found: Taken<string> | null = null;
  for (const w of split) {
    let k = 0;
    while (k < w.length && tokens[i + k]?.word === w[k]) k++;
    if (k === w.length) {
      if (!found || i + k > found.next) found = { value: w.join(' '), next: i + k };
    } else if (k > 0 || tokens[i] === undefined) expect(i + k, w[k] as string);
  }
  return found;
}

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

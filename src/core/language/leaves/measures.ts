// Numbers with their units.
import { PRICE_SCALE } from '../../units/index.ts';
import { ONE, readDecimal, writeDecimal, writeGrouped } from '../decimal.ts';
import type { Leaf } from '../grammar.ts';
import type { Role } from '../marks.ts';
import type { Finding } from '../problems.ts';
import type { Token } from '../tokens.ts';
import { between } from './random.ts';

/** Bounds of what can be written; beyond them a number is a slip. Prices in 1/10,000 dollar. */
const BOUNDS = {
  price: 100_000 * PRICE_SCALE,
  shares: 1_000_000,
  money: 100_000_000 * PRICE_SCALE,
} as const;

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

/** A point that may be meant as a separator: one share, or a thousand. */
const THOUSAND = /^\d{1,3}\.000$/;

/** A leaf for a number with a unit. What is out of bounds is read as the nearest bound, with a finding. */
export function measure(m: Measure): Leaf<number> {
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
  if (bare) return { words: 0, times: 1 };
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

/** Whole numbers from 1 up. */
const count = (leaf: string, example: string, most: number, over: Partial<Measure> = {}): Leaf<number> =>
  measure({
    leaf,
    name: 'NUMBER',
    role: 'value',
    example,
    units: [''],
    least: 1,
    most,
    scale: 1,
    write: plain,
    ...over,
  });
/** Multiples in 1/10,000. */
const fraction = (
  leaf: string,
  example: string,
  most: number,
  over: Pick<Measure, 'name' | 'units' | 'write'> & Partial<Measure>,
): Leaf<number> =>
  measure({ leaf, role: 'offset', example, least: 1, most: most * ONE, scale: ONE, ...over });
const OF_HUNDRED = { name: 'PERCENT', units: ['%', 'percent'], write: (n: number) => `${writeDecimal(n)}%` };
const SIZE = { name: 'SHARES', role: 'size' } as const;

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
export const SHARES = count('shares such as 400', '400', BOUNDS.shares, SIZE);
/** So many options or verticals: `2`. */
export const CONTRACTS = count('a number of contracts such as 2', '2', 10_000, {
  ...SIZE,
  name: 'NUMBER OF CONTRACTS',
});
/** As {@link SHARES}, and 0 for none. */
export const SHARES_OR_NONE = count('shares such as 400', '400', BOUNDS.shares, { ...SIZE, least: 0 });
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
export const TICKS = count('ticks such as 3 ticks', '3 ticks', 9_999, {
  name: 'NUMBER ticks',
  role: 'offset',
  units: ['tick', 'ticks'],
  write: (n) => `${n} ${n === 1 ? 'tick' : 'ticks'}`,
});
/** A percentage in 1/10,000 of a percent. */
export const PERCENT = fraction('a percentage such as 1.5%', '1.5%', 1_000, OF_HUNDRED);
/** Multiples of the average true range, in 1/10,000. */
export const ATRS = fraction('average true ranges such as 0.5 atr', '0.5 atr', 100, {
  name: 'NUMBER atr',
  units: ['atr'],
  write: (n) => `${writeDecimal(n)} atr`,
});
/** Multiples of R, in 1/10,000. */
export const RS = fraction('R such as 1R', '1R', 1_000, {
  name: 'NUMBER R',
  units: ['r'],
  write: (n) => `${writeDecimal(n)}R`,
});
/** A percentage of buying power, in 1/10,000 of a percent. */
export const SHARE_OF_POWER = fraction('a percentage such as 20%', '20%', 100, {
  ...OF_HUNDRED,
  role: 'size',
});
export const ORDER_NUMBER = count('the number of an order such as 14', '14', 1_000_000_000);
export const TARGET_NUMBER = count('the number of a target', '1', 20);
export const RANGE_MINUTES = count('how long the range is, in whole minutes up to 60m', '5m', 60, {
  name: 'MINUTES',
  units: ['m', 'min', 'minutes'],
  write: (n) => `${n}m`,
});
/** Over how many candles or days a mean is taken. */
export const LENGTH = count('over how many candles such as 9', '9', 400);
/** How many candles before the last finished one. */
export const BACK = count('how many candles back such as 2', '2', 200);
/** A whole percentage below all of it. */
export const WHOLE_PERCENT = count('a percentage such as 30%', '30%', 99, {
  name: 'PERCENT',
  units: ['%', 'percent'],
  write: (n) => `${n}%`,
});
/** Days until an option expires. */
export const DAYS = count('days such as 45 days', '45 days', 999, {
  name: 'NUMBER days',
  units: ['day', 'days'],
  write: (n) => (n === 1 ? '1 day' : `${n} days`),
});
/** Hundredths of the change of an option's price with its underlying's. */
export const DELTA = count('a delta such as 30 delta', '30 delta', 99, {
  name: 'NUMBER delta',
  units: ['deltas', 'delta'],
  write: (n) => `${n} delta`,
});
/** Strikes out of the money, counted from the price. */
export const STRIKES_OUT = count('strikes out of the money such as 2 out', '2 out', 99, {
  name: 'NUMBER out',
  units: ['out'],
  write: (n) => `${n} out`,
});
/** A strike in price units. */
export const STRIKE = count('a strike such as 47.5', '47.5', BOUNDS.price, {
  name: 'STRIKE',
  least: 10,
  step: 10,
  scale: PRICE_SCALE,
  dollar: 'may',
  write: (n) => writeDecimal(n),
});
/** How far apart two strikes are, in price units. */
export const WIDTH = count('a width such as 5 wide', '5 wide', 1_000 * PRICE_SCALE, {
  name: 'NUMBER wide',
  units: ['wide'],
  least: 10,
  step: 10,
  scale: PRICE_SCALE,
  dollar: 'may',
  write: (n) => `${writeDecimal(n)} wide`,
});

// Parts of a position.
import type { Part } from '../../units/index.ts';
import { ONE, writeDecimal } from '../decimal.ts';
import type { Leaf } from '../grammar.ts';
import type { Role } from '../marks.ts';
import { SHARE_OF_POWER } from './measures.ts';
import { between } from './random.ts';

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

// Words to choose from, symbols, and what stands in quotes.
import type { Leaf, Taken } from '../grammar.ts';
import type { Role } from '../marks.ts';
import { isBorrowed, isWord } from '../reserved.ts';
import type { Token } from '../tokens.ts';
import { between } from './random.ts';

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
    if (isBorrowed(t.word)) return null;
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
export function phrase(
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

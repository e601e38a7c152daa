import { type NamedPrice, namedText, type Piece, piecesOf, REFERENCES } from '../market/index.ts';
import { unreachable } from '../units/index.ts';
import type { Leaf, Taken } from './grammar.ts';
import { CANDLE, LEVEL_NAME, RANGE_MINUTES } from './leaves.ts';
import type { Token } from './tokens.ts';

type Expect = (i: number, word: string) => void;
const LONGEST = 400;
const FARTHEST = 200;

const PATTERNS = REFERENCES.map((r) => ({ words: r.words, pieces: piecesOf(r.words) }));

/** The price references of the registry: each as it says that it is written. */
export const REFERENCE: Leaf<NamedPrice> = {
  leaf: 'a price reference such as ask, vwap or premarket high',
  role: 'price',
  example: 'last',
  starts: [
    ...new Set(PATTERNS.flatMap(({ pieces: [first] }) => (first?.is === 'word' ? first.words : ['#number']))),
  ],
  choices: () =>
    PATTERNS.flatMap(({ words, pieces }) => examplesOf(pieces).map((args) => namedText({ words, args }))),
  write: namedText,
  random(r) {
    const { words, pieces } = PATTERNS[Math.floor(r() * PATTERNS.length)] as (typeof PATTERNS)[number];
    const leaveOut = r() < 0.6;
    return {
      words,
      args: pieces
        .filter((p) => p.is !== 'word')
        .map((p) => (p.optional && leaveOut ? null : someArgument(p, r))),
    };
  },
  take(tokens, i, _before, expect) {
    let best: Taken<NamedPrice> | null = null;
    for (const { words, pieces } of PATTERNS) {
      const taken = match(words, pieces, tokens, i, expect);
      if (taken && (!best || taken.next > best.next)) best = taken;
    }
    return best;
  },
};

/** One of each choice, for completion. */
const examplesOf = (pieces: readonly Piece[]): (string | number | null)[][] =>
  pieces
    .filter((p) => p.is !== 'word')
    .reduce<(string | number | null)[][]>(
      (all, p) => all.flatMap((args) => exampleArguments(p).map((a) => [...args, a])),
      [[]],
    );

function exampleArguments(p: Piece): readonly (string | number | null)[] {
  if (p.optional) return [null];
  switch (p.is) {
    case 'choice':
      return p.words;
    case 'CANDLE':
      return [1, 5, 15];
    case 'MINUTES':
      return [5];
    case 'CANDLES':
      return [2];
    case 'LENGTH':
      return [9];
    case 'PERCENT':
      return [30];
    case 'NAME':
      return ['lid'];
    default:
      return [null];
  }
}

function someArgument(p: Piece, r: () => number): string | number {
  switch (p.is) {
    case 'choice':
      return p.words[Math.floor(r() * p.words.length)] as string;
    case 'CANDLE':
      return CANDLE.random(r, {});
    case 'MINUTES':
      return RANGE_MINUTES.random(r, {});
    case 'CANDLES':
      return r() < 0.3 ? 'day' : CANDLE.random(r, {});
    case 'LENGTH':
      return 1 + Math.floor(r() * LONGEST);
    case 'PERCENT':
      return 1 + Math.floor(r() * 99);
    case 'BACK':
      return 1 + Math.floor(r() * FARTHEST);
    case 'NAME':
      return LEVEL_NAME.random(r, {});
    case 'word':
      return '';
    default:
      return unreachable(p.is);
  }
}

function match(
  words: string,
  pieces: readonly Piece[],
  tokens: readonly Token[],
  from: number,
  expect: Expect,
): Taken<NamedPrice> | null {
  const args: (string | number | null)[] = [];
  let flaw: Pick<Taken<NamedPrice>, 'finding' | 'flaw'> = {};
  let i = from;
  for (let k = 0; k < pieces.length; k++) {
    const piece = pieces[k] as Piece;
    const taken = takePiece(piece, tokens, i);
    if (taken) {
      if (piece.is !== 'word') args.push(taken.value);
      if (taken.finding) flaw = { finding: taken.finding, flaw: i };
      i = taken.next;
      continue;
    }
    // What may be left out is left out as a whole.
    if (piece.optional && !(pieces[k - 1]?.optional === true)) {
      args.push(...pieces.slice(k).flatMap((p) => (p.is === 'word' ? [] : [null])));
      break;
    }
    if (i > from || tokens[i] === undefined) for (const w of expectedOf(piece)) expect(i, w);
    if (!piece.optional) return null;
    return { value: { words, args: [...args.slice(0, -1), null] }, next: i - 1, ...flaw };
  }
  return { value: { words, args }, next: i, ...flaw };
}

const expectedOf = (p: Piece): readonly string[] => {
  if (p.is === 'word' || p.is === 'choice') return p.words;
  return {
    CANDLE: ['5m'],
    MINUTES: ['5m'],
    CANDLES: ['2m', 'day'],
    LENGTH: ['9'],
    PERCENT: ['30%'],
    BACK: ['1'],
    NAME: ['"lid"'],
  }[p.is];
};

function takePiece(p: Piece, tokens: readonly Token[], i: number): Taken<string | number> | null {
  const t = tokens[i];
  if (!t) return null;
  const none = () => {};
  switch (p.is) {
    case 'word':
    case 'choice':
      return t.kind !== 'text' && p.words.includes(t.word) ? { value: t.word, next: i + 1 } : null;
    case 'CANDLE':
      return CANDLE.take(tokens, i, {}, none);
    case 'MINUTES':
      return RANGE_MINUTES.take(tokens, i, {}, none);
    case 'CANDLES':
      return t.word === 'day' ? { value: 'day', next: i + 1 } : CANDLE.take(tokens, i, {}, none);
    case 'LENGTH':
      return count(t, i, LONGEST);
    case 'PERCENT':
      return t.unit === '%' ? count({ ...t, unit: '' }, i, 99) : null;
    case 'BACK':
      return count(t, i, FARTHEST);
    case 'NAME':
      return LEVEL_NAME.take(tokens, i, {}, none);
    default:
      return unreachable(p.is);
  }
}

function count(t: Token, i: number, most: number): Taken<number> | null {
  if (t.kind !== 'number' || t.dollar || t.unit !== '' || !/^\d+$/.test(t.digits)) return null;
  const n = Number(t.digits);
  if (n >= 1 && n <= most) return { value: n, next: i + 1 };
  const nearest = n < 1 ? 1 : most;
  return {
    value: nearest,
    next: i + 1,
    finding: { code: 'bounds', found: t.text, least: '1', most: String(most), fixes: [String(nearest)] },
  };
}

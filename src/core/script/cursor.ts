import { nearestWord, type SyntaxProblem } from './problems.ts';
import type { Token } from './tokens.ts';

/** Thrown inside the parser to leave a line that cannot be read; never leaves this folder. */
export class Unreadable extends Error {
  constructor(readonly problem: SyntaxProblem) {
    super(problem.code);
  }
}

/** Walks the tokens of one sentence. Words are compared without regard to case. */
export interface Cursor {
  tokens: Token[];
  at: number;
  /** Where the sentence ends, for a problem after its last word. */
  end: number;
}

export const cursor = (tokens: Token[], end: number): Cursor => ({ tokens, at: 0, end });
export const peekToken = (c: Cursor): Token | undefined => c.tokens[c.at];
export const done = (c: Cursor): boolean => c.at >= c.tokens.length;

/** Takes the given words if they come next, all of them, and says whether it did. */
export function takeWords(c: Cursor, ...words: string[]): boolean {
  for (let i = 0; i < words.length; i++) {
    const t = c.tokens[c.at + i];
    if (!t || t.text.toLowerCase() !== words[i]) return false;
  }
  c.at += words.length;
  return true;
}

/** Takes a number with one of the suffixes, or nothing. */
export function takeNumber(c: Cursor, ...suffixes: string[]): Token | null {
  const t = peekToken(c);
  if (t?.kind !== 'number' || !suffixes.includes(t.suffix)) return null;
  c.at++;
  return t;
}

/**
 * Gives up on the sentence at the next token: an unknown word gets its nearest known one, a sentence
 * that ends too early is told what is missing.
 */
export function refuse(c: Cursor, expected: string, known: readonly string[] = []): never {
  const t = peekToken(c);
  const before = c.tokens[c.at - 1];
  if (!t) {
    throw new Unreadable({ code: 'missing', expected, after: before?.text ?? null, span: { from: before?.from ?? 0, to: c.end } });
  }
  const span = { from: t.from, to: t.to };
  if (t.kind === 'number' || t.kind === 'money') throw new Unreadable({ code: 'unfit unit', found: t.text, expected, span });
  throw new Unreadable({ code: 'unknown word', word: t.text, nearest: nearestWord(t.text, known), expected, span });
}

// What a repair may do. It is checked by reading what it takes out and what it puts in, whoever proposed it.
import type { Fix } from './problems.ts';
import { isWord } from './reserved.ts';
import { type Token, tokenize } from './tokens.ts';

/** Words that say which way an order goes, or which way its price or its money does. */
const WAYS: ReadonlySet<string> = new Set(
  'buy short sell cover close add reverse above below up down credit debit bid ask'.split(' '),
);
/** Words for which an order waits or rests, that would go or take without them. */
const WAITS: ReadonlySet<string> = new Set(
  'when if once until after stop target limit stage staged open above below trailing hidden'.split(' '),
);
/** Words with which an order takes what is there, or goes at once. */
const TAKES: ReadonlySet<string> = new Set('through market flatten ioc fok send'.split(' '));
/** Words that say nothing here and may be left out. */
export const IDLE: ReadonlySet<string> = new Set('share shares the a an me my please'.split(' '));

const words = (tokens: readonly Token[], of: ReadonlySet<string>): string[] =>
  tokens.filter((t) => t.kind === 'word' && of.has(t.word)).map((t) => (t.word === 'if' ? 'when' : t.word));

/** A number in the ways in which it may be written: cents as dollars, a time of the afternoon by its hour, thousands with a point. */
function written(t: Token): string[] {
  if (t.kind === 'date') return [t.text];
  if (t.kind === 'time') return [t.text.replace(/^\d+/, (h) => String(Number(h) % 12))];
  const n = Number(t.digits.replaceAll(',', ''));
  const forms = [n];
  if (/^(c|cents?)$/i.test(t.unit)) forms.push(n / 100);
  if (/^\d{1,3}\.000$/.test(t.digits)) forms.push(n * 1000);
  if (/^\d+,\d{1,2}$/.test(t.digits)) forms.push(Number(t.digits.replace(',', '.')));
  return [...forms.map((x) => String(x)), ...(/^[ap]m$/i.test(t.unit) ? [`${n % 12}:00`] : [])];
}
const numbers = (tokens: readonly Token[]): string[][] =>
  tokens.filter((t) => t.kind === 'number' || t.kind === 'time' || t.kind === 'date').map(written);

/** Words that only join what a sentence says. */
const JOINING: ReadonlySet<string> = new Set(['if', 'then', 'with', 'and']);

/** A name: what stands in quotes, and a word that is none of the language. */
const names = (tokens: readonly Token[]): string[] =>
  tokens
    .filter(
      (t) =>
        t.kind === 'text' ||
        (t.kind === 'word' && !isWord(t.word) && !IDLE.has(t.word) && !JOINING.has(t.word)),
    )
    .map((t) => t.text.toLowerCase());

/** Whether all of a list are in another one, each as often. */
function isWithin<T>(
  part: readonly T[],
  all: readonly T[],
  same = (a: T, b: T): boolean => a === b,
): boolean {
  const left = [...all];
  return part.every((x) => {
    const at = left.findIndex((y) => same(x, y));
    if (at >= 0) left.splice(at, 1);
    return at >= 0;
  });
}

/**
 * Whether a repair keeps to the law. It changes no number and leaves none out; it turns no side, direction, credit or debit and adds none; it leaves
 * out nothing for which an order waits or rests, and puts in nothing with which it takes; it never drops a name. A word that was mistyped may be
 * another one in its place.
 */
export function isLawful(text: string, { from, to, text: instead }: Fix): boolean {
  const out = tokenize(text.slice(from, to)).filter((t) => t.kind !== 'line end');
  const put = tokenize(instead).filter((t) => t.kind !== 'line end');
  if (!isWithin(numbers(out), numbers(put), (a, b) => a.some((x) => b.includes(x)))) return false;
  if (words(out, WAYS).sort().join() !== words(put, WAYS).sort().join() && !isMistyped(out, put))
    return false;
  if (!isWithin(words(out, WAITS), words(put, WAITS))) return false;
  if (!isWithin(words(put, TAKES), words(out, TAKES)) && !isMistyped(out, put)) return false;
  const [gone, kept] = [names(out), [...names(put), ...put.map((t) => t.word)]];
  return put.length > 0 && isMistyped(out, put) ? true : isWithin(gone, kept);
}

/** One word that is none of the language, in whose place others stand. */
const isMistyped = (out: readonly Token[], put: readonly Token[]): boolean =>
  out.length > 0 &&
  put.length > 0 &&
  out.every((t) => t.kind === 'word' || t.kind === 'sign' || t.kind === 'unknown') &&
  out.some((t) => !isWord(t.word));

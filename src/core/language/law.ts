// What a repair may do. It is checked by reading what it takes out and what it puts in, whoever proposed it.
import { formOf, KINDS } from './forms/index.ts';
import type { Fix } from './problems.ts';
import { isBorrowed, isWord } from './reserved.ts';
import { type Token, tokenize } from './tokens.ts';

const declared = (of: 'turns' | 'waits' | 'takes'): ReadonlySet<string> =>
  new Set(KINDS.flatMap((kind) => formOf(kind)[of]?.split(' ') ?? []));
/** Words that say which way an order goes, or which way its price or its money does. */
const WAYS = declared('turns');
/** Words for which an order waits or rests, that would go or take without them. */
const WAITS = declared('waits');
/** Words with which an order takes what is there, or goes at once. */
const TAKES = declared('takes');
/** Words that say nothing here and may be left out. */
export const IDLE: ReadonlySet<string> = new Set('share shares the a an me my please position'.split(' '));
/** Words that join what a sentence says: only such may be put in where nothing stood. */
const LEADS: ReadonlySet<string> = new Set('of at for after by to on beyond with plan'.split(' '));

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
const JOINING: ReadonlySet<string> = new Set(['if', 'then', 'with', 'and', ';']);

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
export function isLawful(
  text: string,
  { from, to, text: instead }: Fix,
  isListed: (symbol: string) => boolean,
): boolean {
  const out = tokenize(text.slice(from, to)).filter((t) => t.kind !== 'line end');
  const put = tokenize(instead).filter((t) => t.kind !== 'line end');
  // What is typed in small letters is a symbol only where there is one that is called so.
  const [after] = tokenize(text.slice(to));
  const small =
    after?.kind === 'word' &&
    after.text !== after.text.toUpperCase() &&
    !isWord(after.word) &&
    !isBorrowed(after.word);
  if (
    out.length === 0 &&
    put.length === 1 &&
    put[0]?.word === 'of' &&
    small &&
    !isListed(after.text.toUpperCase())
  )
    return false;
  const [word, symbol] = [out[0]?.text ?? '', put[0]?.text ?? ''];
  const capitals = out.length === 1 && put.length === 1 && word !== symbol && word.toUpperCase() === symbol;
  if (capitals && tokenize(text.slice(0, from)).at(-1)?.word !== 'of' && !isListed(symbol)) return false;
  const same = (a: string[], b: string[]) => a.some((x) => b.includes(x));
  if (!isWithin(numbers(out), numbers(put), same) || !isWithin(numbers(put), numbers(out), same))
    return false;
  // Nothing is left out but what says nothing.
  const says = (t: Token) =>
    !IDLE.has(t.word) && t.kind !== 'sign' && !(instead.includes('\n') && JOINING.has(t.word));
  if (put.length === 0 && out.some(says)) return false;
  // And nothing is made up.
  if (out.length === 0 && put.some((t) => t.kind !== 'sign' && !LEADS.has(t.word))) return false;
  if (words(out, WAYS).sort().join() !== words(put, WAYS).sort().join() && !isMistyped(out, put))
    return false;
  if (!isWithin(words(out, WAITS), words(put, WAITS))) return false;
  if (!isWithin(words(put, WAITS), words(out, WAITS)) && !isMistyped(out, put)) return false;
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

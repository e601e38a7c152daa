import type { Span } from './tree.ts';

/** Everything that can be wrong with a script before it runs. The wording is in {@link explain}. */
export type SyntaxProblem = { span: Span } & (
  | { code: 'unknown word'; word: string; nearest: string | null; expected: string }
  | { code: 'missing'; expected: string; after: string | null }
  | { code: 'unfit unit'; found: string; expected: string }
  | { code: 'risk without stop' }
  | { code: 'R without stop' }
  | { code: 'too many parts'; total: string }
  | { code: 'two stops' }
  | { code: 'no such target'; number: number; have: number }
  | { code: 'stray exit'; word: string }
  | { code: 'part on entry' }
  | { code: 'wrong field unit'; field: string; found: string; expected: string; example: string }
  | { code: 'empty' }
  | { code: 'empty rule' }
);

/** The sentence that the trader reads: what is wrong, and what would be right. */
export function explain(p: SyntaxProblem): string {
  switch (p.code) {
    case 'unknown word':
      return p.nearest ? `“${p.word}” is not known here. Did you mean “${p.nearest}”?` : `“${p.word}” is not known here. Expected ${p.expected}.`;
    case 'missing':
      return p.after ? `After “${p.after}” there should be ${p.expected}.` : `There should be ${p.expected} here.`;
    case 'unfit unit':
      return `${p.found} does not fit here. Expected ${p.expected}.`;
    case 'risk without stop':
      return 'A size by risk needs a stop to measure it: add a line such as “stop 30c”.';
    case 'R without stop':
      return 'R is the distance to the stop: add a line such as “stop 30c”, or give the distance in cents or percent.';
    case 'too many parts':
      return `The targets add up to ${p.total} of the position; together they may be at most all of it.`;
    case 'two stops':
      return 'One stop covers the position; there is a second one here. Keep one of them.';
    case 'no such target':
      return `There is no target ${p.number}; this order has ${p.have}.`;
    case 'stray exit':
      return `“${p.word}” belongs under an entry: put it on a line after “buy …” or “short …”.`;
    case 'part on entry':
      return 'A part of the position cannot be bought. Give shares (400), money ($2,500) or risk (risk 1R).';
    case 'wrong field unit':
      return `“${p.field}” is measured in ${p.expected}, not in ${p.found}. For example: ${p.example}.`;
    case 'empty':
      return 'Nothing is written yet. For example: buy 100 at ask + 2c';
    case 'empty rule':
      return 'The rule is empty. For example: gap > 8% and price between 2 and 20';
  }
}

/** The known word closest to a mistyped one (by letters changed), or null when none is near. */
export function nearestWord(word: string, known: readonly string[]): string | null {
  // A word that is only begun.
  const begun = word.length < 2 ? undefined : known.find((k) => k.toLowerCase().startsWith(word.toLowerCase()));
  if (begun !== undefined) return begun;
  let best: string | null = null;
  let bestDistance = Math.max(1, Math.floor(word.length / 3)) + 1;
  for (const k of known) {
    const d = distance(word.toLowerCase(), k.toLowerCase());
    if (d < bestDistance) {
      bestDistance = d;
      best = k;
    }
  }
  return best;
}

/** Letters put in, left out, changed, or two neighbours swapped (optimal string alignment: F. Damerau, Communications of the ACM 7, 1964). */
function distance(a: string, b: string): number {
  const rows: number[][] = [Array.from({ length: b.length + 1 }, (_, i) => i)];
  const at = (i: number, j: number) => rows[i]?.[j] as number;
  for (let i = 1; i <= a.length; i++) {
    rows.push([i]);
    for (let j = 1; j <= b.length; j++) {
      const changed = at(i - 1, j - 1) + (a[i - 1] === b[j - 1] ? 0 : 1);
      const swapped = i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1] ? at(i - 2, j - 2) + 1 : changed;
      (rows[i] as number[]).push(Math.min(at(i - 1, j) + 1, at(i, j - 1) + 1, changed, swapped));
    }
  }
  return at(a.length, b.length);
}

const LONGEST_WORD = 24;
const SHORT = 4;

/** The known word closest to a mistyped one (by letters changed), or null when none is near; never the word itself. */
export function nearestWord(typed: string, known: readonly string[]): string | null {
  const word = typed.toLowerCase();
  if (word.length > LONGEST_WORD) return null;
  // The first letter of a short word is seldom the mistaken one: “lid” is no “bid”.
  const others = known.filter(
    (k) => k.toLowerCase() !== word && (word.length > SHORT || k[0]?.toLowerCase() === word[0]),
  );
  // A word that is only begun.
  const begun = word.length < 2 ? undefined : others.find((k) => k.toLowerCase().startsWith(word));
  if (begun !== undefined) return begun;
  let best: string | null = null;
  let bestDistance = Math.max(1, Math.floor(word.length / 3)) + 1;
  for (const k of others) {
    if (Math.abs(k.length - word.length) >= bestDistance) continue;
    const d = distance(word, k.toLowerCase());
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
      const swapped =
        i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1] ? at(i - 2, j - 2) + 1 : changed;
      (rows[i] as number[]).push(Math.min(at(i - 1, j) + 1, at(i, j - 1) + 1, changed, swapped));
    }
  }
  return at(a.length, b.length);
}

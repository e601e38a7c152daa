// Which executions of a file have been taken in before.
import type { JoinedFrom } from './joining.ts';

/** An execution that is kept, by what it says. */
export interface KeptOne {
  says: string;
  id: string;
  place?: number;
}

/**
 * Which executions are new. One with an identity of ours is known where the same place of its equals is kept; one with
 * a number of its file where that number is. Of those that have neither, as many are known as equal ones are kept
 * without a number that speaks against it: whether they repeat or continue them cannot be told, and is asked about.
 */
export function unknownOnes<T extends Pick<JoinedFrom, 'id' | 'place'>>(
  kept: readonly KeptOne[],
  all: readonly T[],
  saysOf: (x: T) => string,
  again: 'repeat' | 'continue',
): { fresh: T[]; known: number; unsure: number } {
  const there = new Map<string, KeptOne[]>();
  for (const k of kept) there.set(k.says, [...(there.get(k.says) ?? []), k]);
  const taken = new Set<KeptOne>();
  const matched = new Set<T>();
  const match = (x: T, fits: (k: KeptOne) => boolean): boolean => {
    const k = there.get(saysOf(x))?.find((y) => !taken.has(y) && fits(y));
    if (!k) return false;
    taken.add(k);
    matched.add(x);
    return true;
  };
  for (const x of all) if (x.place !== undefined) match(x, (k) => k.place === x.place);
  // A number of a file counts where ours do not say more: two places of equals are two.
  const placed = (k: KeptOne, x: T) => k.place !== undefined && x.place !== undefined;
  for (const x of all) if (!matched.has(x) && x.id !== '') match(x, (k) => k.id === x.id && !placed(k, x));
  let unsure = 0;
  for (const x of all) {
    if (matched.has(x)) continue;
    // Two that both say who they are, and are not the same, are two.
    const open = (k: KeptOne) => !placed(k, x) && !(k.id !== '' && x.id !== '');
    if (there.get(saysOf(x))?.some((y) => !taken.has(y) && open(y))) {
      unsure++;
      if (again === 'repeat') match(x, open);
    }
  }
  return { fresh: all.filter((x) => !matched.has(x)), known: matched.size, unsure };
}

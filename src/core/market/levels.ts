import { namedText, REFERENCES, type SymbolView } from './references.ts';

/** A price that decides a trade, under the name that scripts have for it; null while it is not known. */
export interface Level {
  name: string;
  price: number | null;
}

/** What the levels are called, in the order of the day. */
export const LEVEL_NAMES: readonly string[] = REFERENCES.flatMap((r) =>
  (r.levels ?? []).map((args) => namedText({ words: r.words, args })),
);

/** Every level of a symbol now, in the order of the day. Found from prints alone; each can be used by its name in a script. */
export const levelsOf = (v: SymbolView): Level[] =>
  REFERENCES.flatMap((r) =>
    (r.levels ?? []).map((args) => ({ name: namedText({ words: r.words, args }), price: r.value(v, args) })),
  );

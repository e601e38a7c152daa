// Prices by their names: what each is now, and the lists that are shown of them.
import type { Fill, SymbolView } from '../market/index.ts';
import { formOf, KINDS, type Kind } from './forms/index.ts';
import { printTree } from './print.ts';
import type { ReferenceTree } from './tree.ts';

/** What the declaration of a named price has, whichever it is. */
interface Named {
  value(v: SymbolView, t: ReferenceTree): number | null;
  column?(t: ReferenceTree): Fill;
  levels?: readonly object[];
  usual?: readonly object[];
  of?: 'trade';
}
const namedOf = (kind: Kind): Named => formOf(kind) as unknown as Named;

/** A named price of a symbol in price units, not rounded; null while it is not known. */
export function priceNamed(t: ReferenceTree, v: SymbolView): number | null {
  const value = namedOf(t.kind).value(v, t);
  return value !== null && Number.isFinite(value) ? value : null;
}

/** How the values of many symbols are had at once; null for one that scans cannot ask for. */
export const columnFor = (t: ReferenceTree): Fill | null => namedOf(t.kind).column?.(t) ?? null;

/** Whether a named price is of the trader’s own position. */
export const isOfTrade = (t: ReferenceTree): boolean => namedOf(t.kind).of === 'trade';

/** Minutes of the candle whose end a named price changes at; null for any other. */
export const candleOf = (t: ReferenceTree): number | null => (t.kind === 'candle edge' ? t.minutes : null);

/** A named price that is ready to be shown. */
export interface NamedPrice {
  tree: ReferenceTree;
  text: string;
  says: string;
}
const listed = (which: (n: Named) => readonly object[]): readonly NamedPrice[] =>
  KINDS.filter((kind) => (formOf(kind).slots as readonly string[]).includes('reference')).flatMap((kind) =>
    which(namedOf(kind)).map((fields) => {
      const tree = { kind, ...fields } as ReferenceTree;
      return { tree, text: printTree(tree), says: formOf(kind).says };
    }),
  );

/** Prices that decide a trade, in the order of the day. Found from prints alone; each can be used by its name in a script. */
export const LEVELS: readonly NamedPrice[] = listed((n) => n.levels ?? []);
/** Prices that a script can name: of those with choices, the usual ones. */
export const NAMED_PRICES: readonly NamedPrice[] = listed((n) => n.usual ?? n.levels ?? [{}]);

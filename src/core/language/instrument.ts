import { readAs } from './piece.ts';
import { printTree } from './print.ts';
import type { InstrumentTree } from './tree.ts';

const MOST_KEPT = 1_000;
const kept = new Map<string, InstrumentTree>();

/** What a name stands for: a symbol, a contract or vertical by its name, or what a sentence says instead, such as `VULPN 45 days 30 delta put`. */
export function instrumentNamed(name: string): InstrumentTree {
  if (!name.includes(' ')) return { kind: 'stock', symbol: name };
  const known = kept.get(name);
  if (known) return known;
  const tree = readAs('instrument', name) ?? ({ kind: 'stock', symbol: name } as const);
  if (kept.size >= MOST_KEPT) kept.clear();
  kept.set(name, tree);
  return tree;
}

/** The name of what a sentence says: the opposite of {@link instrumentNamed}. */
export function instrumentName(of: InstrumentTree): string {
  if (of.kind === 'stock') return of.symbol;
  return of.root === null ? printTree(of) : `${of.root} ${printTree({ ...of, root: null })}`;
}

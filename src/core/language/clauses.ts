import type { Clause, Condition } from './tree.ts';

/** The clauses of a condition, in reading order. */
export function clausesIn(x: Condition): Clause[] {
  switch (x.kind) {
    case 'all':
    case 'any':
      return x.of.flatMap(clausesIn);
    case 'not':
      return clausesIn(x.of);
    default:
      return [x];
  }
}

import { type Condition, clausesIn, printTree } from '../language/index.ts';
import { fieldOf, fieldValue, type MarketView } from '../market/index.ts';
import { sift } from './pass.ts';

/** The parts of a rule that all must hold: what `and` joins at its top. */
export const clausesOf = (rule: Condition): readonly Condition[] => (rule.kind === 'all' ? rule.of : [rule]);

/** The rule that its clauses make together; null of none. */
export const joined = (clauses: readonly Condition[]): Condition | null =>
  clauses.length > 1 ? { kind: 'all', of: clauses } : (clauses[0] ?? null);

export interface ClauseCount {
  text: string;
  /** Symbols that pass this clause, whatever the others say. */
  alone: number;
  /** Symbols that pass all clauses but this one. */
  onlyHere: number;
}

/** How each clause sifts by itself, and how many symbols it alone keeps out: shows which one to change. */
export function clauseCounts(m: MarketView, rule: Condition, from: Int32Array): ClauseCount[] {
  const clauses = clausesOf(rule);
  const failed = new Uint8Array(m.board.count).fill(clauses.length);
  const failedAt = new Int32Array(m.board.count);
  const passes = clauses.map((c) => {
    const who = from.slice();
    return who.subarray(0, sift(c, m, who, who.length));
  });
  // Each pass takes one failure off; the place sums then name the clause where only one is left.
  const places = (clauses.length * (clauses.length - 1)) / 2;
  failedAt.fill(places);
  passes.forEach((who, k) => {
    for (const i of who) {
      failed[i] = (failed[i] as number) - 1;
      failedAt[i] = (failedAt[i] as number) - k;
    }
  });
  const onlyHere = new Array<number>(clauses.length).fill(0);
  for (const i of from)
    if (failed[i] === 1) onlyHere[failedAt[i] as number] = (onlyHere[failedAt[i] as number] as number) + 1;
  return clauses.map((c, k) => ({
    text: printTree(c),
    alone: passes[k]?.length ?? 0,
    onlyHere: onlyHere[k] ?? 0,
  }));
}

export interface ClauseAnswer {
  text: string;
  passes: boolean;
  /** The fields that the clause asks for, with their values now; null: not known. */
  values: { field: string; value: number | null }[];
}

/** For one symbol: which clauses it passes and which keep it out, with the values behind it. */
export function why(m: MarketView, rule: Condition, i: number): ClauseAnswer[] {
  return clausesOf(rule).map((c) => ({
    text: printTree(c),
    passes: sift(c, m, Int32Array.of(i), 1) === 1,
    values: [...new Set(fieldsOf(c))].map((field) => {
      const value = fieldValue(fieldOf(field), m, i);
      return { field, value: Number.isNaN(value) ? null : value };
    }),
  }));
}

/** The fields that a rule names. */
export const fieldsOf = (rule: Condition): string[] =>
  clausesIn(rule).flatMap((x) => ('field' in x ? [x.field] : []));

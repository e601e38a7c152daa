/** A part of a position, exact: thirds stay thirds. */
export type Part = { kind: 'fraction'; num: number; den: number } | { kind: 'all' };

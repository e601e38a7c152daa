import type { Rule } from '../language/index.ts';
import { type Field, fieldOf, type MarketView } from '../market/index.ts';
import { unreachable } from '../units/index.ts';

type Leaf = Exclude<Rule, { kind: 'all' | 'any' | 'not' }>;

/** Values of one field at a time; as long as the market. */
let scratch = new Float64Array(0);
function room(n: number): Float64Array {
  if (scratch.length < n) scratch = new Float64Array(n);
  return scratch;
}

/**
 * Which of the first `n` symbols of `who` pass a rule; they are moved to the front of `who`, in
 * their order. One field at a time over all that are left: clauses joined by `and` look only at
 * what the ones before them have let through.
 * @returns how many pass.
 */
export function sift(rule: Rule, m: MarketView, who: Int32Array, n: number): number {
  switch (rule.kind) {
    case 'all':
      return rule.of.reduce((left, clause) => sift(clause, m, who, left), n);
    case 'any': {
      const passed = new Uint8Array(m.board.count);
      for (const side of rule.of) {
        const some = who.slice(0, n);
        const k = sift(side, m, some, n);
        for (let j = 0; j < k; j++) passed[some[j] as number] = 1;
      }
      return keep(who, n, passed, 1);
    }
    case 'not': {
      const passed = new Uint8Array(m.board.count);
      const some = who.slice(0, n);
      const k = sift(rule.of, m, some, n);
      for (let j = 0; j < k; j++) passed[some[j] as number] = 1;
      return keep(who, n, passed, 0);
    }
    default:
      return siftLeaf(rule, m, who, n);
  }
}

function keep(who: Int32Array, n: number, passed: Uint8Array, wanted: 0 | 1): number {
  let k = 0;
  for (let j = 0; j < n; j++) {
    const i = who[j] as number;
    if (passed[i] === wanted) who[k++] = i;
  }
  return k;
}

function siftLeaf(leaf: Leaf, m: MarketView, who: Int32Array, n: number): number {
  const field = fieldOf(leaf.field);
  const out = room(n);
  field.fill(m, who, n, out);
  const { low, high, strict, inside } = boundsOf(leaf, field);
  let k = 0;
  if (inside && !strict) {
    for (let j = 0; j < n; j++) {
      const v = out[j] as number;
      if (v >= low && v <= high) who[k++] = who[j] as number;
    }
  } else if (inside) {
    for (let j = 0; j < n; j++) {
      const v = out[j] as number;
      if (v > low && v < high) who[k++] = who[j] as number;
    }
  } else for (let j = 0; j < n; j++) if (out[j] !== low) who[k++] = who[j] as number;
  return k;
}

/** A clause as bounds. `strict` leaves both of them out; not `inside` means anything but `low`. */
function boundsOf(leaf: Leaf, field: Field): { low: number; high: number; strict: boolean; inside: boolean } {
  const [none, all] = [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
  switch (leaf.kind) {
    case 'between':
      return { low: leaf.low, high: leaf.high, strict: false, inside: true };
    case 'flag':
      return { low: 1, high: 1, strict: false, inside: true };
    case 'is': {
      const place = field.choices?.indexOf(leaf.choice) ?? -1;
      return { low: place, high: place, strict: false, inside: !leaf.not };
    }
    case 'compare': {
      const strict = leaf.op === '>' || leaf.op === '<';
      const value = leaf.to;
      // An infinite bound is kept out by a strict comparison; no field is ever infinite.
      return leaf.op.startsWith('>')
        ? { low: value, high: all, strict, inside: true }
        : { low: none, high: value, strict, inside: true };
    }
    default:
      return unreachable(leaf);
  }
}

import type { Clause, Condition, TreeOf } from '../language/index.ts';
import { type Field, fieldOf, type MarketView, priceBack } from '../market/index.ts';
import { clockOf, MINUTE, unreachable } from '../units/index.ts';
import { fillPrice } from './price-column.ts';

type FieldClause = Extract<Clause, { field: string }>;

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
export function sift(rule: Condition, m: MarketView, who: Int32Array, n: number): number {
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

/** A clause over the symbols: which kind of thing it asks for. */
function siftLeaf(leaf: Clause, m: MarketView, who: Int32Array, n: number): number {
  switch (leaf.kind) {
    case 'compare':
    case 'between':
    case 'is':
    case 'flag':
      return siftField(leaf, m, who, n);
    case 'price is':
    case 'price between':
      return siftPrice(leaf, m, who, n);
    case 'price crosses':
      return siftCrossing(leaf, m, who, n);
    case 'time is':
      return clockOf(m.now) >= leaf.time * MINUTE === (leaf.op === '>=') ? n : 0;
    case 'gain is':
      // Nothing is known here of anybody's trades.
      return 0;
    default:
      return unreachable(leaf);
  }
}

/** Moves those to the front of which `passes` holds, by their place in the list. */
function filtered(who: Int32Array, n: number, passes: (k: number) => boolean): number {
  let kept = 0;
  for (let k = 0; k < n; k++) if (passes(k)) who[kept++] = who[k] as number;
  return kept;
}

function siftPrice(
  x: TreeOf<'price is'> | TreeOf<'price between'>,
  m: MarketView,
  who: Int32Array,
  n: number,
): number {
  const [left, low, high] = [new Float64Array(n), new Float64Array(n), new Float64Array(n)];
  fillPrice(x.left, m, who, n, left);
  const [a, b] = x.kind === 'price between' ? [x.low, x.high] : [x.right, x.right];
  fillPrice(a, m, who, n, low);
  fillPrice(b, m, who, n, high);
  const gap = (k: number) => (left[k] as number) - (low[k] as number);
  if (x.kind === 'price between')
    return filtered(who, n, (k) => gap(k) >= 0 && (left[k] as number) <= (high[k] as number));
  switch (x.op) {
    case '>':
      return filtered(who, n, (k) => gap(k) > 0);
    case '>=':
      return filtered(who, n, (k) => gap(k) >= 0);
    case '<':
      return filtered(who, n, (k) => gap(k) < 0);
    case '<=':
      return filtered(who, n, (k) => gap(k) <= 0);
    default:
      return unreachable(x.op);
  }
}

/** A crossing as scans see it: the last price is at or beyond the other one, and the last but one finished minute closed on its other side. */
function siftCrossing(x: TreeOf<'price crosses'>, m: MarketView, who: Int32Array, n: number): number {
  const [now, right] = [new Float64Array(n), new Float64Array(n)];
  fillPrice(x.left, m, who, n, now);
  fillPrice(x.right, m, who, n, right);
  const sign = x.way === 'above' ? 1 : -1;
  return filtered(who, n, (k) => {
    const before = priceBack(m.board, who[k] as number, 2, m.now);
    const at = right[k] as number;
    return before > 0 && sign * ((now[k] as number) - at) >= 0 && sign * (before - at) < 0;
  });
}

function siftField(leaf: FieldClause, m: MarketView, who: Int32Array, n: number): number {
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
function boundsOf(
  leaf: FieldClause,
  field: Field,
): { low: number; high: number; strict: boolean; inside: boolean } {
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

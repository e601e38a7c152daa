import type { Condition } from '../language/index.ts';
import { fieldOf, type MarketView } from '../market/index.ts';
import { ascending } from './order.ts';
import { sift } from './pass.ts';

/** What a list is ordered by: fields with weights. A weight below zero puts small values first. */
export type Ranking = readonly { field: string; weight: number }[];

/**
 * Symbols of `from` that pass a rule, best first.
 *
 * A single field puts its largest values first. Several are blended: each symbol gets, for each field, the share
 * of the passing symbols that it beats (0 to 1), and the weighted mean of those shares orders the
 * list, so that no unit outweighs another. Unknown values come last; ties go by symbol.
 * @returns how many pass, and the best `limit` of them.
 */
export function rank(
  m: MarketView,
  rule: Condition,
  ranking: Ranking,
  from: Int32Array,
  limit: number,
): { passing: number; order: Int32Array } {
  const who = from.slice();
  const n = sift(rule, m, who, who.length);
  return { passing: n, order: ordered(m, ranking, who.subarray(0, n), limit) };
}

/** The best `limit` symbols of `who` by a ranking, in order. */
export const ordered = (m: MarketView, ranking: Ranking, who: Int32Array, limit: number): Int32Array =>
  best(m, who, who.length, scores(m, ranking, who, who.length), limit);

function scores(m: MarketView, ranking: Ranking, who: Int32Array, n: number): Float64Array {
  const sum = new Float64Array(n);
  const values = new Float64Array(n);
  for (const { field, weight } of ranking) {
    fieldOf(field).fill(m, who, n, values);
    const sign = weight < 0 ? -1 : 1;
    for (let k = 0; k < n; k++) {
      const v = values[k] as number;
      values[k] = Number.isNaN(v) ? Number.NEGATIVE_INFINITY : v * sign;
    }
    if (ranking.length === 1) return values;
    const order = ascending(values, n);
    let smaller = 0;
    for (let k = 0; k < n; k++) {
      const row = order[k] as number;
      if (k > 0 && values[row] !== values[order[k - 1] as number]) smaller = k;
      sum[row] = (sum[row] as number) + Math.abs(weight) * smaller;
    }
  }
  return sum;
}

/** The `limit` symbols with the highest scores, in order. */
function best(m: MarketView, who: Int32Array, n: number, score: Float64Array, limit: number): Int32Array {
  const order = ascending(score, n);
  const bar = n > limit ? (score[order[n - limit] as number] as number) : Number.NEGATIVE_INFINITY;
  const rows: number[] = [];
  for (let k = n - 1; k >= 0 && (score[order[k] as number] as number) >= bar; k--)
    rows.push(order[k] as number);
  const { alphabet } = m.facts;
  const place = (k: number) => alphabet[who[k] as number] as number;
  rows.sort((a, b) => {
    const [x, y] = [score[a] as number, score[b] as number];
    return x === y ? place(a) - place(b) : y > x ? 1 : -1;
  });
  return Int32Array.from(rows.slice(0, limit), (k) => who[k] as number);
}

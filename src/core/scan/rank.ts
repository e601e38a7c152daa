import type { ScanRule } from '../script/index.ts';
import { unreachable } from '../units/index.ts';
import { SCAN_FIELDS, type ScanInput } from './fields.ts';

/** One line of the scan: its symbol and all field values in the order of {@link SCAN_FIELDS}. */
export interface ScanRow {
  symbol: string;
  values: (number | null)[];
}

const COLUMN = new Map(SCAN_FIELDS.map((f, i) => [f.name, i]));

/** Number of a field's column. @throws Error for a name that is not in the registry (a bug). */
export function columnOf(field: string): number {
  const i = COLUMN.get(field);
  if (i === undefined) throw new Error(`no such scan field: ${field}`);
  return i;
}

export const rowOf = (input: ScanInput): ScanRow => ({ symbol: input.instrument.symbol, values: SCAN_FIELDS.map((f) => f.of(input)) });

/** Whether a row passes; a value that is not known passes nothing. */
export function passes(rule: ScanRule, row: ScanRow): boolean {
  switch (rule.kind) {
    case 'compare': {
      const v = row.values[columnOf(rule.field)] ?? null;
      if (v === null) return false;
      if (rule.op === '>') return v > rule.to.value;
      if (rule.op === '>=') return v >= rule.to.value;
      if (rule.op === '<') return v < rule.to.value;
      return v <= rule.to.value;
    }
    case 'between': {
      const v = row.values[columnOf(rule.field)] ?? null;
      return v !== null && v >= rule.low.value && v <= rule.high.value;
    }
    case 'and':
      return passes(rule.left, row) && passes(rule.right, row);
    case 'or':
      return passes(rule.left, row) || passes(rule.right, row);
    case 'not':
      return !passes(rule.rule, row);
    default:
      return unreachable(rule);
  }
}

/** The clauses of a rule that can be judged by themselves. */
export function clausesOf(rule: ScanRule): Extract<ScanRule, { kind: 'compare' | 'between' }>[] {
  switch (rule.kind) {
    case 'compare':
    case 'between':
      return [rule];
    case 'not':
      return clausesOf(rule.rule);
    case 'and':
    case 'or':
      return [...clausesOf(rule.left), ...clausesOf(rule.right)];
    default:
      return unreachable(rule);
  }
}

/** Rows that pass, largest value of `rankBy` first; ties by symbol, unknown values last. */
export function rank(rows: readonly ScanRow[], rule: ScanRule, rankBy: string): ScanRow[] {
  const column = columnOf(rankBy);
  return rows
    .filter((r) => passes(rule, r))
    .sort((a, b) => {
      const x = a.values[column] ?? Number.NEGATIVE_INFINITY;
      const y = b.values[column] ?? Number.NEGATIVE_INFINITY;
      return x === y ? (a.symbol < b.symbol ? -1 : 1) : y - x;
    });
}

/** For each clause how many of the rows pass it alone: shows which one is the tightest. */
export function clauseCounts(rows: readonly ScanRow[], rule: ScanRule): { span: { from: number; to: number }; passing: number }[] {
  return clausesOf(rule).map((c) => ({ span: c.span, passing: rows.filter((r) => passes(c, r)).length }));
}

import type { ScanRule } from '../script/index.ts';
import { unreachable } from '../units/index.ts';
import { SCAN_FIELDS, type ScanField, type ScanInput } from './fields.ts';

/** One line of the scan: its symbol and all field values in the order of {@link SCAN_FIELDS}; null is not known. */
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

const fieldOf = (name: string): ScanField => SCAN_FIELDS[columnOf(name)] as ScanField;

/** All fields of one symbol. */
export const rowOf = (m: ScanInput, i: number): ScanRow => ({
  symbol: m.instruments[i]?.symbol ?? '',
  values: SCAN_FIELDS.map((f) => {
    const v = f.of(m, i);
    return Number.isNaN(v) ? null : v;
  }),
});

type Clause = Extract<ScanRule, { kind: 'compare' | 'between' }>;

/** A clause as bounds: passes when the value lies between them. A value that is not known passes nothing. */
function boundsOf(c: Clause): { low: number; high: number; openLow: boolean; openHigh: boolean } {
  if (c.kind === 'between') return { low: c.low.value, high: c.high.value, openLow: false, openHigh: false };
  const up = c.op === '>' || c.op === '>=';
  return {
    low: up ? c.to.value : Number.NEGATIVE_INFINITY,
    high: up ? Number.POSITIVE_INFINITY : c.to.value,
    openLow: c.op === '>',
    openHigh: c.op === '<',
  };
}

function sift(c: Clause, m: ScanInput, from: readonly number[]): number[] {
  const field = fieldOf(c.field);
  const { low, high, openLow, openHigh } = boundsOf(c);
  const out: number[] = [];
  for (let k = 0; k < from.length; k++) {
    const i = from[k] as number;
    const v = field.of(m, i);
    if (v >= low && v <= high && !(openLow && v === low) && !(openHigh && v === high)) out.push(i);
  }
  return out;
}

/**
 * Which of `from` pass a rule, in their order. Clauses joined by `and` look only at what the ones
 * before them have let through, so the whole market is looked at once.
 */
export function passing(rule: ScanRule, m: ScanInput, from: readonly number[]): number[] {
  switch (rule.kind) {
    case 'compare':
    case 'between':
      return sift(rule, m, from);
    case 'and':
      return passing(rule.right, m, passing(rule.left, m, from));
    case 'or': {
      const left = new Set(passing(rule.left, m, from));
      const right = new Set(
        passing(
          rule.right,
          m,
          from.filter((i) => !left.has(i)),
        ),
      );
      return from.filter((i) => left.has(i) || right.has(i));
    }
    case 'not': {
      const out = new Set(passing(rule.rule, m, from));
      return from.filter((i) => !out.has(i));
    }
    default:
      return unreachable(rule);
  }
}

/** The clauses of a rule that can be judged by themselves. */
export function clausesOf(rule: ScanRule): Clause[] {
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

/** Symbols that pass, largest value of `rankBy` first; ties by symbol, unknown values last. */
export function rank(m: ScanInput, rule: ScanRule, rankBy: string, from: readonly number[]): number[] {
  const by = fieldOf(rankBy);
  const found = passing(rule, m, from).map((i) => ({ i, v: by.of(m, i) }));
  const key = (v: number) => (Number.isNaN(v) ? Number.NEGATIVE_INFINITY : v);
  const symbol = (i: number) => m.instruments[i]?.symbol ?? '';
  return found.sort((a, b) => (key(a.v) === key(b.v) ? 0 : key(b.v) - key(a.v)) || (symbol(a.i) < symbol(b.i) ? -1 : 1)).map((x) => x.i);
}

/** For each clause how many of `from` pass it alone: shows which one is the tightest. */
export function clauseCounts(m: ScanInput, rule: ScanRule, from: readonly number[]): { span: { from: number; to: number }; passing: number }[] {
  return clausesOf(rule).map((c) => ({ span: c.span, passing: sift(c, m, from).length }));
}

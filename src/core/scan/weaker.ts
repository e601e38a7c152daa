import { type Clause, type Condition, clausesIn } from '../language/index.ts';
import type { Field } from '../market/index.ts';
import { fieldOf } from '../market/index.ts';

/**
 * What of a rule is decided by fields that do not change any more: whoever fails it fails the rule for the
 * rest of the day. Null where nothing is decided.
 */
export function weaker(rule: Condition, decided: (field: Field) => boolean): Condition | null {
  const settled = (x: Clause): boolean => 'field' in x && decided(fieldOf(x.field));
  switch (rule.kind) {
    case 'all': {
      const of = rule.of.flatMap((r) => weaker(r, decided) ?? []);
      return of.length > 1 ? ({ ...rule, of } as Condition) : ((of[0] as Condition | undefined) ?? null);
    }
    case 'any': {
      const of = rule.of.map((r) => weaker(r, decided));
      return of.includes(null) ? null : ({ ...rule, of } as Condition);
    }
    case 'not':
      return clausesIn(rule.of).every(settled) ? rule : null;
    default:
      return settled(rule) ? rule : null;
  }
}

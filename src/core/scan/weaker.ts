import type { Rule } from '../language/index.ts';
import type { Field } from '../market/index.ts';
import { fieldOf } from '../market/index.ts';
import { fieldsOf } from './clauses.ts';

/**
 * What of a rule is decided by fields that do not change any more: whoever fails it fails the rule for the
 * rest of the day. Null where nothing is decided.
 */
export function weaker(rule: Rule, decided: (field: Field) => boolean): Rule | null {
  switch (rule.kind) {
    case 'all': {
      const of = rule.of.flatMap((r) => weaker(r, decided) ?? []);
      return of.length > 1 ? ({ ...rule, of } as Rule) : ((of[0] as Rule | undefined) ?? null);
    }
    case 'any': {
      const of = rule.of.map((r) => weaker(r, decided));
      return of.includes(null) ? null : ({ ...rule, of } as Rule);
    }
    case 'not':
      return fieldsOf(rule.of).every((name) => decided(fieldOf(name))) ? rule : null;
    default:
      return decided(fieldOf(rule.field)) ? rule : null;
  }
}

import { UNIT_EXAMPLE } from '@/core/language';
import type { Field } from '@/core/market';

/** A clause to start from for a field: one that reads. */
export const firstClause = (f: Field): string =>
  f.unit === 'flag'
    ? f.name
    : f.choices
      ? `${f.name} is ${f.choices[0]}`
      : `${f.name} > ${UNIT_EXAMPLE[f.unit]}`;

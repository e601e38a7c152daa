import { FIELDS, type Field } from '@/core/market';
import { UNIT_EXAMPLE } from '@/core/script';

/** A clause to start from for a field: one that reads. */
export const firstClause = (f: Field): string =>
  f.unit === 'flag' ? f.name : f.choices ? `${f.name} is ${f.choices[0]}` : `${f.name} > ${UNIT_EXAMPLE[f.unit]}`;

/**
 * What may be offered at the end of a beginning of a rule: the choices of a field after `is`, or
 * fields where one may stand. `from` is where the word under way began. Null where neither fits.
 */
export function offerAt(before: string, asked: boolean): { from: number; choices: readonly string[] | null } | null {
  const chosen = FIELDS.filter((f) => f.choices && new RegExp(`\\b${f.name} is( not)? [a-z ]*$`, 'i').test(before))[0];
  if (chosen?.choices) {
    const typed = /(?: is(?: not)? )([a-z ]*)$/i.exec(before)?.[1] ?? '';
    const open = chosen.choices.some((c) => c.toLowerCase().startsWith(typed.toLowerCase()));
    if (open) return { from: before.length - typed.length, choices: chosen.choices };
  }
  // A field's name has spaces, so the word begins after the last word that joins clauses.
  const join = [...before.matchAll(/(?:\b(?:and|or|not)\b|\()\s*/gi)].pop();
  const from = join ? join.index + join[0].length : 0;
  const typed = before.slice(from);
  if (!/^(?:[a-z][a-z0-9 ]*)?$/i.test(typed) || (typed === '' && !asked)) return null;
  if (!FIELDS.some((f) => f.name.includes(typed.trim().toLowerCase()))) return null;
  // In “between 2 and” a number comes next.
  if (/\bbetween\s+\S+\s+and\s*$/i.test(before.slice(0, from))) return null;
  return { from, choices: null };
}

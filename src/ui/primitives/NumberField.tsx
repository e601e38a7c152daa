'use client';

import type { FieldPath, FieldValues, UseFormReturn } from 'react-hook-form';
import { string } from 'yup';

/** What is typed for a number; null for nothing, NaN for what is none. */
export const numberOf = (text: string | undefined): number | null =>
  text === undefined || text.trim() === '' ? null : Number(text.replaceAll(',', ''));

/** The text of a number within bounds; `mayBeOff`: empty is none. */
export const numberIn = (least: number, most: number, mayBeOff = false, example = '') =>
  string()
    .defined()
    .test(
      'number',
      `${mayBeOff ? 'Empty for none, or a' : 'A'} number from ${least} to ${most.toLocaleString('en-US')}${example && `, for example ${example}`}`,
      (text) => {
        const n = numberOf(text);
        return n === null ? mayBeOff : n >= least && n <= most;
      },
    );

/** A number as the text that it starts from. */
export const startText = (n: number | null): string => (n === null ? '' : String(n));

/** One number of a form, with what is wrong with it. */
export function NumberInput<T extends FieldValues>({
  form,
  name,
  label,
  now,
}: {
  form: UseFormReturn<T>;
  name: FieldPath<T>;
  label: string;
  now?: string;
}) {
  const { error } = form.getFieldState(name, form.formState);
  return (
    <label className="block">
      <span className="block text-[13px] text-quiet">{label}</span>
      <input
        className="field num w-28"
        inputMode="decimal"
        placeholder="none"
        aria-invalid={error !== undefined}
        {...form.register(name)}
      />
      {now && <span className="num ml-2 text-[13px] text-quiet">{now}</span>}
      {error && <span className="block text-[13px]">⚠ {error.message}</span>}
    </label>
  );
}

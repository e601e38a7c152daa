'use client';

import { useCallback } from 'react';
import { FIELDS, fieldText } from '@/core/market';
import TextEditor from '../editor/TextEditor';
import { firstClause } from './rule-words';

interface Props {
  value: string;
  change(text: string): void;
  /** Every field of the focus now, for the values beside completions. */
  values: Float64Array | null;
  symbol: string;
}

/** The rule of a scan in the editor, with the values of the focus beside its fields. */
export default function RuleEditor({ value, change, values, symbol }: Props) {
  const about = useCallback(
    (word: string) => {
      const k = FIELDS.findIndex((f) => f.name === word);
      const field = FIELDS[k];
      if (!field) return null;
      return {
        detail: values ? `${symbol} ${fieldText(field, values[k] as number)}` : '',
        meaning: field.meaning,
        apply: firstClause(field),
      };
    },
    [values, symbol],
  );
  return (
    <TextEditor
      kind="rule"
      value={value}
      change={change}
      label="Rule of the scan"
      placeholder="gap > 8% and price between 2 and 20"
      about={about}
    />
  );
}

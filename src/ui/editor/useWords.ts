'use client';

import { useCallback } from 'react';
import { FIELDS } from '@/core/market';
import { useLive } from '../client';
import { avg } from '../format';
import type { WordInfo } from './TextEditor';

/** What the editor shows beside a word: its value now, and what it means. */
export function useWords(): (word: string) => WordInfo | null {
  const names = useLive<'names'>({ kind: 'names' });
  return useCallback(
    (word: string) => {
      const named = names?.names.find((n) => n.text === word);
      if (named)
        return {
          detail:
            named.price === null ? `${names?.symbol}: not known` : `${names?.symbol} ${avg(named.price)}`,
          meaning: named.meaning,
        };
      const field = FIELDS.find((f) => f.name === word);
      return field ? { detail: '', meaning: field.meaning } : null;
    },
    [names],
  );
}

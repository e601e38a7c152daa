'use client';

import { useCallback, useEffect, useState } from 'react';
import { FIELDS } from '@/core/market';
import type { AnswerTo } from '@/worker/session/session-messages';
import { avg } from '../format';
import { ask, useSession } from '../session';
import type { WordInfo } from './TextEditor';

/** Prices by name and plans, with their values for the focus; asked again as time goes on. */
export function useNames(): AnswerTo<'names'> | null {
  const [names, setNames] = useState<AnswerTo<'names'> | null>(null);
  const symbol = useSession((s) => s.focus?.symbol);
  const second = useSession((s) => (s.clock ? Math.floor(s.clock.now / 1_000) : 0));
  useEffect(() => {
    let current = true;
    if (symbol !== undefined && second >= 0)
      void ask({ kind: 'names' }).then((a) => current && a && setNames(a));
    return () => {
      current = false;
    };
  }, [symbol, second]);
  return names;
}

/** What the editor shows beside a word: its value now, and what it means. */
export function useWords(): (word: string) => WordInfo | null {
  const names = useNames();
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

'use client';

import { useMemo } from 'react';
import type { Known } from '@/core/language';
import { useSession } from '../client';
import { useSettings } from '../settings';

/** The trader's own names, for the words where one may stand. */
export function useKnown(): Known {
  const focus = useSession((s) => s.focus?.symbol);
  const desk = useSession((s) => s.desk);
  const plans = useSettings((s) => s.plans);
  return useMemo(
    () => ({
      symbols: focus === undefined ? [] : [focus],
      plans: plans.map((p) => p.name),
      accounts: (desk?.accounts ?? []).map((a) => a.rules.name),
      levels: Object.keys(desk?.levels[focus ?? ''] ?? {}),
    }),
    [focus, plans, desk],
  );
}

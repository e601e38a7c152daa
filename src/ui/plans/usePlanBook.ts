'use client';

import { useEffect } from 'react';
import type { PlanBook } from '@/core/reading';
import type { Settings } from '@/store/settings';
import { ask, useSession } from '../client';
import { useSettings } from '../settings';

/** The last band reaches to any price, which settings keep as 0. */
const NO_END = 0;

type Parts = Pick<Settings, 'plans' | 'planLong' | 'planShort' | 'usual'>;
/** The trader's plans and usual distances, as a session takes them. */
export function planBookOf({ plans, planLong, planShort, usual }: Parts): PlanBook {
  const bands = usual.bands.map((b) => ({
    ...b,
    below: b.below === NO_END ? Number.POSITIVE_INFINITY : b.below,
  }));
  return { plans, long: planLong, short: planShort, usual: { ...usual, bands } };
}

/** Keeps the session's plans and usual distances those of the settings, in every attempt. */
export function usePlanBook(): void {
  const phase = useSession((s) => s.phase);
  const attempt = useSession((s) => s.clock?.attempt);
  const { loaded, plans, planLong, planShort, usual } = useSettings();
  useEffect(() => {
    if (phase !== 'ready' || !loaded || attempt === undefined) return;
    const book = planBookOf({ plans, planLong, planShort, usual });
    void ask({ kind: 'plans', book });
  }, [phase, loaded, attempt, plans, planLong, planShort, usual]);
}

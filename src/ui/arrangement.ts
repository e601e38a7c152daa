'use client';

import { useMemo } from 'react';
import { type Arrangement, type ChartLook, lookOf, SHIPPED, withLook } from '@/store/arrangement';
import type { Settings } from '@/store/settings';
import { useSettings } from './settings';

/** The arrangement that is on screen. */
export const shownOf = (s: Pick<Settings, 'arrangements' | 'arrangement'>): Arrangement =>
  s.arrangements.find((a) => a.id === s.arrangement) ?? s.arrangements[0] ?? (SHIPPED[0] as Arrangement);

/** Changes the arrangement on screen, and keeps it. */
export function rearrange(change: (a: Arrangement) => Arrangement): void {
  const s = useSettings.getState();
  const shown = shownOf(s);
  s.set({ arrangements: s.arrangements.map((a) => (a === shown ? change(a) : a)) });
}

/** Goes so many arrangements on. */
export function stepArrangement(by: 1 | -1): void {
  const s = useSettings.getState();
  const at = s.arrangements.indexOf(shownOf(s));
  const next = s.arrangements[(at + by + s.arrangements.length) % s.arrangements.length];
  if (next) s.set({ arrangement: next.id });
}

/** What a chart shows, and how to change it. */
export function useLook(panel: string): [ChartLook, (change: Partial<ChartLook>) => void] {
  const shown = useSettings(shownOf);
  const look = lookOf(shown, panel);
  const set = useMemo(
    () => (change: Partial<ChartLook>) => rearrange((a) => withLook(a, { ...lookOf(a, panel), ...change })),
    [panel],
  );
  return [look, set];
}

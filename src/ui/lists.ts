'use client';

import type { ListRow, SavedScan } from '@/store/settings';
import { useSession } from './client';
import { useSettings } from './settings';

const NONE: ListRow[] = [];
const dateNow = (): string => useSession.getState().clock?.date ?? '';

/** Today's chosen candidates. */
export function useShortlist(): ListRow[] {
  const date = useSession((s) => s.clock?.date ?? '');
  return useSettings((s) => s.shortlists.find((l) => l.date === date)?.rows ?? NONE);
}

function shortlistNow(): ListRow[] {
  return useSettings.getState().shortlists.find((l) => l.date === dateNow())?.rows ?? NONE;
}

/** Keeps today’s shortlist. */
export function setShortlist(rows: ListRow[]): void {
  const { shortlists, set } = useSettings.getState();
  const date = dateNow();
  set({ shortlists: [...shortlists.filter((l) => l.date !== date), { date, rows }] });
}

/** Puts a symbol on today's shortlist, or takes it off. */
export function toggleShortlist(symbol: string): void {
  const rows = shortlistNow();
  setShortlist(
    rows.some((r) => r.symbol === symbol)
      ? rows.filter((r) => r.symbol !== symbol)
      : [...rows, { symbol, grade: '', note: '' }],
  );
}

/** Changes a candidate's grade or note; a symbol that is not on the shortlist yet comes on it. */
export function grade(symbol: string, change: Partial<Pick<ListRow, 'grade' | 'note'>>): void {
  const rows = shortlistNow();
  const row = rows.find((r) => r.symbol === symbol) ?? { symbol, grade: '', note: '' };
  const next = { ...row, ...change } as ListRow;
  setShortlist(
    rows.some((r) => r.symbol === symbol)
      ? rows.map((r) => (r.symbol === symbol ? next : r))
      : [...rows, next],
  );
}

/** Changes a saved scan. */
export function changeScan(id: string, change: Partial<SavedScan>): void {
  const { scans, set } = useSettings.getState();
  set({ scans: scans.map((s) => (s.id === id ? { ...s, ...change } : s)) });
}

/** Symbols hidden from scans today. */
export function useHidden(): readonly string[] {
  const date = useSession((s) => s.clock?.date ?? '');
  return useSettings((s) => s.hidden.find((h) => h.date === date)?.symbols) ?? NO_SYMBOLS;
}
const NO_SYMBOLS: readonly string[] = [];

/** Keeps which symbols scans leave out today. */
export function setHidden(change: (symbols: readonly string[]) => string[]): void {
  const { hidden, set } = useSettings.getState();
  const date = dateNow();
  const now = hidden.find((h) => h.date === date)?.symbols ?? [];
  set({ hidden: [...hidden.filter((h) => h.date !== date), { date, symbols: change(now) }] });
}

/** The symbols in a text: words of one to five letters, whatever stands between them, each once. */
export const symbolsIn = (text: string): string[] => [
  ...new Set(text.toUpperCase().match(/\b[A-Z]{1,5}\b/g) ?? []),
];

'use client';

import { rootOf } from '@/core/instruments';
import type { DeskAct } from '@/core/reading';
import { useSettings } from '../settings';
import { ask } from './link';
import { happened, useSession } from './store';

/** The scan that a symbol was last brought into focus from. */
const cameFrom = new Map<string, string>();
export const scanOf = (symbol: string): string | null => cameFrom.get(symbol) ?? null;

/** Symbols of the table on screen, in its order. */
function onTable(): string[] {
  const { table, symbols } = useSession.getState();
  return [...(table?.who ?? [])].map((i) => symbols?.[i] ?? '');
}

function noteScan(symbol: string): void {
  const { shown, scans } = useSettings.getState();
  const scan = scans.find((s) => shown === `scan:${s.id}`);
  if (scan && onTable().includes(symbol)) cameFrom.set(symbol, scan.name);
}

/** Puts a symbol, or an option's underlying, into focus everywhere, and remembers it. What waits for a yes was meant for the old one and is dropped. */
export async function focusOn(name: string): Promise<void> {
  const symbol = rootOf(name);
  const { sayBack, focus } = useSession.getState();
  if (sayBack.kind === 'confirm' && focus?.symbol !== symbol) {
    useSession.setState({ drag: null });
    happened({ kind: 'dropped' });
  }
  noteScan(symbol);
  useSettings.getState().set({ focus: symbol });
  await ask({ kind: 'focus', symbol });
}

/** What a sentence leaves to the interface. */
export function atDesk(d: DeskAct): void {
  const settings = useSettings.getState();
  switch (d.kind) {
    case 'extended':
      return settings.set({
        chartExtended: d.what === 'toggle' ? !settings.chartExtended : d.what === 'show',
      });
    case 'focus on':
      return void focusOn(d.symbol);
    case 'chain':
      return useSession.setState({ opened: '/options' });
    case 'clear drawings': {
      // What the levels were is known from before or from now, whichever of the two came first.
      const { levelsBefore, desk } = useSession.getState();
      const levels = { ...levelsBefore[d.symbol], ...desk?.levels[d.symbol] };
      return useSession.setState({ cleared: { symbol: d.symbol, levels } });
    }
    // The list on screen: the table of the Scan, or the shortlist.
    case 'focus': {
      const list = onTable();
      const at = list.indexOf(useSession.getState().focus?.symbol ?? '');
      const next = list[(at + (d.which === 'next' ? 1 : -1) + list.length) % list.length];
      if (next !== undefined) void focusOn(next);
    }
  }
}

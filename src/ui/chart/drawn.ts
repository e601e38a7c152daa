'use client';

// What is drawn on the charts of a symbol: levels are of the session, everything else is kept with the choices.
import type { DrawnLevel } from '@/core/market';
import type { Drawing } from '@/store/settings';
import { act, useSession } from '../client';
import { useSettings } from '../settings';
import { levelSentence } from './pointing';

const NONE: readonly Drawing[] = [];
/** Drawings of a symbol for the days that are on. */
export const drawingsOf = (
  kept: readonly { symbol: string; since: string; list: Drawing[] }[],
  symbol: string | undefined,
  since: string | undefined,
): readonly Drawing[] => kept.find((d) => d.symbol === symbol && d.since === since)?.list ?? NONE;

type Levels = Readonly<Record<string, DrawnLevel>>;
/** How a symbol's chart looked before what was done last to it, newest last. */
const before: { symbol: string; list: readonly Drawing[]; levels: Levels }[] = [];
const MOST_UNDONE = 50;

const since = (): string => useSession.getState().clock?.dates[0] ?? '';
const levelsOf = (symbol: string): Levels => useSession.getState().desk?.levels[symbol] ?? {};

/** Remembers how the chart of a symbol looks, to come back to by undo. */
export function remember(symbol: string, levels: Levels = levelsOf(symbol)): void {
  const list = drawingsOf(useSettings.getState().drawings, symbol, since());
  before.push({ symbol, list, levels });
  if (before.length > MOST_UNDONE) before.shift();
}

/** Puts other drawings in place of a symbol's. */
export function draw(symbol: string, change: (list: readonly Drawing[]) => readonly Drawing[]): void {
  const { drawings, set } = useSettings.getState();
  const list = [...change(drawingsOf(drawings, symbol, since()))];
  const others = drawings.filter((d) => d.symbol !== symbol || d.since !== since());
  set({ drawings: list.length === 0 ? others : [...others, { symbol, since: since(), list }].slice(-200) });
}

/** Whether there is anything to undo on the chart of a symbol. */
export const undoable = (symbol: string): boolean => before.some((b) => b.symbol === symbol);

/** The chart of a symbol as it was before what was done last to it, levels too. */
export async function undo(symbol: string): Promise<void> {
  const at = before.findLastIndex((b) => b.symbol === symbol);
  const [was] = at < 0 ? [] : before.splice(at, 1);
  if (!was) return;
  draw(symbol, () => was.list);
  const now = levelsOf(symbol);
  const lines = [
    ...Object.keys(now)
      .filter((name) => !(name in was.levels))
      .map((name) => `discard level "${name}" of ${symbol}`),
    ...Object.entries(was.levels)
      .filter(([name, level]) => JSON.stringify(now[name]) !== JSON.stringify(level))
      .map(([name, level]) => levelSentence(name, symbol, level)),
  ];
  if (lines.length > 0) await act(lines.join('\n'), 'tools', 'Chart');
}

/** A sentence has cleared a chart: its levels are gone, the rest goes with them. */
useSession.subscribe(({ cleared }, { cleared: was }) => {
  if (cleared === was || !cleared) return;
  remember(cleared.symbol, cleared.levels);
  draw(cleared.symbol, () => []);
});

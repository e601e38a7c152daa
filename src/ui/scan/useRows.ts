'use client';

import { useEffect, useMemo, useState } from 'react';
import type { TableSlice } from '@/worker/session/slices';
import { useSession } from '../client';

/** How long a newcomer is marked, and a leaver named, in ms of wall time. */
const MARKED = 20_000;

export interface Row {
  /** Number of the symbol. */
  i: number;
  symbol: string;
  /** Place in the table's columns, −1 when it has left while the order is held. */
  at: number;
  isNew: boolean;
}

/** The rows in their order; made one by one as they come into sight, because there may be thousands. */
export interface Rows {
  table: TableSlice | null;
  count: number;
  rowAt(k: number): Row | null;
  /** Place of a symbol, −1 when it is not there. */
  indexOf(symbol: string | undefined): number;
  /** Symbols that left a moment ago. */
  left: string[];
  /** While the order is held: how many came and went that are not shown yet. */
  waiting: { came: number; went: number } | null;
}

const NOTHING: Rows = {
  table: null,
  count: 0,
  rowAt: () => null,
  indexOf: () => -1,
  left: [],
  waiting: null,
};

/**
 * The table's rows. While `held`, everybody keeps the place that they had, with live values; who
 * comes in waits, who leaves stays as a dimmed row.
 */
export function useRows(held: boolean): Rows {
  const table = useSession((s) => s.table);
  const symbols = useSession((s) => s.symbols);
  const date = useSession((s) => s.clock?.date);
  const asked = table?.asked;
  const source = useMemo(() => (asked ? JSON.stringify([asked.source, date]) : ''), [asked, date]);
  const order = useMemo(() => `${source} ${JSON.stringify(asked?.sort)}`, [source, asked]);
  const [moves, setMoves] = useState(NO_MOVES);
  // Who came and who went follows from the table before this one, so it is kept beside it.
  if (table && symbols && moves.who !== table.who)
    setMoves(movesAfter(moves, source, table.who, symbols.length));
  const [frozen, setFrozen] = useState<{ order: string; who: Int32Array } | null>(null);
  useEffect(() => {
    // Another order asked for is shown at once, and held from then on.
    const now = useSession.getState().table;
    setFrozen(held && now ? { order, who: now.who } : null);
  }, [held, order]);
  const shown = held && frozen?.order === order ? frozen.who : (table?.who ?? null);
  return useMemo(() => {
    if (!table || !symbols || !shown) return NOTHING;
    const live = shown === table.who;
    const place = live ? null : placesOf(table.who, symbols.length);
    const stays = place ? shown.reduce((n, i) => n + (place[i] ? 1 : 0), 0) : shown.length;
    return {
      table,
      count: shown.length,
      rowAt(k) {
        const i = shown[k];
        if (i === undefined) return null;
        return {
          i,
          symbol: symbols[i] ?? '',
          at: place ? (place[i] as number) - 1 : k,
          isNew: moves.since.has(i),
        };
      },
      indexOf: (symbol) => (symbol === undefined ? -1 : shown.indexOf(symbols.indexOf(symbol))),
      left: [...moves.left.keys()].map((i) => symbols[i] ?? ''),
      waiting: held ? { came: table.who.length - stays, went: shown.length - stays } : null,
    };
  }, [table, symbols, shown, held, moves]);
}

/** Place + 1 of each symbol in a list; 0 for those that are not in it. */
function placesOf(who: Int32Array, symbols: number): Int32Array {
  const place = new Int32Array(symbols);
  for (let k = 0; k < who.length; k++) place[who[k] as number] = k + 1;
  return place;
}

/** Who came and who went a moment ago, with when. */
interface Moves {
  source: string;
  who: Int32Array;
  since: ReadonlyMap<number, number>;
  left: ReadonlyMap<number, number>;
}
const NO_MOVES: Moves = { source: '', who: new Int32Array(0), since: new Map(), left: new Map() };

/** The same after the table has become `who`; of another source nobody has come or gone. */
function movesAfter(m: Moves, source: string, who: Int32Array, symbols: number): Moves {
  if (m.source !== source) return { ...NO_MOVES, source, who };
  const now = performance.now();
  const [before, after] = [placesOf(m.who, symbols), placesOf(who, symbols)];
  const recent = (seen: Moves['since']) => new Map([...seen].filter(([, t]) => now - t <= MARKED));
  const [since, left] = [recent(m.since), recent(m.left)];
  for (const i of who) {
    if (before[i] === 0) since.set(i, now);
    left.delete(i);
  }
  for (const i of m.who) if (after[i] === 0) left.set(i, now);
  return { source, who, since, left };
}

'use client';

import { useEffect, useRef, useState } from 'react';
import type { TableSlice } from '@/worker/protocol';
import { useSession } from '../session';

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

export interface Rows {
  table: TableSlice | null;
  rows: Row[];
  /** Symbols that left a moment ago. */
  left: string[];
  /** While the order is held: how many came and went that are not shown yet. */
  waiting: { came: number; went: number } | null;
}

/**
 * The table's rows. While `held`, everybody keeps the place that they had, with live values; who
 * comes in waits, who leaves stays as a dimmed row.
 */
export function useRows(held: boolean): Rows {
  const table = useSession((s) => s.table);
  const symbols = useSession((s) => s.symbols);
  const seen = useRef<{ key: string; who: Int32Array; since: Map<number, number>; left: Map<number, number> }>({
    key: '',
    who: new Int32Array(0),
    since: new Map(),
    left: new Map(),
  });
  const [frozen, setFrozen] = useState<{ order: string; who: Int32Array } | null>(null);
  const key = table ? JSON.stringify([table.asked.source, useSession.getState().clock?.date]) : '';
  // Another order asked for is shown at once, and held from then on.
  const order = table ? `${key} ${JSON.stringify(table.asked.sort)}` : '';
  useEffect(() => {
    const now = useSession.getState().table;
    setFrozen(held && now ? { order, who: now.who } : null);
  }, [held, order]);
  const s = seen.current;
  if (table && table.who !== s.who) {
    const now = performance.now();
    const first = key !== s.key;
    if (first) {
      s.since.clear();
      s.left.clear();
    } else {
      const before = new Set(s.who);
      const after = new Set(table.who);
      for (const i of table.who) if (!before.has(i)) s.since.set(i, now);
      for (const i of s.who) if (!after.has(i)) s.left.set(i, now);
      for (const i of table.who) s.left.delete(i);
    }
    for (const [i, t] of s.since) if (now - t > MARKED) s.since.delete(i);
    for (const [i, t] of s.left) if (now - t > MARKED) s.left.delete(i);
    s.key = key;
    s.who = table.who;
  }
  if (!table || !symbols) return { table: null, rows: [], left: [], waiting: null };
  const shown = held && frozen?.order === order ? frozen.who : table.who;
  const place = new Map<number, number>();
  table.who.forEach((i, at) => {
    place.set(i, at);
  });
  const rows = Array.from(shown, (i) => ({ i, symbol: symbols[i] ?? '', at: place.get(i) ?? -1, isNew: s.since.has(i) }));
  const stays = held ? rows.filter((r) => r.at >= 0).length : 0;
  return {
    table,
    rows,
    left: [...s.left.keys()].map((i) => symbols[i] ?? ''),
    waiting: held ? { came: table.who.length - stays, went: rows.length - stays } : null,
  };
}

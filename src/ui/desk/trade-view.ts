import { type ExitGroup, isLive, type Order, type Trade } from '@/core/orders';
import type { BookSlice } from '@/worker/protocol';

/** A working order as the chart and the ruler show it: one price that can be moved. */
export interface OrderLine {
  id: number;
  price: number;
  open: number;
  role: Order['role'];
  label: string;
  sleeping: boolean;
}

/** The trade of a symbol that is open or waits for its entry, with what works for it. */
export function tradeOf(book: BookSlice | null, symbol: string | undefined): { trade: Trade; lines: OrderLine[]; groups: ExitGroup[] } | null {
  const trade = book?.trades.find((t) => t.symbol === symbol && (t.status === 'open' || t.status === 'pending'));
  if (!book || !trade) return null;
  const groups = book.groups.filter((g) => g.tradeId === trade.id);
  const lines = book.orders
    .filter((o) => o.tradeId === trade.id && isLive(o))
    .flatMap((o) => {
      const price = o.stop !== null && o.venueId === null ? o.stop : o.limit;
      return price === null ? [] : [{ id: o.id, price, open: o.qty - o.filled, role: o.role, label: nameOf(o), sleeping: o.status === 'Suspended' }];
    });
  return { trade, lines, groups };
}

function nameOf(o: Order): string {
  if (o.role === 'target') return `target ${(o.targetIndex ?? 0) + 1}`;
  return o.role === 'close' ? 'close' : o.role;
}

/** Colour of a line by what it does for the trade, never by colour alone: its label says it too. */
export const lineColour = (role: Order['role']): string => (role === 'stop' ? 'var(--down)' : role === 'target' ? 'var(--up)' : 'var(--text)');

import { isLive, type Order, priceOf, type Scope, statusOf, type Trade, wireOf } from '@/core/orders';
import type { AccountId, OrderId } from '@/core/units';
import type { BookSlice } from '@/worker/session/slices';

/** A working order as the chart and the ruler show it: one price that can be moved. */
export interface OrderLine {
  id: OrderId;
  price: number;
  open: number;
  side: Order['side'];
  role: Order['role'];
  label: string;
  sleeping: boolean;
  /** A stop, of a plan or by hand. */
  protects: boolean;
  /** Something was asked of the exchange that it has not answered yet, or waits to be asked. */
  pending: boolean;
}

/** The trade of a symbol that is open or waits for its entry, with what works for it. */
export function tradeOf(
  book: BookSlice | null,
  symbol: string | undefined,
  account: AccountId | undefined,
): { trade: Trade; lines: OrderLine[]; scopes: Scope[] } | null {
  const trade = book?.trades.find(
    (t) => t.account === account && t.symbol === symbol && (t.status === 'open' || t.status === 'pending'),
  );
  if (!book || !trade) return null;
  const scopes = book.scopes.filter((s) => s.tradeId === trade.id);
  const lines = linesOf(
    book.orders.filter((o) => o.tradeId === trade.id && isLive(o)),
    scopes,
  );
  return { trade, lines, scopes };
}

/** Living orders with a price, as lines that can be moved. */
export const linesOf = (orders: readonly Order[], scopes: readonly Scope[]): OrderLine[] =>
  orders.flatMap((o) => {
    const price = priceOf(o);
    const pending = (wireOf(o)?.pending ?? null) !== null;
    const held = o.phase.k === 'working' && wireOf(o) === null;
    const label = nameOf(o, scopes) + (pending ? ' …' : held ? ' held' : '');
    return price === null
      ? []
      : [
          {
            id: o.id,
            price,
            open: o.qty - o.filled,
            side: o.side,
            role: o.role,
            label,
            protects: o.role === 'stop' || (o.role === 'close' && o.stop !== null),
            sleeping: statusOf(o) === 'Suspended',
            pending: pending || held,
          },
        ];
  });

function nameOf(o: Order, scopes: readonly Scope[]): string {
  const before = scopes.find((s) => s.id === o.scopeId)?.legs.slice(0, (o.leg ?? 0) + 1);
  if (o.role === 'target') return `target ${before?.filter((l) => l.kind === 'target').length ?? 1}`;
  return o.role === 'close' ? 'close' : o.role;
}

/** Colour of a line by what it does for the trade, never by colour alone: its label says it too. */
export const lineColour = (role: Order['role']): string =>
  role === 'stop' ? 'var(--down)' : role === 'target' ? 'var(--up)' : 'var(--text)';

// Which order a sentence means: of the focus, working or staged.
import type { Account } from '../account/index.ts';
import type { InstrumentTree } from '../language/index.ts';
import { holdingOf, isLive, isStaying, type Order, orderOf, priceOf, statusOf } from '../orders/index.ts';
import { formatPrice, type OrderId } from '../units/index.ts';
import { viewOf } from './instruments.ts';
import { type RunContext, refuse, type Staged } from './moment.ts';

/** The newest entry or close of a symbol: one that works, or one that is staged. Exits of a plan are never meant. */
export function newestOf(of: InstrumentTree | null, c: RunContext): { order: Order } | { staged: Staged } {
  const v = viewOf(of, c);
  const order = entriesAndCloses(v.symbol, c).pop();
  const staged = c.staged.filter((x) => x.symbol === v.symbol).pop();
  if (staged && (!order || order.id < staged.order)) return { staged };
  return order
    ? { order }
    : refuse({
        code: 'no such order',
        which: 'No entry or closing order is working or staged',
        symbol: v.symbol,
      });
}

/** Working entries and closes of a symbol, oldest first. */
export const entriesAndCloses = (symbol: string, c: RunContext): Order[] =>
  holdingOf(c.broker, c.account, symbol)
    .orders.filter((o) => (o.role === 'entry' || o.role === 'close') && isStaying(o))
    .sort((a, b) => a.id - b.id);

/** An order by its number, as long as it works. */
export function orderByNumber(id: number, c: RunContext): Order {
  const o = orderOf(c.broker, id);
  if (!o) return refuse({ code: 'too late', orderId: id as OrderId, status: null });
  if (o.account !== c.account) {
    const { name } = (c.broker.accounts[o.account] as Account).rules;
    return refuse({ code: 'other account', orderId: o.id, name }, { kind: 'use account', name });
  }
  return isLive(o) && isStaying(o) ? o : refuse({ code: 'too late', orderId: o.id, status: statusOf(o) });
}

/** How an order is called in what is said back: its number, its symbol, what it does. */
export function nameOf(o: Order): string {
  const price = priceOf(o);
  return `order ${o.id}: ${o.role} ${o.side} ${o.qty - o.filled} ${o.symbol}${price === null ? (o.route === 'mid' ? ' at mid' : ' at market') : ` at ${formatPrice(price)}`}`;
}

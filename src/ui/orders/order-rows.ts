// Orders as rows of a table: what works, what waits for a condition, what is over.
import { endText, isLive, type Order, statusOf, wireOf } from '@/core/orders';
import type { WaitingNow } from '@/worker/session/slices';

export const STANDS = ['working', 'waiting', 'filled', 'ended'] as const;
/** How an order stands: at the exchange or asleep, waiting for a condition, filled, over without. */
export type Stand = (typeof STANDS)[number];

export interface OrderRow {
  key: string;
  stand: Stand;
  /** The number of the order, or of what waits. */
  id: number;
  symbol: string;
  account: string;
  status: string;
  side: 'buy' | 'sell' | '';
  /** What it is for: entry, stop, target, close; of what waits its sentence. */
  what: string;
  qty: number;
  filled: number;
  /** Its price: of a stop the price that triggers it. */
  price: number | null;
  limit: number | null;
  average: number | null;
  life: string;
  route: string;
  ahead: number | null;
  at: number;
  order: Order | null;
}

const LIVES: Readonly<Record<string, string>> = {
  Day: 'day',
  GoodTillCancel: 'gtc',
  ImmediateOrCancel: 'ioc',
  FillOrKill: 'fok',
  AtTheOpening: 'open',
  AtTheClose: 'close',
};

function standOf(o: Order): Stand {
  if (isLive(o)) return 'working';
  return o.filled > 0 ? 'filled' : 'ended';
}

/** Whether the price, the size or the sentence of a row can be changed where it stands. */
export const editable = (r: OrderRow): boolean => r.order !== null && isLive(r.order);

/** Rows of all orders, newest first; what waits for a condition comes before. */
export function orderRows(
  orders: readonly Order[],
  waiting: readonly WaitingNow[],
  ahead: Readonly<Record<number, number>>,
  accounts: Readonly<Record<string, string>>,
): OrderRow[] {
  const waits = waiting.map(
    (w): OrderRow => ({
      key: `waits ${w.id}`,
      stand: 'waiting',
      id: w.id,
      symbol: w.symbol,
      account: '',
      status: w.paused ? 'paused' : w.near,
      side: '',
      what: w.text,
      qty: 0,
      filled: 0,
      price: w.prices[0]?.price ?? null,
      limit: null,
      average: null,
      life: '',
      route: '',
      ahead: null,
      at: Number.POSITIVE_INFINITY,
      order: null,
    }),
  );
  const rows = orders.map((o): OrderRow => {
    const status = statusOf(o);
    return {
      key: `order ${o.id}`,
      stand: standOf(o),
      id: o.id,
      symbol: o.symbol,
      account: accounts[o.account] ?? o.account,
      status: isLive(o) ? (status === 'Suspended' ? 'asleep' : status) : endText(o),
      side: o.side,
      what: o.role,
      qty: o.qty,
      filled: o.filled,
      // Of what has filled the price that it got.
      price: !isLive(o) && o.filled > 0 ? Math.round(o.notional / o.filled) : (o.stop ?? o.limit),
      limit: o.stop === null ? null : o.limit,
      average: o.filled > 0 ? o.notional / o.filled : null,
      life: LIVES[o.timeInForce] ?? o.timeInForce,
      route: o.route,
      ahead: wireOf(o) === null ? null : (ahead[o.id] ?? null),
      at: o.at,
      order: o,
    };
  });
  return [...waits, ...rows.reverse()];
}

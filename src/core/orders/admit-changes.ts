import type { OrderId, Price } from '../units/index.ts';
import {
  collared,
  heldByCloses,
  hours,
  lives,
  mayEnter,
  numbers,
  offTick,
  optionTerms,
  stopSide,
  tooLate,
} from './admit-checks.ts';
import { worksIn } from './changes.ts';
import { type Broker, type BrokerContext, holdingOf, liveOrder, openTrade } from './desk.ts';
import type { Intent } from './intent.ts';
import { isAtWork, isStaying, openOf, priceOf } from './order.ts';
import type { Refusal } from './refusal.ts';
import { positionOf } from './trade.ts';

/** As a new one of its kind would be asked, with its own shares and power free. */
export function admitRetype(
  b: Broker,
  e: Extract<Intent, { kind: 'retype' }>,
  c: BrokerContext,
): Refusal | null {
  const o = liveOrder(b, e.orderId);
  if (!o || !isStaying(o)) return tooLate(b, e.orderId);
  if (o.role !== 'entry' && o.role !== 'close') return { code: 'plan size', orderId: e.orderId };
  if (e.qty <= o.filled) return { code: 'nothing left', orderId: o.id, qty: e.qty, filled: o.filled };
  const joined = o.pair?.symbol === o.symbol && o.pair.account === o.account;
  const other = joined && o.pair ? liveOrder(b, o.pair.id) : undefined;
  if (other && other.side !== o.side && other.stop === null && e.stop === null)
    return { code: 'pair against', symbol: o.symbol };
  const asked = { ...o, ...e, qty: e.qty - o.filled };
  const plain =
    numbers(asked, c) ??
    optionTerms(asked) ??
    lives(e, c) ??
    hours(asked, e.extended, c) ??
    stopSide(asked, c);
  if (plain) return plain;
  if (o.role === 'entry') return mayEnter(b, asked, c, o.id);
  return collared(b, asked, c) ?? admitResize(b, o.id, e.qty, c);
}

export function admitResize(b: Broker, id: OrderId, qty: number, c: BrokerContext): Refusal | null {
  const o = liveOrder(b, id);
  if (!o || !isStaying(o)) return tooLate(b, id);
  if (o.role !== 'entry' && o.role !== 'close') return { code: 'plan size', orderId: id };
  if (!Number.isSafeInteger(qty) || qty < 1) return { code: 'quantity', qty };
  if (qty <= o.filled) return { code: 'nothing left', orderId: id, qty, filled: o.filled };
  if (o.role === 'entry')
    return qty > o.qty ? mayEnter(b, { ...o, qty: qty - o.filled, stop: null }, c, o.id) : null;
  const h = holdingOf(b, o.account, o.symbol);
  const t = openTrade(h);
  const others = heldByCloses(
    h.orders.filter((x) => x.id !== id),
    o.stop !== null,
  );
  const most = (t ? positionOf(t) : 0) - others;
  return qty - o.filled > most
    ? { code: 'nothing to close', symbol: o.symbol, position: t ? positionOf(t) : 0, held: others }
    : null;
}

export function admitMove(b: Broker, id: OrderId, to: Price, c: BrokerContext): Refusal | null {
  const o = liveOrder(b, id);
  if (!o || !isStaying(o)) return tooLate(b, id);
  const off = offTick(to, o.symbol, c);
  if (off) return off;
  if (priceOf(o) === to) return null;
  const waits = o.stop !== null && !isAtWork(o);
  const moved = waits
    ? { ...o, stop: to, limit: o.limit === null ? null : ((o.limit + to - (o.stop as Price)) as Price) }
    : { ...o, limit: to, stop: null };
  if (waits) {
    const wrong = worksIn(o, c.session) ? stopSide(moved, c) : null;
    if (wrong) return wrong;
  } else {
    const far = collared(b, moved, c);
    if (far) return far;
  }
  return o.role === 'entry' ? mayEnter(b, { ...moved, qty: openOf(o) }, c, o.id) : null;
}

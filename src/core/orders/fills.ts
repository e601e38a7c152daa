// Executions: booked to the order, the account's ledger and the position.
import { costsFor, minus, NO_COSTS, post, tableOn, totalOf } from '../account/index.ts';
import { contractsIn } from '../instruments/index.ts';
import { dayOf, money, shelf, signOf, type TradeId } from '../units/index.ts';
import type { VenueReport } from '../venue/index.ts';
import { finish, letGo, withWire } from './answers.ts';
import { current, say, takeOut } from './changes.ts';
import { leavingOf, type Order, wireOf } from './order.ts';
import { shrinkPair } from './pairs.ts';
import { type Booked, bookIn, bookOut } from './shares.ts';
import { type BrokerStep, type HoldingStep, workOn } from './step.ts';
import { type Fill, positionOf } from './trade.ts';
import { orderOfWire } from './wire-ids.ts';
import { executed } from './wire-runs.ts';

export type FillReport = Extract<VenueReport, { kind: 'fill' }>;

/**
 * An execution. It is booked whatever the order has become meanwhile: what the exchange has done is
 * done; one that is told twice is booked once. Where it reaches beyond the position (an execution that came after
 * its order was said to be gone), the rest opens a trade the other way, so that nothing is hidden from the trader.
 */
export function bookFill(d: BrokerStep, r: FillReport): void {
  const w = workOn(d, r.account, r.symbol);
  const id = orderOfWire(r.id);
  const living = current(w, id);
  const wire = living ? wireOf(living) : null;
  if (living && wire?.id === r.id) {
    const next = executed(wire, r, d.context.now);
    if (next) fillOrder(w, withWire(w, living, next), r);
    return;
  }
  const o = living ?? shelf.taken(d.past.orders, id);
  if (o?.symbol !== r.symbol || shelf.all(d.past.fills).some((f) => f.exec === execOf(r))) return;
  fillOrder(w, o, r);
}

/** What no two executions have in common. */
const execOf = (r: FillReport): string => `${r.id}.${r.cumQty}`;

function fillOrder(w: HoldingStep, o: Order, r: FillReport): void {
  const account = w.step.accounts[o.account] as BrokerStep['accounts'][string];
  const filled = o.filled + r.qty;
  const notional = o.notional + r.price * r.qty;
  const added = o.added + (r.liquidity === 'added' ? r.qty : 0);
  const fees = tableOn(account.fees, w.step.context.date);
  const costs = costsFor(fees, {
    side: o.side,
    shares: filled,
    notional: notional * w.multiplier,
    added,
    contracts: filled * contractsIn(o.symbol),
  });
  const charged = minus(costs, o.costs);
  const next: Order = { ...o, filled, notional, costs, added, qty: Math.max(o.qty, filled) };
  if (current(w, o.id)) w.putOrder(next);
  else w.step.past.orders = shelf.put(w.step.past.orders, next);

  const cash = money(-signOf(o.side) * r.price * r.qty * w.multiplier);
  let ledger = post(account.ledger, {
    at: w.step.context.now,
    settles: dayOf(w.step.context.now) + 1,
    cash,
    why: 'trade',
    orderId: o.id,
  });
  if (totalOf(charged) !== 0)
    ledger = post(ledger, {
      at: w.step.context.now,
      settles: dayOf(w.step.context.now) + 1,
      cash: money(-totalOf(charged)),
      why: 'costs',
      orderId: o.id,
    });
  w.step.accounts[o.account] = { ...account, ledger };

  const sign = signOf(o.side);
  const open = w.trades.find((t) => t.status === 'open');
  const out = open && open.sign !== sign ? Math.min(r.qty, positionOf(open)) : 0;
  const booked = { order: o, price: r.price, costs: charged };
  let tradeId = o.tradeId;
  if (open && out > 0) {
    tradeId = open.id;
    bookOut(w, open, { ...booked, qty: out });
    record(w.step, tradeId, r, { ...booked, qty: out });
  }
  if (out < r.qty) {
    const rest = { ...booked, qty: r.qty - out, costs: out > 0 ? NO_COSTS : charged };
    const t = bookIn(w, sign, rest);
    tradeId = t.id;
    record(w.step, tradeId, r, rest);
    // A flatten came before: what its cancel was too late for goes out as well.
    const to = leavingOf(next);
    if (to?.to === 'ended' && to.why === 'flatten') takeOut(w, t, rest.qty);
  }
  const after = current(w, o.id) ?? next;
  say(
    w,
    { ...after, tradeId },
    {
      exec: 'Trade',
      kind: 'fill',
      price: r.price,
      qty: r.qty,
      better: r.better,
      venue: r.venue,
      liquidity: r.liquidity,
    },
  );
  if (o.pair) shrinkPair(w.step, o, r.qty);
  const wire = wireOf(after);
  if (wire?.id !== r.id) return;
  if (after.phase.k === 'owed') {
    if (!wire.owes) finish(w, after, after.phase.to);
  } else if (wire.filled >= Math.max(wire.acked?.qty ?? 0, wire.pending?.to?.qty ?? 0)) letGo(w, after);
}

/** Keeps what of an execution went to a trade. */
export function record(
  d: BrokerStep,
  tradeId: TradeId,
  r: FillReport,
  { order: o, qty, costs }: Booked,
): void {
  const fill: Fill = {
    id: d.next.fill++,
    orderId: o.id,
    tradeId,
    account: o.account,
    symbol: o.symbol,
    side: o.side,
    role: o.role,
    at: d.context.now,
    price: r.price,
    qty,
    liquidity: r.liquidity,
    exec: execOf(r),
    venue: r.venue,
    better: r.better,
    costs,
  };
  d.past.fills = shelf.put(d.past.fills, fill);
}

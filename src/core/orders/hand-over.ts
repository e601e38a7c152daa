// What changes hands without an order at the exchange: options that are exercised or run out, verticals that come apart.
import { NO_COSTS, post } from '../account/index.ts';
import { dayOf, money, type OrderId, type Price, type Side, shelf, sideOf, signOf } from '../units/index.ts';
import { type FillReport, record } from './fills.ts';
import type { Order } from './order.ts';
import { PLAIN_TERMS } from './order-terms.ts';
import { type Booked, bookIn, bookOut } from './shares.ts';
import type { BrokerStep, HoldingStep } from './step.ts';
import { positionOf, type Trade } from './trade.ts';
import { wireId } from './wire-ids.ts';

/** Closes so much of a trade at a price. */
export function handOut(w: HoldingStep, t: Trade, qty: number, price: Price): void {
  const side = sideOf(-t.sign as 1 | -1);
  const order = orderDone(w, t, { side, qty, price, role: 'close' });
  pay(w, order, -signOf(side) * price * qty * w.multiplier);
  const booked = { order, price, qty, costs: NO_COSTS };
  bookOut(w, t, booked);
  record(w.step, t.id, report(w.step, booked), booked);
}

/** So many (signed) come in at a price, or go out of what is held of them the other way. */
export function handIn(w: HoldingStep, signed: number, price: Price, sentence: string): void {
  const sign = signed > 0 ? 1 : -1;
  const qty = Math.abs(signed);
  const open = w.trades.find((t) => t.status === 'open' && t.sign !== sign);
  const order = orderDone(w, open ?? null, { side: sideOf(sign), qty, price, role: 'entry' });
  pay(w, order, -sign * price * qty * w.multiplier);
  const out = open ? Math.min(qty, positionOf(open)) : 0;
  const booked = { order, price, costs: NO_COSTS };
  if (open && out > 0) {
    const gone = { ...booked, qty: out };
    bookOut(w, open, gone);
    record(w.step, open.id, report(w.step, gone), gone);
  }
  if (out === qty) return;
  const come = { ...booked, qty: qty - out };
  const t = bookIn(w, sign, come, sentence);
  record(w.step, t.id, report(w.step, come), come);
  w.step.past.orders = shelf.put(w.step.past.orders, { ...order, tradeId: t.id });
}

const report = (d: BrokerStep, { order: o, price, qty }: Booked): FillReport => ({
  kind: 'fill',
  account: o.account,
  id: wireId(o.id, 0),
  cumQty: qty,
  symbol: o.symbol,
  at: d.context.now,
  price,
  qty,
  liquidity: 'added',
  venue: 'OFF',
  better: 0,
});

function pay(w: HoldingStep, o: Order, cash: number): void {
  const account = w.step.accounts[w.account] as BrokerStep['accounts'][string];
  if (cash === 0) return;
  const at = w.step.context.now;
  const ledger = post(account.ledger, {
    at,
    settles: dayOf(at) + 1,
    cash: money(Math.round(cash)),
    why: 'trade',
    orderId: o.id,
  });
  w.step.accounts[w.account] = { ...account, ledger };
}

/** An order that nobody sent, and that is done: what an execution hangs on. */
function orderDone(
  w: HoldingStep,
  t: Trade | null,
  { side, qty, price, role }: { side: Side; qty: number; price: Price; role: 'close' | 'entry' },
): Order {
  const o: Order = {
    ...PLAIN_TERMS,
    id: w.step.next.order++ as OrderId,
    account: w.account,
    symbol: w.symbol,
    tradeId: t?.id ?? (0 as Trade['id']),
    scopeId: null,
    leg: null,
    side,
    role,
    type: 'Market',
    qty,
    filled: qty,
    notional: price * qty,
    limit: null,
    stop: null,
    on: 'last',
    extended: false,
    flat: false,
    afterFlat: false,
    phase: { k: 'ended', status: 'Filled', why: 'contract over' },
    wires: 0,
    bounced: { times: 0, at: -1 },
    at: w.step.context.now,
    costs: NO_COSTS,
    added: 0,
  };
  w.step.past.orders = shelf.put(w.step.past.orders, o);
  return o;
}

// What changes hands without an order at the exchange: options that are exercised or run out, verticals that come apart.
import { NO_COSTS, post } from '../account/index.ts';
import { dayOf, money, type OrderId, type Price, type Side, shelf, sideOf, signOf } from '../units/index.ts';
import type { Draft, Work } from './draft.ts';
import { type FillReport, record } from './fills.ts';
import { bookIn, bookOut } from './shares.ts';
import { type Order, PLAIN_TERMS, positionOf, type Trade } from './types.ts';
import { wireId } from './wire-ids.ts';

/** Closes so much of a trade at a price. */
export function handOut(d: Draft, w: Work, t: Trade, qty: number, price: Price): void {
  const side = sideOf(-t.sign as 1 | -1);
  const o = done(d, w, t, side, qty, price, 'close');
  pay(d, w, o, -signOf(side) * price * qty * w.multiplier);
  bookOut(d, w, t, o, report(d, o, price, qty), qty, NO_COSTS);
  record(d, o, t.id, report(d, o, price, qty), qty, NO_COSTS);
}

/** So many (signed) come in at a price, or go out of what is held of them the other way. */
export function handIn(d: Draft, w: Work, signed: number, price: Price, sentence: string): void {
  w.changed = true;
  const sign = signed > 0 ? 1 : -1;
  const qty = Math.abs(signed);
  const open = w.trades.find((t) => t.status === 'open' && t.sign !== sign);
  const o = done(d, w, open ?? null, sideOf(sign), qty, price, 'entry');
  pay(d, w, o, -sign * price * qty * w.multiplier);
  const out = open ? Math.min(qty, positionOf(open)) : 0;
  if (open && out > 0) {
    bookOut(d, w, open, o, report(d, o, price, out), out, NO_COSTS);
    record(d, o, open.id, report(d, o, price, out), out, NO_COSTS);
  }
  if (out === qty) return;
  const t = bookIn(d, w, o, sign, report(d, o, price, qty - out), qty - out, NO_COSTS, sentence);
  record(d, o, t.id, report(d, o, price, qty - out), qty - out, NO_COSTS);
  d.past.orders = shelf.put(d.past.orders, { ...o, tradeId: t.id });
}

const report = (d: Draft, o: Order, price: Price, qty: number): FillReport => ({
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

function pay(d: Draft, w: Work, o: Order, cash: number): void {
  const account = d.accounts[w.account] as Draft['accounts'][string];
  if (cash === 0) return;
  const at = d.context.now;
  const ledger = post(account.ledger, {
    at,
    settles: dayOf(at) + 1,
    cash: money(Math.round(cash)),
    why: 'trade',
    orderId: o.id,
  });
  d.accounts[w.account] = { ...account, ledger };
}

/** An order that nobody sent, and that is done: what an execution hangs on. */
function done(
  d: Draft,
  w: Work,
  t: Trade | null,
  side: Side,
  qty: number,
  price: Price,
  role: 'close' | 'entry',
): Order {
  const o: Order = {
    ...PLAIN_TERMS,
    id: d.next.order++ as OrderId,
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
    at: d.context.now,
    costs: NO_COSTS,
    added: 0,
  };
  d.past.orders = shelf.put(d.past.orders, o);
  return o;
}

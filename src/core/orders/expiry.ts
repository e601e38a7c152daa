// Options that have come to the end of their last day: what they are worth is booked, and shares are delivered where they are in the money.
import { NO_COSTS, post } from '../account/index.ts';
import { contractsIn, multiplierOfSymbol } from '../instruments/index.ts';
import { dayOf, money, type OrderId, type Price, type Side, shelf, sideOf, signOf } from '../units/index.ts';
import { bookIn, bookOut, type FillReport, record, wireId } from './booking.ts';
import { end, sayOf } from './changes.ts';
import { accountIds, holdingKey } from './desk.ts';
import { type Draft, type Work, workOn } from './draft.ts';
import { isLive, type Order, PLAIN_TERMS, positionOf, type Trade } from './types.ts';

/** An option or a vertical on the evening of its last day. */
export interface Expired {
  symbol: string;
  root: string;
  /** Where its underlying closed, and what one share's worth of it comes to there. */
  spot: Price;
  worth: number;
  /** Shares that one share's worth of it, held long, gets (above zero) or gives: of each leg in the money by a cent or more. */
  shares: number;
}

/**
 * Books what has expired: exercise and assignment in one step (by exception from one cent in the money on, OCC; from memory). The option is closed at
 * what it is worth, and the shares change hands at the closing price, which together is the strike. Nobody exercises early: no company here pays dividends.
 */
export function expire(d: Draft, all: readonly Expired[]): void {
  for (const x of all)
    for (const account of accountIds(d.accounts)) {
      if (!d.before.holdings[holdingKey(account, x.symbol)]) continue;
      const w = workOn(d, account, x.symbol);
      w.changed = true;
      for (const o of w.orders.slice()) if (isLive(o)) end(d, w, o, 'Expired', 'contract over');
      const t = w.trades.find((y) => y.status === 'open');
      if (t) settle(d, w, t, x);
    }
}

function settle(d: Draft, w: Work, t: Trade, x: Expired): void {
  const qty = positionOf(t);
  const side = sideOf(-t.sign as 1 | -1);
  const price = Math.round(x.worth) as Price;
  const o = done(d, w, t, side, qty, price, 'close');
  pay(d, w, o, -signOf(side) * price * qty * w.multiplier);
  bookOut(d, w, t, o, report(d, o, price, qty), qty, NO_COSTS);
  record(d, o, t.id, report(d, o, price, qty), qty, NO_COSTS);
  const shares = t.sign * x.shares * qty * multiplierOfSymbol(x.symbol);
  sayOf(d, t, {
    exec: 'OrderStatus',
    kind: 'settled',
    worth: price,
    contracts: qty * contractsIn(x.symbol),
    shares,
    root: x.root,
    spot: x.spot,
  });
  if (shares !== 0) deliver(d, workOn(d, w.account, x.root), shares, x.spot, t.sentence);
}

/** Shares come in, or go out of what is held of them, at the closing price. */
function deliver(d: Draft, w: Work, shares: number, spot: Price, sentence: string): void {
  w.changed = true;
  const sign = shares > 0 ? 1 : -1;
  const qty = Math.abs(shares);
  const open = w.trades.find((t) => t.status === 'open' && t.sign !== sign);
  const o = done(d, w, open ?? null, sideOf(sign), qty, spot, 'entry');
  pay(d, w, o, -sign * spot * qty);
  const out = open ? Math.min(qty, positionOf(open)) : 0;
  if (open && out > 0) {
    bookOut(d, w, open, o, report(d, o, spot, out), out, NO_COSTS);
    record(d, o, open.id, report(d, o, spot, out), out, NO_COSTS);
  }
  if (out === qty) return;
  const t = bookIn(d, w, o, sign, report(d, o, spot, qty - out), qty - out, NO_COSTS, sentence);
  record(d, o, t.id, report(d, o, spot, qty - out), qty - out, NO_COSTS);
  d.past.orders = shelf.put(d.past.orders, { ...o, tradeId: t.id });
}

const report = (d: Draft, o: Order, price: Price, qty: number): FillReport => ({
  kind: 'fill',
  id: wireId(o.id, 0),
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

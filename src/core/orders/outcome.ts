// What a whole trade comes to: net, in dollars and in its own R. One function for all that says it.
import { costsFor, type FeeTable, NO_COSTS, totalOf } from '../account/index.ts';
import { contractsIn, multiplierOfSymbol } from '../instruments/index.ts';
import { type Money, money, sideOf } from '../units/index.ts';
import { isLive, isStaying, type Order, openOf, protects } from './order.ts';
import { positionOf, type Trade } from './trade.ts';

/** Shares that go out at a price: by an order that is there, or by one that is yet to be sent. */
export interface Out {
  shares: number;
  price: number;
  /** It waits in the book and adds liquidity. */
  rests?: boolean;
  order?: Pick<Order, 'filled' | 'notional' | 'added' | 'costs'>;
}

/** What a trade has made so far, closed and open at a price, after all that it has cost. Null without a price of what is open. */
export function netNow(t: Trade, mark: number | null): Money | null {
  const open = positionOf(t);
  if (open > 0 && mark === null) return null;
  const gross = t.sign * (t.exitNotional + open * (mark ?? 0) - t.entryNotional);
  return money(Math.round(gross * multiplierOfSymbol(t.symbol) - totalOf(t.costs)));
}

/** What the whole trade comes to where these shares go out so: net of all costs, each order with its minimum; and in its R. */
export function outcomeOf(t: Trade, outs: readonly Out[], fees: FeeTable): { net: Money; r: number | null } {
  const each = multiplierOfSymbol(t.symbol);
  let notional = t.exitNotional - t.entryNotional;
  let costs: number = totalOf(t.costs);
  for (const o of outs) {
    const before = o.order;
    notional += o.price * o.shares;
    const shares = (before?.filled ?? 0) + o.shares;
    costs += totalOf(
      costsFor(fees, {
        side: sideOf(t.sign === 1 ? -1 : 1),
        shares,
        notional: ((before?.notional ?? 0) + o.price * o.shares) * each,
        added: (before?.added ?? 0) + (o.rests ? o.shares : 0),
        contracts: shares * contractsIn(t.symbol),
      }),
    );
    if (before) costs -= totalOf(before.costs);
  }
  const net = money(Math.round(t.sign * notional * each - costs));
  return { net, r: t.risk ? net / t.risk : null };
}

/** What shares of a trade make where they go out so, against the average entry, after what their order costs. */
export function gainOf(t: Trade, out: Out, fees: FeeTable): { net: Money; r: number | null } {
  const bought = t.entered === 0 ? 0 : (t.entryNotional / t.entered) * out.shares;
  const alone: Trade = { ...t, entryNotional: bought, exitNotional: 0, costs: NO_COSTS };
  return outcomeOf(alone, [out], fees);
}

/** What the whole trade comes to when every share goes at its stop; null where shares have none, or nothing is held. */
export function atTheStop(
  t: Trade,
  orders: readonly Order[],
  fees: FeeTable,
): { net: Money; r: number | null } | null {
  let left = positionOf(t);
  if (left === 0) return null;
  const stops = orders
    .filter((o) => o.tradeId === t.id && protects(o) && isLive(o) && isStaying(o) && o.stop !== null)
    .sort((a, b) => t.sign * ((b.stop ?? 0) - (a.stop ?? 0)) || a.id - b.id);
  const outs = stops.flatMap((o) => {
    const shares = Math.min(left, openOf(o));
    left -= shares;
    return shares > 0 ? [{ shares, price: o.stop as number, order: o }] : [];
  });
  return left > 0 ? null : outcomeOf(t, outs, fees);
}

// Options that have come to the end of their last day: what they are worth is booked, and shares are delivered where they are in the money.
import { contractsIn, multiplierOfSymbol } from '../instruments/index.ts';
import type { Price } from '../units/index.ts';
import { end, sayOf } from './changes.ts';
import { accountIds, holdingKey } from './desk.ts';
import { type Draft, type Work, workOn } from './draft.ts';
import { handIn, handOut } from './hand-over.ts';
import { type Expired, isLive, positionOf, type Trade } from './types.ts';

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
  const price = Math.round(x.worth) as Price;
  handOut(d, w, t, qty, price);
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
  // At the closing price, which with what the option was worth is the strike.
  if (shares !== 0) handIn(d, workOn(d, w.account, x.root), shares, x.spot, t.sentence);
}

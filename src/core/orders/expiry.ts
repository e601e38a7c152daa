// Options that have come to the end of their last day: what they are worth is booked, and shares are delivered where they are in the money.
import { contractsIn, multiplierOfSymbol } from '../instruments/index.ts';
import type { Price } from '../units/index.ts';
import { end, sayOf } from './changes.ts';
import { accountIds, holdingKey } from './desk.ts';
import { handIn, handOut } from './hand-over.ts';
import { isLive } from './order.ts';
import { type BrokerStep, type HoldingStep, workOn } from './step.ts';
import { type Expired, positionOf, type Trade } from './trade.ts';

/**
 * Books what has expired: exercise and assignment in one step (by exception from one cent in the money on, OCC; from memory). The option is closed at
 * what it is worth, and the shares change hands at the closing price, which together is the strike. Nobody exercises early: no company here pays dividends.
 */
export function expire(d: BrokerStep, all: readonly Expired[]): void {
  for (const x of all)
    for (const account of accountIds(d.accounts)) {
      if (!d.before.holdings[holdingKey(account, x.symbol)]) continue;
      const w = workOn(d, account, x.symbol);
      w.decideAnew();
      for (const o of w.orders) if (isLive(o)) end(w, o, 'Expired', 'contract over');
      const t = w.trades.find((y) => y.status === 'open');
      if (t) settle(w, t, x);
    }
}

function settle(w: HoldingStep, t: Trade, x: Expired): void {
  const qty = positionOf(t);
  const price = Math.round(x.worth) as Price;
  handOut(w, t, qty, price);
  const shares = t.sign * x.shares * qty * multiplierOfSymbol(x.symbol);
  sayOf(w.step, t, {
    exec: 'OrderStatus',
    kind: 'settled',
    worth: price,
    contracts: qty * contractsIn(x.symbol),
    shares,
    root: x.root,
    spot: x.spot,
  });
  // At the closing price, which with what the option was worth is the strike.
  if (shares !== 0) handIn(workOn(w.step, w.account, x.root), shares, x.spot, t.sentence);
}

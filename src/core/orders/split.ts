import { instrumentOf, legsOf, nameOf } from '../instruments/index.ts';
import { type AccountId, type Price, roundToTick } from '../units/index.ts';
import { sayOf } from './changes.ts';
import { handIn, handOut } from './hand-over.ts';
import { type BrokerStep, workOn } from './step.ts';
import { positionOf } from './trade.ts';

/**
 * A vertical comes apart: from now on its legs are held each on its own. It ends at what closing it would bring; the dearer leg begins at its middle, the
 * other one at what is left, so that the two together are worth what the vertical was. Nothing is traded, and nothing is charged.
 */
export function split(d: BrokerStep, account: AccountId, symbol: string, qty: number): void {
  const w = workOn(d, account, symbol);
  const t = w.trades.find((x) => x.status === 'open');
  const i = instrumentOf(symbol);
  if (!t || i.kind !== 'vertical') return;
  const [dear, cheap] = legsOf(symbol) as [
    ReturnType<typeof legsOf>[number],
    ReturnType<typeof legsOf>[number],
  ];
  const q = d.context.quote(nameOf(dear.contract));
  const net = d.context.last(symbol) ?? Math.round(t.entryNotional / t.entered);
  const middle = Math.round(((q.bid ?? net) + (q.ask ?? net)) / 2);
  const at = Math.max(net, roundToTick(Math.max(1, middle), 'up', 'cent')) as Price;
  const shares = Math.min(qty, positionOf(t));
  handOut(w, t, shares, net as Price);
  handIn(workOn(d, account, nameOf(dear.contract)), t.sign * shares, at, t.sentence);
  handIn(workOn(d, account, nameOf(cheap.contract)), -t.sign * shares, (at - net) as Price, t.sentence);
  sayOf(d, t, { exec: 'OrderStatus', kind: 'split', contracts: shares });
}

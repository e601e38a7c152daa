// Two orders that are joined: what fills of the one is taken from the other.
import { current, end, resize } from './changes.ts';
import { isStaying, type Order } from './order.ts';
import { type BrokerStep, workOn } from './step.ts';

/** The order that one is joined with, while it lives. */
export const partnerOf = (d: BrokerStep, { pair }: Order): Order | undefined =>
  pair && current(workOn(d, pair.account, pair.symbol), pair.id);

/** What is said of one of two that are joined may let the other go. */
export function tellPartner(d: BrokerStep, { pair }: Order): void {
  if (pair) workOn(d, pair.account, pair.symbol).decideAnew();
}

/** What has filled of an order is taken from the one that it is joined with, in proportion: of equal sizes as many shares. */
export function shrinkPair(
  d: BrokerStep,
  { account, symbol, side, pair, qty, filled }: Order,
  shares: number,
): void {
  if (!pair) return;
  const w = workOn(d, pair.account, pair.symbol);
  const other = current(w, pair.id);
  if (!other || !isStaying(other)) return;
  const before = Math.max(1, qty - filled);
  const left = Math.floor(((other.qty - other.filled) * Math.max(0, before - shares)) / before);
  w.decideAnew();
  // What is of the other side in the same symbol would work against what has filled.
  const against = account === pair.account && symbol === pair.symbol && other.side !== side;
  if (left === 0 || against) end(w, other, 'Canceled', 'pair');
  else resize(w, other, left);
}

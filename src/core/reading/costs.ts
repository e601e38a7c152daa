// What orders cost, before they go: the same sums as the broker books, each order with its minimum.
import { costsFor, tableOn, totalOf } from '../account/index.ts';
import { contractsIn, multiplierOfSymbol } from '../instruments/index.ts';
import { type Money, money, type Side } from '../units/index.ts';
import { accountOf, type RunContext } from './moment.ts';

/** One order as it is to trade: all its shares at a price. What rests adds liquidity, what takes removes it. */
export interface Trading {
  shares: number;
  price: number;
  rests: boolean;
}

/** What an order costs, its commission with its minimum, fees and what the exchange takes or pays back. */
export const costsOf = (symbol: string, side: Side, o: Trading, c: RunContext): Money =>
  totalOf(
    costsFor(tableOn(accountOf(c).fees, c.date), {
      side,
      shares: o.shares,
      notional: o.shares * o.price * multiplierOfSymbol(symbol),
      added: o.rests ? o.shares : 0,
      contracts: o.shares * contractsIn(symbol),
    }),
  );

/** What an entry and the orders that take its shares out again cost together. */
export const bothWays = (
  symbol: string,
  side: Side,
  entry: Trading,
  exits: readonly Trading[],
  c: RunContext,
): Money => {
  const out = side === 'buy' ? 'sell' : 'buy';
  return money(
    exits.reduce<number>(
      (a, o) => a + (o.shares > 0 ? costsOf(symbol, out, o, c) : 0),
      costsOf(symbol, side, entry, c),
    ),
  );
};

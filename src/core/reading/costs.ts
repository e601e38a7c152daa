import { costsFor, tableOn, totalOf } from '../account/index.ts';
import { contractsIn, multiplierOfSymbol } from '../instruments/index.ts';
import { type Money, money, type Side } from '../units/index.ts';
import { accountOf, type RunContext } from './moment.ts';

/** What so many shares cost to trade at a price, if they take what is there. */
export const costsOf = (symbol: string, side: Side, shares: number, price: number, c: RunContext): Money =>
  totalOf(
    costsFor(tableOn(accountOf(c).fees, c.date), {
      side,
      shares,
      notional: shares * price * multiplierOfSymbol(symbol),
      added: 0,
      contracts: shares * contractsIn(symbol),
    }),
  );

/** What a position costs, in and out again at a price. */
export const bothWays = (
  symbol: string,
  side: Side,
  shares: number,
  inAt: number,
  outAt: number,
  c: RunContext,
): Money =>
  money(
    costsOf(symbol, side, shares, inAt, c) +
      costsOf(symbol, side === 'buy' ? 'sell' : 'buy', shares, outAt, c),
  );

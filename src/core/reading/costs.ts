import { costsFor, tableOn, totalOf } from '../account/index.ts';
import { type Money, money, type Side } from '../units/index.ts';
import { accountOf, type RunContext } from './moment.ts';

/** What so many shares cost to trade at a price, if they take what is there. */
export const costsOf = (side: Side, shares: number, price: number, c: RunContext): Money =>
  totalOf(costsFor(tableOn(accountOf(c).fees, c.date), { side, shares, notional: shares * price, added: 0 }));

/** What a position costs, in and out again at a price. */
export const bothWays = (side: Side, shares: number, inAt: number, outAt: number, c: RunContext): Money =>
  money(costsOf(side, shares, inAt, c) + costsOf(side === 'buy' ? 'sell' : 'buy', shares, outAt, c));

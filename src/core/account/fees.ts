import { BASIS_POINTS, type Money, money, PRICE_SCALE } from '../units/index.ts';

/** A commission schedule; amounts in 1/10,000 dollar. An example of the usual shape, not of any firm. */
export interface FeeTable {
  from: string;
  perShare: number;
  minimumPerOrder: number;
  /** Most of an order's value, in basis points. */
  capBasisPoints: number;
}

/** Half a cent a share, at least one dollar, at most 1 % of the order's value. From memory. */
export const DEFAULT_FEES: FeeTable = {
  from: '2027-01-01',
  perShare: 50,
  minimumPerOrder: PRICE_SCALE,
  capBasisPoints: 100,
};

/** Commission of one order for the shares it filled; 0 for none. `notional` is price × shares. */
export function commissionFor(table: FeeTable, shares: number, notional: number): Money {
  if (shares === 0) return money(0);
  const wanted = Math.max(table.minimumPerOrder, shares * table.perShare);
  return money(Math.min(wanted, Math.floor((notional * table.capBasisPoints) / BASIS_POINTS)));
}

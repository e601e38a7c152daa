import { PRICE_SCALE } from '../units/index.ts';

/** Initial margin: half of what is bought or sold short (Regulation T, 12 CFR 220.12). */
export const INITIAL_PART = 0.5;
/** Maintenance of what is held long: a quarter of its value (FINRA Rule 4210(c)(1)). */
const LONG_PART = 0.25;

/**
 * Maintenance of a short position, in price units: under $5.00 a share the greater of $2.50 a share and
 * all of its value, otherwise the greater of $5.00 a share and 30 % of it (FINRA Rule 4210(c)(2) and (3)).
 */
export function shortMaintenance(shares: number, price: number): number {
  const under5 = price < 5 * PRICE_SCALE;
  const least = (under5 ? 2.5 : 5) * PRICE_SCALE;
  return shares * Math.max(least, (under5 ? 1 : 0.3) * price);
}

/** Equity that has to be there to hold so many shares (signed) at a price. */
export const maintenanceOf = (shares: number, price: number): number =>
  shares >= 0 ? shares * price * LONG_PART : shortMaintenance(-shares, price);

/** What shares (signed) use of a buying power that is so many times the equity: their value, for a short at least what its maintenance asks of it. */
export const powerOf = (shares: number, price: number, multiple: number): number =>
  shares >= 0 ? shares * price : Math.max(-shares * price, multiple * shortMaintenance(-shares, price));

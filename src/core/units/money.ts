import { PRICE_SCALE } from './price.ts';

declare const moneyBrand: unique symbol;

/** An amount of money in 1/10,000 dollar, so that price × quantity is exact. */
export type Money = number & { readonly [moneyBrand]: true };

/** Brands an integer amount. @throws RangeError on a fraction or an unsafe integer (a bug). */
export function money(units: number): Money {
  if (!Number.isSafeInteger(units)) throw new RangeError(`not a whole amount of 1/10,000 dollar: ${units}`);
  return units as Money;
}

/** Dollars to the nearest money unit. */
export function moneyFromDollars(dollars: number): Money {
  return money(Math.round(dollars * PRICE_SCALE));
}

/** Made once: a new format for each amount costs more than all else that is done with it. */
const DOLLARS = new Intl.NumberFormat('en-US', { minimumFractionDigits: 2, maximumFractionDigits: 2 });

/** An amount in whole cents, in 1/10,000 dollar; half a cent goes up, for gains and losses alike, so that gross less costs is net in cents too. */
export const toCents = (amount: number): number => Math.round(amount / 100) * 100;

/** Formats as `$1,234.50`, with a leading minus for losses; `signed` adds a plus to gains. */
export function formatMoney(amount: number, signed = false): string {
  const rounded = toCents(amount);
  const cents = Math.abs(rounded) / 100;
  const text = DOLLARS.format(cents / 100);
  const sign = rounded < 0 && cents > 0 ? '-' : signed && cents > 0 ? '+' : '';
  return `${sign}$${text}`;
}

/**
 * Prices as integers of 1/10,000 dollar, so that no binary fraction ever decides a fill.
 */
declare const priceBrand: unique symbol;

/** A price in 1/10,000 dollar; always a safe integer. Offsets between prices use the same unit. */
export type Price = number & { readonly [priceBrand]: true };

/** Units of {@link Price} in one dollar. */
export const PRICE_SCALE = 10_000;

/** Basis points in one. */
export const BASIS_POINTS = 10_000;

/** One cent in price units. */
export const CENT = 100;

/**
 * Brands an integer count of 1/10,000 dollar as a price.
 * @throws RangeError when the number is not a safe integer: only a bug can cause that.
 */
export function price(units: number): Price {
  if (!Number.isSafeInteger(units)) throw new RangeError(`not a whole number of 1/10,000 dollar: ${units}`);
  return units as Price;
}

/** Dollars (a decimal number at the edge) to the nearest price unit. */
export function fromDollars(dollars: number): Price {
  return price(Math.round(dollars * PRICE_SCALE));
}

/** Price units to dollars, for display and statistics only. */
export function toDollars(units: number): number {
  return units / PRICE_SCALE;
}

/** In which steps prices go: of a stock, in cents (a net price of several legs), or as a class of options is quoted. */
export type Ticks = 'stock' | 'cent' | 'penny class' | 'nickel class';

/** Where options go over to their larger step. */
const OPTION_BORDER = 3 * PRICE_SCALE;

/**
 * Smallest price step at a price. Stocks: $0.01 at or above $1.00, $0.0001 below (SEC Rule 612, 17 CFR 242.612). Options: cents below $3.00 and
 * nickels from there in penny classes, nickels and dimes in others (the penny program; common practice).
 */
export function tickSize(at: number, ticks: Ticks = 'stock'): number {
  switch (ticks) {
    case 'stock':
      return at >= PRICE_SCALE ? CENT : 1;
    case 'cent':
      return CENT;
    case 'penny class':
      return at < OPTION_BORDER ? CENT : 5 * CENT;
    case 'nickel class':
      return at < OPTION_BORDER ? 5 * CENT : 10 * CENT;
  }
}

/** Whether a price is a whole number of ticks. */
export function onTick(p: Price, ticks: Ticks = 'stock'): boolean {
  return p > 0 && p % tickSize(p, ticks) === 0;
}

/**
 * Rounds to the tick grid.
 * `down` and `up` never move the other way; `nearest` takes halves upward.
 * The result is at least one tick.
 */
export function roundToTick(
  units: number,
  how: 'down' | 'up' | 'nearest' = 'nearest',
  ticks: Ticks = 'stock',
): Price {
  const tick = tickSize(Math.round(units), ticks);
  const steps = units / tick;
  const rounded =
    how === 'down' ? Math.floor(steps) : how === 'up' ? Math.ceil(steps) : Math.floor(steps + 0.5);
  return price(Math.max(1, rounded) * tick);
}

/**
 * Reads a decimal price such as `7.43`, `$0.0125` or `1,204.50`.
 * Returns null for anything that is not a positive decimal with at most four places.
 */
export function parsePrice(text: string): Price | null {
  const match = /^\$?(\d{1,3}(?:,\d{3})+|\d+)?(?:\.(\d{1,4}))?$/.exec(text.trim());
  if (!match || (match[1] === undefined && match[2] === undefined)) return null;
  const whole = Number((match[1] ?? '0').replaceAll(',', ''));
  const units = whole * PRICE_SCALE + Number((match[2] ?? '').padEnd(4, '0'));
  return units > 0 && Number.isSafeInteger(units) ? price(units) : null;
}

/** Shows a price with two decimals, or four where the tick or a half-tick asks for them. */
export function formatPrice(p: number): string {
  const abs = Math.abs(p);
  const digits = abs % CENT === 0 ? 2 : 4;
  const sign = p < 0 ? '-' : '';
  return `${sign}${(abs / PRICE_SCALE).toFixed(digits)}`;
}

import { NAMED_PRICES, priceNamed } from '../../core/language/index.ts';
import type { SymbolView } from '../../core/market/index.ts';

/** A price by its name, with its value now. */
export interface NamedNow {
  text: string;
  price: number | null;
  meaning: string;
}

/** Prices that a script can name: the usual ones, and the trader's own levels. */
export const namedPrices = (v: SymbolView, levels: readonly string[]): NamedNow[] => [
  ...NAMED_PRICES.map(({ tree, text, says }) => ({ text, price: priceNamed(tree, v), meaning: says })),
  ...levels.map((name) => ({
    text: `level "${name}"`,
    price: v.level(name),
    meaning: 'A price that you have named.',
  })),
];

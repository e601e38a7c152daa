import type { Market } from './market-state.ts';

/** Whether a symbol trades today. */
export const hasSymbol = (m: Market, symbol: string): boolean => m.index.has(symbol);

/** Number of a symbol in the columns of the board. @throws Error for one that does not trade today (a bug). */
export function numberOf(m: Market, symbol: string): number {
  const i = m.index.get(symbol);
  if (i === undefined) throw new Error(`no such symbol: ${symbol}`);
  return i;
}

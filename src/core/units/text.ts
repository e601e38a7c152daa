/** A number with its sign in front, nothing for zero: `+12.3%`. */
export const signed = (n: number, digits: number, unit = ''): string =>
  `${n > 0 ? '+' : n < 0 ? '−' : ''}${Math.abs(n).toFixed(digits)}${unit}`;

/** Large counts: 1.4M, 820k, 940. */
export function count(n: number): string {
  if (n >= 1e9) return `${(n / 1e9).toFixed(1)}B`;
  if (n >= 1e6) return `${(n / 1e6).toFixed(n >= 1e8 ? 0 : 1)}M`;
  if (n >= 1e4) return `${Math.round(n / 1e3)}k`;
  return Math.round(n).toLocaleString('en-US');
}

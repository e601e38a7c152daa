import type { Interval } from './clusters.ts';

/** The standard normal's quantile for 95 %, two-sided. */
const Z = 1.959963984540054;

/**
 * A 95 % interval of a rate from so many hits of so many tries (E. B. Wilson, "Probable inference, the law of succession, and statistical inference",
 * Journal of the American Statistical Association 22, 1927). Null without a try.
 */
export function proportionInterval(hits: number, tries: number): Interval | null {
  if (tries === 0) return null;
  const rate = hits / tries;
  const z2 = (Z * Z) / tries;
  const middle = (rate + z2 / 2) / (1 + z2);
  const half = (Z * Math.sqrt((rate * (1 - rate)) / tries + (z2 / tries) * 0.25)) / (1 + z2);
  return { low: Math.max(0, middle - half), high: Math.min(1, middle + half) };
}

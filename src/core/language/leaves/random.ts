/** A whole number from one to another. */
export const between = (r: () => number, low: number, high: number): number =>
  low + Math.floor(r() * (high - low + 1));

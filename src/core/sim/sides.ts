// Which side takes next: orders are split into many parts, so that sides have a long memory.
import type { Sketches } from './columns.ts';

/**
 * Of the next trades a part goes the way of one of the last few, of the last twenty or so, or of the
 * last few hundred: a discrete autoregressive process with a sum of three exponentials for the power
 * law of order splitting (F. Lillo, S. Mike and J. D. Farmer, Physical Review E 71, 2005; D. Taranto
 * and others, Quantitative Finance 18, 2018). Autocorrelation of sides at lag 1 about 0.3, at 50 about 0.05.
 */
const MEMORY = { few: [0.42, 0.5], some: [0.22, 0.06], many: [0.25, 0.006] } as const;

/** What a side's surprise has for a mean square: 1 − E[expected²]. */
export const SURPRISE = 0.83;

/** The side that all who look at the tape expect, −1 to 1. */
export const expectedSide = (s: Sketches, i: number): number =>
  MEMORY.few[0] * (s.few[i] as number) +
  MEMORY.some[0] * (s.some[i] as number) +
  MEMORY.many[0] * (s.many[i] as number);

/** A trade of a side has happened. */
export function rememberSide(s: Sketches, i: number, side: number): void {
  s.few[i] = (s.few[i] as number) + (side - (s.few[i] as number)) * MEMORY.few[1];
  s.some[i] = (s.some[i] as number) + (side - (s.some[i] as number)) * MEMORY.some[1];
  s.many[i] = (s.many[i] as number) + (side - (s.many[i] as number)) * MEMORY.many[1];
}

import { clockOf, MINUTE, PRE_OPEN, REGULAR_CLOSE, REGULAR_OPEN } from '../units/index.ts';

const AFTER = 0.03;

/**
 * Share of a usual full day's volume that has traded by a time of day: `premarketShare` before the
 * open, growing towards it; most in the regular session, heavier at both ends (the U shape; P. Jain
 * and G. Joh, Journal of Financial and Quantitative Analysis 23, 1988); 3 % after it. The curve's
 * figures are from memory.
 */
export function usualShareBy(now: number, premarketShare: number): number {
  const t = clockOf(now);
  if (t <= PRE_OPEN) return 0;
  if (t < REGULAR_OPEN) return premarketShare * ((t - PRE_OPEN) / (REGULAR_OPEN - PRE_OPEN)) ** 2;
  if (t < REGULAR_CLOSE) {
    const x = (t - REGULAR_OPEN) / (REGULAR_CLOSE - REGULAR_OPEN);
    return premarketShare + (1 - AFTER - premarketShare) * (x + 0.5 * (4 * (x - 0.5) ** 3 + 0.5 - x));
  }
  return Math.min(1, 1 - AFTER + (AFTER * (t - REGULAR_CLOSE)) / (240 * MINUTE));
}

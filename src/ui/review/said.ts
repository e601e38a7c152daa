import type { Unit } from '@/core/review';
import type { Interval } from '@/core/statistics';
import { signed, usd } from '../format';

/** Figures in words, a dash where there is none. */
export const inR = (x: number, digits = 2): string => (Number.isFinite(x) ? signed(x, digits, 'R') : '–');
export const percent = (x: number | null): string =>
  x === null || !Number.isFinite(x) ? '–' : `${(x * 100).toFixed(0)} %`;
export const dollars = (x: number): string => (Number.isFinite(x) ? usd(Math.round(x), true) : '–');
export const span = (ms: number | null): string => {
  if (ms === null || !Number.isFinite(ms)) return '–';
  if (ms < 90_000) return `${(ms / 1000).toFixed(0)} s`;
  if (ms < 5_400_000) return `${(ms / 60_000).toFixed(0)} min`;
  return ms < 172_800_000 ? `${(ms / 3_600_000).toFixed(1)} h` : `${(ms / 86_400_000).toFixed(1)} days`;
};
/** A result in the unit that results are told in: R, or 1/10,000 dollar. */
export const told = (unit: Unit, x: number, digits = 2): string =>
  unit === 'R' ? inR(x, digits) : dollars(x);
/** A sum in R, or a dash where nothing of it says what was risked. */
export const sumInR = ({ r, withRisk }: { r: number; withRisk: number }, digits = 2): string =>
  withRisk === 0 ? '–' : inR(r, digits);
/** An interval, or that it is too early to tell. */
export const between = (i: Interval | null, say: (x: number) => string): string =>
  i ? `${say(i.low)} to ${say(i.high)}` : 'too few days to tell';
/** A border of a spread: R, or whole dollars. */
export const border = (unit: Unit, x: number): string =>
  unit === 'R' ? inR(x, 1) : `${x < 0 ? '−' : ''}$${Math.abs(x).toLocaleString('en-US')}`;

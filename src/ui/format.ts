import { type DayTime, formatMoney, formatPrice, formatTime } from '@/core/units';

/** A price, or a dash where there is none. Averages are rounded to 1/10,000. */
export const px = (p: number | null | undefined): string => (p === null || p === undefined ? '–' : formatPrice(Math.round(p)));
/** An average or other computed price to the cent, four places below a dollar. */
export const avg = (p: number | null | undefined): string => (p === null || p === undefined ? '–' : (p / 10_000).toFixed(p < 10_000 ? 4 : 2));
export const usd = (m: number, signed = false): string => formatMoney(m, signed);
export const clock = (t: number, part: 'minutes' | 'seconds' | 'millis' = 'seconds'): string => formatTime(t as DayTime, part);
export const signed = (n: number, digits: number, unit = ''): string => `${n > 0 ? '+' : n < 0 ? '−' : ''}${Math.abs(n).toFixed(digits)}${unit}`;

/** Large counts: 1.4M, 820k, 940. */
export function count(n: number): string {
  if (n >= 1e9) return `${(n / 1e9).toFixed(1)}B`;
  if (n >= 1e6) return `${(n / 1e6).toFixed(n >= 1e8 ? 0 : 1)}M`;
  if (n >= 1e4) return `${Math.round(n / 1e3)}k`;
  return Math.round(n).toLocaleString('en-US');
}

/** A key chord as it is printed on the keys: `Ctrl+Q`. */
export const chordText = (chord: string): string => chord.replace(/Key|Digit/g, '').replaceAll('Control', 'Ctrl');

import { type DayTime, formatMoney, formatPrice, formatTime, PRICE_SCALE, toDollars } from '@/core/units';

export { count, signed } from '@/core/units';

/** A price, or a dash where there is none. Averages are rounded to 1/10,000. */
export const px = (p: number | null | undefined): string =>
  p === null || p === undefined ? '–' : formatPrice(Math.round(p));
/** An average or other computed price to the cent, four places below a dollar. */
export const avg = (p: number | null | undefined): string =>
  p === null || p === undefined ? '–' : toDollars(p).toFixed(p < PRICE_SCALE ? 4 : 2);
/** Money; `signed` with its sign. */
export const usd = (m: number, signed = false): string => formatMoney(m, signed);
/** A time of day. */
export const clock = (t: number, part: 'minutes' | 'seconds' | 'millis' = 'seconds'): string =>
  formatTime(t as DayTime, part);

/** `10:15`, `10:15:30` or `9:31` to milliseconds after midnight; null for anything else. */
export function readTime(text: string): number | null {
  const m = /^(\d{1,2}):([0-5]\d)(?::([0-5]\d))?$/.exec(text.trim());
  return m ? (Number(m[1]) * 3600 + Number(m[2]) * 60 + Number(m[3] ?? 0)) * 1000 : null;
}

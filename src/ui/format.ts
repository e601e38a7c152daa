import { instrumentOf } from '@/core/instruments';
import { type DayTime, formatMoney, formatPrice, formatTime, PRICE_SCALE, toDollars } from '@/core/units';

export { count, signed } from '@/core/units';

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
/** A date as `19 Mar`, with its year where it is not that of another one. */
export const dayText = (date: string, beside = date): string =>
  `${Number(date.slice(8))} ${MONTHS[Number(date.slice(5, 7)) - 1]}${date.slice(0, 4) === beside.slice(0, 4) ? '' : ` ${date.slice(2, 4)}`}`;

/** What is traded, where there is little room: a symbol, `VULPN 19 Mar 6c`, `VULPN 16 Apr 6/5p`; without its date where there is less. */
export function shortName(name: string, dated = true): string {
  const i = instrumentOf(name);
  if (i.kind === 'stock') return i.symbol;
  const strikes = i.kind === 'option' ? [i.strike] : [i.dear, i.cheap];
  return `${i.root} ${dated ? `${dayText(i.expiry)} ` : ''}${strikes.map((k) => k / PRICE_SCALE).join('/')}${i.right[0]}`;
}

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

/** So many of the account's units of risk: `1 unit`, `1.7 units`. */
export const inUnits = (n: number): string => {
  const text = n.toFixed(1).replace(/\.0$/, '');
  return `${text} ${text === '1' ? 'unit' : 'units'}`;
};

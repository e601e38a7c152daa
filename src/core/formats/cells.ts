// Dates, times and numbers as people write them into tables.
import { isTradingDay } from '../units/index.ts';

/** Which of day and month stands first where a date has neither first: 3/9/2027 or 9.3.2027. */
export type DateOrder = 'month first' | 'day first';

const two = (n: string) => n.padStart(2, '0');

/** The date of a cell as yyyy-mm-dd, or null. Reads 2027-03-09, 2027/03/09, 20270309, 3/9/2027 and 3/9/27, alone or before a time. */
export function dateIn(text: string, order: DateOrder = 'month first'): string | null {
  const t = text.trim();
  const iso =
    /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})(?:[T ].*)?$/.exec(t) ?? /^(\d{4})(\d\d)(\d\d)(?:[T ].*)?$/.exec(t);
  const other = /^(\d{1,2})[-/.](\d{1,2})[-/.](\d{4}|\d\d)(?:,? .*)?$/.exec(t);
  const [month, day] = order === 'month first' ? [other?.[1], other?.[2]] : [other?.[2], other?.[1]];
  const [y, m, d] = iso ? [iso[1], iso[2], iso[3]] : [other?.[3], month, day];
  if (!y || !m || !d) return null;
  const date = `${y.length === 2 ? `20${y}` : y}-${two(m)}-${two(d)}`;
  try {
    isTradingDay(date);
    return date;
  } catch {
    return null;
  }
}

/** The time of day in a cell in milliseconds, or null where it is none (33:31, 9:75, 13:05 PM). Reads 9:31, 09:31:05, 09:31:05.123 and 9:31 PM, alone or after a date. */
export function timeIn(text: string): number | null {
  const m = /(?:^|[T ])(\d{1,2}):(\d\d)(?::(\d\d)(?:[.,](\d{1,9}))?)?\s*([AaPp][Mm])?Z?$/.exec(text.trim());
  if (!m) return null;
  const half = m[5]?.toLowerCase();
  const [written, minute, second] = [Number(m[1]), Number(m[2]), Number(m[3] ?? 0)];
  if (minute > 59 || second > 59 || (half ? written < 1 || written > 12 : written > 23)) return null;
  const hour = half ? written % 12 : written;
  return (
    ((hour + (half === 'pm' ? 12 : 0)) * 3600 + minute * 60 + second) * 1000 +
    Math.floor(Number(`0.${m[4] ?? 0}`) * 1000)
  );
}

/** What stands before the cents: 5.80 or 5,80. */
export type Decimals = 'point' | 'comma';

/** A number as money tables write it: $1,234.50, (12.30) and 12.30- below zero; null for anything else, and for what has marks of thousands where none belong. */
export function numberIn(text: string, decimals: Decimals = 'point'): number | null {
  const t = text.trim().replace(/^[−]/, '-');
  const below = /^\(.*\)$/.test(t) || /^-/.test(t) || /-$/.test(t);
  const bare = t.replaceAll(/[()\s$+-]/g, '');
  const swapped = decimals === 'point' ? bare : bare.replaceAll(/[.,]/g, (c) => (c === '.' ? ',' : '.'));
  if (!/^(?:\d*|\d{1,3}(?:,\d{3})+)(?:\.\d*)?$/.test(swapped) || !/\d/.test(swapped)) return null;
  const value = Number(swapped.replaceAll(',', ''));
  return below ? -value : value;
}

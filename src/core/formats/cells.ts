// Dates, times and numbers as people write them into tables.
import { DAY, dateAfter, isTradingDay } from '../units/index.ts';

/** Which of day and month stands first where a date has neither first: 3/9/2027 or 9.3.2027. */
export type DateOrder = 'month first' | 'day first';

const two = (n: string) => n.padStart(2, '0');
const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
const monthOf = (name: string): string => {
  const k = MONTHS.indexOf(name.slice(0, 3).toLowerCase());
  return k < 0 ? 'none' : String(k + 1);
};
/** What may stand after a date: a time of day. */
const REST = '(?:[T ,;].*)?$';
const DATES: readonly (readonly [
  RegExp,
  (m: RegExpExecArray, order: DateOrder) => [string, string, string],
])[] = [
  [
    new RegExp(`^(\\d{4})[-/.](\\d{1,2})[-/.](\\d{1,2})${REST}`),
    (m) => [m[1] as string, m[2] as string, m[3] as string],
  ],
  [new RegExp(`^(\\d{4})(\\d\\d)(\\d\\d)${REST}`), (m) => [m[1] as string, m[2] as string, m[3] as string]],
  [
    new RegExp(`^(\\d{1,2})[-/.](\\d{1,2})[-/.](\\d{4}|\\d\\d)${REST}`),
    (m, order) => {
      const [a, b] = [m[1] as string, m[2] as string];
      return order === 'month first' ? [m[3] as string, a, b] : [m[3] as string, b, a];
    },
  ],
  [
    new RegExp(`^(\\d{1,2})[-. ]*([A-Za-z]{3,9})[-., ]*(\\d{4}|\\d\\d)${REST}`),
    (m) => [m[3] as string, monthOf(m[2] as string), m[1] as string],
  ],
  [
    new RegExp(`^([A-Za-z]{3,9})\\.? (\\d{1,2})(?:st|nd|rd|th)?,? (\\d{4})${REST}`),
    (m) => [m[3] as string, monthOf(m[1] as string), m[2] as string],
  ],
];

/** The date of a cell as yyyy-mm-dd, or null. Reads 2027-03-09, 2027/03/09, 20270309, 3/9/2027, 3/9/27, 9-Mar-2027 and Mar 9, 2027, alone or before a time. */
export function dateIn(text: string, order: DateOrder = 'month first'): string | null {
  const t = text.trim().replace(/^(?:mon|tue|wed|thu|fri|sat|sun)[a-z]*\.?,? +/i, '');
  for (const [pattern, parts] of DATES) {
    const m = pattern.exec(t);
    if (!m) continue;
    const [y, month, day] = parts(m, order);
    const date = `${y.length === 2 ? `20${y}` : y}-${two(month)}-${two(day)}`;
    try {
      isTradingDay(date);
      return date;
    } catch {
      return null;
    }
  }
  return null;
}

/** The time of day in a cell in milliseconds, or null where it is none (33:31, 9:75, 13:05 PM). Reads 9:31, 09:31:05, 09:31:05.123, 9:31 PM and 093105, alone or after a date. */
export function timeIn(text: string): number | null {
  const t = text.trim();
  const m =
    /(?:^|[T ,;])(\d{1,2}):(\d\d)(?::(\d\d)(?:[.,](\d{1,9}))?)?\s*(?:([AaPp])\.?[Mm]\.?)?Z?$/.exec(t) ??
    /(?:^|[T ,;])(\d{1,2})(\d\d)(\d\d)(?:\.(\d{1,9}))?()$/.exec(t);
  if (!m) return null;
  const half = m[5]?.toLowerCase();
  const [written, minute, second] = [Number(m[1]), Number(m[2]), Number(m[3] ?? 0)];
  if (minute > 59 || second > 59 || (half ? written < 1 || written > 12 : written > 23)) return null;
  const hour = half ? written % 12 : written;
  return (
    ((hour + (half === 'p' ? 12 : 0)) * 3600 + minute * 60 + second) * 1000 +
    Math.floor(Number(`0.${m[4] ?? 0}`) * 1000)
  );
}

const NAMED: Readonly<Record<string, string>> = {
  Z: 'UTC',
  UTC: 'UTC',
  GMT: 'UTC',
  E: 'America/New_York',
  C: 'America/Chicago',
  M: 'America/Denver',
  P: 'America/Los_Angeles',
};

/** What a time says of its own zone, after it: Z, −05:00, +0100, UTC, EST, CT. The name of the zone (null: none), and the text without it. */
export function zoneIn(text: string): { zone: string | null; rest: string } {
  const t = text.trim();
  const m =
    /^(.*:\d\d(?:[.,]\d+)?(?:\s*[AaPp]\.?[Mm]\.?)?)\s*(Z|UTC|GMT|[ECMP][SD]?T|[-+−]\d\d(?::?\d\d)?)$/.exec(t);
  if (!m) return { zone: null, rest: t };
  const [rest, said] = [m[1] as string, m[2] as string];
  const offset = /^([-+−])(\d\d):?(\d\d)?$/.exec(said);
  return offset
    ? { zone: `UTC${offset[1] === '+' ? '+' : '-'}${Number(offset[2])}:${offset[3] ?? '00'}`, rest }
    : { zone: NAMED[said] ?? NAMED[said[0] as string] ?? null, rest };
}

/** A moment that is counted in seconds, milli-, micro- or nanoseconds since 1970, as a date and ms of a day in universal time; null for anything else. */
export function instantIn(text: string): { date: string; at: number } | null {
  const m = /^(\d{10}|\d{13}|\d{16}|\d{19})(\.\d+)?$/.exec(text.trim());
  if (!m) return null;
  const digits = m[1] as string;
  const ms = Math.floor(
    digits.length === 10 ? Number(digits + (m[2] ?? '')) * 1000 : Number(digits.slice(0, 13)),
  );
  return { date: dateAfter('1970-01-01', Math.floor(ms / DAY)), at: ms % DAY };
}

/** What stands before the cents: 5.80 or 5,80. */
export type Decimals = 'point' | 'comma';

/**
 * A number as money tables write it: $1,234.50, 1 234.50, (12.30) and 12.30- below zero; null for anything else, for two signs, and for what has marks of
 * thousands where none belong.
 */
export function numberIn(text: string, decimals: Decimals = 'point'): number | null {
  const t = text
    .trim()
    .replaceAll('−', '-')
    .replace(/^USD\s*|\s*USD$/, '');
  const swapped = decimals === 'point' ? t : t.replaceAll(/[.,]/g, (c) => (c === '.' ? ',' : '.'));
  const m = /^(\()?([-+]?)\s*\$?\s*([-+]?)([\d,.'’\s]+)([-+]?)(\))?$/.exec(swapped);
  if (!m || (m[1] === undefined) !== (m[6] === undefined)) return null;
  const signs = `${m[2]}${m[3]}${m[5]}`;
  if (signs.length > (m[1] ? 0 : 1)) return null;
  const bare = (m[4] as string).trim();
  if (!/^(?:\d*|\d{1,3}(?:[,'’\s]\d{3})+)(?:\.\d*)?$/.test(bare) || !/\d/.test(bare)) return null;
  const value = Number(bare.replaceAll(/[,'’\s]/g, ''));
  return m[1] || signs === '-' ? -value : value;
}

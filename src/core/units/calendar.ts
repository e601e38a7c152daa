import { FULL_DAY, HALF_DAY, type Hours } from './time.ts';

/**
 * The trading calendar by the NYSE's published holiday rules: New Year's Day, Martin Luther King
 * Jr. Day, Washington's Birthday, Good Friday, Memorial Day, Juneteenth (from 2022), Independence
 * Day, Labor Day, Thanksgiving, Christmas. A holiday on a Sunday moves to Monday, one on a Saturday
 * to Friday, but a Saturday New Year's Day is not made up for. Dates are `yyyy-mm-dd`.
 */

/** Days since 1970-01-01 of a date of the Gregorian calendar. Source: E. G. Richards' civil-from-days arithmetic (common practice). */
function dayNumber(year: number, month: number, day: number): number {
  const y = month <= 2 ? year - 1 : year;
  const era = Math.floor(y / 400);
  const yoe = y - era * 400;
  const doy = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  return era * 146_097 + yoe * 365 + Math.floor(yoe / 4) - Math.floor(yoe / 100) + doy - 719_468;
}

function dateOf(days: number): string {
  const z = days + 719_468;
  const era = Math.floor(z / 146_097);
  const doe = z - era * 146_097;
  const yoe = Math.floor(
    (doe - Math.floor(doe / 1460) + Math.floor(doe / 36_524) - Math.floor(doe / 146_096)) / 365,
  );
  const doy = doe - (365 * yoe + Math.floor(yoe / 4) - Math.floor(yoe / 100));
  const mp = Math.floor((5 * doy + 2) / 153);
  const month = mp < 10 ? mp + 3 : mp - 9;
  const year = yoe + era * 400 + (month <= 2 ? 1 : 0);
  const two = (n: number) => String(n).padStart(2, '0');
  return `${year}-${two(month)}-${two(doy - Math.floor((153 * mp + 2) / 5) + 1)}`;
}

/** Reads `yyyy-mm-dd`. @throws RangeError for anything that is not a date of the calendar. */
function numberOf(date: string): number {
  let days = NUMBERS.get(date);
  if (days === undefined) {
    days = read(date);
    NUMBERS.set(date, days);
  }
  return days;
}
/** Dates that were read before: a session asks for the same few over and over. */
const NUMBERS = new Map<string, number>();

function read(date: string): number {
  const m = /^(\d{4})-(\d\d)-(\d\d)$/.exec(date);
  const days = m ? dayNumber(Number(m[1]), Number(m[2]), Number(m[3])) : Number.NaN;
  if (dateOf(days) !== date) throw new RangeError(`not a date: ${date}`);
  return days;
}

/** 0 is Sunday. */
const weekday = (days: number): number => (((days + 4) % 7) + 7) % 7;

const nth = (year: number, month: number, day: number, n: number): number => {
  const first = dayNumber(year, month, 1);
  return first + ((day - weekday(first) + 7) % 7) + 7 * (n - 1);
};

/** Easter Sunday, Gregorian. Source: the anonymous algorithm in J. Meeus, Astronomical Algorithms. */
function easter(year: number): number {
  const a = year % 19;
  const b = Math.floor(year / 100);
  const c = year % 100;
  const h = (19 * a + b - Math.floor(b / 4) - Math.floor((b - Math.floor((b + 8) / 25) + 1) / 3) + 15) % 30;
  const l = (32 + 2 * (b % 4) + 2 * Math.floor(c / 4) - h - (c % 4)) % 7;
  const m = Math.floor((a + 11 * h + 22 * l) / 451);
  const n = h + l - 7 * m + 114;
  return dayNumber(year, Math.floor(n / 31), (n % 31) + 1);
}

const observed = (days: number): number =>
  weekday(days) === 0 ? days + 1 : weekday(days) === 6 ? days - 1 : days;

function holidays(year: number): [string, number][] {
  const newYear = dayNumber(year, 1, 1);
  const lastMondayOfMay = nth(year, 6, 1, 1) - 7;
  return [
    ...(weekday(newYear) === 6 ? [] : ([['New Year’s Day', observed(newYear)]] as [string, number][])),
    ['Martin Luther King Jr. Day', nth(year, 1, 1, 3)],
    ['Washington’s Birthday', nth(year, 2, 1, 3)],
    ['Good Friday', easter(year) - 2],
    ['Memorial Day', lastMondayOfMay],
    ...(year >= 2022 ? ([['Juneteenth', observed(dayNumber(year, 6, 19))]] as [string, number][]) : []),
    ['Independence Day', observed(dayNumber(year, 7, 4))],
    ['Labor Day', nth(year, 9, 1, 1)],
    ['Thanksgiving', nth(year, 11, 4, 4)],
    ['Christmas', observed(dayNumber(year, 12, 25))],
  ];
}

/** Days from one date to another. */
export const daysBetween = (from: string, to: string): number => numberOf(to) - numberOf(from);

/** The date so many days after another. */
export const dateAfter = (date: string, days: number): string => dateOf(numberOf(date) + days);

/** Days since 1970-01-01 of a date. @throws RangeError for anything that is not a date of the calendar. */
export const epochDay = (date: string): number => numberOf(date);

/** The name of the exchange holiday on a date, or null. */
export function holidayOn(date: string): string | null {
  const days = numberOf(date);
  return holidays(Number(date.slice(0, 4))).find(([, d]) => d === days)?.[0] ?? null;
}

/** Whether the exchange opens on a date. */
export const isTradingDay = (date: string): boolean =>
  weekday(numberOf(date)) % 6 !== 0 && holidayOn(date) === null;

/** The first trading day after a date. */
export function nextTradingDay(date: string): string {
  for (let days = numberOf(date) + 1; ; days++) {
    const next = dateOf(days);
    if (isTradingDay(next)) return next;
  }
}

/** The trading day before a date. */
export function priorTradingDay(date: string): string {
  let day = numberOf(date) - 1;
  while (!isTradingDay(dateOf(day))) day--;
  return dateOf(day);
}

/**
 * The session bounds of a trading day. Early closes (NYSE, common practice): the day after
 * Thanksgiving, 3 July where 4 July is a weekday, and 24 December, each when it is a trading day.
 */
export function hoursOn(date: string): Hours {
  let hours = HOURS.get(date);
  if (!hours) {
    hours = worked(date);
    HOURS.set(date, hours);
  }
  return hours;
}
const HOURS = new Map<string, Hours>();

function worked(date: string): Hours {
  const year = Number(date.slice(0, 4));
  const days = numberOf(date);
  const early =
    days === nth(year, 11, 4, 4) + 1 ||
    days === dayNumber(year, 12, 24) ||
    (days === dayNumber(year, 7, 3) && weekday(days + 1) !== 0 && weekday(days + 1) !== 6);
  return early && isTradingDay(date) ? HALF_DAY : FULL_DAY;
}

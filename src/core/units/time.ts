/**
 * Exchange time: milliseconds after midnight, New York, of the session's first day. Each further
 * trading day adds {@link DAY}, so that time never runs backwards within a session; nights and
 * holidays between trading days have no length. The simulation owns the clock; nothing in the core
 * asks the machine for the time.
 */
declare const timeBrand: unique symbol;

/** Milliseconds after midnight, New York time, of the session's first day. */
export type DayTime = number & { readonly [timeBrand]: true };

export const SECOND = 1000;
export const MINUTE = 60 * SECOND;
export const HOUR = 60 * MINUTE;
export const DAY = 24 * HOUR;

/** Brands a whole number of milliseconds. */
export function dayTime(ms: number): DayTime {
  if (!Number.isInteger(ms) || ms < 0) throw new RangeError(`not a time of day in milliseconds: ${ms}`);
  return ms as DayTime;
}

/** Time of day from hours, minutes and seconds. */
export function at(hour: number, minute = 0, second = 0): DayTime {
  return dayTime(hour * HOUR + minute * MINUTE + second * SECOND);
}

/** The time of day of a session time, whatever day it is on. */
export const clockOf = (t: number): number => t % DAY;
/** How many trading days after the session's first one a time lies. */
export const dayOf = (t: number): number => Math.floor(t / DAY);

/** Session bounds of a full day (common practice). */
export const PRE_OPEN = at(4);
export const REGULAR_OPEN = at(9, 30);
export const REGULAR_CLOSE = at(16);
export const AFTER_CLOSE = at(20);

/** The bounds of a day's sessions, as times of day. The pre-market starts at 04:00 and the open is 09:30 on every day. */
export interface Hours {
  close: number;
  end: number;
}
export const FULL_DAY: Hours = { close: REGULAR_CLOSE, end: AFTER_CLOSE };
/** NYSE early close: 13:00, and after hours to 17:00 (common practice). */
export const HALF_DAY: Hours = { close: at(13), end: at(17) };

/** Which session a time of day belongs to. */
export type SessionKind = 'closed' | 'pre-market' | 'regular' | 'after hours';

/** The session at a time (common practice). */
export function sessionAt(t: number, hours: Hours = FULL_DAY): SessionKind {
  const clock = clockOf(t);
  if (clock < PRE_OPEN || clock >= hours.end) return 'closed';
  if (clock < REGULAR_OPEN) return 'pre-market';
  return clock < hours.close ? 'regular' : 'after hours';
}

/** `09:31:05`; with `millis`, `09:31:05.123`. */
export function formatTime(t: number, part: 'minutes' | 'seconds' | 'millis' = 'seconds'): string {
  const two = (n: number) => String(Math.floor(n)).padStart(2, '0');
  const clock = clockOf(t);
  const hm = `${two(clock / HOUR)}:${two((clock % HOUR) / MINUTE)}`;
  if (part === 'minutes') return hm;
  const hms = `${hm}:${two((clock % MINUTE) / SECOND)}`;
  return part === 'seconds' ? hms : `${hms}.${String(Math.floor(clock % SECOND)).padStart(3, '0')}`;
}

/**
 * Exchange time: milliseconds after midnight, New York, of the session's day. The simulation owns
 * the clock; nothing in the core asks the machine for the time.
 */
declare const timeBrand: unique symbol;

/** Milliseconds after midnight, New York time, of the session's day. */
export type DayTime = number & { readonly [timeBrand]: true };

export const SECOND = 1000;
export const MINUTE = 60 * SECOND;
export const HOUR = 60 * MINUTE;

/** Brands a whole number of milliseconds. */
export function dayTime(ms: number): DayTime {
  if (!Number.isInteger(ms) || ms < 0) throw new RangeError(`not a time of day in milliseconds: ${ms}`);
  return ms as DayTime;
}

/** Time of day from hours, minutes and seconds. */
export function at(hour: number, minute = 0, second = 0): DayTime {
  return dayTime(hour * HOUR + minute * MINUTE + second * SECOND);
}

/** Session bounds (common practice). */
export const PRE_OPEN = at(4);
export const REGULAR_OPEN = at(9, 30);
export const REGULAR_CLOSE = at(16);
export const AFTER_CLOSE = at(20);

/** Which session a time of day belongs to. */
export type SessionKind = 'closed' | 'pre-market' | 'regular' | 'after hours';

/** The session at a time of day on a full trading day (common practice). */
export function sessionAt(t: DayTime): SessionKind {
  if (t < PRE_OPEN || t >= AFTER_CLOSE) return 'closed';
  if (t < REGULAR_OPEN) return 'pre-market';
  return t < REGULAR_CLOSE ? 'regular' : 'after hours';
}

/** `09:31:05`; with `millis`, `09:31:05.123`. */
export function formatTime(t: DayTime, part: 'minutes' | 'seconds' | 'millis' = 'seconds'): string {
  const two = (n: number) => String(Math.floor(n)).padStart(2, '0');
  const hm = `${two(t / HOUR)}:${two((t % HOUR) / MINUTE)}`;
  if (part === 'minutes') return hm;
  const hms = `${hm}:${two((t % MINUTE) / SECOND)}`;
  return part === 'seconds' ? hms : `${hms}.${String(t % SECOND).padStart(3, '0')}`;
}

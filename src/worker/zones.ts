// Wall times of other zones, as times of New York and of the whole world.
import { DateTime } from 'luxon';
import type { When } from '../core/review/index.ts';

const NEW_YORK = 'America/New_York';

const timeOf = (ms: number) => ({
  hour: Math.floor(ms / 3_600_000),
  minute: Math.floor(ms / 60_000) % 60,
  second: Math.floor(ms / 1000) % 60,
  millisecond: ms % 1000,
});
/** ms after midnight as a clock shows it: not what has passed since midnight on days on which clocks change. */
const shownBy = (t: DateTime): number => ((t.hour * 60 + t.minute) * 60 + t.second) * 1000 + t.millisecond;

/** Says where a wall time of a zone (IANA) lies in New York; null where clocks were put forward over it. @throws Error for a zone that is not known. */
export function placer(zone: string): (date: string, ms: number) => When | null {
  if (!DateTime.now().setZone(zone).isValid)
    throw new Error(`“${zone}” is no time zone that is known here. New York is America/New_York.`);
  return (date, ms) => {
    const there = DateTime.fromISO(date, { zone }).set(timeOf(ms));
    if (shownBy(there) !== ms) return null;
    const here = there.setZone(NEW_YORK);
    return { date: here.toISODate() as string, at: shownBy(here) };
  };
}

/** When a New York time was, in universal time. */
export function utcOf(date: string, at: number): When {
  const utc = DateTime.fromISO(date, { zone: NEW_YORK }).set(timeOf(at)).toUTC();
  return { date: utc.toISODate() as string, at: shownBy(utc) };
}

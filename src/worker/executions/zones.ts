// Wall times of other zones, as times of New York and of the whole world.
import { DateTime } from 'luxon';
import type { When } from '../../core/review/index.ts';

const NEW_YORK = 'America/New_York';

const timeOf = (ms: number) => ({
  hour: Math.floor(ms / 3_600_000),
  minute: Math.floor(ms / 60_000) % 60,
  second: Math.floor(ms / 1000) % 60,
  millisecond: ms % 1000,
});
/** ms after midnight as a clock shows it: not what has passed since midnight on days on which clocks change. */
const shownBy = (t: DateTime): number => ((t.hour * 60 + t.minute) * 60 + t.second) * 1000 + t.millisecond;

/** Clocks of all zones are put on and back on quarters of an hour. */
const QUARTER = 900_000;

/**
 * Says where a wall time of a zone (IANA, or a fixed offset such as UTC-5), its own or else `usual`, lies in New York; null where clocks were put forward
 * over it. @throws Error for a zone that is not known.
 */
export function placer(usual: string): (date: string, ms: number, own?: string | null) => When | null {
  const placed = new Map<string, When | null>();
  const checked = new Set<string>();
  const check = (zone: string) => {
    if (!DateTime.now().setZone(zone).isValid)
      throw new Error(`“${zone}” is no time zone that is known here. New York is America/New_York.`);
    checked.add(zone);
  };
  check(usual);
  return (date, ms, own = null) => {
    const zone = own ?? usual;
    if (!checked.has(zone)) check(zone);
    const rest = ms % QUARTER;
    const key = `${zone} ${date} ${ms - rest}`;
    let quarter = placed.get(key);
    if (quarter === undefined) {
      quarter = placeOf(date, ms - rest, zone);
      placed.set(key, quarter);
    }
    return quarter && { date: quarter.date, at: quarter.at + rest };
  };
}

function placeOf(date: string, ms: number, zone: string): When | null {
  const there = DateTime.fromISO(date, { zone }).set(timeOf(ms));
  if (shownBy(there) !== ms) return null;
  const here = there.setZone(NEW_YORK);
  return { date: here.toISODate() as string, at: shownBy(here) };
}

/** When a New York time was, in universal time. */
export function utcOf(date: string, at: number): When {
  const utc = DateTime.fromISO(date, { zone: NEW_YORK }).set(timeOf(at)).toUTC();
  return { date: utc.toISODate() as string, at: shownBy(utc) };
}

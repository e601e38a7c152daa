'use client';

import { DateTime } from 'luxon';
import { clockOf } from '@/core/units';
import { useSession } from '../client';
import { clock } from '../format';
import { useSettings } from '../settings';

/** The same moment in the trader's own zone. */
export function SecondClock() {
  const zone = useSettings((s) => s.secondZone);
  const date = useSession((s) => s.clock?.date ?? null);
  const minute = useSession((s) => (s.clock === null ? null : Math.floor(s.clock.now / 60_000) * 60_000));
  if (zone === '' || date === null || minute === null) return null;
  const there = DateTime.fromISO(`${date}T${clock(clockOf(minute))}`, { zone: 'America/New_York' }).setZone(
    zone,
  );
  if (!there.isValid) return null;
  return (
    <span className="num text-[12px] text-quiet" title={zone} data-testid="second-clock">
      {there.toFormat('HH:mm')} {zone.split('/').at(-1)?.replaceAll('_', ' ')}
    </span>
  );
}

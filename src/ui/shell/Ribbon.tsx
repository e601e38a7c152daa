'use client';

import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useState } from 'react';
import type { ClockSlice } from '@/worker/session/slices';
import { ask, useSession } from '../client';
import { clock } from '../format';
import { useSettings } from '../settings';
import { GoTo } from './GoTo';
import { TimeControls } from './TimeControls';
import { TimeLine } from './TimeLine';

const SecondClock = dynamic(() => import('./SecondClock').then((m) => m.SecondClock), { ssr: false });

/** The day is only watched again: what was done comes by itself, until the trader takes over. */
function Watching({ watching }: { watching: NonNullable<ClockSlice['watching']> }) {
  return (
    <button
      type="button"
      className="block w-full truncate text-left text-[12px] text-focus underline underline-offset-2"
      title="Your orders of then come by themselves at their times. From here on by your own hand, instead: as hindsight, it counts nowhere."
      onClick={() => void ask({ kind: 'take over' })}
    >
      watching #{watching.attempt}, {watching.coming} to come · take over
    </button>
  );
}

/** The day ribbon: which day, the session as a time line, and how time is run. */
export function Ribbon() {
  const time = useSession((s) => s.clock);
  const zone = useSettings((s) => s.secondZone);
  const [goTo, setGoTo] = useState<number | null>(null);
  return (
    <header
      className="panel relative flex items-center gap-3 border-x-0 border-t-0 px-3 py-1"
      aria-label="Day ribbon"
    >
      <div className={`${zone === '' ? 'w-[178px]' : 'w-[262px]'} shrink-0`}>
        <div className="flex items-baseline gap-2">
          <span className="num text-xl leading-6 font-semibold" data-testid="clock">
            {time === null ? '––:––:––' : clock(time.now)}
          </span>
          <span className="text-[12px] text-quiet">{time?.session ?? ''}</span>
          {zone !== '' && <SecondClock />}
        </div>
        {time?.watching ? (
          <Watching watching={time.watching} />
        ) : (
          <Link
            href="/days"
            prefetch={false}
            className="block truncate text-[12px] text-quiet underline decoration-dotted underline-offset-2 hover:text-text"
            title={time?.character}
          >
            {time ? `${time.date} · ${time.title}` : 'Practice days'}
          </Link>
        )}
      </div>
      <TimeLine pick={setGoTo} />
      <TimeControls openGoTo={() => setGoTo(time?.now ?? null)} />
      {goTo !== null && time && <GoTo at={goTo} time={time} close={() => setGoTo(null)} />}
    </header>
  );
}

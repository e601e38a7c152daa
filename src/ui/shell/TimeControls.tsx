'use client';

import { Pause, Play } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { REGULAR_OPEN } from '@/core/units';
import { ask, useSession } from '../client';
import { clock } from '../format';
import { useShortlist } from '../lists';

const SPEEDS = [1, 5, 20, 60];
const small = 'btn num px-1.5 py-0 text-[12px] leading-5';

/** How time is run: at a speed, by steps, to a moment, to the next event, to the next day. */
export function TimeControls({ openGoTo }: { openGoTo: () => void }) {
  // Only what the buttons need: the clock itself changes with every frame.
  const off = useSession((s) => s.clock === null);
  const speed = useSession((s) => s.clock?.speed ?? 0);
  const jumping = useSession((s) => s.clock?.jumpingTo ?? null);
  const dayStart = useSession((s) => s.clock?.dayStart ?? 0);
  const opened = useSession((s) => s.clock !== null && s.clock.now >= s.clock.dayStart + REGULAR_OPEN);
  const over = useSession((s) => s.clock !== null && s.clock.now >= s.clock.dayStart + s.clock.hours.end);
  const shortlist = useShortlist().map((r) => r.symbol);
  const focus = useSession((s) => s.focus?.symbol);
  const wanted = useRef(1);
  useEffect(() => {
    if (speed > 0) wanted.current = speed;
  }, [speed]);
  const running = speed > 0 || jumping !== null;
  const set = (s: number) => void ask({ kind: 'speed', speed: s });
  return (
    <div className="shrink-0 text-[12px]">
      <div className="flex items-center gap-1" role="group" aria-label="Run time">
        <button
          type="button"
          className={`${small} flex w-[68px] items-center gap-1`}
          disabled={off || over}
          onClick={() => set(running ? 0 : wanted.current)}
        >
          {running ? <Pause size={12} aria-hidden /> : <Play size={12} aria-hidden />}
          {running ? 'Pause' : 'Run'}
        </button>
        {SPEEDS.map((s) => (
          <button
            key={s}
            type="button"
            className={small}
            aria-pressed={speed === s}
            aria-label={`Run at ${s} times`}
            disabled={off || over}
            onClick={() => set(s)}
          >
            {s}×
          </button>
        ))}
        <span className="ml-1 text-quiet">step</span>
        {(['print', 'second', 'bar'] as const).map((what) => (
          <button
            key={what}
            type="button"
            className={small}
            aria-label={`Step one ${what}`}
            disabled={off || over}
            onClick={() => void ask({ kind: 'step', what })}
          >
            {what}
          </button>
        ))}
      </div>
      <div className="mt-0.5 flex items-center gap-1" role="group" aria-label="Go to">
        <button
          type="button"
          className={small}
          aria-label="To the open"
          disabled={off || opened || jumping !== null}
          onClick={() => void ask({ kind: 'jump', to: dayStart + REGULAR_OPEN })}
        >
          To the open
        </button>
        <button
          type="button"
          className={small}
          disabled={off || over || jumping !== null}
          title="Runs on until one of your orders fills, or a symbol in focus, on the shortlist or held stops or resumes"
          onClick={() => void ask({ kind: 'next event', symbols: [...shortlist, ...(focus ? [focus] : [])] })}
        >
          Next event
        </button>
        <button type="button" className={small} disabled={off} onClick={openGoTo}>
          Go to…
        </button>
        <button type="button" className={small} disabled={off} onClick={() => void ask({ kind: 'next day' })}>
          Next day
        </button>
        {jumping !== null && <span className="num text-quiet">→ {clock(jumping, 'minutes')}</span>}
      </div>
    </div>
  );
}

'use client';

import { type FormEvent, useState } from 'react';
import { MINUTE, PRE_OPEN } from '@/core/units';
import type { ClockSlice } from '@/worker/session/slices';
import { ask } from '../client';
import { clock, readTime } from '../format';
import { RunOn } from './RunOn';

/** A time of the day to go to: a later one is run up to; an earlier one starts another attempt from there. */
export function GoTo({ at, time, close }: { at: number; time: ClockSlice; close: () => void }) {
  const [text, setText] = useState(clock(at, at % MINUTE === 0 ? 'minutes' : 'seconds'));
  const to = readTime(text);
  const end = time.hours.end;
  const problem =
    to === null
      ? 'Write a time of day such as 10:15 or 10:15:30.'
      : to < PRE_OPEN || to >= end
        ? `The day runs from 04:00 to ${clock(end, 'minutes')}.`
        : null;
  const back = to !== null && time.dayStart + to < time.now;
  const go = (e: FormEvent) => {
    e.preventDefault();
    if (problem !== null || to === null) return;
    const target = time.dayStart + to;
    void ask(back ? { kind: 'go back', to: target } : { kind: 'jump', to: target });
    close();
  };
  return (
    <div
      role="dialog"
      aria-label="Go to a time"
      className="panel absolute top-full right-3 z-20 w-[420px] bg-raised px-4 py-3 shadow-lg"
      onKeyDown={(e) => e.key === 'Escape' && close()}
    >
      <form onSubmit={go}>
        <label className="flex items-center gap-2">
          Go to
          <input
            className="field num w-28"
            autoFocus
            value={text}
            aria-invalid={problem !== null}
            onFocus={(e) => e.target.select()}
            onChange={(e) => setText(e.target.value)}
          />
        </label>
        <p className="my-2 text-[13px] text-quiet">
          {problem ??
            (back
              ? 'That is behind you. The day is run again up to there as another attempt; what you did after it is set aside and kept under Practice days.'
              : 'The day runs on to there at full speed.')}
        </p>
        <div className="flex gap-2">
          <button type="submit" className="btn" disabled={problem !== null}>
            {back ? 'Go back and try again' : 'Run to there'}
          </button>
          <button type="button" className="btn" onClick={close}>
            Stay
          </button>
        </div>
      </form>
      <RunOn time={time} close={close} />
    </div>
  );
}

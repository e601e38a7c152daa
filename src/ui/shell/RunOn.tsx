'use client';

import { type FormEvent, useState } from 'react';
import { nextTradingDay } from '@/core/units';
import type { RunUntil } from '@/worker/session/session-messages';
import type { ClockSlice } from '@/worker/session/slices';
import { ask, notice } from '../client';

/** Over many sessions: to the next fill of one's own, or to a date. */
export function RunOn({ time, close }: { time: ClockSlice; close: () => void }) {
  const [date, setDate] = useState(() => nextTradingDay(nextTradingDay(time.date)));
  const written = /^\d{4}-\d{2}-\d{2}$/.test(date);
  const start = async (until: RunUntil) => {
    close();
    const came = await ask({ kind: 'run on', until });
    if (came?.kind === 'came') notice(came.text);
  };
  const go = (e: FormEvent) => {
    e.preventDefault();
    if (written) void start({ kind: 'date', date });
  };
  return (
    <form className="mt-3 border-line border-t pt-3" aria-label="Run over many sessions" onSubmit={go}>
      <p className="mb-2 text-[13px] text-quiet">
        {written
          ? 'Over nights: what you hold, ordered and wait for runs in full, everything else by its plan. Up to 60 sessions.'
          : 'Write a date such as 2027-03-19.'}
      </p>
      <div className="flex items-center gap-2">
        <button type="button" className="btn whitespace-nowrap" onClick={() => void start({ kind: 'fill' })}>
          To my next fill
        </button>
        <input
          className="field num w-28"
          aria-label="Date to run to"
          value={date}
          aria-invalid={!written}
          onFocus={(e) => e.target.select()}
          onChange={(e) => setDate(e.target.value)}
        />
        <button type="submit" className="btn whitespace-nowrap" disabled={!written}>
          To its 04:00
        </button>
      </div>
    </form>
  );
}

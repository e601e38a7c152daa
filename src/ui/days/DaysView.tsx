'use client';

import { useCallback, useEffect, useState } from 'react';
import type { DayRef } from '@/session/day-ref';
import type { DayChoice } from '@/worker/session/session-messages';
import { ask, useSession } from '../client';
import { Attempts } from './Attempts';
import { DayList } from './DayList';
import { ImportPanel } from './ImportPanel';
import { OwnDays } from './OwnDays';
import { SaveDay } from './SaveDay';

/** Practice days: choose one, bring your own data, and compare the attempts at them. */
export function DaysView() {
  const [choice, setChoice] = useState<DayChoice | null>(null);
  const attempt = useSession((s) => s.clock?.attempt);
  const load = useCallback(async () => {
    const answer = await ask({ kind: 'days' });
    if (answer) setChoice(answer.days);
  }, []);
  // Another attempt changes what stands in the lists.
  useEffect(() => {
    void attempt;
    void load();
  }, [load, attempt]);
  const start = (day: DayRef) => void ask({ kind: 'start day', day });
  if (!choice) return <main className="p-4 text-quiet">The practice days are being read.</main>;
  return (
    <main className="grid h-full grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-1.5 p-1.5">
      <h1 className="sr-only">Practice days</h1>
      <DayList choice={choice} start={start} />
      <div className="flex min-h-0 flex-col gap-1.5 overflow-auto">
        <Attempts choice={choice} />
        <OwnDays choice={choice} start={start} changed={load} />
        <ImportPanel kept={load} />
        <SaveDay />
      </div>
    </main>
  );
}

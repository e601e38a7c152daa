'use client';

import { useEffect } from 'react';
import { useSettings } from '../settings';
import { cameFor } from './came-for';
import { RehearsalForm } from './RehearsalForm';
import { RehearsalResults } from './RehearsalResults';
import { loadRehearsals, useRehearsals } from './rehearsals';

/** Rehearse: keys pressed by a rule over many days, and what that comes to. */
export function RehearseView() {
  const trouble = useRehearsals((s) => s.trouble);
  const loaded = useSettings((s) => s.loaded);
  useEffect(() => void loadRehearsals(), []);
  useEffect(() => {
    if (loaded) cameFor(location.search);
  }, [loaded]);
  return (
    <main className="grid h-full grid-cols-[430px_1fr] gap-1.5 p-1.5">
      <RehearsalForm />
      <div className="flex min-h-0 min-w-0 flex-col gap-1.5">
        {trouble && (
          <p role="alert" className="panel px-3 py-2">
            ⚠ {trouble}
          </p>
        )}
        <RehearsalResults />
      </div>
    </main>
  );
}

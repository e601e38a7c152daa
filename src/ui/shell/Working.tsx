'use client';

import { ask, useSession } from '../client';

/** Long work under way: how far it has come, and how to end it. */
export function Working() {
  const work = useSession((s) => s.working);
  if (!work) return null;
  const part = Math.max(0, Math.min(1, work.part));
  return (
    <div
      role="status"
      aria-label="Work under way"
      className="panel fixed inset-x-0 top-24 z-30 mx-auto w-[420px] bg-raised px-5 py-4 shadow-lg"
    >
      <p className="mb-2">
        {work.what}: <span className="num">{work.words}</span>
      </p>
      <div className="h-2 bg-ground">
        <div className="h-2 bg-text" style={{ width: `${part * 100}%` }} />
      </div>
      {work.ending !== null && (
        <button type="button" className="btn mt-3" onClick={() => void ask({ kind: 'stop work' })}>
          {work.ending === 'here' ? 'Stop here' : 'Cancel, keep everything as it was'}
        </button>
      )}
    </div>
  );
}

'use client';

import { usePathname } from 'next/navigation';
import type { ReactNode } from 'react';
import { Boundary } from './Boundary';
import { DamagedRecords } from './DamagedRecords';

/** What the views read of the records that are kept. */
const READS: Readonly<Record<string, readonly string[]>> = {
  '/review': ['trades', 'remarks', 'attempts', 'imports', 'afters', 'own', 'past', 'mappings'],
  '/rehearse': ['rehearsals', 'days'],
  '/days': ['attempts', 'own'],
};

/** Keeps the navigation and every other view where one view cannot be shown, and says why. */
export function ViewBoundary({ children }: { children: ReactNode }) {
  const path = usePathname();
  const stores = READS[path];
  return (
    <Boundary key={path} instead={(trouble, again) => <CannotShow trouble={trouble} again={again} />}>
      {stores && <DamagedRecords stores={stores} />}
      {children}
    </Boundary>
  );
}

function CannotShow({ trouble, again }: { trouble: string; again: () => void }) {
  return (
    <main className="mx-auto max-w-3xl px-6 pt-12" role="alert">
      <h1 className="mb-2 font-semibold text-xl">This view cannot be shown</h1>
      <p className="mb-3">{trouble}</p>
      <p className="mb-3 text-quiet">The session goes on, and every other view works.</p>
      <button type="button" className="btn mb-4" onClick={again}>
        Show it again
      </button>
      <DamagedRecords none="None of the records that are kept is damaged." />
    </main>
  );
}

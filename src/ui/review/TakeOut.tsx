'use client';

import { useState } from 'react';
import type { FileKind } from '@/worker/review/review-messages';
import { downloadFile } from '../download';
import { askReview, useLens } from './asked';

const KINDS: readonly (readonly [FileKind, string])[] = [
  ['executions csv', 'Executions, CSV'],
  ['executions parquet', 'Executions, Parquet'],
  ['executions fix', 'Executions, FIX 4.4'],
  ['trades csv', 'Trades, CSV'],
  ['trades json', 'Trades, JSON'],
];

/** The trades that fit the filter, as files. */
export function TakeOut() {
  const filter = useLens((s) => s.filter);
  const [problem, setProblem] = useState<string | null>(null);
  const make = (as: FileKind) =>
    askReview({ kind: 'file', filter, as }).then(
      (f) => {
        setProblem(null);
        downloadFile(f.name, f.type, f.content);
      },
      (e: unknown) => setProblem(e instanceof Error ? e.message : String(e)),
    );
  return (
    <section className="panel px-3 py-2 text-[13px]" aria-label="Take trades out">
      <h2 className="heading">Take the trades that fit out</h2>
      <div className="mt-1 flex flex-wrap gap-2">
        {KINDS.map(([kind, name]) => (
          <button key={kind} type="button" className="btn" onClick={() => void make(kind)}>
            {name}
          </button>
        ))}
      </div>
      <p className="mt-1 text-quiet">
        CSV, Parquet and FIX carry executions, each with an identity of its own, so that taking them in again
        adds nothing twice. Notes, tags, grades and plans go with JSON and with the whole app as one file.
        Without a filter what is still open goes along.
      </p>
      {problem && (
        <p role="alert" className="mt-1">
          ⚠ {problem}
        </p>
      )}
    </section>
  );
}

'use client';

import { type ReactNode, useRef } from 'react';
import type { ExecutionsBy } from '@/core/review';
import { TradeSheet } from './TradeSheet';
import { useOpened } from './trade-open';
import { usePaged } from './usePaged';

const KINDS: readonly (readonly [ExecutionsBy | null, string])[] = [
  [null, 'Trades'],
  ['each', 'Executions'],
  ['order', 'by order'],
  ['symbol', 'by symbol'],
  ['day', 'by day'],
];

/** A long list of trades (null) or of their executions, its headings above, its rows fetched as they come into sight, one trade opened beside it. */
export function PagedList<T>({
  label,
  by,
  show,
  heads,
  width,
  rowHeight,
  what,
  fetch,
  row,
}: {
  label: string;
  by: ExecutionsBy | null;
  show(by: ExecutionsBy | null): void;
  heads: ReactNode;
  /** A class of its least width. */
  width: string;
  rowHeight: number;
  /** Says what is fetched: something else is fetched anew. */
  what: string;
  fetch(from: number, count: number): Promise<{ total: number; rows: T[] }>;
  row(of: T): ReactNode;
}) {
  const ref = useOpened((s) => s.ref);
  const box = useRef<HTMLDivElement>(null);
  const { seen, height, problem, row: rowAt } = usePaged<T>(box, what, rowHeight, fetch);
  return (
    <div className={`grid min-h-0 gap-1.5 ${ref ? 'grid-cols-[1fr_430px]' : ''}`}>
      <section className="panel flex min-h-0 flex-col overflow-x-auto" aria-label={label}>
        <div className="flex gap-1 px-3 pt-1.5" role="group" aria-label="What the list is of">
          {KINDS.map(([kind, name]) => (
            <button
              key={name}
              type="button"
              className="btn px-2 py-0 text-[12px]"
              aria-pressed={by === kind}
              onClick={() => show(kind)}
            >
              {name}
            </button>
          ))}
        </div>
        {heads}
        {problem && (
          <p role="alert" className="p-3">
            ⚠ {problem}
          </p>
        )}
        <div ref={box} className="min-h-0 grow overflow-y-auto text-[13px]">
          <div className={`relative ${width}`} style={{ height }}>
            {seen.map((item) => {
              const of = rowAt(item.index);
              return (
                <div
                  key={item.key}
                  className="absolute w-full"
                  style={{ top: item.start, height: rowHeight }}
                >
                  {of === undefined ? <span className="px-3 text-quiet">…</span> : row(of)}
                </div>
              );
            })}
          </div>
        </div>
      </section>
      {ref && <TradeSheet reference={ref} />}
    </div>
  );
}

'use client';

import { type ReactNode, useState } from 'react';
import { PlainTable } from '../primitives/PlainTable';

/** A picture with its numbers as a table behind one press. */
export function Picture({
  title,
  note,
  beside,
  table,
  children,
}: {
  title: string;
  note?: ReactNode;
  beside?: ReactNode;
  table: { heads: readonly string[]; rows: readonly (readonly ReactNode[])[] };
  children: ReactNode;
}) {
  const [asTable, setAsTable] = useState(false);
  return (
    <section className="panel flex min-h-0 flex-col px-3 py-2" aria-label={title}>
      <div className="flex items-baseline gap-2">
        <h2 className="heading whitespace-nowrap">{title}</h2>
        <span className="truncate text-[12px] text-quiet">{note}</span>
        <span className="ml-auto flex gap-1">
          {beside}
          <button
            type="button"
            className="btn px-2 py-0 text-[12px]"
            aria-pressed={asTable}
            aria-label={`${title} as a table`}
            onClick={() => setAsTable(!asTable)}
          >
            Table
          </button>
        </span>
      </div>
      {asTable ? (
        <div className="min-h-0 grow overflow-auto">
          <PlainTable {...table} />
        </div>
      ) : (
        <div className="min-h-0 grow pt-1">{children}</div>
      )}
    </section>
  );
}

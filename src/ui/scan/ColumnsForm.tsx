'use client';

import { FIELDS } from '@/core/market';
import { Tick } from '../primitives/Tick';

/** Which fields the table shows. Their order is changed by dragging the heads. */
export function ColumnsForm({
  columns,
  change,
}: {
  columns: readonly string[];
  change(columns: string[]): void;
}) {
  return (
    <fieldset className="grid w-[520px] grid-cols-3 gap-x-3 gap-y-1 p-3 text-[13px]">
      <legend className="sr-only">Columns</legend>
      {FIELDS.map((f) => (
        <Tick
          key={f.name}
          on={columns.includes(f.name)}
          change={(on) => change(on ? [...columns, f.name] : columns.filter((c) => c !== f.name))}
        >
          <span title={f.meaning}>{f.name}</span>
        </Tick>
      ))}
    </fieldset>
  );
}

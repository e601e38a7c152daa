'use client';

import { FIELDS } from '@/core/market';

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
        <label key={f.name} className="flex items-center gap-1.5" title={f.meaning}>
          <input
            type="checkbox"
            checked={columns.includes(f.name)}
            onChange={(e) =>
              change(e.target.checked ? [...columns, f.name] : columns.filter((c) => c !== f.name))
            }
          />
          {f.name}
        </label>
      ))}
    </fieldset>
  );
}

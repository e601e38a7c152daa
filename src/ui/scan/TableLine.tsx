// biome-ignore-all lint/a11y/useFocusableInteractive: the grid holds the focus and names the chosen row by aria-activedescendant
// biome-ignore-all lint/a11y/useKeyWithClickEvents: keys go to the grid itself
'use client';

import { memo } from 'react';
import { type Field, fieldText, isMove } from '@/core/market';
import type { TableSlice } from '@/worker/session/slices';
import { Spark } from './Spark';
import { ROW, SPARK_WIDTH } from './table-look';
import type { Row } from './useRows';

interface LineProps {
  row: Row;
  number: number;
  top: number;
  width: number;
  template: string;
  fields: readonly Field[];
  table: TableSlice | null;
  line: Int32Array | undefined;
  chosen: boolean;
  listed: boolean;
  press(symbol: string): void;
  open(): void;
}

/** One row; drawn again only when something of it has changed, so that scrolling draws only the rows that come in. */
export const TableLine = memo(
  function Line({
    row,
    number,
    top,
    width,
    template,
    fields,
    table,
    line,
    chosen,
    listed,
    press,
    open,
  }: LineProps) {
    return (
      <div
        id={`row-${row.symbol}`}
        role="row"
        tabIndex={-1}
        data-symbol={row.symbol}
        aria-rowindex={number + 1}
        aria-selected={chosen}
        className={`num absolute left-0 grid cursor-pointer contain-strict items-center whitespace-nowrap hover:bg-raised ${chosen ? 'bg-raised' : ''} ${row.at < 0 ? 'opacity-50' : ''}`}
        style={{ top, height: ROW, width, gridTemplateColumns: template }}
        onClick={() => press(row.symbol)}
        onDoubleClick={open}
      >
        <div role="rowheader" className="flex items-baseline gap-2 overflow-hidden pl-2">
          <span className="w-6 shrink-0 text-right text-[12px] text-quiet">{number}</span>
          <span className={`font-bold ${chosen ? 'text-focus' : ''}`}>{row.symbol}</span>
          {listed && (
            <span className="text-[12px]" title="on the shortlist" role="img" aria-label="on the shortlist">
              ◆
            </span>
          )}
          {row.at < 0 ? <Mark text="left" /> : row.isNew && <Mark text="new" />}
        </div>
        <div role="gridcell" className="flex items-center">
          <Spark line={line} width={SPARK_WIDTH - 10} height={18} />
        </div>
        {fields.map((f) => (
          <Cell key={f.name} field={f} value={valueIn(table, f, row)} />
        ))}
      </div>
    );
  },
  (a, b) =>
    a.row.symbol === b.row.symbol &&
    a.row.isNew === b.row.isNew &&
    a.row.at < 0 === b.row.at < 0 &&
    a.number === b.number &&
    a.top === b.top &&
    a.width === b.width &&
    a.template === b.template &&
    a.fields === b.fields &&
    a.line === b.line &&
    a.chosen === b.chosen &&
    a.listed === b.listed &&
    (a.table === b.table ||
      a.fields.every((f) => Object.is(valueIn(a.table, f, a.row), valueIn(b.table, f, b.row)))),
);

const valueIn = (table: TableSlice | null, f: Field, row: Row): number =>
  row.at < 0 ? Number.NaN : (table?.columns[table.asked.columns.indexOf(f.name)]?.[row.at] ?? Number.NaN);

const Mark = ({ text }: { text: string }) => (
  <span className="rounded-sm border border-line px-1 font-sans text-[11px] leading-4 text-quiet">
    {text}
  </span>
);

function Cell({ field, value }: { field: Field; value: number }) {
  const tone = !isMove(field.name) || Number.isNaN(value) ? '' : value >= 0 ? 'text-up' : 'text-down';
  return (
    <div role="gridcell" className={`truncate pr-2 text-right ${Number.isNaN(value) ? 'text-quiet' : tone}`}>
      {fieldText(field, value)}
    </div>
  );
}

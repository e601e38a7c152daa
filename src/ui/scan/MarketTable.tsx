// biome-ignore-all lint/a11y/useFocusableInteractive: the grid holds the focus and names the chosen row by aria-activedescendant
// biome-ignore-all lint/a11y/useKeyWithClickEvents: keys go to the grid itself
'use client';

import { closestCenter, DndContext, type DragEndEvent, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { arrayMove, horizontalListSortingStrategy, SortableContext, sortableKeyboardCoordinates, useSortable } from '@dnd-kit/sortable';
import { useVirtualizer } from '@tanstack/react-virtual';
import { ArrowDown, ArrowUp, GripVertical } from 'lucide-react';
import { Tooltip } from 'radix-ui';
import { memo, type PointerEvent as ReactPointerEvent, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { type Field, fieldOf } from '@/core/market';
import type { TableSlice } from '@/worker/protocol';
import { toggleShortlist, useShortlist } from '../lists';
import { focusOn, useSession } from '../session';
import { isMove, showField } from '../show-field';
import { Spark, useSparks } from './Spark';
import { type Row, useRows } from './useRows';

const ROW = 26;
const SYMBOL_WIDTH = 132;
const SPARK_WIDTH = 66;
const USUAL_WIDTH = { least: 66, most: 110 };
const LEAST_WIDTH = 54;

export interface TableLook {
  columns: readonly string[];
  widths: readonly { field: string; px: number }[];
  sort: { field: string; down: boolean } | null;
  change(look: { columns?: string[]; widths?: { field: string; px: number }[]; sort?: { field: string; down: boolean } | null }): void;
}

interface Props {
  label: string;
  look: TableLook;
  /** Opens the focus on the Desk. */
  open(): void;
  /** Takes a symbol out of today's scans; null where that makes no sense. */
  hide: ((symbol: string) => void) | null;
  /** Asks for an alert on a symbol. */
  alert(symbol: string): void;
  /** What stands where no row is. */
  empty: React.ReactNode;
}

/**
 * The live table of symbols. Arrows move the focus, Enter opens it on the Desk, L puts it on the
 * shortlist, H hides it for today, N sets an alert. While the pointer is over it the order is held.
 */
export function MarketTable({ label, look, open, hide, alert, empty }: Props) {
  const [over, setOver] = useState(false);
  const { table, count, rowAt, indexOf, left, waiting } = useRows(over);
  const inFocus = useSession((s) => s.focus?.symbol);
  // What was chosen last counts at once; the session follows a moment later.
  const [chosenLast, setChosenLast] = useState<string | null>(null);
  const focus = chosenLast ?? inFocus;
  const listed = new Set(useShortlist().map((r) => r.symbol));
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({ count, getScrollElement: () => scroller.current, estimateSize: () => ROW, overscan: 8 });
  const shown = virtual.getVirtualItems();
  const sparks = useSparks(shown.flatMap((v) => rowAt(v.index)?.i ?? []));
  const fields = useMemo(() => look.columns.map(fieldOf), [look.columns]);
  const [room, setRoom] = useState(700);
  useEffect(() => {
    const el = scroller.current;
    if (!el) return;
    const watch = new ResizeObserver(() => setRoom(el.clientWidth));
    watch.observe(el);
    return () => watch.disconnect();
  }, []);
  // Columns that were not resized share the room.
  const share = Math.floor((room - SYMBOL_WIDTH - SPARK_WIDTH) / Math.max(1, fields.length));
  const usual = Math.max(USUAL_WIDTH.least, Math.min(USUAL_WIDTH.most, share));
  const width = (name: string) => look.widths.find((w) => w.field === name)?.px ?? usual;
  const template = `${SYMBOL_WIDTH}px ${SPARK_WIDTH}px ${fields.map((f) => `${width(f.name)}px`).join(' ')}`;
  const total = SYMBOL_WIDTH + SPARK_WIDTH + fields.reduce((a, f) => a + width(f.name), 0);

  const select = (symbol: string) => {
    setChosenLast(symbol);
    void focusOn(symbol).then(() => requestAnimationFrame(() => setChosenLast((c) => (c === symbol ? null : c))));
  };
  const latest = useRef(select);
  latest.current = select;
  const press = useCallback((symbol: string) => {
    latest.current(symbol);
    scroller.current?.focus({ preventScroll: true });
  }, []);
  const choose = (k: number) => {
    const to = Math.max(0, Math.min(count - 1, k));
    const row = rowAt(to);
    if (!row) return;
    virtual.scrollToIndex(to);
    select(row.symbol);
  };
  const onKey = (e: React.KeyboardEvent) => {
    if (e.target !== e.currentTarget || e.ctrlKey || e.altKey || e.metaKey) return;
    if (e.key === 'Enter' && /confirm|moving/.test(useSession.getState().sayBack.kind)) return;
    const at = indexOf(focus);
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? ROW) / ROW) - 2);
    if (e.key === 'ArrowDown') choose(at + 1);
    else if (e.key === 'ArrowUp') choose(at - 1);
    else if (e.key === 'PageDown') choose(at + page);
    else if (e.key === 'PageUp') choose(at - page);
    else if (e.key === 'Home') choose(0);
    else if (e.key === 'End') choose(count - 1);
    else if (at < 0) return;
    else if (e.key === 'Enter') open();
    else if (e.code === 'KeyL') toggleShortlist(focus as string);
    else if (e.code === 'KeyN') alert(focus as string);
    else if (e.code === 'KeyH' && hide) {
      hide(focus as string);
      choose(at + (at + 1 < count ? 1 : -1));
    } else return;
    e.preventDefault();
  };
  return (
    <section className="panel flex min-h-0 flex-col" aria-label={label}>
      <div
        ref={scroller}
        role="grid"
        tabIndex={0}
        aria-label={`${label}: arrows choose, Enter opens on the Desk, L shortlist, H hide, N alert`}
        aria-rowcount={count + 1}
        aria-activedescendant={shown.some((v) => rowAt(v.index)?.symbol === focus) ? `row-${focus}` : undefined}
        className="min-h-0 grow overflow-auto focus-visible:-outline-offset-2"
        onKeyDown={onKey}
      >
        <Heads fields={fields} template={template} total={total} look={look} width={width} />
        <div
          role="rowgroup"
          style={{ height: virtual.getTotalSize(), width: total, position: 'relative' }}
          onPointerEnter={() => setOver(true)}
          onPointerLeave={() => setOver(false)}
        >
          {shown.map((v) => {
            const row = rowAt(v.index);
            if (!row) return null;
            return (
              <Line
                key={row.i}
                row={row}
                number={v.index + 1}
                top={v.start}
                width={total}
                template={template}
                fields={fields}
                table={table}
                line={sparks.get(row.i)}
                chosen={row.symbol === focus}
                listed={listed.has(row.symbol)}
                press={press}
                open={open}
              />
            );
          })}
        </div>
        {table && count === 0 && <div className="p-4 text-quiet">{empty}</div>}
        {!table && <p className="p-4 text-quiet">The first pass over the market is under way.</p>}
      </div>
      <p className="flex min-h-6 items-center gap-4 border-t border-line px-3 text-[12px] text-quiet" aria-live="off">
        {waiting ? (
          <span className="shrink-0 text-text">
            Order held while the pointer is here
            {waiting.came > 0 && ` · ${waiting.came} more waiting`}
            {waiting.went > 0 && ` · ${waiting.went} left`}
          </span>
        ) : (
          <span className="shrink-0">↑ ↓ choose · Enter Desk · L shortlist{hide ? ' · H hide today' : ''} · N alert</span>
        )}
        {left.length > 0 && <span className="num ml-auto truncate">left just now: {left.slice(0, 6).join(' ')}</span>}
      </p>
    </section>
  );
}

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
const Line = memo(
  function Line({ row, number, top, width, template, fields, table, line, chosen, listed, press, open }: LineProps) {
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
    (a.table === b.table || a.fields.every((f) => Object.is(valueIn(a.table, f, a.row), valueIn(b.table, f, b.row)))),
);

const valueIn = (table: TableSlice | null, f: Field, row: Row): number =>
  row.at < 0 ? Number.NaN : (table?.columns[table.asked.columns.indexOf(f.name)]?.[row.at] ?? Number.NaN);

const Mark = ({ text }: { text: string }) => <span className="rounded-sm border border-line px-1 font-sans text-[11px] leading-4 text-quiet">{text}</span>;

function Cell({ field, value }: { field: Field; value: number }) {
  const tone = !isMove(field.name) || Number.isNaN(value) ? '' : value >= 0 ? 'text-up' : 'text-down';
  return (
    <div role="gridcell" className={`truncate pr-2 text-right ${Number.isNaN(value) ? 'text-quiet' : tone}`}>
      {showField(field, value)}
    </div>
  );
}

interface HeadsProps {
  fields: Field[];
  template: string;
  total: number;
  look: TableLook;
  width(name: string): number;
}

/** The column heads: press to sort, drag the grip to move, the edge to widen; hovering gives the formula. */
function Heads({ fields, template, total, look, width }: HeadsProps) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const onEnd = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    const names = look.columns;
    look.change({ columns: arrayMove([...names], names.indexOf(String(active.id)), names.indexOf(String(over.id))) });
  };
  return (
    <div
      role="row"
      className="sticky top-0 z-10 grid border-b border-line bg-panel text-[12px] text-quiet"
      style={{ gridTemplateColumns: template, width: total }}
    >
      <div
        role="columnheader"
        aria-sort={look.sort?.field !== 'symbol' ? 'none' : look.sort.down ? 'descending' : 'ascending'}
        className="py-1 pl-10 text-left"
      >
        <button
          type="button"
          className={look.sort?.field === 'symbol' ? 'text-text' : ''}
          onClick={() =>
            look.change({ sort: look.sort?.field !== 'symbol' ? { field: 'symbol', down: false } : look.sort.down ? null : { field: 'symbol', down: true } })
          }
        >
          Symbol
        </button>
      </div>
      <div role="columnheader" className="py-1">
        Today
      </div>
      <Tooltip.Provider delayDuration={250}>
        <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onEnd} accessibility={{ container: document.body }}>
          <SortableContext items={fields.map((f) => f.name)} strategy={horizontalListSortingStrategy}>
            {fields.map((f) => (
              <Head key={f.name} field={f} look={look} width={width(f.name)} />
            ))}
          </SortableContext>
        </DndContext>
      </Tooltip.Provider>
    </div>
  );
}

function Head({ field, look, width }: { field: Field; look: TableLook; width: number }) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform } = useSortable({ id: field.name });
  const { sort } = look;
  const mine = sort?.field === field.name;
  // Largest first, then smallest first, then the scan's own order again.
  const next = !mine ? { field: field.name, down: true } : sort?.down ? { field: field.name, down: false } : null;
  const widen = (px: number) =>
    look.change({
      widths: [...look.widths.filter((w) => w.field !== field.name), { field: field.name, px: Math.max(LEAST_WIDTH, Math.min(400, Math.round(px))) }],
    });
  const resize = (e: ReactPointerEvent) => {
    e.preventDefault();
    const from = e.clientX;
    const apply = (ev: PointerEvent) => widen(width + ev.clientX - from);
    const end = () => {
      window.removeEventListener('pointermove', apply);
      window.removeEventListener('pointerup', end);
    };
    window.addEventListener('pointermove', apply);
    window.addEventListener('pointerup', end);
  };
  return (
    <div
      ref={setNodeRef}
      role="columnheader"
      aria-sort={mine ? (sort?.down ? 'descending' : 'ascending') : 'none'}
      className="group relative flex items-center justify-end pr-2"
      style={{ transform: transform ? `translateX(${Math.round(transform.x)}px)` : undefined }}
    >
      <button
        ref={setActivatorNodeRef}
        type="button"
        className="absolute left-0 cursor-grab opacity-0 group-hover:opacity-100 focus-visible:opacity-100"
        {...attributes}
        {...listeners}
        aria-label={`Move the column ${field.label}`}
      >
        <GripVertical size={12} aria-hidden />
      </button>
      <Tooltip.Root>
        <Tooltip.Trigger asChild>
          <button type="button" className={`flex items-center gap-0.5 truncate py-1 ${mine ? 'text-text' : ''}`} onClick={() => look.change({ sort: next })}>
            {mine && (sort?.down ? <ArrowDown size={12} aria-hidden /> : <ArrowUp size={12} aria-hidden />)}
            <span className="truncate underline decoration-dotted underline-offset-4">{field.label}</span>
          </button>
        </Tooltip.Trigger>
        <Tooltip.Portal>
          <Tooltip.Content side="bottom" className="panel z-50 max-w-80 bg-raised px-3 py-2 text-[13px]">
            <b className="num">{field.name}</b>: {field.meaning}
          </Tooltip.Content>
        </Tooltip.Portal>
      </Tooltip.Root>
      <span
        role="separator"
        tabIndex={0}
        aria-orientation="vertical"
        aria-label={`Width of the column ${field.label}`}
        aria-valuenow={width}
        aria-valuemin={LEAST_WIDTH}
        aria-valuemax={400}
        className="absolute top-0 right-0 h-full w-2 cursor-col-resize hover:bg-line"
        onPointerDown={resize}
        onKeyDown={(e) => {
          if (e.key !== 'ArrowLeft' && e.key !== 'ArrowRight') return;
          e.preventDefault();
          widen(width + (e.key === 'ArrowRight' ? 8 : -8));
        }}
      />
    </div>
  );
}

/** The table takes the keyboard when its view opens. */
export function useTableFocus(label: string): void {
  useEffect(() => {
    document.querySelector<HTMLElement>(`[role="grid"][aria-label^="${label}"]`)?.focus({ preventScroll: true });
  }, [label]);
}

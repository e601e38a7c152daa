// biome-ignore-all lint/a11y/useFocusableInteractive: the grid holds the focus and names the chosen row by aria-activedescendant
'use client';

import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  arrayMove,
  horizontalListSortingStrategy,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
} from '@dnd-kit/sortable';
import { ArrowDown, ArrowUp, GripVertical } from 'lucide-react';
import { Tooltip } from 'radix-ui';
import type { PointerEvent as ReactPointerEvent } from 'react';
import type { Field } from '@/core/market';
import { LEAST_WIDTH, type TableLook } from './table-look';

interface HeadsProps {
  fields: Field[];
  template: string;
  total: number;
  look: TableLook;
  width(name: string): number;
}

/** The column heads: press to sort, drag the grip to move, the edge to widen; hovering gives the formula. */
export function ColumnHeads({ fields, template, total, look, width }: HeadsProps) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const onEnd = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    const names = look.columns;
    look.change({
      columns: arrayMove([...names], names.indexOf(String(active.id)), names.indexOf(String(over.id))),
    });
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
            look.change({
              sort:
                look.sort?.field !== 'symbol'
                  ? { field: 'symbol', down: false }
                  : look.sort.down
                    ? null
                    : { field: 'symbol', down: true },
            })
          }
        >
          Symbol
        </button>
      </div>
      <div role="columnheader" className="py-1">
        Today
      </div>
      <Tooltip.Provider delayDuration={250}>
        <DndContext
          sensors={sensors}
          collisionDetection={closestCenter}
          onDragEnd={onEnd}
          accessibility={{ container: document.body }}
        >
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
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform } = useSortable({
    id: field.name,
  });
  const { sort } = look;
  const mine = sort?.field === field.name;
  // Largest first, then smallest first, then the scan's own order again.
  const next = !mine
    ? { field: field.name, down: true }
    : sort?.down
      ? { field: field.name, down: false }
      : null;
  const widen = (px: number) =>
    look.change({
      widths: [
        ...look.widths.filter((w) => w.field !== field.name),
        { field: field.name, px: Math.max(LEAST_WIDTH, Math.min(400, Math.round(px))) },
      ],
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
          <button
            type="button"
            className={`flex items-center gap-0.5 truncate py-1 ${mine ? 'text-text' : ''}`}
            onClick={() => look.change({ sort: next })}
          >
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

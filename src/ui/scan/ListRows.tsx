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
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { GripVertical, X } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useRef } from 'react';
import { fieldOf, fieldText, isMove } from '@/core/market';
import type { ListRow } from '@/store/settings';
import { focusOn, useSession } from '../client';
import { Choice } from '../primitives/Choice';

interface RowsProps {
  name: string;
  rows: ListRow[];
  put(rows: ListRow[]): void;
  columns: readonly string[];
  alert(symbol: string): void;
}

/** The rows of a list: reordered by drag or with Alt and the arrows, graded, noted, taken off. */
export function ListRows({ name, rows, put, columns, alert }: RowsProps) {
  const router = useRouter();
  const focus = useSession((s) => s.focus?.symbol);
  const table = useSession((s) => s.table);
  const symbols = useSession((s) => s.symbols);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const body = useRef<HTMLTableSectionElement>(null);
  if (rows.length === 0)
    return (
      <section className="panel p-4 text-quiet" aria-label={name}>
        Nobody is on it yet. Choose candidates in a scan with L, or type symbols above.
      </section>
    );
  const place = new Map<string, number>();
  if (table?.asked.source.kind === 'list')
    table.who.forEach((i, at) => void place.set(symbols?.[i] ?? '', at));
  const known = new Set(symbols ?? []);
  const onEnd = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    const ids = rows.map((r) => r.symbol);
    put(arrayMove(rows, ids.indexOf(String(active.id)), ids.indexOf(String(over.id))));
  };
  const go = (k: number) => {
    const row = rows[Math.max(0, Math.min(rows.length - 1, k))];
    if (!row) return;
    if (known.has(row.symbol)) void focusOn(row.symbol);
    body.current?.querySelector<HTMLElement>(`[data-symbol="${row.symbol}"]`)?.focus();
  };
  const onKey = (e: React.KeyboardEvent, k: number, symbol: string) => {
    if (e.target !== e.currentTarget) return;
    const by = e.key === 'ArrowDown' ? 1 : e.key === 'ArrowUp' ? -1 : 0;
    if (by !== 0 && e.altKey) put(arrayMove(rows, k, Math.max(0, Math.min(rows.length - 1, k + by))));
    else if (by !== 0) go(k + by);
    else if (e.key === 'Enter' && !/confirm|moving/.test(useSession.getState().sayBack.kind))
      router.push('/desk');
    else if (e.key === 'Delete') put(rows.filter((x) => x.symbol !== symbol));
    else if (e.code === 'KeyN' && !e.ctrlKey) alert(symbol);
    else return;
    e.preventDefault();
  };
  return (
    <section className="panel min-h-0 overflow-auto" aria-label={name}>
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={onEnd}
        accessibility={{ container: document.body }}
      >
        <table className="plain text-[13px]">
          <thead>
            <tr>
              <th scope="col">Symbol</th>
              <th scope="col">Grade</th>
              {columns.map((c) => (
                <th key={c} scope="col" title={fieldOf(c).meaning}>
                  {fieldOf(c).label}
                </th>
              ))}
              <th scope="col" className="w-full text-left!">
                Note
              </th>
              <th scope="col">
                <span className="sr-only">Remove</span>
              </th>
            </tr>
          </thead>
          <tbody ref={body} className="num">
            <SortableContext items={rows.map((r) => r.symbol)} strategy={verticalListSortingStrategy}>
              {rows.map((r, k) => {
                const at = place.get(r.symbol);
                return (
                  <ListLine
                    key={r.symbol}
                    row={r}
                    chosen={r.symbol === focus}
                    unknown={symbols !== null && !known.has(r.symbol)}
                    cells={columns.map((c) => {
                      const v =
                        at === undefined
                          ? Number.NaN
                          : (table?.columns[table.asked.columns.indexOf(c)]?.[at] ?? Number.NaN);
                      return {
                        name: c,
                        text: fieldText(fieldOf(c), v),
                        tone: Number.isNaN(v)
                          ? 'text-quiet'
                          : !isMove(c)
                            ? ''
                            : v >= 0
                              ? 'text-up'
                              : 'text-down',
                      };
                    })}
                    change={(part) => put(rows.map((x) => (x.symbol === r.symbol ? { ...x, ...part } : x)))}
                    remove={() => put(rows.filter((x) => x.symbol !== r.symbol))}
                    onClick={() => go(k)}
                    onKey={(e) => onKey(e, k, r.symbol)}
                  />
                );
              })}
            </SortableContext>
          </tbody>
        </table>
      </DndContext>
      <p className="px-3 py-2 text-[12px] text-quiet">
        ↑ ↓ choose · Alt+↑ ↓ move · Enter Desk · N alert · Delete takes off
      </p>
    </section>
  );
}

interface LineProps {
  row: ListRow;
  chosen: boolean;
  unknown: boolean;
  cells: { name: string; text: string; tone: string }[];
  change(part: Partial<ListRow>): void;
  remove(): void;
  onClick(): void;
  onKey(e: React.KeyboardEvent): void;
}

function ListLine({ row, chosen, unknown, cells, change, remove, onClick, onKey }: LineProps) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform } = useSortable({
    id: row.symbol,
  });
  return (
    <tr
      ref={setNodeRef}
      data-symbol={row.symbol}
      tabIndex={chosen ? 0 : -1}
      aria-selected={chosen}
      className={`hover:bg-raised ${chosen ? 'bg-raised' : ''}`}
      style={{ transform: transform ? `translateY(${Math.round(transform.y)}px)` : undefined }}
      onClick={onClick}
      onKeyDown={onKey}
    >
      <td className="whitespace-nowrap">
        <button
          ref={setActivatorNodeRef}
          type="button"
          className="mr-1 cursor-grab align-middle text-quiet"
          {...attributes}
          {...listeners}
          aria-label={`Move ${row.symbol}`}
        >
          <GripVertical size={13} aria-hidden />
        </button>
        <span className={`font-bold ${chosen ? 'text-focus' : ''}`}>{row.symbol}</span>
        {unknown && <span className="ml-2 font-sans text-[12px] text-quiet">not traded today</span>}
      </td>
      <td>
        <Choice<ListRow['grade']>
          label={`Grade of ${row.symbol}`}
          className="w-11 px-1 py-0"
          value={row.grade}
          options={[
            ['', '–'],
            ['A', 'A'],
            ['B', 'B'],
            ['C', 'C'],
          ]}
          change={(grade) => change({ grade })}
        />
      </td>
      {cells.map((c) => (
        <td key={c.name} className={c.tone}>
          {c.text}
        </td>
      ))}
      <td>
        <input
          className="field w-full min-w-32 px-1 py-0 font-sans"
          aria-label={`Note on ${row.symbol}`}
          value={row.note}
          onClick={(e) => e.stopPropagation()}
          onChange={(e) => change({ note: e.target.value })}
        />
      </td>
      <td>
        <button
          type="button"
          className="text-quiet hover:text-text"
          aria-label={`Take ${row.symbol} off`}
          onClick={remove}
        >
          <X size={14} aria-hidden />
        </button>
      </td>
    </tr>
  );
}

'use client';

import { closestCenter, DndContext, type DragEndEvent, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { arrayMove, SortableContext, sortableKeyboardCoordinates, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { GripVertical, X } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { readWatchlist, watchlistCsv } from '@/core/formats';
import { fieldOf } from '@/core/market';
import type { ListRow } from '@/store/settings';
import { download } from '../download';
import { setShortlist, symbolsIn, useShortlist } from '../lists';
import { Pop } from '../primitives/Pop';
import { focusOn, useSession } from '../session';
import { useSettings } from '../settings';
import { isMove, showField } from '../show-field';
import { ColumnsForm } from './ColumnsForm';
import { useTable } from './useTable';

/** The list on the table: today's shortlist, or a watchlist. */
function useList(): { name: string; rows: ListRow[]; put(rows: ListRow[]): void; rename: ((name: string) => void) | null; remove: (() => void) | null } {
  const shown = useSettings((s) => s.shown);
  const lists = useSettings((s) => s.lists);
  const set = useSettings((s) => s.set);
  const shortlist = useShortlist();
  const shortlists = useSettings((s) => s.shortlists);
  const list = lists.find((l) => shown === `list:${l.id}`);
  const past = shortlists.find((l) => shown === `past:${l.date}`);
  if (past)
    return {
      name: `Shortlist of ${past.date}`,
      rows: past.rows,
      put: (rows) => set({ shortlists: shortlists.map((l) => (l.date === past.date ? { ...l, rows } : l)) }),
      rename: null,
      remove: () => set({ shortlists: shortlists.filter((l) => l.date !== past.date), shown: 'shortlist' }),
    };
  if (!list) return { name: 'Shortlist of today', rows: shortlist, put: setShortlist, rename: null, remove: null };
  const change = (part: Partial<typeof list>) => set({ lists: lists.map((l) => (l.id === list.id ? { ...l, ...part } : l)) });
  return {
    name: list.name,
    rows: list.rows,
    put: (rows) => change({ rows }),
    rename: (name) => change({ name }),
    remove: () => set({ lists: lists.filter((l) => l.id !== list.id), shown: 'shortlist' }),
  };
}

/** A watchlist or the shortlist: reordered by drag, filled by paste or file, with grades and notes beside live values. */
export function ListTable({ alert }: { alert(symbol: string): void }) {
  const { name, rows, put, rename, remove } = useList();
  const columns = useSettings((s) => s.listColumns);
  const set = useSettings((s) => s.set);
  const [message, setMessage] = useState('');
  const file = useRef<HTMLInputElement>(null);
  useTable({ source: { kind: 'list', symbols: rows.map((r) => r.symbol) }, columns, sort: null });
  const add = (symbols: readonly Partial<ListRow>[]) => {
    const fresh = symbols.filter((s) => !rows.some((r) => r.symbol === s.symbol)).map((s) => ({ grade: '' as const, note: '', ...s, symbol: s.symbol ?? '' }));
    put([...rows, ...fresh]);
    const known = new Set(useSession.getState().symbols ?? []);
    const unknown = fresh.filter((f) => !known.has(f.symbol)).map((f) => f.symbol);
    setMessage(
      `${fresh.length} added${symbols.length > fresh.length ? `, ${symbols.length - fresh.length} there already` : ''}.${unknown.length > 0 ? ` Not traded today, kept as unknown: ${unknown.join(', ')}.` : ''}`,
    );
    return fresh.length;
  };
  const importFile = async (f: File) => {
    const Papa = (await import('papaparse')).default;
    const read = readWatchlist(Papa.parse<string[]>(await f.text(), { skipEmptyLines: true }).data);
    add(read.rows);
    if (read.bad.length > 0)
      setMessage(
        (m) =>
          `${m} No symbol in ${read.bad
            .slice(0, 4)
            .map((b) => `line ${b.line} (“${b.value}”)`)
            .join(', ')}${read.bad.length > 4 ? ` and ${read.bad.length - 4} more` : ''}.`,
      );
  };
  return (
    <div className="grid min-h-0 grid-rows-[auto_minmax(0,1fr)] gap-1.5">
      <section className="panel flex flex-wrap items-center gap-1.5 px-3 py-1.5" aria-label="List">
        {rename ? (
          <input
            className="field w-52 py-0.5 font-semibold"
            aria-label="Name of the list"
            value={name}
            maxLength={40}
            onChange={(e) => rename(e.target.value)}
          />
        ) : (
          <h2 className="mr-2 font-semibold">{name}</h2>
        )}
        <Paste add={(text) => add(symbolsIn(text).map((symbol) => ({ symbol })))} />
        <button type="button" className="btn px-2 py-0.5 text-[13px]" onClick={() => file.current?.click()}>
          Import CSV
        </button>
        <input
          ref={file}
          type="file"
          accept=".csv,.txt"
          className="hidden"
          aria-label="A CSV with symbols"
          onChange={(e) => {
            const [f] = e.target.files ?? [];
            if (f) void importFile(f);
            e.target.value = '';
          }}
        />
        <button
          type="button"
          className="btn px-2 py-0.5 text-[13px]"
          disabled={rows.length === 0}
          onClick={() => download(`${name.toLowerCase().replaceAll(' ', '-')}.csv`, 'text/csv', watchlistCsv(rows))}
        >
          Export CSV
        </button>
        <Pop title="Columns" label={`${columns.length} columns`}>
          <ColumnsForm columns={columns} change={(listColumns) => set({ listColumns })} />
        </Pop>
        {remove && (
          <button type="button" className="btn ml-auto px-2 py-0.5 text-[13px]" onClick={remove}>
            Delete this list
          </button>
        )}
        <p className="w-full text-[13px] text-quiet" role="status">
          {message}
        </p>
      </section>
      <Rows rows={rows} put={put} columns={columns} alert={alert} name={name} />
    </div>
  );
}

function Paste({ add }: { add(text: string): number }) {
  const [text, setText] = useState('');
  return (
    <form
      className="flex gap-1"
      onSubmit={(e) => {
        e.preventDefault();
        add(text);
        setText('');
      }}
    >
      <input
        className="field num w-56 py-0.5 text-[13px]"
        aria-label="Type or paste symbols"
        placeholder="type or paste symbols"
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <button type="submit" className="btn px-2 py-0.5 text-[13px]" disabled={symbolsIn(text).length === 0}>
        Add
      </button>
    </form>
  );
}

interface RowsProps {
  name: string;
  rows: ListRow[];
  put(rows: ListRow[]): void;
  columns: readonly string[];
  alert(symbol: string): void;
}

function Rows({ name, rows, put, columns, alert }: RowsProps) {
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
  if (table?.asked.source.kind === 'list') table.who.forEach((i, at) => void place.set(symbols?.[i] ?? '', at));
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
  return (
    <section className="panel min-h-0 overflow-auto" aria-label={name}>
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onEnd} accessibility={{ container: document.body }}>
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
              <th scope="col">Note</th>
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
                      const v = at === undefined ? Number.NaN : (table?.columns[table.asked.columns.indexOf(c)]?.[at] ?? Number.NaN);
                      return {
                        name: c,
                        text: showField(fieldOf(c), v),
                        tone: Number.isNaN(v) ? 'text-quiet' : !isMove(c) ? '' : v >= 0 ? 'text-up' : 'text-down',
                      };
                    })}
                    change={(part) => put(rows.map((x) => (x.symbol === r.symbol ? { ...x, ...part } : x)))}
                    remove={() => put(rows.filter((x) => x.symbol !== r.symbol))}
                    onClick={() => go(k)}
                    onKey={(e) => {
                      if (e.target !== e.currentTarget) return;
                      if (e.key === 'ArrowDown' && e.altKey) put(arrayMove(rows, k, Math.min(rows.length - 1, k + 1)));
                      else if (e.key === 'ArrowUp' && e.altKey) put(arrayMove(rows, k, Math.max(0, k - 1)));
                      else if (e.key === 'ArrowDown') go(k + 1);
                      else if (e.key === 'ArrowUp') go(k - 1);
                      else if (e.key === 'Enter' && !/confirm|moving/.test(useSession.getState().sayBack.kind)) router.push('/desk');
                      else if (e.key === 'Delete') put(rows.filter((x) => x.symbol !== r.symbol));
                      else if (e.code === 'KeyN' && !e.ctrlKey) alert(r.symbol);
                      else return;
                      e.preventDefault();
                    }}
                  />
                );
              })}
            </SortableContext>
          </tbody>
        </table>
      </DndContext>
      <p className="px-3 py-2 text-[12px] text-quiet">↑ ↓ choose · Alt+↑ ↓ move · Enter Desk · N alert · Delete takes off</p>
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
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform } = useSortable({ id: row.symbol });
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
        <select
          className="field px-1 py-0"
          aria-label={`Grade of ${row.symbol}`}
          value={row.grade}
          onChange={(e) => change({ grade: e.target.value as ListRow['grade'] })}
        >
          <option value="">–</option>
          <option>A</option>
          <option>B</option>
          <option>C</option>
        </select>
      </td>
      {cells.map((c) => (
        <td key={c.name} className={c.tone}>
          {c.text}
        </td>
      ))}
      <td>
        <input
          className="field w-44 px-1 py-0 font-sans"
          aria-label={`Note on ${row.symbol}`}
          value={row.note}
          onClick={(e) => e.stopPropagation()}
          onChange={(e) => change({ note: e.target.value })}
        />
      </td>
      <td>
        <button type="button" className="text-quiet hover:text-text" aria-label={`Take ${row.symbol} off`} onClick={remove}>
          <X size={14} aria-hidden />
        </button>
      </td>
    </tr>
  );
}

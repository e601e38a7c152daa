'use client';

import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  horizontalListSortingStrategy,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
} from '@dnd-kit/sortable';
import { GripVertical, X } from 'lucide-react';
import { rackChanged, rackShown, withSizes } from '@/store/keys';
import type { KeptRack } from '@/store/settings';
import { Choice } from '../primitives/Choice';
import { SureButton } from '../primitives/SureButton';
import { useSettings } from '../settings';

type Rows = KeptRack['rows'];

const NEW_PAIR = () => ({
  id: crypto.randomUUID(),
  symbol: '',
  size: '100',
  plan: '',
  when: 'now' as const,
  market: false,
  extended: true,
});

/** The rack while it is arranged: buttons are dragged, or picked up with Space and moved with the arrows. */
export function RackEditor({ done }: { done(): void }) {
  const settings = useSettings();
  const { scripts, racks, set } = settings;
  const rack = rackShown(settings);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const change = (f: (rows: Rows) => Rows) => set(rackChanged(useSettings.getState(), f));
  const nameOf = (id: string) => scripts.find((s) => s.id === id)?.name ?? id;
  const onEnd = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id) change((rows) => moved(rows, String(active.id), String(over.id)));
  };
  const unused = scripts.filter((s) => !rack.rows.some((row) => row.some((b) => b.script === s.id)));
  const add = (id: string) =>
    change((rows) =>
      rows.map((row, k) => (k === rows.length - 1 ? [...row, { script: id, wide: false }] : row)),
    );
  const addRack = () => {
    const id = crypto.randomUUID();
    set({ racks: [...racks, { id, name: `Rack ${racks.length + 1}`, rows: [[]] }], rack: id });
  };
  const dropRack = () => {
    const left = racks.filter((r) => r.id !== rack.id);
    set({ racks: left, rack: left[0]?.id ?? '' });
  };
  return (
    <section className="panel p-1.5" aria-label="Rack, being arranged">
      <div className="mb-1.5 flex flex-wrap items-center gap-2 text-[13px]">
        <input
          className="field py-0.5"
          aria-label="Name of the rack"
          value={rack.name}
          maxLength={40}
          onChange={(e) =>
            set({ racks: racks.map((r) => (r.id === rack.id ? { ...r, name: e.target.value } : r)) })
          }
        />
        <Choice
          label="Put a script on the rack"
          className="w-44 py-0.5"
          value=""
          options={[['', 'put a script here …'], ...unused.map((s) => [s.id, s.name] as const)]}
          change={add}
        />
        <button
          type="button"
          className="btn py-0.5"
          disabled={rack.rows.length >= 8}
          onClick={() => change((rows) => [...rows, []])}
        >
          New row
        </button>
        <button
          type="button"
          className="btn py-0.5"
          disabled={rack.rows.length >= 8}
          title="A row of buttons that load the ticket with a size"
          onClick={() => set(withSizes(useSettings.getState(), () => crypto.randomUUID()))}
        >
          Row of sizes
        </button>
        <button type="button" className="btn py-0.5" onClick={addRack}>
          New rack
        </button>
        <button
          type="button"
          className="btn py-0.5"
          disabled={settings.pairs.length >= 8}
          onClick={() => set({ pairs: [...settings.pairs, NEW_PAIR()] })}
        >
          New live pair
        </button>
        {racks.length > 1 && (
          <SureButton
            label="Delete this rack"
            sure="Delete it for good"
            act={dropRack}
            className="btn py-0.5"
          />
        )}
        <span className="text-quiet">Drag, or Space and the arrows; × takes off, ↔ widens.</span>
        <button type="button" className="btn ml-auto py-0.5 text-focus" onClick={done}>
          Done
        </button>
      </div>
      <DndContext id="rack" sensors={sensors} collisionDetection={closestCenter} onDragEnd={onEnd}>
        <div className="grid gap-1.5">
          {rack.rows.map((row, k) => (
            <RackRow
              key={k}
              k={k}
              empty={row.length === 0}
              drop={rack.rows.length > 1 ? () => change((rows) => rows.filter((_, n) => n !== k)) : null}
            >
              <SortableContext items={row.map((b) => b.script)} strategy={horizontalListSortingStrategy}>
                {row.map((b) => (
                  <RackItem
                    key={b.script}
                    id={b.script}
                    name={nameOf(b.script)}
                    wide={b.wide}
                    group={b.group ?? ''}
                    nameGroup={(group) =>
                      change((rows) =>
                        rows.map((r) => r.map((x) => (x.script === b.script ? { ...x, group } : x))),
                      )
                    }
                    widen={() =>
                      change((rows) =>
                        rows.map((r) => r.map((x) => (x.script === b.script ? { ...x, wide: !x.wide } : x))),
                      )
                    }
                    off={() => change((rows) => rows.map((r) => r.filter((x) => x.script !== b.script)))}
                  />
                ))}
              </SortableContext>
            </RackRow>
          ))}
        </div>
      </DndContext>
    </section>
  );
}

/** A button before another one, or at the end of a row (`row 2`). */
function moved(rows: Rows, id: string, to: string): Rows {
  const button = rows.flat().find((b) => b.script === id);
  if (!button) return rows;
  const from = rows.findIndex((row) => row.includes(button));
  const target = rows.findIndex((row) => row.some((b) => b.script === to));
  const end = /^row (\d+)$/.exec(to);
  return rows.map((row, k) => {
    const rest = row.filter((b) => b !== button);
    if (end && Number(end[1]) === k) return [...rest, button];
    if (k !== target) return rest;
    const at = row.findIndex((b) => b.script === to);
    // Within a row it takes the place of the other one; from another row it goes before it.
    return from === k
      ? [...rest.slice(0, at), button, ...rest.slice(at)]
      : [...row.slice(0, at), button, ...row.slice(at)];
  });
}

function RackRow({
  k,
  empty,
  drop,
  children,
}: {
  k: number;
  empty: boolean;
  drop: (() => void) | null;
  children: React.ReactNode;
}) {
  const { setNodeRef } = useDroppable({ id: `row ${k}` });
  return (
    <div
      ref={setNodeRef}
      className="flex min-h-[30px] min-w-0 gap-1.5 border border-dashed border-line p-0.5"
    >
      {children}
      {empty && (
        <span className="self-center px-2 text-[13px] text-quiet">An empty row: drop a button here.</span>
      )}
      {empty && drop && (
        <button
          type="button"
          className="btn ml-auto px-1 py-0"
          aria-label={`Take row ${k + 1} away`}
          onClick={drop}
        >
          <X size={13} aria-hidden />
        </button>
      )}
    </div>
  );
}

function RackItem({
  id,
  name,
  wide,
  group,
  nameGroup,
  widen,
  off,
}: {
  id: string;
  name: string;
  wide: boolean;
  group: string;
  nameGroup(group: string): void;
  widen(): void;
  off(): void;
}) {
  const { attributes, listeners, setNodeRef, transform } = useSortable({ id });
  return (
    <div
      ref={setNodeRef}
      className={`btn flex min-w-0 items-center gap-1 px-1 py-0.5 ${wide ? 'flex-[2]' : 'flex-1'}`}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : {}}
    >
      <button type="button" className="text-quiet" aria-label={`Move ${name}`} {...attributes} {...listeners}>
        <GripVertical size={14} aria-hidden />
      </button>
      <input
        className="field w-12 shrink-0 px-1 py-0 text-[12px]"
        aria-label={`${name} begins the group`}
        placeholder="group"
        maxLength={16}
        value={group}
        onChange={(e) => nameGroup(e.target.value)}
      />
      <span className="truncate">{name}</span>
      <button
        type="button"
        className="ml-auto text-quiet"
        aria-label={`${name}: wide`}
        aria-pressed={wide}
        onClick={widen}
      >
        ↔
      </button>
      <button type="button" className="text-quiet" aria-label={`Take ${name} off the rack`} onClick={off}>
        <X size={13} aria-hidden />
      </button>
    </div>
  );
}

'use client';

import {
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { useMemo, useState } from 'react';
import { type Purpose, parseScript, purposeOf } from '@/core/language';
import { bound, keysInUse, scriptAt } from '@/store/keys';
import type { SavedScript } from '@/store/settings';
import { usePeeks } from '../client';
import { chordName, faultsOf } from '../hands/chords';
import { useHands } from '../hands/hands';
import { KEYBOARD, type Keycap } from '../hands/keyboard';
import { Choice } from '../primitives/Choice';
import { Pop } from '../primitives/Pop';
import { PURPOSES } from '../primitives/purposes';
import { SureButton } from '../primitives/SureButton';
import { useSettings } from '../settings';
import { shortPeek } from '../trade/short-peek';

const LAYERS = ['', 'Control', 'Alt', 'Control+Alt'] as const;
const MOUSE: readonly Keycap[] = [
  { code: 'Mouse1', label: 'middle', x: 0, y: 0, w: 1 },
  { code: 'Mouse3', label: 'back', x: 0, y: 1, w: 1 },
  { code: 'Mouse4', label: 'forward', x: 0, y: 2, w: 1 },
];
const UNIT = 58;
const ROW = 39;

/** The keyboard with what is bound: by kind, in a set and with modifiers; a key can be dragged to another. */
export function KeyboardPicture({ chosen, choose }: { chosen: string; choose(script: string): void }) {
  const settings = useSettings();
  const set = keysInUse(settings);
  const [layer, setLayer] = useState<string>('');
  const [note, setNote] = useState('');
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor),
  );
  const chordAt = (code: string) => (layer === '' ? code : `${layer}+${code}`);
  const on = useMemo(() => {
    const byId = new Map(settings.scripts.map((s) => [s.id, s]));
    return new Map(
      set.keys.flatMap((k) => {
        const script = byId.get(k.script);
        return script
          ? [[k.chord, { script, purpose: purposeOf(parseScript(script.text).statements) }] as const]
          : [];
      }),
    );
  }, [settings.scripts, set]);
  const peeks = useShortPeeks(useMemo(() => [...on.values()].map((b) => b.script.text), [on]));
  const drop = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    const [from, to] = [String(active.id), String(over.id)];
    const now = useSettings.getState();
    const script = scriptAt(now, from);
    if (!script) return;
    const other = scriptAt(now, to);
    const [never] = faultsOf(to, null).filter((f) => f.never);
    if (never) return setNote(`⚠ ${never.says}.`);
    setNote(other ? `${script.name} and ${other.name} have changed places.` : '');
    // What was there goes where the other came from.
    const moved = { ...now, ...bound(now, script.id, to) };
    now.set(other ? bound(moved, other.id, from) : { keySets: moved.keySets });
  };
  const cap = (k: Keycap, style: { left: number; top: number; width: number }) => (
    <Key
      key={k.code}
      cap={k}
      style={style}
      chord={chordAt(k.code)}
      bound={on.get(chordAt(k.code)) ?? null}
      now={peeks.get(on.get(chordAt(k.code))?.script.text ?? '') ?? ''}
      chosen={chosen}
      choose={choose}
    />
  );
  return (
    <section className="panel p-2" aria-label="What is bound to which key">
      <div className="mb-1.5 flex items-center gap-3 text-[13px]">
        <h2 className="heading">Keys of</h2>
        <Sets />
        <div className="flex gap-1" role="group" aria-label="With which modifiers">
          {LAYERS.map((l) => (
            <button
              key={l}
              type="button"
              className="btn px-2 py-0"
              aria-pressed={l === layer}
              onClick={() => setLayer(l)}
            >
              {l === '' ? 'alone' : `with ${chordName(l)}`}
            </button>
          ))}
        </div>
        <span className="ml-auto flex gap-3 text-[12px]">
          {(Object.keys(PURPOSES) as Purpose[]).map((p) => (
            <span key={p} style={{ color: PURPOSES[p].color }}>
              {PURPOSES[p].sign} {PURPOSES[p].name}
            </span>
          ))}
        </span>
      </div>
      <p role="status" className="h-[16px] text-[12px] text-quiet">
        {note ||
          'Drag a key to another, or choose one to change its script. Ctrl+` turns all off and on; hold Shift to see what each would do now.'}
      </p>
      <DndContext id="keyboard" sensors={sensors} onDragEnd={drop}>
        <div className="relative mt-1" style={{ height: 6 * ROW, width: 20.9 * UNIT }}>
          {KEYBOARD.map((k) => cap(k, { left: k.x * UNIT, top: k.y * ROW, width: k.w * UNIT - 3 }))}
          {MOUSE.map((k) => cap(k, { left: 19.7 * UNIT, top: (k.y + 1) * ROW, width: 1.2 * UNIT }))}
          <span className="absolute text-[12px] text-quiet" style={{ left: 19.7 * UNIT, top: 8 }}>
            mouse
          </span>
        </div>
      </DndContext>
    </section>
  );
}

/** Which set is in use; another one, a copy, its name, away with it. */
function Sets() {
  const keySets = useSettings((s) => s.keySets);
  const inUse = useSettings(keysInUse);
  const set = useSettings((s) => s.set);
  const copy = () => {
    const id = crypto.randomUUID();
    set({
      keySets: [...keySets, { ...inUse, id, name: `${inUse.name}, copy`.slice(0, 40) }],
      keySet: id,
    });
  };
  const drop = () => {
    const left = keySets.filter((k) => k.id !== inUse.id);
    set({ keySets: left, keySet: left[0]?.id ?? '' });
  };
  return (
    <>
      <Choice
        label="Set of keys"
        className="w-36 py-0.5"
        value={inUse.id}
        options={keySets.map((k) => [k.id, k.name] as const)}
        change={(keySet) => set({ keySet })}
      />
      <Pop title="Change this set of keys" label="…" className="btn px-2 py-0">
        <div className="grid w-[240px] gap-2 p-3 text-[13px]">
          <label>
            <span className="heading block">Name of the set</span>
            <input
              className="field mt-0.5 w-full"
              maxLength={40}
              value={inUse.name}
              onChange={(e) =>
                set({
                  keySets: keySets.map((k) => (k.id === inUse.id ? { ...k, name: e.target.value } : k)),
                })
              }
            />
          </label>
          <button type="button" className="btn" disabled={keySets.length >= 20} onClick={copy}>
            A copy of it
          </button>
          {keySets.length > 1 && (
            <SureButton
              label="Delete this set"
              sure={`Delete it, and free its ${inUse.keys.length} keys`}
              act={drop}
            />
          )}
        </div>
      </Pop>
    </>
  );
}

function Key({
  cap,
  style,
  chord,
  bound: b,
  now,
  chosen,
  choose,
}: {
  cap: Keycap;
  style: { left: number; top: number; width: number };
  chord: string;
  bound: { script: SavedScript; purpose: Purpose } | null;
  now: string;
  chosen: string;
  choose(script: string): void;
}) {
  const printed = useHands((s) => s.printed.get(cap.code));
  const peeking = useHands((s) => s.peeking);
  const { setNodeRef: into, isOver } = useDroppable({ id: chord });
  const { setNodeRef, attributes, listeners, transform } = useDraggable({ id: chord, disabled: !b });
  const look = b ? PURPOSES[b.purpose] : null;
  const name = chordName(chord);
  return (
    <div
      ref={into}
      className={`absolute rounded border ${isOver ? 'border-text' : 'border-line'}`}
      style={{ ...style, height: ROW - 3 }}
    >
      <span className="num absolute top-0 left-1 text-[12px] text-quiet">
        {printed?.toUpperCase() || cap.label}
      </span>
      {b && look && (
        <button
          ref={setNodeRef}
          type="button"
          {...attributes}
          {...listeners}
          aria-label={`${name}: ${b.script.name}`}
          title={`${b.script.name}\n${b.script.text}`}
          aria-pressed={b.script.id === chosen}
          onClick={() => choose(b.script.id)}
          className={`absolute inset-0 overflow-hidden rounded bg-raised px-1 text-left leading-none ${b.script.id === chosen ? 'outline-2 outline-focus' : ''}`}
          style={{
            borderTop: `3px solid ${look.color}`,
            ...(transform ? { transform: `translate(${transform.x}px, ${transform.y}px)`, zIndex: 20 } : {}),
          }}
        >
          {peeking && now ? (
            <span className="num block text-[12px] leading-[14px] break-words">{now}</span>
          ) : (
            <>
              <span className="num text-[12px] font-bold text-focus">
                {printed?.toUpperCase() || cap.label}
              </span>{' '}
              <span className="text-[12px]" style={{ color: look.color }} aria-hidden>
                {look.sign}
              </span>
              <span className="block truncate text-[12px]">{b.script.name}</span>
            </>
          )}
        </button>
      )}
    </div>
  );
}

/** What each script would do now, in short, while Shift is held. */
function useShortPeeks(texts: readonly string[]): Map<string, string> {
  const peeking = useHands((s) => s.peeking);
  const peeks = usePeeks(peeking ? texts.map((text) => ({ text, symbol: null })) : []);
  return useMemo(() => new Map((peeks ?? []).map((p) => [p.text, shortPeek(p)])), [peeks]);
}

'use client';

import { useState } from 'react';
import { LANGUAGE_VERSION } from '@/core/language';
import { TICKET_PARTS } from '@/store/ticket-parts';
import { Pop } from '../primitives/Pop';
import { Tick } from '../primitives/Tick';
import { useSettings } from '../settings';
import { fieldsOf } from '../trade/ticket-form';
import { useTicketText } from '../trade/ticket-text';

/** What stays in the ticket, and the ways from it to scripts and plans and back. */
export function TicketMenu() {
  const { text, set: setText } = useTicketText();
  const keeps = useSettings((s) => s.ticketKeeps);
  const follows = useSettings((s) => s.ticketFollows);
  const steps = useSettings((s) => s.ticketSteps);
  const scripts = useSettings((s) => s.scripts);
  const plans = useSettings((s) => s.plans);
  const set = useSettings((s) => s.set);
  const [name, setName] = useState('');
  const [said, setSaid] = useState('');
  const [find, setFind] = useState('');
  const wanted = name.trim();
  const exits = fieldsOf(text)?.exits ?? '';
  const saveScript = () => {
    const id = `ticket-${scripts.length}-${wanted.toLowerCase().replace(/\W+/g, '-')}`;
    set({ scripts: [...scripts, { id, name: wanted, text, language: LANGUAGE_VERSION, tags: ['ticket'] }] });
    setSaid(`“${wanted}” is a script now; Keys gives it a key.`);
  };
  const savePlan = () => {
    if (plans.some((p) => p.name === wanted))
      return setSaid(`There is a plan “${wanted}” already. Another name.`);
    set({ plans: [...plans, { name: wanted, text: exits, hours: null }] });
    setSaid(`“${wanted}” is a plan now.`);
  };
  const found = scripts.filter((s) => s.name.toLowerCase().includes(find.trim().toLowerCase())).slice(0, 8);
  return (
    <Pop title="More of the ticket" label="⋯" className="mr-2 text-[12px] text-quiet hover:text-text">
      <div className="grid w-72 gap-2 p-3 text-[13px]">
        <fieldset className="grid grid-cols-3 gap-1">
          <legend className="heading mb-1">Stays after sending</legend>
          {TICKET_PARTS.map((k) => (
            <Tick
              key={k}
              on={keeps.includes(k)}
              change={(on) => set({ ticketKeeps: on ? [...keeps, k] : keeps.filter((x) => x !== k) })}
            >
              {k}
            </Tick>
          ))}
        </fieldset>
        <Tick on={follows} change={(on) => set({ ticketFollows: on })}>
          the side follows the position
        </Tick>
        <fieldset className="flex items-center gap-2">
          <legend className="heading mb-1">An arrow key adds</legend>
          <Step
            label="to a price, in cents; empty for a tick"
            after="c"
            value={steps.cents}
            ok={(n) => n >= 0 && n <= 100}
            change={(cents) => set({ ticketSteps: { ...steps, cents } })}
          />
          <Step
            label="to a size, in shares"
            after="shares"
            value={steps.shares}
            ok={(n) => Number.isInteger(n) && n >= 1 && n <= 100_000}
            change={(shares) => set({ ticketSteps: { ...steps, shares } })}
          />
        </fieldset>
        <div className="grid gap-1">
          <span className="heading">Save it as</span>
          <input
            className="field"
            aria-label="Name of the script or plan"
            placeholder="name"
            maxLength={40}
            value={name}
            onChange={(e) => {
              setName(e.target.value);
              setSaid('');
            }}
          />
          <span className="flex gap-1">
            <button type="button" className="btn grow" disabled={wanted === ''} onClick={saveScript}>
              a script
            </button>
            <button
              type="button"
              className="btn grow"
              disabled={wanted === '' || exits === ''}
              title={exits === '' ? 'This ticket has no exits of its own' : 'Its exits'}
              onClick={savePlan}
            >
              a plan
            </button>
          </span>
          {said !== '' && <p role="status">{said}</p>}
        </div>
        <div className="grid gap-1">
          <span className="heading">Load a script</span>
          <input
            className="field"
            aria-label="Find a script to load"
            placeholder="name"
            value={find}
            onChange={(e) => setFind(e.target.value)}
          />
          {found.map((s) => (
            <button
              key={s.id}
              type="button"
              className="btn truncate text-left"
              title={s.text}
              onClick={() => setText(s.text)}
            >
              {s.name}
            </button>
          ))}
          {found.length === 0 && <p className="text-quiet">No script has that in its name.</p>}
        </div>
      </div>
    </Pop>
  );
}

function Step({
  label,
  after,
  value,
  ok,
  change,
}: {
  label: string;
  after: string;
  value: number;
  ok(n: number): boolean;
  change(n: number): void;
}) {
  const [text, setText] = useState<string | null>(null);
  const bad = text !== null && !ok(Number(text));
  return (
    <label className="flex items-center gap-1">
      <input
        className="field num w-14 px-1 py-0.5"
        aria-label={`An arrow key adds ${label}`}
        title={label}
        placeholder="tick"
        aria-invalid={bad}
        value={text ?? (value === 0 ? '' : String(value))}
        onChange={(e) => {
          setText(e.target.value);
          if (ok(Number(e.target.value))) change(Number(e.target.value));
        }}
        onBlur={() => setText(null)}
      />
      {after}
    </label>
  );
}

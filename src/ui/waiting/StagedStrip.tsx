'use client';

import { Hand, Hourglass, X } from 'lucide-react';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { oneLine } from '@/core/language';
import { DAY, SECOND } from '@/core/units';
import type { DeskSlice, Peeked } from '@/worker/session/slices';
import { act, focusOn, usePeeks, useSession } from '../client';
import { px } from '../format';
import { chordName, stagedChord } from '../hands/chords';
import { useHands } from '../hands/hands';
import { Pop } from '../primitives/Pop';

/** With the language it reads, fetched only when somebody opens it. */
const StagedWait = dynamic(() => import('./StagedWait').then((m) => m.StagedWait), { ssr: false });

type Staged = DeskSlice['staged'][number];
const NONE: Staged[] = [];

/** What is staged, for all symbols, over every view: with its numbers now, its age, and a key and button of its own. */
export function StagedStrip() {
  const staged = useSession((s) => s.desk?.staged) ?? NONE;
  const peeks = usePeeks(staged.map((x) => ({ text: x.text, symbol: x.symbol })));
  if (staged.length === 0) return <div />;
  return (
    <section
      className="flex items-start gap-2 border-b border-line bg-panel px-3 py-1 text-[13px]"
      aria-label="Staged orders"
    >
      <h2 className="flex items-center gap-1.5 py-1 font-bold whitespace-nowrap text-focus">
        <Hand size={14} aria-hidden />{' '}
        <span title="Ctrl+Alt and its number sends one">{staged.length} staged</span>
      </h2>
      <ul className="grid max-h-[98px] min-w-0 grow grid-cols-[repeat(auto-fill,minmax(310px,1fr))] gap-x-2 gap-y-1 overflow-y-auto">
        {staged.map((x) => (
          <One key={x.id} staged={x} peeked={peeks?.find((p) => p.text === x.text && p.focus === x.symbol)} />
        ))}
      </ul>
      {staged.length > 1 && (
        <span className="flex gap-1">
          <button
            type="button"
            className="btn px-2 py-0.5 whitespace-nowrap"
            onClick={() => void act('send staged everything', 'buttons', 'Staged')}
          >
            Send all
          </button>
          <button
            type="button"
            className="btn px-2 py-0.5 whitespace-nowrap"
            onClick={() => void act('discard staged everything', 'buttons', 'Staged')}
          >
            Drop all
          </button>
        </span>
      )}
    </section>
  );
}

function One({ staged: x, peeked }: { staged: Staged; peeked: Peeked | undefined }) {
  const focused = useSession((s) => s.focus?.symbol === x.symbol);
  const printed = useHands((s) => s.printed);
  const age = useSession((s) => ageOf((s.clock?.now ?? x.at) - x.at));
  const waits = useSession((s) => s.waits?.waiting.find((w) => sends(w.text, x))?.near ?? null);
  const chord = x.place === null ? null : stagedChord(x.place);
  const name = `${x.symbol}: ${oneLine(x.text)}`;
  return (
    <li
      className={`flex min-w-0 items-center gap-1.5 border px-1.5 ${focused ? 'border-focus' : 'border-line'} ${peeked?.problem ? 'border-dashed' : ''}`}
      title={peeked?.problem ?? x.text}
    >
      {chord && (
        <kbd
          className="num rounded border border-line px-1 text-[12px] font-bold text-focus"
          title={`${chordName(chord, printed)} sends it`}
        >
          {x.place}
        </kbd>
      )}
      {!chord && (
        <span className="text-[12px] text-quiet" title="Nine have a key; this one goes by its button">
          no key
        </span>
      )}
      <button
        type="button"
        className={`num font-bold ${focused ? 'text-focus' : ''}`}
        onClick={() => void focusOn(x.symbol)}
      >
        {x.symbol}
      </button>
      <span className="num min-w-0 grow truncate">
        {waits ? (
          <span className="text-condition" title={waits}>
            {waits.replaceAll(` of ${x.symbol}`, '')}
          </span>
        ) : (
          (peeked?.problem ??
          (peeked?.facts
            ? `${peeked.facts.side} ${peeked.facts.qty} at ${px(peeked.facts.price)}`
            : x.text.split('\n')[0]))
        )}
      </span>
      <span className="num text-quiet" title="How long it has been staged">
        {age}
      </span>
      {!waits && <Wait staged={x} price={peeked?.facts?.price ?? null} />}
      <button
        type="button"
        className="btn px-1.5 py-0 text-focus"
        aria-label={`Send ${name}`}
        onClick={() => void act(`send staged order ${x.id}`, 'buttons', 'Staged')}
      >
        Send
      </button>
      <button
        type="button"
        className="text-quiet"
        aria-label={`Drop ${name}`}
        onClick={() => void act(`discard staged order ${x.id}`, 'buttons', 'Staged')}
      >
        <X size={14} aria-hidden />
      </button>
    </li>
  );
}

/** Whether what waits would send this order. */
const sends = (text: string, x: Staged): boolean =>
  new RegExp(`send staged (order ${x.id}|of ${x.symbol}|everything)(?![\\w.])`).test(text);

/** `0:42`, `12:05`; nothing where it is not known. */
function ageOf(ms: number): string {
  if (!(ms >= 0)) return '';
  const s = Math.floor(ms / SECOND);
  const days = Math.floor(ms / DAY);
  if (days > 0) return days === 1 ? '1 day' : `${days} days`;
  return `${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')}`;
}

/** Lets it wait for a condition, and be sent by that. */
function Wait({ staged: x, price }: { staged: Staged; price: number | null }) {
  const [open, setOpen] = useState(false);
  return (
    <Pop
      title={`Let ${x.symbol} wait for a condition`}
      label={<Hourglass size={13} aria-hidden />}
      className="text-quiet"
      open={open}
      onOpenChange={setOpen}
    >
      <StagedWait
        id={x.id}
        first={price === null ? 'time >= 09:30' : `last >= ${px(price)}`}
        done={() => setOpen(false)}
      />
    </Pop>
  );
}

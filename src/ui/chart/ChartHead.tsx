'use client';

import { Pin, PinOff } from 'lucide-react';
import { useState } from 'react';
import { type ChartLook, DAY_CANDLE } from '@/store/arrangement';
import { act, useSession } from '../client';
import { Pop } from '../primitives/Pop';
import { undo, undoable } from './drawn';
import { readStudy, STUDY_KINDS } from './studies';
import { DRAWING, SENDING, type Tool, type ToolFacts } from './tools';

const LENGTHS = [1, 2, 5, 15] as const;
const small = 'btn px-1 py-0.5 text-[13px] whitespace-nowrap @[420px]:px-1.5';
const lengthName = (m: number): string => (m === DAY_CANDLE ? 'day' : m === 60 ? 'hour' : `${m} min`);

/** Minutes of a candle, an hour or a day: the usual ones, or any other number. */
export function Lengths({ look, set }: { look: ChartLook; set(change: Partial<ChartLook>): void }) {
  const [text, setText] = useState<string | null>(null);
  const wanted = Number(text);
  const bad = text !== null && !(Number.isInteger(wanted) && wanted >= 1 && wanted <= 390);
  const all = [...LENGTHS, 60, DAY_CANDLE];
  return (
    <span className="flex items-center gap-1" role="group" aria-label="Minutes of a candle">
      {all.map((m) => (
        <button
          key={m}
          type="button"
          className={`num ${small}`}
          aria-label={lengthName(m)}
          aria-pressed={look.minutes === m}
          onClick={() => set({ minutes: m })}
        >
          {m === DAY_CANDLE ? 'D' : m === 60 ? 'H' : m}
        </button>
      ))}
      <input
        className="field num w-10 px-1 py-0.5 text-[13px]"
        aria-label="Other minutes of a candle"
        title={bad ? 'A whole number from 1 to 390' : 'Any other number of minutes'}
        aria-invalid={bad}
        value={text ?? (all.includes(look.minutes) ? '' : String(look.minutes))}
        placeholder="min"
        onChange={(e) => {
          const n = Number(e.target.value);
          setText(e.target.value);
          if (e.target.value !== '' && Number.isInteger(n) && n >= 1 && n <= 390) set({ minutes: n });
        }}
        onBlur={() => setText(null)}
      />
    </span>
  );
}

/** Lengths, and studies where their own button has no room, in one button. */
export function LengthsPop(p: { look: ChartLook; set(change: Partial<ChartLook>): void }) {
  return (
    <Pop title="Minutes of a candle" label={lengthName(p.look.minutes)} className={small}>
      <div className="p-2">
        <Lengths {...p} />
        <Studies {...p} />
      </div>
    </Pop>
  );
}

/** A symbol of its own, or the focus. */
export function PinPop({ look, set }: { look: ChartLook; set(change: Partial<ChartLook>): void }) {
  const focus = useSession((s) => s.focus?.symbol ?? '');
  const symbols = useSession((s) => s.symbols);
  const [text, setText] = useState('');
  const wanted = text.trim().toUpperCase();
  const known = symbols?.includes(wanted) ?? false;
  const pinned = look.symbol !== '';
  return (
    <Pop
      title={pinned ? `Pinned to ${look.symbol}` : 'Follows the focus'}
      label={pinned ? <Pin size={13} aria-hidden /> : <PinOff size={13} aria-hidden />}
      className="btn px-1 py-1"
    >
      <div className="grid w-64 gap-2 p-3 text-[13px]">
        <button type="button" className="btn" aria-pressed={!pinned} onClick={() => set({ symbol: '' })}>
          Follow the focus
        </button>
        <button type="button" className="btn" onClick={() => set({ symbol: focus })}>
          Pin to {focus}
        </button>
        <form
          className="flex gap-1"
          onSubmit={(e) => {
            e.preventDefault();
            if (known) set({ symbol: wanted });
          }}
        >
          <input
            className="field num w-full uppercase"
            aria-label="Symbol to pin"
            placeholder="symbol"
            value={text}
            aria-invalid={wanted !== '' && !known}
            onChange={(e) => setText(e.target.value)}
          />
          <button type="submit" className="btn" disabled={!known}>
            Pin
          </button>
        </form>
        {wanted !== '' && !known && <p className="text-quiet">{wanted} is not listed today.</p>}
      </div>
    </Pop>
  );
}

/** Which studies the chart shows, with their lengths. */
export function StudiesPop(p: { look: ChartLook; set(change: Partial<ChartLook>): void }) {
  return (
    <Pop title="Studies" label="studies" className={small}>
      <Studies {...p} />
    </Pop>
  );
}

function Studies({ look, set }: { look: ChartLook; set(change: Partial<ChartLook>): void }) {
  const put = (studies: string[]) => set({ studies });
  return (
    <div className="grid w-[330px] gap-1.5 p-3 text-[13px]">
      {STUDY_KINDS.map((k) => {
        const mine = look.studies.filter((s) => readStudy(s)?.word === k.word);
        return (
          <div key={k.word} className="flex items-center gap-1.5">
            <button
              type="button"
              className={small}
              aria-pressed={mine.length > 0}
              title={k.says}
              onClick={() =>
                put(
                  mine.length > 0
                    ? look.studies.filter((s) => !mine.includes(s))
                    : [...look.studies, k.length === null ? k.word : `${k.word} ${k.length}`],
                )
              }
            >
              {k.word}
            </button>
            {k.length !== null &&
              mine.map((s) => (
                <StudyLength
                  key={s}
                  study={s}
                  word={k.word}
                  change={(to) => put(look.studies.map((x) => (x === s ? to : x)))}
                />
              ))}
            {k.length !== null && mine.length > 0 && (
              <button
                type="button"
                className={small}
                aria-label={`Another ${k.word}`}
                onClick={() => put([...look.studies, freeLength(look.studies, k.word, k.length ?? 9)])}
              >
                +
              </button>
            )}
            <span className="ml-auto max-w-[170px] truncate text-[12px] text-quiet">{k.says}</span>
          </div>
        );
      })}
    </div>
  );
}

function freeLength(studies: readonly string[], word: string, first: number): string {
  for (let n = first * 2; ; n++) if (!studies.includes(`${word} ${n}`)) return `${word} ${n}`;
}

function StudyLength({ study, word, change }: { study: string; word: string; change(to: string): void }) {
  const length = String(readStudy(study)?.length ?? '');
  const [text, setText] = useState<string | null>(null);
  const bad = text !== null && readStudy(`${word} ${text}`) === null;
  return (
    <input
      className="field num w-11 px-1 py-0.5 text-[13px]"
      aria-label={`Length of ${study}`}
      title={bad ? 'A whole number from 1 to 200' : `Length of ${study}`}
      aria-invalid={bad}
      value={text ?? length}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => {
        if (text !== null && !bad) change(`${word} ${Number(text)}`);
        setText(null);
      }}
    />
  );
}

interface HandProps {
  symbol: string | undefined;
  tool: Tool | null;
  choose(t: Tool | null): void;
}

/** What the next click on the chart does. */
export function Hand({ symbol, tool, choose }: HandProps) {
  const button = (t: ToolFacts, className: string) => (
    <button
      key={t.kind}
      type="button"
      className={className}
      title={t.says}
      aria-label={t.name}
      aria-pressed={tool?.kind === t.kind}
      onClick={() => choose(tool?.kind === t.kind ? null : { kind: t.kind, points: [] })}
      onKeyDown={(e) => e.key === 'Escape' && choose(null)}
    >
      {/* Where there is little room, the sign alone; the ways in have their words longest. */}
      {t.name.split(' ')[0]}
      <span
        className={
          t.kind === 'buy' || t.kind === 'short' ? 'hidden @[640px]:inline' : 'hidden @[900px]:inline'
        }
      >
        {' '}
        {t.name.split(' ').slice(1).join(' ')}
      </span>
    </button>
  );
  const drawing = DRAWING.find((t) => t.kind === tool?.kind);
  return (
    <span
      className="ml-auto flex items-center gap-0.5 @[420px]:gap-1"
      role="group"
      aria-label="The next click on the chart"
    >
      {SENDING.map((t) => button(t, small))}
      <Pop title="Draw" label={drawing ? `✎ ${drawing.name}` : '✎'} className={small}>
        <div className="grid w-56 gap-1 p-2 text-[13px]">
          {DRAWING.map((t) => (
            <button
              key={t.kind}
              type="button"
              className="btn text-left"
              title={t.says}
              aria-pressed={tool?.kind === t.kind}
              onClick={() => choose({ kind: t.kind, points: [] })}
            >
              {t.name}
            </button>
          ))}
          <hr className="border-line" />
          <button
            type="button"
            className="btn text-left"
            onClick={() => void act('clear drawings', 'tools', 'Chart')}
          >
            Clear everything drawn
          </button>
          <button
            type="button"
            className="btn text-left"
            onClick={() => symbol !== undefined && undoable(symbol) && void undo(symbol)}
          >
            Undo <kbd className="num text-quiet">Ctrl+Z</kbd>
          </button>
        </div>
      </Pop>
    </span>
  );
}

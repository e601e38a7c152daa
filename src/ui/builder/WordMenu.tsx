'use client';

import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react';
import { explain, type Problem } from '@/core/language';
import { usePeeks } from '../client';
import { shortPeek } from '../trade/short-peek';

/** Something to choose, and the whole text with it. */
export interface Offer {
  text: string;
  says: string;
  whole: string;
}

interface Props {
  /** A value that may be typed, what it is called. */
  typed: { is: string; text: string } | null;
  /** Takes what was typed; null when it fitted. */
  enter?(text: string): { problem: Problem | null; is: string } | null;
  groups: readonly { name: string; offers: readonly Offer[] }[];
  /** The text without the word, where it may be left out. */
  without: string | null;
  /** The text as it is, for what each choice would do now where that is something else; null: not asked. */
  now: string | null;
  done(text: string): void;
}

/** As many choices as are asked about at once. */
const MOST_PEEKS = 40;

/** What may stand at a word: a field to type in, what can be chosen with what it would do now, and to leave it out. */
export function WordMenu({ typed, enter, groups, without, now, done }: Props) {
  const offers = useMemo(() => groups.flatMap((g) => g.offers), [groups]);
  const live = useOfferPeeks(offers, now);
  return (
    <div
      role="group"
      aria-label="What may stand here"
      className="w-[400px] p-2 text-[13px]"
      onKeyDown={upAndDown}
    >
      {typed && enter && <Typed typed={typed} enter={enter} />}
      {groups
        .filter((g) => g.offers.length > 0)
        .map((g) => (
          <section key={g.name} aria-label={g.name || 'Choices'}>
            {g.name && <h3 className="heading mt-1 px-1">{g.name}</h3>}
            <ul>
              {g.offers.map((o) => (
                <li key={o.text}>
                  <button
                    type="button"
                    className="grid w-full grid-cols-[1fr_auto] gap-x-3 rounded px-1 py-0.5 text-left hover:bg-line"
                    onClick={() => done(o.whole)}
                  >
                    <span className="num">{o.text}</span>
                    <span className="num text-quiet">{live.get(o.whole) ?? ''}</span>
                    {o.says && <span className="col-span-2 text-[12px] text-quiet">{o.says}</span>}
                  </button>
                </li>
              ))}
            </ul>
          </section>
        ))}
      {offers.length === 0 && !typed && without === null && (
        <p className="px-1 text-quiet">Nothing more fits here.</p>
      )}
      {without !== null && (
        <button type="button" className="btn mt-1 w-full text-left" onClick={() => done(without)}>
          Leave it out
        </button>
      )}
    </div>
  );
}

function Typed({ typed, enter }: { typed: NonNullable<Props['typed']>; enter: NonNullable<Props['enter']> }) {
  const [text, setText] = useState(typed.text);
  const [wrong, setWrong] = useState<{ problem: Problem | null; is: string } | null>(null);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.select(), []);
  return (
    <form
      className="mb-1"
      onSubmit={(e) => {
        e.preventDefault();
        e.stopPropagation();
        setWrong(enter(text));
      }}
    >
      <label className="text-quiet">
        {typed.is}
        <input
          ref={field}
          className="field num mt-0.5 w-full text-text"
          value={text}
          aria-invalid={wrong !== null}
          onChange={(e) => {
            setText(e.target.value);
            setWrong(null);
          }}
        />
      </label>
      {wrong && (
        <p role="alert" className="mt-0.5">
          ⚠ {wrong.problem ? explain(wrong.problem) : `“${text}” is not ${wrong.is}.`}
        </p>
      )}
    </form>
  );
}

/** Up and down go through the choices. */
function upAndDown(e: KeyboardEvent<HTMLElement>): void {
  const by = e.key === 'ArrowDown' ? 1 : e.key === 'ArrowUp' ? -1 : 0;
  if (by === 0) return;
  const all = [...e.currentTarget.querySelectorAll<HTMLElement>('input, button')];
  all[Math.max(0, all.indexOf(document.activeElement as HTMLElement) + by)]?.focus();
  e.preventDefault();
}

/** What each choice would do now, where that is not what the text does as it is; by its whole text. */
function useOfferPeeks(offers: readonly Offer[], now: string | null): Map<string, string> {
  const texts =
    offers.length === 0 || now === null
      ? []
      : [...(now === '' ? [] : [now]), ...offers.slice(0, MOST_PEEKS).map((o) => o.whole)];
  const peeks = usePeeks(texts.map((text) => ({ text, symbol: null })));
  return useMemo(() => {
    const same = shortPeek(peeks?.find((p) => p.text === now));
    return new Map((peeks ?? []).map((p) => [p.text, shortPeek(p) === same ? '' : shortPeek(p)]));
  }, [peeks, now]);
}

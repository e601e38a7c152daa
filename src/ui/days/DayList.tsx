'use client';

import { useState } from 'react';
import type { DayRef } from '@/session/day-ref';
import type { DayChoice } from '@/worker/session/session-messages';
import { clock } from '../format';

const FIRST_SEED = 7;

/** The days that the market ships with, each with its character; another number draws another day of the same kind. */
export function DayList({ choice, start }: { choice: DayChoice; start: (day: DayRef) => void }) {
  const [seed, setSeed] = useState(String(FIRST_SEED));
  const number = /^\d{1,9}$/.test(seed) ? Number(seed) : null;
  const current = choice.attempts.find((a) => a.id === choice.current)?.day;
  return (
    <section className="panel flex min-h-0 flex-col" aria-label="Days to practise on">
      <div className="flex items-center gap-3 border-b border-line px-3 py-2">
        <h2 className="heading">Days to practise on</h2>
        <label
          className="ml-auto flex items-center gap-2 text-[13px]"
          title="The same day and number give the same market to the last print"
        >
          variation
          <input
            className="field num w-24"
            value={seed}
            aria-invalid={number === null}
            onChange={(e) => setSeed(e.target.value)}
          />
        </label>
      </div>
      {number === null && (
        <p className="px-3 py-1 text-[13px]">
          ⚠ A variation is a whole number, such as 7. Each one is another day of the same kind.
        </p>
      )}
      <ul className="min-h-0 overflow-auto">
        {choice.practice.map((d) => {
          const here = current?.kind === 'practice' && current.id === d.id;
          return (
            <li key={d.id} className="flex items-start gap-3 border-b border-line px-3 py-1.5">
              <div className="min-w-0 grow">
                <h3 className="font-semibold">
                  {d.title} {here && <span className="text-[12px] font-normal text-focus">under way</span>}
                </h3>
                <p className="text-[13px] leading-[18px] text-quiet">{d.character}</p>
              </div>
              <div className="shrink-0 text-right">
                <button
                  type="button"
                  className="btn"
                  disabled={number === null}
                  aria-label={`${here ? 'Start again' : 'Practise'}: ${d.title}`}
                  onClick={() => start({ kind: 'practice', id: d.id, seed: number ?? FIRST_SEED })}
                >
                  {here ? 'Start again' : 'Practise'}
                </button>
                <p className="num mt-1 text-[12px] text-quiet">
                  {d.date} from {clock(d.startAt, 'minutes')}
                </p>
              </div>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

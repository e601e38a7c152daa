'use client';

import type { DayRef } from '@/session/day-ref';
import type { DayChoice } from '@/worker/session/session-messages';
import { ask } from '../client';

/** The days that the trader imported. */
export function OwnDays({
  choice,
  start,
  changed,
}: {
  choice: DayChoice;
  start: (day: DayRef) => void;
  changed: () => Promise<void>;
}) {
  return (
    <section className="panel shrink-0 px-3 py-2" aria-label="Your own days">
      <h2 className="heading">Your own days</h2>
      {choice.own.length === 0 && (
        <p className="text-[13px] text-quiet">
          None yet. Import bars or prints below, and they become a practice day with books around their
          prices.
        </p>
      )}
      <ul>
        {choice.own.map((o) => (
          <li key={o.id} className="flex items-center gap-2 py-1">
            <span className="min-w-0 grow truncate">
              {o.title}{' '}
              <span className="num text-[13px] text-quiet">
                {o.symbols} {o.symbols === 1 ? 'symbol' : 'symbols'}, {o.dates[0]}
                {o.dates.length > 1 ? ` to ${o.dates[o.dates.length - 1]}` : ''}
              </span>
            </span>
            <button
              type="button"
              className="btn"
              aria-label={`Practise: ${o.title}`}
              onClick={() => start({ kind: 'own', id: o.id })}
            >
              Practise
            </button>
            <button
              type="button"
              className="btn"
              aria-label={`Remove: ${o.title}`}
              onClick={() => void ask({ kind: 'drop own day', id: o.id }).then(changed)}
            >
              Remove
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

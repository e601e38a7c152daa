'use client';

import { Fragment, type ReactNode, useEffect, useMemo, useState } from 'react';
import type { DayChoice } from '@/worker/session/session-messages';
import { ask, useSession } from '../client';
import { planBookOf } from '../plans/usePlanBook';
import { Choice } from '../primitives/Choice';
import { OneOf } from '../primitives/OneOf';
import { Tick } from '../primitives/Tick';
import { useSettings } from '../settings';
import { type Draft, type Flaw, readDraft } from './draft';
import { HandForm } from './HandForm';
import { begin, useRehearsals } from './rehearsals';
import { changeDraft, useDraft } from './useDraft';

/** What is rehearsed: the keys and when they are pressed, for which symbols, at what time, over which days. */
export function RehearsalForm() {
  const draft = useDraft();
  const scans = useSettings((s) => s.scans);
  const choice = useDays();
  const running = useRehearsals((s) => s.running);
  const [tried, setTried] = useState(false);
  const [begins, setBegins] = useState(false);
  const read = useMemo(() => (choice ? readDraft(draft, scans, choice) : null), [draft, scans, choice]);
  const flaws = read && !read.ok ? read.flaws : [];
  const flawOf = (where: Flaw['where']) => (tried ? flaws.find((f) => f.where === where)?.text : undefined);
  const field = { draft, flawOf };
  return (
    <section className="panel flex flex-col overflow-hidden" aria-label="What is rehearsed">
      <div className="min-h-0 grow overflow-y-auto px-3 py-2">
        <HandForm which="first" draft={draft} />
        <Tick
          className="my-2"
          on={draft.compare}
          change={(compare) =>
            changeDraft({
              compare,
              ...(compare && draft.second.keys.length === 0 ? { second: draft.first } : {}),
            })
          }
        >
          beside it the same with one thing changed (B)
        </Tick>
        {draft.compare && <HandForm which="second" draft={draft} />}
        <Who {...field} />
        <fieldset className="mt-3">
          <legend className="heading">When, and how fast</legend>
          <div className="flex flex-wrap gap-x-4 gap-y-1.5">
            <TextField name="from" label="ways in from" wide="w-16" {...field} />
            <TextField name="to" label="to" wide="w-16" {...field} />
            <TextField name="out" label="out at market by" wide="w-16" {...field} />
            <TextField name="reaction" label="hand reacts in ms" wide="w-16" {...field} />
            <TextField name="line" label="line one way in ms" wide="w-14" {...field} />
          </div>
        </fieldset>
        <Days choice={choice} {...field} />
      </div>
      <div className="border-line border-t px-3 py-2">
        {tried && flaws.length > 0 && (
          <ul role="alert" className="mb-2 max-h-28 overflow-y-auto text-[13px]">
            {flaws.map((f) => (
              <li key={f.where + f.text}>
                ⚠ {WHERE[f.where] ?? ''}
                {f.text}
              </li>
            ))}
          </ul>
        )}
        <div className="flex items-center gap-2">
          <input
            className="field min-w-0 grow"
            aria-label="Name of the rehearsal"
            placeholder="Name, such as: breakout, 20c stop"
            maxLength={60}
            value={draft.name}
            onChange={(e) => changeDraft({ name: e.target.value })}
          />
          <button
            type="button"
            className="btn shrink-0 border-text font-semibold"
            disabled={!choice || begins}
            onClick={() => {
              setTried(true);
              if (!read?.ok) return;
              setBegins(true);
              void start(draft, read.terms, read.days).finally(() => setBegins(false));
            }}
          >
            {read?.ok ? `Rehearse ${days(read.days.length)}` : 'Rehearse'}
          </button>
        </div>
        {running && read?.ok && (
          <p className="mt-1 text-[13px] text-quiet">
            One is under way; another one stops it. Its days stay.
          </p>
        )}
      </div>
    </section>
  );
}

export const days = (n: number): string => `${n} ${n === 1 ? 'day' : 'days'}`;

const WHERE: Partial<Record<Flaw['where'], string>> = {
  first: 'A: ',
  second: 'B: ',
  from: 'ways in from: ',
  to: 'ways in to: ',
  out: 'out by: ',
  best: 'of the scan the first: ',
  reaction: 'hand reacts in: ',
  line: 'line: ',
  each: 'variations: ',
};

async function start(
  draft: Draft,
  terms: Parameters<typeof begin>[0]['terms'],
  list: Parameters<typeof begin>[0]['days'],
): Promise<void> {
  const { desk } = useSession.getState();
  if (!desk) return;
  const accounts = desk.accounts.map(({ id, rules, next, fees }) => ({ id, rules: next ?? rules, fees }));
  const plans = planBookOf(useSettings.getState());
  const name = draft.name.trim() || `${draft.first.keys[0]?.when ?? ''}`.slice(0, 60);
  await begin({ name, terms, days: list, desk: { accounts, account: desk.account, plans } });
}

/** The days there are to choose from. */
function useDays(): DayChoice | null {
  const [choice, setChoice] = useState<DayChoice | null>(null);
  useEffect(() => {
    void ask({ kind: 'days' }).then((a) => a && setChoice(a.days));
  }, []);
  return choice;
}

type FieldProps = { draft: Draft; flawOf(where: Flaw['where']): string | undefined };
type TextName = { [K in keyof Draft]: Draft[K] extends string ? K : never }[keyof Draft];

function TextField({
  name,
  label,
  wide,
  draft,
  flawOf,
}: FieldProps & { name: TextName; label: ReactNode; wide: string }) {
  const flaw = flawOf(name);
  return (
    <label className="flex items-center gap-1.5">
      {label}
      <input
        className={`field num ${wide}`}
        value={draft[name]}
        aria-invalid={flaw !== undefined}
        title={flaw}
        onChange={(e) => changeDraft({ [name]: e.target.value })}
      />
    </label>
  );
}

function Who(field: FieldProps) {
  const { draft } = field;
  const scans = useSettings((s) => s.scans);
  return (
    <fieldset className="mt-2">
      <legend className="heading">Which symbols</legend>
      <OneOf<typeof draft.who>
        label="Which symbols"
        className="grid gap-1.5"
        value={draft.who}
        options={[
          [
            'scan',
            'in the scan',
            <Fragment key="scan">
              <Choice
                label="Scan"
                className="w-40"
                value={draft.scan}
                options={[
                  ...(scans.some((s) => s.id === draft.scan) ? [] : [[draft.scan, 'choose a scan'] as const]),
                  ...scans.map((s) => [s.id, s.name] as const),
                ]}
                change={(scan) => changeDraft({ scan, who: 'scan' })}
              />
              <TextField name="best" label="the first" wide="w-10" {...field} />
            </Fragment>,
          ],
          [
            'one',
            'one by name',
            <input
              key="one"
              className="field num w-24 uppercase"
              aria-label="Symbol"
              value={draft.symbol}
              aria-invalid={field.flawOf('symbol') !== undefined}
              onChange={(e) => changeDraft({ symbol: e.target.value, who: 'one' })}
            />,
          ],
        ]}
        change={(who) => changeDraft({ who })}
      />
    </fieldset>
  );
}

function Days({ choice, ...field }: FieldProps & { choice: DayChoice | null }) {
  const { draft, flawOf } = field;
  if (!choice) return <p className="mt-3 text-quiet">The days are being listed.</p>;
  const box = (list: 'practice' | 'own', id: string, label: string) => (
    <Tick
      key={id}
      className="min-w-0"
      on={draft[list].includes(id)}
      change={(on) =>
        changeDraft({ [list]: on ? [...draft[list], id] : draft[list].filter((x) => x !== id) })
      }
    >
      {label}
    </Tick>
  );
  const all = choice.practice.every((p) => draft.practice.includes(p.id));
  return (
    <fieldset className="mt-3" aria-invalid={flawOf('days') !== undefined}>
      <legend className="heading">Over which days</legend>
      <div className="mb-1 flex items-center gap-4">
        <TextField name="each" label="variations of each kind" wide="w-14" {...field} />
        <button
          type="button"
          className="btn px-2 py-0 text-[13px]"
          onClick={() => changeDraft({ practice: all ? [] : choice.practice.map((p) => p.id) })}
        >
          {all ? 'none' : 'all kinds'}
        </button>
      </div>
      <div className="grid grid-cols-2 gap-x-3">
        {choice.practice.map((p) => box('practice', p.id, p.title))}
      </div>
      {choice.own.length > 0 && (
        <div className="mt-1 grid gap-x-3">
          {choice.own.map((o) => box('own', o.id, `${o.title}: ${days(o.dates.length)} of your own`))}
        </div>
      )}
    </fieldset>
  );
}

'use client';

import { yupResolver } from '@hookform/resolvers/yup';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { object } from 'yup';
import { toDollars } from '@/core/units';
import { ask, useSession } from '../client';
import { Choice } from '../primitives/Choice';
import { numberIn, numberOf } from '../primitives/NumberField';
import { OneOf } from '../primitives/OneOf';
import { useSettings } from '../settings';
import { AccountsForm } from './AccountsForm';
import { LineForm } from './LineForm';
import { SecondZone } from './SecondZone';

/** The most that one trade may be set to risk, in dollars. */
const MOST_RISK = 10 ** 4;

const SOURCES = [
  ['keys', 'keys'],
  ['buttons', 'buttons'],
  ['ticket', 'the ticket'],
  ['drags', 'drags'],
  ['pair', 'the live pair'],
] as const;

/** Setup: looks, confirmations, the risk unit, and starting the day again. */
export function SetupView() {
  const theme = useSettings((s) => s.theme);
  const confirmations = useSettings((s) => s.confirm);
  const set = useSettings((s) => s.set);
  const [sure, setSure] = useState(false);
  return (
    <main className="mx-auto grid max-w-3xl gap-4 p-6">
      <h1 className="text-xl font-semibold">Setup</h1>
      <fieldset className="panel px-4 py-3">
        <legend className="heading px-1">Theme</legend>
        <OneOf
          label="Theme"
          value={theme}
          options={[
            ['night', 'Night'],
            ['dawn', 'Dawn'],
          ]}
          change={(t) => set({ theme: t })}
        />
      </fieldset>
      <fieldset className="panel flex items-center gap-3 px-4 py-3">
        <legend className="heading px-1">Second clock, and the first ten minutes</legend>
        <SecondZone />
        <button type="button" className="btn ml-auto" onClick={() => set({ guide: { on: true, step: 0 } })}>
          Show the first ten minutes
        </button>
      </fieldset>
      <fieldset className="panel px-4 py-3">
        <legend className="heading px-1">Ask before sending</legend>
        <div className="grid grid-cols-5 gap-3">
          {SOURCES.map(([k, name]) => (
            <div key={k}>
              <span className="block text-[13px] text-quiet">{name}</span>
              <Choice<(typeof confirmations)[typeof k]>
                label={`Ask for ${name}`}
                value={confirmations[k]}
                options={[
                  ['always', 'always'],
                  ['risk', 'what adds risk'],
                  ['never', 'never'],
                ]}
                change={(asks) => set({ confirm: { ...confirmations, [k]: asks } })}
              />
            </div>
          ))}
        </div>
        <p className="mt-2 text-quiet">The guards hold either way.</p>
      </fieldset>
      <RiskForm />
      <AccountsForm />
      <LineForm />
      <section className="panel px-4 py-3">
        <h2 className="heading">This practice day</h2>
        <p className="my-2 text-quiet">
          Starting again is a new attempt at the day from its beginning. What you did is set aside and stays
          under Practice days; scripts and settings stay too.
        </p>
        {sure ? (
          <span className="flex gap-2">
            <button
              type="button"
              className="btn"
              onClick={() => void startAgain().then(() => setSure(false))}
            >
              Yes, start the day again
            </button>
            <button type="button" className="btn" onClick={() => setSure(false)}>
              Keep it
            </button>
          </span>
        ) : (
          <button type="button" className="btn" onClick={() => setSure(true)}>
            Start the day again
          </button>
        )}
      </section>
    </main>
  );
}

const riskSchema = object({ risk: numberIn(1, MOST_RISK, false, '60') });

/** What one trade may lose. */
function RiskForm() {
  const account = useSession((s) => s.account);
  const form = useForm({ resolver: yupResolver(riskSchema), mode: 'onChange', defaultValues: { risk: '' } });
  const { errors } = form.formState;
  const set = form.handleSubmit(async ({ risk }) => {
    await ask({ kind: 'risk unit', dollars: numberOf(risk) ?? 0 });
    form.reset();
  });
  return (
    <form className="panel px-4 py-3" onSubmit={set}>
      <label>
        <span className="heading block">
          Unit in dollars: what one trade may lose; sizes by risk count in it (now{' '}
          {account ? toDollars(account.riskUnit).toFixed(2) : '–'})
        </span>
        <input
          className="field num mt-1 mr-3 w-28"
          inputMode="decimal"
          placeholder="60"
          aria-invalid={errors.risk !== undefined}
          {...form.register('risk')}
        />
      </label>
      <button type="submit" className="btn">
        Set
      </button>
      {errors.risk && <p className="mt-1">⚠ {errors.risk.message}</p>}
    </form>
  );
}

/** Another attempt at the day that is under way, from its beginning. */
async function startAgain(): Promise<void> {
  const answer = await ask({ kind: 'days' });
  const current = answer?.days.attempts.find((a) => a.id === answer.days.current);
  if (current) await ask({ kind: 'start day', day: current.day });
}

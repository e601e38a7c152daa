'use client';

import { yupResolver } from '@hookform/resolvers/yup';
import { useState } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { object, string } from 'yup';
import { type AccountRules, approvalOf, type OptionsApproval } from '@/core/account';
import { type AccountId, moneyFromDollars } from '@/core/units';
import { act, ask, useSession } from '../client';
import { Choice } from '../primitives/Choice';
import { NumberInput, numberIn, numberOf } from '../primitives/NumberField';
import { FeesForm } from './FeesForm';
import { GuardsForm } from './GuardsForm';
import type { Kept } from './kept';

/** The accounts: their guards with what is used of them, their fees, and new ones. */
export function AccountsForm() {
  const accounts = useSession((s) => s.desk?.accounts);
  const inUse = useSession((s) => s.account);
  const [chosen, setChosen] = useState<string | null>(null);
  if (!accounts || !inUse) return <p className="panel px-4 py-3 text-quiet">The accounts are being read.</p>;
  const account = accounts.find((a) => a.id === (chosen ?? inUse.id)) ?? accounts[0];
  if (!account) return null;
  return (
    <section className="panel px-4 py-3" aria-label="Accounts and guards">
      <h2 className="heading">Accounts and their guards</h2>
      <div className="my-2 flex flex-wrap gap-1" role="group" aria-label="Account to set up">
        {accounts.map((a) => (
          <button
            key={a.id}
            type="button"
            className={`btn py-0.5 ${a.id === account.id ? 'border-focus text-focus' : ''}`}
            aria-pressed={a.id === account.id}
            onClick={() => setChosen(a.id)}
          >
            {a.rules.name}
            {a.id === inUse.id && ' · in use'}
          </button>
        ))}
        <NewAccount accounts={accounts} made={(id) => setChosen(id)} />
      </div>
      <p className="text-quiet">
        {account.rules.kind === 'cash'
          ? 'A cash account: buys with settled cash only, sells nothing short; what is sold settles the next day.'
          : `A margin account: power of ${account.rules.multiple} times the equity within the day, half the value overnight.`}{' '}
        {account.id !== inUse.id && (
          <button
            type="button"
            className="underline"
            onClick={() => void act(`use account "${account.rules.name}"`, 'tools', 'Account')}
          >
            Use it
          </button>
        )}
      </p>
      <Approval account={account} />
      <GuardsForm key={`g${account.id}`} account={account} use={account.id === inUse.id ? inUse : null} />
      <FeesForm key={`f${account.id}`} account={account} />
    </section>
  );
}

/** What options an account may trade. */
function Approval({ account }: { account: Kept }) {
  const { rules, fees } = account;
  const levels: [OptionsApproval, string][] = [
    ['none', 'no options'],
    ['long', 'calls and puts that are bought, puts secured by cash'],
    ...(rules.kind === 'margin' ? [['spreads', 'those and verticals'] as [OptionsApproval, string]] : []),
  ];
  return (
    <div className="mt-2 flex items-center gap-2">
      <span className="text-[13px] text-quiet">Options it may trade</span>
      <Choice<OptionsApproval>
        label="Options it may trade"
        className="w-80"
        value={approvalOf(rules)}
        options={levels}
        change={(options) =>
          void ask({ kind: 'account', id: account.id as AccountId, rules: { ...rules, options }, fees })
        }
      />
    </div>
  );
}

function NewAccount({ accounts, made }: { accounts: readonly Kept[]; made(id: string): void }) {
  const [open, setOpen] = useState(false);
  if (!open)
    return (
      <button type="button" className="btn py-0.5" onClick={() => setOpen(true)}>
        New account
      </button>
    );
  return <AccountForm accounts={accounts} made={made} close={() => setOpen(false)} />;
}

function AccountForm({
  accounts,
  made,
  close,
}: {
  accounts: readonly Kept[];
  made(id: string): void;
  close(): void;
}) {
  const taken = accounts.map((a) => a.rules.name.toLowerCase());
  const schema = object({
    name: string()
      .required('A name without quotes.')
      .trim()
      .max(40)
      .matches(/^[^"]+$/, 'A name without quotes.')
      .test('free', 'Another account has this name.', (n) => !taken.includes(n.trim().toLowerCase())),
    kind: string<'margin' | 'cash'>().oneOf(['margin', 'cash']).required(),
    cash: numberIn(100, 10_000_000),
  });
  const form = useForm({
    resolver: yupResolver(schema),
    mode: 'onChange',
    defaultValues: { name: '', kind: 'margin' as const, cash: '25000' },
  });
  const make = form.handleSubmit(async ({ name, kind, cash }) => {
    const [first] = accounts;
    if (!first) return;
    const id = `account ${crypto.randomUUID().slice(0, 8)}` as AccountId;
    const rules: AccountRules = {
      ...first.rules,
      name: name.trim(),
      kind,
      startCash: moneyFromDollars(numberOf(cash) ?? 0),
      multiple: kind === 'cash' ? 1 : 4,
    };
    if (await ask({ kind: 'account', id, rules, fees: first.fees })) {
      made(id);
      close();
    }
  });
  const { errors, isValid } = form.formState;
  return (
    <form className="flex w-full items-end gap-3 border-t border-line pt-2" onSubmit={make}>
      <label>
        <span className="block text-[13px] text-quiet">Name</span>
        <input className="field w-44" aria-invalid={errors.name !== undefined} {...form.register('name')} />
      </label>
      <div>
        <span className="block text-[13px] text-quiet">Kind</span>
        <Controller
          control={form.control}
          name="kind"
          render={({ field }) => (
            <Choice<'margin' | 'cash'>
              label="Kind"
              className="w-28"
              value={field.value}
              options={[
                ['margin', 'margin'],
                ['cash', 'cash'],
              ]}
              change={field.onChange}
            />
          )}
        />
      </div>
      <NumberInput form={form} name="cash" label="Starts with, $" />
      <button type="submit" className="btn" disabled={!isValid}>
        Make it
      </button>
      <button type="button" className="btn" onClick={close}>
        Leave
      </button>
      {errors.name && <span className="text-[13px]">⚠ {errors.name.message}</span>}
    </form>
  );
}

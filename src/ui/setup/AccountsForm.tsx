'use client';

import { useState } from 'react';
import type { AccountRules } from '@/core/account';
import { type AccountId, moneyFromDollars } from '@/core/units';
import { Choice } from '../primitives/Choice';
import { act, ask, useSession } from '../session';
import { FeesForm } from './FeesForm';
import { GuardsForm } from './GuardsForm';
import type { Kept } from './kept';
import { NumberInput, useNumber } from './number-field';

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
      <GuardsForm key={`g${account.id}`} account={account} use={account.id === inUse.id ? inUse : null} />
      <FeesForm key={`f${account.id}`} account={account} />
    </section>
  );
}

function NewAccount({ accounts, made }: { accounts: readonly Kept[]; made(id: string): void }) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState('');
  const [kind, setKind] = useState<'margin' | 'cash'>('margin');
  const cash = useNumber(25_000, 100, 10_000_000, false);
  const taken = accounts.some((a) => a.rules.name.toLowerCase() === name.trim().toLowerCase());
  const problem =
    name.trim() === '' || name.includes('"') || name.length > 40
      ? 'A name without quotes.'
      : taken
        ? 'Another account has this name.'
        : '';
  if (!open)
    return (
      <button type="button" className="btn py-0.5" onClick={() => setOpen(true)}>
        New account
      </button>
    );
  const first = accounts[0];
  const make = async () => {
    if (!first) return;
    const id = `account ${crypto.randomUUID().slice(0, 8)}` as AccountId;
    const rules: AccountRules = {
      ...first.rules,
      name: name.trim(),
      kind,
      startCash: moneyFromDollars(cash.value ?? 0),
      multiple: kind === 'cash' ? 1 : 4,
    };
    if (await ask({ kind: 'account', id, rules, fees: first.fees })) {
      made(id);
      setOpen(false);
    }
  };
  return (
    <form
      className="flex w-full items-end gap-3 border-t border-line pt-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (problem === '' && !cash.bad) void make();
      }}
    >
      <label>
        <span className="block text-[13px] text-quiet">Name</span>
        <input className="field w-44" value={name} onChange={(e) => setName(e.target.value)} />
      </label>
      <div>
        <span className="block text-[13px] text-quiet">Kind</span>
        <Choice<'margin' | 'cash'>
          label="Kind"
          className="w-28"
          value={kind}
          options={[
            ['margin', 'margin'],
            ['cash', 'cash'],
          ]}
          change={setKind}
        />
      </div>
      <NumberInput f={cash} label="Starts with, $" />
      <button type="submit" className="btn" disabled={problem !== '' || cash.bad}>
        Make it
      </button>
      <button type="button" className="btn" onClick={() => setOpen(false)}>
        Leave
      </button>
      {name !== '' && problem && <span className="text-[13px]">⚠ {problem}</span>}
    </form>
  );
}

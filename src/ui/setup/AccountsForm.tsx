'use client';

import { useState } from 'react';
import { type AccountRules, DEFAULT_FEES, type FeeTable, type Guards } from '@/core/account';
import { type AccountId, money, moneyFromDollars, PRICE_SCALE, toDollars } from '@/core/units';
import type { AccountSlice, DeskSlice } from '@/worker/protocol';
import { usd } from '../format';
import { act, ask, useSession } from '../session';

type Kept = DeskSlice['accounts'][number];
const MOST = 100_000_000;

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
            onClick={() => void act(`use account "${account.rules.name}"`, 'buttons', 'Account')}
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

const keep = (a: Kept, rules: AccountRules, fees: readonly FeeTable[] = a.fees) =>
  ask({ kind: 'account', id: a.id, rules, fees });

/** One number of a form: empty is off where that may be. */
function useNumber(start: number | null, least: number, most: number, mayBeOff: boolean) {
  const [text, setText] = useState(start === null ? '' : String(start));
  const value = text.trim() === '' ? null : Number(text.replaceAll(',', ''));
  const bad = value === null ? !mayBeOff : !(value >= least && value <= most);
  return {
    text,
    setText,
    value,
    bad,
    says: `${mayBeOff ? 'Empty for none, or a' : 'A'} number from ${least} to ${most.toLocaleString('en-US')}`,
  };
}
type NumberField = ReturnType<typeof useNumber>;

function NumberInput({ f, label, now }: { f: NumberField; label: string; now?: string }) {
  return (
    <label className="block">
      <span className="block text-[13px] text-quiet">{label}</span>
      <input
        className="field num w-28"
        inputMode="decimal"
        value={f.text}
        placeholder="none"
        aria-invalid={f.bad}
        onChange={(e) => f.setText(e.target.value)}
      />
      {now && <span className="num ml-2 text-[13px] text-quiet">{now}</span>}
      {f.bad && <span className="block text-[13px]">⚠ {f.says}</span>}
    </label>
  );
}

const dollarsOf = (m: number | null): number | null => (m === null ? null : toDollars(m as never));

function GuardsForm({ account, use }: { account: Kept; use: AccountSlice | null }) {
  const { guards } = account.next ?? account.rules;
  const daily = useNumber(dollarsOf(guards.dailyLoss), 1, MOST, true);
  const risk = useNumber(dollarsOf(guards.openRisk), 1, MOST, true);
  const shares = useNumber(guards.mostShares, 1, 1_000_000, false);
  const worth = useNumber(dollarsOf(guards.mostMoney), 1, MOST, true);
  const speed = useNumber(guards.ordersPerSecond, 1, 1_000, false);
  const collar = useNumber(guards.collarPercent, 0.1, 50, false);
  const { rules } = account;
  const multiple = useNumber(rules.multiple, 1, 20, false);
  const costShare = useNumber((account.next ?? rules).costShare, 1, 100, false);
  const biggest = useBiggest(account.id);
  const [duplicates, setDuplicates] = useState(guards.duplicates);
  const [blocked, setBlocked] = useState(
    guards.blocked.map((b) => (b.side === 'both' ? b.symbol : `${b.symbol} ${b.side}`)).join(', '),
  );
  const [said, setSaid] = useState('');
  const read = readBlocked(blocked);
  const bad =
    [daily, risk, shares, worth, speed, collar, multiple, costShare].some((f) => f.bad) || read.bad !== null;
  const save = async () => {
    const next: Guards = {
      dailyLoss: daily.value === null ? null : moneyFromDollars(daily.value),
      openRisk: risk.value === null ? null : moneyFromDollars(risk.value),
      mostShares: Math.round(shares.value ?? 1),
      mostMoney: worth.value === null ? null : moneyFromDollars(worth.value),
      ordersPerSecond: Math.round(speed.value ?? 1),
      duplicates,
      collarPercent: collar.value ?? 10,
      blocked: read.list,
    };
    const kept = {
      ...rules,
      multiple: multiple.value ?? rules.multiple,
      costShare: costShare.value ?? rules.costShare,
      guards: next,
    };
    if (await keep(account, kept))
      setSaid('Kept. What is tighter holds now; what is looser from the next day on.');
  };
  return (
    <form
      className="mt-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (!bad) void save();
      }}
    >
      <h3 className="heading">Guards: what new risk may come in</h3>
      <div className="mt-1 grid grid-cols-3 gap-x-4 gap-y-2">
        <NumberInput
          f={daily}
          label="Daily loss, $"
          now={use ? `${use.today < 0 ? usd(-use.today) : '$0.00'} lost` : ''}
        />
        <NumberInput f={risk} label="Open risk, $" now={use ? `${usd(use.openRisk)} now` : ''} />
        <NumberInput f={collar} label="Price collar, %" />
        <NumberInput
          f={shares}
          label="Shares of a symbol"
          now={biggest.shares ? `${biggest.shares.shares} ${biggest.shares.symbol}` : '0 now'}
        />
        <NumberInput
          f={worth}
          label="Dollars in a symbol"
          now={
            biggest.worth
              ? `$${Math.round(toDollars(biggest.worth.worth))} ${biggest.worth.symbol}`
              : '$0 now'
          }
        />
        <NumberInput f={speed} label="Orders within a second" />
        <NumberInput f={costShare} label="Flag costs above % of target 1" />
        {rules.kind === 'margin' && <NumberInput f={multiple} label="Power within the day, × equity" />}
      </div>
      <div className="mt-2 flex items-end gap-4">
        <label className="grow">
          <span className="block text-[13px] text-quiet">
            Blocked symbols, each for both sides or for one: VULPN, QUOLS short
          </span>
          <input
            className="field w-full"
            value={blocked}
            aria-invalid={read.bad !== null}
            onChange={(e) => setBlocked(e.target.value)}
          />
          {read.bad !== null && <span className="block text-[13px]">⚠ {read.bad}</span>}
        </label>
        <label className="pb-1">
          <input type="checkbox" checked={duplicates} onChange={(e) => setDuplicates(e.target.checked)} />{' '}
          refuse the same order within a second
        </label>
      </div>
      <div className="mt-2 flex items-center gap-3">
        <button type="submit" className="btn" disabled={bad}>
          Keep the guards
        </button>
        <span className="text-[13px] text-quiet" role="status">
          {said ||
            (account.next
              ? 'Looser guards wait for the next day.'
              : 'A guard can be tightened at any time, and loosened only for the next day.')}
        </span>
      </div>
    </form>
  );
}

/** The most shares, and the most money, that are held of one symbol in an account. */
function useBiggest(account: AccountId) {
  const trades = useSession((s) => s.book?.trades);
  const marks = useSession((s) => s.marks?.last);
  const held = (trades ?? [])
    .filter((t) => t.account === account && t.status === 'open')
    .map((t) => {
      const shares = t.entered - t.exited;
      return { symbol: t.symbol, shares, worth: money(Math.round(shares * (marks?.[t.symbol] ?? 0))) };
    });
  const top = (by: 'shares' | 'worth') => [...held].sort((a, b) => b[by] - a[by])[0];
  return { shares: top('shares'), worth: top('worth') };
}

function readBlocked(text: string): { list: Guards['blocked']; bad: string | null } {
  const list: { symbol: string; side: 'both' | 'long' | 'short' }[] = [];
  for (const part of text
    .split(',')
    .map((x) => x.trim())
    .filter(Boolean)) {
    const m = /^([A-Za-z]{1,5})(?:\s+(long|short))?$/.exec(part);
    if (!m) return { list: [], bad: `“${part}” is not a symbol, or a symbol and long or short.` };
    list.push({
      symbol: (m[1] as string).toUpperCase(),
      side: (m[2] as 'long' | 'short' | undefined) ?? 'both',
    });
  }
  return { list, bad: null };
}

/** The newest table of fees; another date makes another table. */
function FeesForm({ account }: { account: Kept }) {
  const last = [...account.fees].sort((a, b) => b.from.localeCompare(a.from))[0] ?? DEFAULT_FEES;
  const [from, setFrom] = useState(last.from);
  const perShare = useNumber(last.perShare / PRICE_SCALE, 0, 1, false);
  const perOrder = useNumber(last.perOrder / PRICE_SCALE, 0, 1_000, false);
  const least = useNumber(last.minimumPerOrder / PRICE_SCALE, 0, 1_000, false);
  const cap = useNumber(last.capBasisPoints / 100, 0, 100, false);
  const remove = useNumber(last.venueRemove / PRICE_SCALE, -1, 1, false);
  const add = useNumber(last.venueAdd / PRICE_SCALE, -1, 1, false);
  const sec = useNumber(last.secPerMillion / PRICE_SCALE, 0, 1_000, false);
  const taf = useNumber(last.tafMicros / 1e6, 0, 1, false);
  const tafMost = useNumber(last.tafMost / PRICE_SCALE, 0, 1_000, false);
  const [said, setSaid] = useState('');
  const fields: [string, NumberField][] = [
    ['Commission a share, $', perShare],
    ['Commission an order, $', perOrder],
    ['At least an order, $', least],
    ['At most, % of the value', cap],
    ['Taking, a share, $', remove],
    ['Resting, a share, $', add],
    ['SEC fee, $ a million sold', sec],
    ['TAF, $ a share sold', taf],
    ['TAF at most, $', tafMost],
  ];
  const dateBad = !/^\d{4}-\d\d-\d\d$/.test(from);
  const bad = dateBad || fields.some(([, f]) => f.bad);
  const units = (f: NumberField) => Math.round((f.value ?? 0) * PRICE_SCALE);
  const save = async () => {
    const table: FeeTable = {
      from,
      perShare: units(perShare),
      perOrder: units(perOrder),
      minimumPerOrder: units(least),
      capBasisPoints: Math.round((cap.value ?? 0) * 100),
      venueRemove: units(remove),
      venueAdd: units(add),
      secPerMillion: units(sec),
      tafMicros: Math.round((taf.value ?? 0) * 1e6),
      tafMost: units(tafMost),
    };
    if (
      await keep(account, account.next ?? account.rules, [
        ...account.fees.filter((t) => t.from !== from),
        table,
      ])
    )
      setSaid(`Kept: holds from ${from} on.`);
  };
  return (
    <details className="mt-3">
      <summary className="heading cursor-pointer">Commissions and fees, from {last.from} on</summary>
      <form
        className="mt-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (!bad) void save();
        }}
      >
        <div className="grid grid-cols-3 gap-x-4 gap-y-2">
          {fields.map(([label, f]) => (
            <NumberInput key={label} f={f} label={label} />
          ))}
        </div>
        <div className="mt-2 flex items-end gap-3">
          <label>
            <span className="block text-[13px] text-quiet">Holds from</span>
            <input
              className="field num w-32"
              value={from}
              aria-invalid={dateBad}
              onChange={(e) => setFrom(e.target.value)}
            />
          </label>
          <button type="submit" className="btn" disabled={bad}>
            Keep the fees
          </button>
          <span className="pb-1 text-[13px] text-quiet" role="status">
            {dateBad
              ? '⚠ A date such as 2027-01-01'
              : said ||
                `${account.fees.length} ${account.fees.length === 1 ? 'table' : 'tables'}; another date makes another one.`}
          </span>
        </div>
      </form>
    </details>
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
      <label>
        <span className="block text-[13px] text-quiet">Kind</span>
        <select className="field" value={kind} onChange={(e) => setKind(e.target.value as 'margin' | 'cash')}>
          <option value="margin">margin</option>
          <option value="cash">cash</option>
        </select>
      </label>
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

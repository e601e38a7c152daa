'use client';

import { yupResolver } from '@hookform/resolvers/yup';
import { useState } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { boolean, object, string } from 'yup';
import type { Guards } from '@/core/account';
import { type AccountId, money, moneyFromDollars, toDollars } from '@/core/units';
import type { AccountSlice } from '@/worker/session/slices';
import { useSession } from '../client';
import { usd } from '../format';
import { NumberInput, numberIn, numberOf, startText } from '../primitives/NumberField';
import { Tick } from '../primitives/Tick';
import { type Kept, keep } from './kept';

const MOST = 100_000_000;
const dollarsOf = (m: number | null): string => startText(m === null ? null : toDollars(m as never));

const schema = object({
  daily: numberIn(1, MOST, true),
  risk: numberIn(1, MOST, true),
  shares: numberIn(1, 1_000_000),
  worth: numberIn(1, MOST, true),
  speed: numberIn(1, 1_000),
  collar: numberIn(0.1, 50),
  multiple: numberIn(1, 20),
  costShare: numberIn(1, 100),
  duplicates: boolean().required(),
  blocked: string()
    .defined()
    .test(
      'symbols',
      ({ value }) => readBlocked(value).bad ?? '',
      (text) => readBlocked(text).bad === null,
    ),
});

/** The guards of an account, what of each is used, and two numbers beside them. */
export function GuardsForm({ account, use }: { account: Kept; use: AccountSlice | null }) {
  const { rules } = account;
  const { guards, costShare } = account.next ?? rules;
  const biggest = useBiggest(account.id);
  const [said, setSaid] = useState('');
  const form = useForm({
    resolver: yupResolver(schema),
    mode: 'onChange',
    defaultValues: {
      daily: dollarsOf(guards.dailyLoss),
      risk: dollarsOf(guards.openRisk),
      shares: startText(guards.mostShares),
      worth: dollarsOf(guards.mostMoney),
      speed: startText(guards.ordersPerSecond),
      collar: startText(guards.collarPercent),
      multiple: startText(rules.multiple),
      costShare: startText(costShare),
      duplicates: guards.duplicates,
      blocked: guards.blocked.map((b) => (b.side === 'both' ? b.symbol : `${b.symbol} ${b.side}`)).join(', '),
    },
  });
  const save = form.handleSubmit(async (f) => {
    const money = (text: string) => {
      const n = numberOf(text);
      return n === null ? null : moneyFromDollars(n);
    };
    const next: Guards = {
      dailyLoss: money(f.daily),
      openRisk: money(f.risk),
      mostShares: Math.round(numberOf(f.shares) ?? 1),
      mostMoney: money(f.worth),
      ordersPerSecond: Math.round(numberOf(f.speed) ?? 1),
      duplicates: f.duplicates,
      collarPercent: numberOf(f.collar) ?? 10,
      blocked: readBlocked(f.blocked).list,
    };
    const kept = {
      ...rules,
      multiple: numberOf(f.multiple) ?? rules.multiple,
      costShare: numberOf(f.costShare) ?? rules.costShare,
      guards: next,
    };
    if (await keep(account, kept))
      setSaid('Kept. What is tighter holds now; what is looser from the next day on.');
  });
  const { errors } = form.formState;
  return (
    <form className="mt-3" onSubmit={save}>
      <h3 className="heading">Guards: what new risk may come in</h3>
      <div className="mt-1 grid grid-cols-3 gap-x-4 gap-y-2">
        <NumberInput
          form={form}
          name="daily"
          label="Daily loss, $"
          now={use ? `${use.today < 0 ? usd(-use.today) : '$0.00'} lost` : ''}
        />
        <NumberInput
          form={form}
          name="risk"
          label="Open risk, $"
          now={use ? `${usd(use.openRisk)} now` : ''}
        />
        <NumberInput form={form} name="collar" label="Price collar, %" />
        <NumberInput
          form={form}
          name="shares"
          label="Shares of a symbol"
          now={biggest.shares ? `${biggest.shares.shares} ${biggest.shares.symbol}` : '0 now'}
        />
        <NumberInput
          form={form}
          name="worth"
          label="Dollars in a symbol"
          now={
            biggest.worth
              ? `$${Math.round(toDollars(biggest.worth.worth))} ${biggest.worth.symbol}`
              : '$0 now'
          }
        />
        <NumberInput form={form} name="speed" label="Orders within a second" />
        <NumberInput form={form} name="costShare" label="Flag costs above % of target 1" />
        {rules.kind === 'margin' && (
          <NumberInput form={form} name="multiple" label="Power within the day, × equity" />
        )}
      </div>
      <div className="mt-2 flex items-end gap-4">
        <label className="grow">
          <span className="block text-[13px] text-quiet">
            Blocked symbols, each for both sides or for one: VULPN, QUOLS short
          </span>
          <input
            className="field w-full"
            aria-invalid={errors.blocked !== undefined}
            {...form.register('blocked')}
          />
          {errors.blocked && <span className="block text-[13px]">⚠ {errors.blocked.message}</span>}
        </label>
        <Controller
          control={form.control}
          name="duplicates"
          render={({ field }) => (
            <Tick className="pb-1" on={field.value} change={field.onChange}>
              refuse the same order within a second
            </Tick>
          )}
        />
      </div>
      <div className="mt-2 flex items-center gap-3">
        <button type="submit" className="btn" disabled={!form.formState.isValid}>
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

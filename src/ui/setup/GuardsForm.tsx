'use client';

import { useState } from 'react';
import type { Guards } from '@/core/account';
import { type AccountId, money, moneyFromDollars, toDollars } from '@/core/units';
import type { AccountSlice } from '@/worker/protocol';
import { usd } from '../format';
import { Tick } from '../primitives/Tick';
import { useSession } from '../session';
import { type Kept, keep } from './kept';
import { NumberInput, useNumber } from './number-field';

const MOST = 100_000_000;
const dollarsOf = (m: number | null): number | null => (m === null ? null : toDollars(m as never));

/** The guards of an account, what of each is used, and two numbers beside them. */
export function GuardsForm({ account, use }: { account: Kept; use: AccountSlice | null }) {
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
        <Tick className="pb-1" on={duplicates} change={setDuplicates}>
          refuse the same order within a second
        </Tick>
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

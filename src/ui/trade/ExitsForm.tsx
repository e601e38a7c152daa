'use client';

import { useState } from 'react';
import type { FeeTable } from '@/core/account';
import { averageEntry, gainOf, outcomeOf, positionOf, type Trade } from '@/core/orders';
import { formatPrice, parsePrice, roundToTick } from '@/core/units';
import { act, useSession } from '../client';
import { avg, px, signed, usd } from '../format';
import { Choice } from '../primitives/Choice';
import { OneOf } from '../primitives/OneOf';
import { Pop } from '../primitives/Pop';
import { SureButton } from '../primitives/SureButton';
import { useSettings } from '../settings';
import { useFees } from './fees';
import type { tradeOf } from './trade-view';

type View = NonNullable<ReturnType<typeof tradeOf>>;

/** Exits for what is held: a stop and a target that end each other, for all of it or a part. */
export function ExitsForm({ view, last }: { view: View; last: number | null }) {
  const asked = useSession((s) => s.exits);
  return (
    <Pop
      open={asked !== null}
      onOpenChange={(open) => useSession.setState({ exits: open ? { price: null } : null })}
      title={`Exits for ${view.trade.symbol}`}
      className="btn w-[64px] py-0.5 text-[13px]"
      label={<>Exits</>}
    >
      <Form key={asked?.price ?? 0} view={view} last={last} price={asked?.price ?? null} />
    </Pop>
  );
}

type Base = 'average' | 'last';
/** What is typed: a price (5.11), cents (30c) or percent (5%). */
function placeOf(text: string, from: number | null, way: 1 | -1): number | null {
  const t = text.trim();
  const m = /^(\d+(?:\.\d+)?)\s*(c|%)$/.exec(t);
  if (m && from !== null) {
    const n = Number(m[1]);
    const units = m[2] === 'c' ? n * 100 : (from * n) / 100;
    return units > 0 ? roundToTick(Math.max(1, from + way * units)) : null;
  }
  return parsePrice(t.replace(/^\$/, ''));
}

const PARTS = ['all', 'half', 'third', 'quarter'] as const;
const SHARE = { all: 1, half: 1 / 2, third: 1 / 3, quarter: 1 / 4 } as const;

function Form({
  view: { trade, lines },
  last,
  price,
}: {
  view: View;
  last: number | null;
  price: number | null;
}) {
  const fees = useFees();
  /** A price on the losing side is a stop, one on the winning side a target. */
  const isTarget = price !== null && last !== null && trade.sign * (price - last) > 0;
  const [base, setBase] = useState<Base>('average');
  const [stop, setStop] = useState(price !== null && !isTarget ? formatPrice(roundToTick(price)) : '');
  const [target, setTarget] = useState(isTarget && price !== null ? formatPrice(roundToTick(price)) : '');
  const [part, setPart] = useState<(typeof PARTS)[number]>('all');
  const plans = useSettings((s) => s.plans);
  const average = averageEntry(trade);
  const held = positionOf(trade);
  const from = base === 'average' ? average : last;
  const shares = Math.max(1, Math.floor(held * SHARE[part]));
  const stopAt = placeOf(stop, from, -trade.sign as 1 | -1);
  const targetAt = placeOf(target, from, trade.sign);
  const bad = (text: string, at: number | null) => text.trim() !== '' && at === null;
  const exits = [
    ...(stopAt === null ? [] : [`  stop at ${formatPrice(stopAt)}`]),
    ...(targetAt === null ? [] : [`  target at ${formatPrice(targetAt)}`]),
  ];
  // A stop alone, where one is there for all of it, is that one moved; targets stay.
  const there = lines.filter((l) => l.protects);
  const moves =
    stopAt !== null && targetAt === null && part === 'all' && there.length === 1 && there[0]?.open === held;
  const sentence = moves
    ? `move stop of ${trade.symbol} to ${formatPrice(stopAt)}`
    : `attach of ${trade.symbol}${part === 'all' ? '' : ` to ${part}`}\n${exits.join('\n')}`;
  const wrong = bad(stop, stopAt) || bad(target, targetAt);
  return (
    <form
      className="w-[470px] p-3 text-[13px]"
      onSubmit={(e) => {
        e.preventDefault();
        if (exits.length > 0 && !wrong) void act(sentence, 'buttons', 'Exits');
      }}
    >
      <p className="num mb-2 font-semibold">
        {trade.sign === 1 ? 'Sell' : 'Buy back'} {shares} of {held} {trade.symbol}
      </p>
      <fieldset className="mb-2 flex gap-4">
        <legend className="text-quiet">Distances and percent count from</legend>
        <OneOf<Base>
          label="Distances and percent count from"
          value={base}
          options={[
            ['average', `average ${avg(average)}`],
            ['last', `last ${px(last)}`],
          ]}
          change={setBase}
        />
        <span className="ml-auto flex items-center gap-1.5">
          for
          <Choice<(typeof PARTS)[number]>
            label="for"
            className="w-24 py-0"
            value={part}
            options={PARTS.map((p) => [p, p] as const)}
            change={setPart}
          />
        </span>
      </fieldset>
      <Line
        name="Stop"
        text={stop}
        set={setStop}
        at={stopAt}
        trade={trade}
        shares={shares}
        bad={bad(stop, stopAt)}
      />
      <Line
        name="Target"
        text={target}
        set={setTarget}
        at={targetAt}
        trade={trade}
        shares={shares}
        bad={bad(target, targetAt)}
      />
      <p className="mt-1 text-quiet">
        A stop left empty stays where it is. A fill of the one takes the shares from the other; they close
        only, never more than is held.
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        <button type="submit" className="btn text-focus" disabled={exits.length === 0 || wrong}>
          Put them on
        </button>
        <Choice
          label="Put on a plan"
          className="w-36"
          value=""
          options={[['', 'or a plan …'], ...plans.map((p) => [p.name, p.name] as const)]}
          change={(name) =>
            void act(
              `attach of ${trade.symbol} plan "${name}"${part === 'all' ? '' : ` to ${part}`}`,
              'buttons',
              'Exits',
            )
          }
        />
      </div>
      {lines.length > 0 && (
        <ul className="mt-3 grid gap-1" aria-label="Exits that are there">
          {lines.map((l) => (
            <li key={l.id} className="num flex items-center gap-2">
              <span className="w-24">{l.label}</span>
              <span>
                {l.open} at {px(l.price)}
              </span>
              <span className="text-quiet">{worth(trade, l.price, l.open, !l.protects, fees)}</span>
              {l.protects ? (
                // The sentence strip asks, and names the shares.
                <button
                  type="button"
                  className="btn ml-auto px-2 py-0"
                  onClick={() => void act(`cancel order ${l.id} alone`, 'buttons', 'Exits')}
                >
                  Take off
                </button>
              ) : (
                <SureButton
                  className="btn ml-auto px-2 py-0"
                  label="Take off"
                  sure="Sure: take it off"
                  act={() => void act(`cancel order ${l.id} alone`, 'buttons', 'Exits')}
                />
              )}
            </li>
          ))}
        </ul>
      )}
    </form>
  );
}

/** What the trade comes to where all its shares go at a price, or what a part of them makes there: net, in dollars and its R. */
function worth(t: Trade, at: number, shares: number, rests: boolean, fees: FeeTable): string {
  const out = { shares, price: at, rests };
  const { net, r } = shares === positionOf(t) ? outcomeOf(t, [out], fees) : gainOf(t, out, fees);
  return `net ${usd(net, true)}${r === null ? '' : ` ${signed(r, 2, 'R')}`}`;
}

function Line({
  name,
  text,
  set,
  at,
  trade,
  shares,
  bad,
}: {
  name: string;
  text: string;
  set(v: string): void;
  at: number | null;
  trade: Trade;
  shares: number;
  bad: boolean;
}) {
  const fees = useFees();
  return (
    <label className="mb-1 grid grid-cols-[56px_150px_1fr] items-baseline gap-2">
      <span>{name}</span>
      <input
        className="field num"
        aria-label={name}
        value={text}
        placeholder={name === 'Stop' ? '30c, 5% or 5.11' : '60c, 10% or 6.02'}
        aria-invalid={bad}
        onChange={(e) => set(e.target.value)}
      />
      <span className="num text-quiet">
        {bad
          ? '⚠ A price (5.11), cents (30c) or percent (5%)'
          : at === null
            ? 'none'
            : `at ${px(at)} · ${worth(trade, at, shares, name !== 'Stop', fees)}`}
      </span>
    </label>
  );
}

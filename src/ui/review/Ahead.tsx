'use client';

import { useEffect, useMemo, useState } from 'react';
import {
  Area,
  CartesianGrid,
  ComposedChart,
  Line,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import type { Filter, Outlook } from '@/core/review';
import { PRICE_SCALE } from '@/core/units';
import type { OutlookOf } from '@/worker/review/review-messages';
import { useSession } from '../client';
import { OneOf } from '../primitives/OneOf';
import { loadRehearsals, useRehearsals } from '../rehearse/rehearsals';
import { useAsked, useLens } from './asked';
import { Ladder } from './Ladder';
import { Picture } from './Picture';
import { dollars, inR, percent } from './said';

/** How often it is tried. */
const RUNS = 10_000;
type Of = OutlookOf['kind'];

/** A number that is typed: its text, and its value where it is one within bounds. */
function useTyped(start: string, least: number, most: number) {
  const [text, setText] = useState(start);
  const n = Number(text.replaceAll(',', ''));
  const value = text.trim() !== '' && n >= least && n <= most ? n : null;
  return {
    text,
    setText,
    value,
    problem: value === null ? `${least.toLocaleString('en-US')} to ${most.toLocaleString('en-US')}` : null,
  };
}

function Typed({ label, of, unit = '' }: { label: string; of: ReturnType<typeof useTyped>; unit?: string }) {
  return (
    <label className="flex items-baseline justify-between gap-2">
      <span className="text-quiet">{label}</span>
      <span className="text-right">
        <input
          className="field num w-24 py-0.5 text-right"
          inputMode="decimal"
          value={of.text}
          aria-invalid={of.problem !== null}
          onChange={(e) => of.setText(e.target.value)}
        />{' '}
        {unit}
        {of.problem && <span className="block text-[12px]">⚠ {of.problem}</span>}
      </span>
    </label>
  );
}

/** What the next hundreds of trades may come to, and what to risk on each, month by month. */
export default function Ahead() {
  const filter = useLens((s) => s.filter);
  const account = useSession((s) => s.account);
  const [of, setOf] = useState<Of>('own');
  const trades = useTyped('300', 10, 1_000);
  const equity = useTyped(
    String(Math.round((account?.equity ?? 300_000_000) / PRICE_SCALE)),
    100,
    100_000_000,
  );
  const unit = useTyped(String((account?.riskUnit ?? 600_000) / PRICE_SCALE), 1, 1_000_000);
  const ruin = useTyped('50', 0, 99);
  const winRate = useTyped('45', 1, 99);
  const payoff = useTyped('1.5', 0.05, 50);
  const rehearsed = useRehearsedDays(of === 'rehearsal');
  const from = drawn(of, filter, rehearsed.days, (winRate.value ?? 45) / 100, payoff.value ?? 1.5);
  const money = equity.value ?? 30_000;
  const { answer, problem } = useAsked({
    kind: 'outlook',
    of: from,
    terms: {
      trades: Math.round(trades.value ?? 300),
      runs: RUNS,
      equity: money,
      unit: unit.value ?? 60,
      ruin: money * (1 - (ruin.value ?? 50) / 100),
    },
  });
  const risked = unit.value ?? 60;
  return (
    <div className="grid min-h-0 grid-cols-[300px_1fr_360px] gap-1.5">
      <section
        className="panel flex flex-col gap-1.5 overflow-y-auto px-3 py-2 text-[13px]"
        aria-label="What is drawn from"
      >
        <h2 className="heading">If trades go on like …</h2>
        <OneOf
          label="Results of"
          className="flex flex-col gap-1"
          value={of}
          options={[
            ['own', 'these of mine'],
            ['rehearsal', `a rehearsal${rehearsed.name ? `: ${rehearsed.name}` : ''}`],
            ['typed', 'a typed rate and payoff'],
          ]}
          change={(v: Of) => setOf(v)}
        />
        {of === 'typed' && (
          <>
            <Typed label="Won" of={winRate} unit="%" />
            <Typed label="Mean win, in R" of={payoff} />
          </>
        )}
        <h2 className="heading mt-2">Ahead</h2>
        <Typed label="Trades" of={trades} />
        <Typed label="Equity now, $" of={equity} />
        <Typed label="Risked a trade, $" of={unit} />
        <Typed label="Over when lost, %" of={ruin} />
        {answer && (
          <p className="mt-1 text-[12px] text-quiet">
            {RUNS.toLocaleString('en-US')} times, whole days drawn from {answer.days.toLocaleString('en-US')}{' '}
            {of === 'typed'
              ? 'made-up results'
              : `days with ${answer.results.toLocaleString('en-US')} results`}
            . What is to come need not be like what was.
          </p>
        )}
        {answer?.outlook && (
          <Told
            outlook={answer.outlook}
            toTell={answer.toTell}
            days={answer.days}
            unit={risked}
            trades={trades.value ?? 300}
          />
        )}
      </section>
      {problem ? (
        <p className="panel p-4" role="alert">
          ⚠ {problem}
        </p>
      ) : answer?.outlook ? (
        <Picture
          title="Where it may stand"
          note={`bands hold 9 of 10, and half of the runs; $ at ${risked} a trade`}
          table={{
            heads: ['Trades', '5 %', '25 %', 'middle', '75 %', '95 %'],
            rows: answer.outlook.fan.map((f) => [
              f.trades,
              ...[f.p5, f.p25, f.p50, f.p75, f.p95].map((x) => inR(x, 1)),
            ]),
          }}
        >
          <Fan outlook={answer.outlook} />
        </Picture>
      ) : (
        <p className="panel p-6 text-quiet">
          {!answer
            ? 'It is being worked out …'
            : of === 'rehearsal'
              ? 'There is no rehearsal with trades yet. Run one in Rehearse, or take your own trades.'
              : 'None of these trades says what it risked: a trade with a stop does.'}
        </p>
      )}
      <Ladder />
    </div>
  );
}

const drawn = (of: Of, filter: Filter, days: number[][], winRate: number, payoff: number): OutlookOf =>
  of === 'own' ? { kind: of, filter } : of === 'typed' ? { kind: of, winRate, payoff } : { kind: of, days };

function Told({
  outlook: o,
  toTell,
  days,
  unit,
  trades,
}: {
  outlook: Outlook;
  toTell: number | null;
  days: number;
  unit: number;
  trades: number;
}) {
  const both = (r: number) => `${inR(r, 1)} · ${dollars(r * unit * PRICE_SCALE)}`;
  const rows: [string, string][] = [
    [`down after ${Math.round(trades / 2)}`, percent(o.downHalf)],
    [`down after ${trades}`, percent(o.down)],
    ['deepest fall, middle', both(-o.drawdown.p50)],
    ['1 in 20 falls deeper than', both(-o.drawdown.p95)],
    ['risk of ruin', o.ruin < 0.0005 ? 'less than 1 in 2,000' : `${(o.ruin * 100).toFixed(1)} %`],
    [
      'luck and skill apart after',
      toTell === null || days < 8 ? 'cannot be told yet' : `${toTell.toLocaleString('en-US')} trades`,
    ],
  ];
  return (
    <dl className="mt-1 border-t border-line pt-1">
      {rows.map(([what, value]) => (
        <div key={what} className="py-0.5">
          <dt className="text-quiet">{what}</dt>
          <dd className="num text-right text-[15px] font-semibold">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

/** The bands of all runs, and their middle. */
function Fan({ outlook }: { outlook: Outlook }) {
  const data = [
    { trades: 0, wide: [0, 0], half: [0, 0], middle: 0 },
    ...outlook.fan.map((f) => ({
      trades: f.trades,
      wide: [f.p5, f.p95],
      half: [f.p25, f.p75],
      middle: f.p50,
    })),
  ];
  const tick = { fill: 'var(--quiet)', fontSize: 11 };
  return (
    <ResponsiveContainer width="100%" height="100%">
      <ComposedChart data={data} margin={{ top: 6, right: 10, bottom: 0, left: 0 }}>
        <CartesianGrid stroke="var(--line)" vertical={false} />
        <XAxis dataKey="trades" type="number" domain={[0, 'dataMax']} tick={tick} />
        <YAxis width={48} tick={tick} tickFormatter={(x: number) => inR(x, 0)} />
        <ReferenceLine y={0} stroke="var(--quiet)" />
        <Area
          dataKey="wide"
          stroke="none"
          fill="var(--condition)"
          fillOpacity={0.22}
          isAnimationActive={false}
        />
        <Area
          dataKey="half"
          stroke="none"
          fill="var(--condition)"
          fillOpacity={0.3}
          isAnimationActive={false}
        />
        <Line dataKey="middle" stroke="var(--text)" strokeWidth={1.5} dot={false} isAnimationActive={false} />
      </ComposedChart>
    </ResponsiveContainer>
  );
}

/** Results in R of the rehearsal that is chosen in Rehearse, first hand, day by day. */
function useRehearsedDays(wanted: boolean): { name: string; days: number[][] } {
  const { list, chosen, days } = useRehearsals();
  useEffect(() => {
    if (wanted) void loadRehearsals();
  }, [wanted]);
  const name = list?.find((r) => r.id === chosen)?.name ?? '';
  return useMemo(
    () => ({
      name,
      days: [...days.values()]
        .map((hands) => (hands[0]?.trades ?? []).map((t) => t.r))
        .filter((d) => d.length > 0),
    }),
    [name, days],
  );
}

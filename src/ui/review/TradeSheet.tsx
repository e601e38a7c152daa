'use client';

import { X } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { totalOf } from '@/core/account';
import { isOfOldRule, noRemark, type Remark, type Source, type TradeRecord } from '@/core/review';
import { DAY, MINUTE, PRE_OPEN } from '@/core/units';
import { ask, discard, focusOn } from '../client';
import { avg, clock, px, usd } from '../format';
import { Choice } from '../primitives/Choice';
import { OneOf } from '../primitives/OneOf';
import { startAt } from '../start-at';
import { askReview, regroup, useAsked } from './asked';
import { Pictures, pastePicture } from './Pictures';
import { PlannedExits } from './PlannedExits';
import { dollars, inR, span } from './said';
import { openTrade } from './trade-open';

const GRADES = ['', 'A', 'B', 'C', 'D', 'F'] as const;

/** One trade: what it came to, what is said of it, and every execution. */
export function TradeSheet({ reference }: { reference: string }) {
  const { answer, problem } = useAsked({ kind: 'trade', ref: reference });
  if (problem) return <section className="panel p-3">⚠ {problem}</section>;
  if (!answer || answer.trade.ref !== reference)
    return <section className="panel p-3 text-quiet">The trade is being read …</section>;
  const { trade: t, remark, hindsight, left, day } = answer;
  const facts: [string, string][] = [
    ['net', dollars(t.net)],
    [
      'R',
      t.risk
        ? `${inR(t.net / t.risk)}${isOfOldRule(t) ? ', by the old rule: its first stop (Left early works it out anew)' : ''}`
        : 'no risk is said',
    ],
    ['gross', dollars(t.gross)],
    ['costs', usd(Math.round(totalOf(t.costs)))],
    ['entry', avg(t.averageEntry)],
    ['exit', avg(t.averageExit)],
    ['against it', t.mae === null ? 'no prices' : dollars(t.mae)],
    ['for it', t.mfe === null ? 'no prices' : dollars(t.mfe)],
    ['in it', span(t.held)],
    ['account', t.account],
    [
      'its plan, alone',
      left === undefined
        ? 'not known'
        : left === null
          ? 'left alone'
          : left.plan
            ? dollars(left.plan.net)
            : 'not known',
    ],
  ];
  return (
    <section className="panel overflow-y-auto px-3 py-2" aria-label="One kept trade">
      <div className="flex items-baseline gap-2">
        <h2 className={`font-bold ${t.direction === 'long' ? 'text-up' : 'text-down'}`}>
          {t.direction} {t.symbol}
        </h2>
        <span className="num text-quiet">{t.opened.date}</span>
        {hindsight && <span className="border border-line px-1 text-[12px] text-quiet">hindsight</span>}
        <button
          type="button"
          className="ml-auto"
          aria-label="Close the trade"
          onClick={() => openTrade(null)}
        >
          <X size={16} aria-hidden />
        </button>
      </div>
      <dl className="mt-1 grid grid-cols-2 gap-x-5 text-[13px]">
        {facts.map(([what, value]) => (
          <div key={what} className="flex justify-between gap-2">
            <dt className="text-quiet">{what}</dt>
            <dd className="num">{value}</dd>
          </div>
        ))}
      </dl>
      {t.source.kind === 'attempt' && <Again trade={t} source={t.source} />}
      {day && <OwnDayOf trade={t} day={day} />}
      {t.source.kind === 'import' && !day && (
        <p className="mt-2 text-[12px] text-quiet">
          How far it went, and what its plan would have made, is not known. Take the minute bars of {t.symbol}{' '}
          on {t.opened.date} in under{' '}
          <Link href="/days" className="underline">
            Practice days
          </Link>
          , and it is told.
        </p>
      )}
      <Said key={t.ref} trade={t} remark={remark ?? noRemark(t.ref)} />
      {t.sentence && (
        <>
          <h3 className="heading mt-3">The sentence</h3>
          <pre className="num text-[13px] whitespace-pre-wrap">{t.sentence}</pre>
        </>
      )}
      <h3 className="heading mt-3">Executions</h3>
      <table className="num w-full text-[12.5px] whitespace-nowrap">
        <tbody>
          {t.executions.map((x, k) => (
            <tr key={`${x.id} ${k}`}>
              <td className="text-quiet" title={x.date}>
                {x.date === t.opened.date ? '' : `${x.date.slice(5)} `}
                {clock(x.at, 'millis')}
              </td>
              <td>{x.role}</td>
              <td>
                {x.side} {x.qty}
              </td>
              <td>{px(x.price)}</td>
              <td className="text-quiet">
                {[x.liquidity, x.route === 'LIT' ? null : x.route].filter(Boolean).join(' ')}
              </td>
              <td>{x.better > 0 ? `${usd(Math.round(x.better * x.qty), true)} better` : ''}</td>
              <td className="text-right">{usd(Math.round(totalOf(x.costs)))}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** The day of a trade again, from the minute before it: by the trader's hand, or watched as it was. */
function Again({ trade, source }: { trade: TradeRecord; source: Extract<Source, { kind: 'attempt' }> }) {
  const router = useRouter();
  const go = async (watch: boolean) => {
    const day = source.at.opened - (source.at.opened % DAY);
    const at = Math.max(day + PRE_OPEN, source.at.opened - MINUTE);
    const done = await ask({ kind: 'take again', attempt: source.attempt, at, watch });
    if (!done) return;
    discard();
    await focusOn(trade.symbol);
    router.push('/desk');
  };
  return (
    <div className="mt-2 flex gap-2 text-[13px]">
      <button
        type="button"
        className="btn"
        title="Opens the day at the minute before: the chart, depth and prints as they were, your orders of then at their times, at any speed"
        onClick={() => void go(true)}
      >
        Watch it again
      </button>
      <button
        type="button"
        className="btn"
        title="Opens the day at the minute before: the rest is yours. It is hindsight, and counts nowhere."
        onClick={() => void go(false)}
      >
        Take it again
      </button>
    </div>
  );
}

/** The day of an imported trade, of which the trader has the bars. */
function OwnDayOf({ trade, day }: { trade: TradeRecord; day: { id: string; n: number } }) {
  const router = useRouter();
  const go = async () => {
    const { date, at } = trade.opened;
    await startAt({ kind: 'own', id: day.id }, day.n, date, trade.symbol, Math.max(PRE_OPEN, at - MINUTE));
    router.push('/desk');
  };
  return (
    <button
      type="button"
      className="btn mt-2 text-[13px]"
      title="Opens the day of your bars at the minute before"
      onClick={() => void go()}
    >
      Open its day
    </button>
  );
}

/** What the trader says of it; kept as it is typed. */
function Said({ trade, remark }: { trade: TradeRecord; remark: Remark }) {
  const [said, setSaid] = useState(remark);
  const [tags, setTags] = useState(remark.tags.join(', '));
  const [problem, setProblem] = useState<string | null>(null);
  const [pasted, setPasted] = useState(0);
  const set = (change: Partial<Remark>, over = false) => {
    const next = { ...said, ...change };
    setSaid(next);
    askReview({ kind: 'remark', remark: next }).then(
      () => {
        setProblem(null);
        if (over) done();
      },
      (e: unknown) => setProblem(e instanceof Error ? e.message : String(e)),
    );
  };
  // Figures follow when a field is left.
  const done = () => void regroup().catch(() => {});
  return (
    <div
      className="mt-3 grid grid-cols-[1fr_84px] gap-2 text-[13px]"
      onPaste={(e) =>
        void pastePicture(e, said.ref).then((why) => {
          setProblem(why);
          setPasted((n) => n + 1);
        })
      }
    >
      <label>
        <span className="block text-quiet">Setup</span>
        <input
          className="field w-full"
          value={said.setup}
          maxLength={60}
          onChange={(e) => set({ setup: e.target.value })}
          onBlur={done}
        />
      </label>
      <div>
        <span className="block text-quiet">Grade</span>
        <Choice
          label="Grade"
          value={said.grade}
          options={GRADES.map((g) => [g, g === '' ? 'none' : g] as const)}
          change={(grade) => set({ grade }, true)}
        />
      </div>
      <label className="col-span-2">
        <span className="block text-quiet">Tags, with commas between</span>
        <input
          className="field w-full"
          value={tags}
          maxLength={200}
          onChange={(e) => {
            setTags(e.target.value);
            set({
              tags: e.target.value
                .split(',')
                .map((x) => x.trim())
                .filter(Boolean),
            });
          }}
          onBlur={done}
        />
      </label>
      <div className="col-span-2 flex items-center gap-4">
        <span className="text-quiet">The plan was</span>
        <OneOf
          label="The plan was"
          value={said.kept === null ? '' : said.kept ? 'kept' : 'broken'}
          options={[
            ['kept', 'kept'],
            ['broken', 'broken'],
          ]}
          change={(v: string) => set({ kept: v === 'kept' }, true)}
        />
      </div>
      {said.kept === false && (
        <label className="col-span-2">
          <span className="block text-quiet">Which rule was broken</span>
          <input
            className="field w-full"
            value={said.broke}
            maxLength={120}
            onChange={(e) => set({ broke: e.target.value })}
            onBlur={done}
          />
        </label>
      )}
      {trade.source.kind === 'import' && <PlannedExits trade={trade} keep={(exits) => set(exits, true)} />}
      <label className="col-span-2">
        <span className="block text-quiet">Notes; a picture can be pasted here</span>
        <textarea
          className="field h-16 w-full resize-y"
          value={said.words}
          maxLength={4000}
          onChange={(e) => set({ words: e.target.value })}
          onBlur={done}
        />
      </label>
      <Pictures reference={said.ref} version={pasted} />
      {problem && (
        <p role="alert" className="col-span-2">
          ⚠ This could not be kept: {problem}
        </p>
      )}
    </div>
  );
}

'use client';

import { useEffect, useState } from 'react';
import type { LeavingEarly, LeftEarly as Touched, Untold } from '@/core/review';
import { STOPPED } from '@/worker/call/calls';
import { leftAloneCalls } from '@/worker/left-alone/left-alone-calls';
import { useSession } from '../client';
import { shortName } from '../format';
import { PlainTable } from '../primitives/PlainTable';
import { Working } from '../primitives/Working';
import { askReview, readAgain, useAsked, useLens } from './asked';
import { between, dollars, inR, percent } from './said';
import type { ReviewTab } from './tabs';
import { openTrade } from './trade-open';

type Work = { attempt: number; nth: number; of: number; part: number };

/** What plans would have made, left alone, beside what was made. */
export default function LeftEarly({ show }: { show(tab: ReviewTab): void }) {
  const filter = useLens((s) => s.filter);
  const current = useSession((s) => s.clock?.attempt ?? null);
  const { answer, problem } = useAsked({ kind: 'left early', filter, current });
  const { work, trouble, start, stop } = useWork(current);
  const missing = answer?.missing ?? [];
  if (problem)
    return (
      <p className="panel p-6" role="alert">
        ⚠ {problem}
      </p>
    );
  if (!answer) return <p className="panel p-6 text-quiet">It is being read …</p>;
  const { told } = answer;
  return (
    <div className="grid min-h-0 grid-cols-[372px_1fr] gap-1.5">
      <div className="flex min-h-0 flex-col gap-1.5 overflow-y-auto">
        <Sum told={told} />
        <section className="panel shrink-0 px-3 py-2 text-[13px]" aria-label="Days lived through again">
          <h2 className="heading">Days lived through again</h2>
          {work ? (
            <Working
              what={`Attempt ${work.attempt}, ${work.nth} of ${work.of}`}
              part={work.part}
              end={stop}
              ending="Stop here"
            />
          ) : missing.length > 0 ? (
            <>
              <p className="text-quiet">
                {missing.length === 1 ? 'One session has' : `${missing.length} sessions have`} trades of which
                it is not known yet. They are lived through again up to and without the first time that your
                hand touched the trade; of the day that is on nothing is told before its close.
              </p>
              <button type="button" className="btn mt-1" onClick={() => start(missing)}>
                Live {missing.length === 1 ? 'it' : 'them'} through again
              </button>
            </>
          ) : (
            <p className="text-quiet">All of them.</p>
          )}
          {trouble && <p role="alert">⚠ {trouble}</p>}
        </section>
        {told.months.length > 0 && <Months told={told} />}
      </div>
      <section className="panel min-h-0 overflow-auto px-3 py-2" aria-label="Trades that were left">
        {told.touched.length === 0 ? (
          <p className="p-3 text-quiet">
            {told.alone > 0
              ? 'No plan was touched: every exit was the plan’s own.'
              : 'Nothing can be told of these trades yet: beside, it is said why.'}
          </p>
        ) : (
          <Dearest
            touched={told.touched}
            open={(ref) => {
              openTrade(ref);
              show('trades');
            }}
          />
        )}
      </section>
    </div>
  );
}

/** Attempts one after another. */
function useWork(current: number | null) {
  const [work, setWork] = useState<Work | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [worker] = useState(leftAloneCalls);
  useEffect(() => () => worker.stop(), [worker]);
  const start = async (attempts: readonly number[]) => {
    setTrouble(null);
    try {
      for (const [k, attempt] of attempts.entries()) {
        const at = { attempt, nth: k + 1, of: attempts.length };
        setWork({ ...at, part: 0 });
        const asked = { kind: 'live again', attempt, current: attempt === current } as const;
        const afters = await worker.ask(asked, (part) => setWork({ ...at, part }));
        await askReview({ kind: 'keep afters', afters });
      }
    } catch (e) {
      const text = e instanceof Error ? e.message : String(e);
      if (text !== STOPPED) setTrouble(text);
    }
    setWork(null);
    await readAgain().catch(() => {});
  };
  return { work, trouble, start: (a: readonly number[]) => void start(a), stop: () => worker.stop() };
}

const UNTOLD: readonly (readonly [Untold, string])[] = [
  ['not yet', 'of sessions that have not been lived through again'],
  ['otherwise', 'whose day came out otherwise'],
  ['no candles', 'imported, with no minute bars of their day: take them in under Practice days (Setup)'],
  ['no plan', 'imported, with no plan: type a stop or a target beside the trade'],
];

function Sum({ told }: { told: LeavingEarly }) {
  const n = told.touched.length;
  return (
    <section className="panel shrink-0 px-3 py-2" aria-label="What leaving costs">
      <h2 className="heading">What your hand cost</h2>
      <p className={`num text-[24px] font-bold ${told.costR > 0 ? 'text-down' : 'text-up'}`}>
        {n === 0 ? '–' : `${inR(-told.costR, 1)}`}{' '}
        <span className="text-[15px]">{n === 0 ? '' : dollars(-told.cost)}</span>
      </p>
      <p className="text-[13px] text-quiet">
        {n} {n === 1 ? 'trade was' : 'trades were'} touched by hand, {told.alone} left alone
        {UNTOLD.some(([why]) => told.unknown[why] > 0) && '. Not told of:'}
      </p>
      <ul className="text-[13px] text-quiet">
        {UNTOLD.filter(([why]) => told.unknown[why] > 0).map(([why, words]) => (
          <li key={why}>
            <span className="num">{told.unknown[why]}</span> {words}
          </li>
        ))}
      </ul>
      {n > 0 && (
        <dl className="mt-1 text-[13px]">
          {(
            [
              [
                'a touched trade',
                `${inR(-told.mean)} (${between(told.interval && { low: -told.interval.high, high: -told.interval.low }, inR)})`,
              ],
              [
                'in a year of days like these',
                told.interval
                  ? `${inR(-told.year.r, 0)} · ${dollars(-told.year.money)}`
                  : 'too few days to tell',
              ],
              ['kept of the best there was', told.kept < 0 ? 'none of it' : percent(told.kept)],
            ] as const
          ).map(([what, value]) => (
            <div key={what} className="flex justify-between gap-2">
              <dt className="text-quiet">{what}</dt>
              <dd className="num">{value}</dd>
            </div>
          ))}
        </dl>
      )}
    </section>
  );
}

function Months({ told }: { told: LeavingEarly }) {
  return (
    <section className="panel shrink-0 px-3 py-2" aria-label="By month">
      <PlainTable
        heads={['Month', 'Touched', 'Made of it, R', '$']}
        rows={told.months.map((m) => [m.name, m.trades, inR(-m.costR, 1), dollars(-m.cost)])}
      />
    </section>
  );
}

/** The dearest five first, then the others. */
function Dearest({ touched, open }: { touched: readonly Touched[]; open(ref: string): void }) {
  return (
    <table className="plain text-[13px] whitespace-nowrap [&_td]:px-1.5! [&_th]:px-1.5!">
      <caption className="text-left text-quiet">
        The dearest first. What came after is what the price went your way from your exit, for all shares.
      </caption>
      <thead>
        <tr>
          {['Trade', 'Date', 'By', 'Made', 'Plan', 'Cost', 'R', '5 min', '30 min', 'Close', 'Best'].map(
            (h) => (
              <th key={h} scope="col">
                {h}
              </th>
            ),
          )}
        </tr>
      </thead>
      <tbody className="num">
        {touched.slice(0, 300).map((t, k) => (
          <tr key={t.ref} className={k < 5 && t.cost > 0 ? 'font-semibold' : ''}>
            <td>
              <button
                type="button"
                className="whitespace-nowrap underline decoration-line underline-offset-4"
                onClick={() => open(t.ref)}
              >
                {t.direction} {shortName(t.symbol)}
              </button>
            </td>
            <td className="whitespace-nowrap">{t.date}</td>
            <td className="max-w-20 truncate" title={t.by}>
              {t.by}
            </td>
            <td>{dollars(t.net)}</td>
            <td title={t.open ? 'Still open at the close: worth its last price' : undefined}>
              {dollars(t.plan)}
              {t.open ? ' *' : ''}
            </td>
            <td className={t.cost > 0 ? 'text-down' : 'text-up'}>{dollars(-t.cost)}</td>
            <td>{inR(-t.costR)}</td>
            <td className="text-quiet">{t.after?.five == null ? '–' : dollars(t.after.five)}</td>
            <td className="text-quiet">{t.after?.thirty == null ? '–' : dollars(t.after.thirty)}</td>
            <td className="text-quiet">{t.after ? dollars(t.after.close) : '–'}</td>
            <td className="text-quiet">{t.after ? dollars(t.after.best) : '–'}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

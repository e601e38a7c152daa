'use client';

import { useEffect, useMemo, useState } from 'react';
import { pageMarkdown } from '@/core/formats';
import { type PageTrade, type Planned, spanOf } from '@/core/review';
import { dateAfter } from '@/core/units';
import { useSession } from '../client';
import { download } from '../download';
import { clock, usd } from '../format';
import { useSettings } from '../settings';
import { askReview, useAsked } from './asked';
import { dollars, inR } from './said';
import type { ReviewTab } from './tabs';
import { openTrade } from './trade-open';

/** The page of a day or a week, written by its log, with room for one's own words. */
export default function PageView({
  traded,
  show,
}: {
  /** Dates on which trades ended; those with a shortlist, and the one that is on, have a page as well. */
  traded: readonly string[];
  show(tab: ReviewTab): void;
}) {
  const today = useSession((s) => s.clock?.date);
  const shortlists = useSettings((s) => s.shortlists);
  const [span, setSpan] = useState<'day' | 'week'>('day');
  const [chosen, setChosen] = useState<string | null>(null);
  const names = useMemo(() => {
    const planned = shortlists.filter((l) => l.rows.length > 0).map((l) => l.date);
    const dates = [...traded, ...planned, ...(today ? [today] : [])];
    return [...new Set(dates.map((d) => spanOf(d, span)))].sort();
  }, [traded, shortlists, today, span]);
  const at = chosen !== null && names.includes(chosen) ? chosen : (names[names.length - 1] ?? '');
  const [from, to] = span === 'day' ? [at, at] : [at, dateAfter(at, 6)];
  const planned: Planned[] = shortlists
    .filter((l) => l.date >= from && l.date <= to)
    .flatMap((l) => l.rows.map(({ symbol, grade, note }) => ({ date: l.date, symbol, grade, note })));
  const { answer: page, problem } = useAsked({ kind: 'page', from, to, planned });
  const title = span === 'day' ? `Day ${at}` : `Week of ${at}`;
  const of = span === 'day' ? at : `week ${at}`;
  const words = useWords(of);
  const k = names.indexOf(at);
  if (problem)
    return (
      <p className="panel p-6" role="alert">
        ⚠ {problem}
      </p>
    );
  const line = (t: PageTrade) => (
    <li key={t.ref} className="flex flex-wrap gap-x-2">
      <span className="num text-quiet">
        {span === 'week' && `${t.date.slice(5)} `}
        {clock(t.opened, 'minutes')}
      </span>
      <button
        type="button"
        className="underline decoration-line underline-offset-4"
        onClick={() => {
          openTrade(t.ref);
          show('trades');
        }}
      >
        {t.name}
      </button>
      <span className="num">
        {dollars(t.net)} {t.r !== null && inR(t.r)}
      </span>
      <span className="text-quiet">
        {[t.setup, t.kept === false && `broken: ${t.broke || 'not said which rule'}`, t.words]
          .filter(Boolean)
          .join(' · ')}
      </span>
    </li>
  );
  return (
    <section className="panel printed min-h-0 overflow-y-auto px-5 py-3" aria-label={title}>
      <div className="unprinted mb-2 flex items-center gap-2 text-[13px]">
        {(['day', 'week'] as const).map((s) => (
          <button
            key={s}
            type="button"
            className="btn py-0.5"
            aria-pressed={span === s}
            onClick={() => setSpan(s)}
          >
            {s === 'day' ? 'Day' : 'Week'}
          </button>
        ))}
        <button
          type="button"
          className="btn py-0.5"
          disabled={k <= 0}
          aria-label={`${span} before`}
          onClick={() => setChosen(names[k - 1] ?? null)}
        >
          ←
        </button>
        <button
          type="button"
          className="btn py-0.5"
          disabled={k >= names.length - 1}
          aria-label={`${span} after`}
          onClick={() => setChosen(names[k + 1] ?? null)}
        >
          →
        </button>
        <span className="ml-auto flex gap-2">
          <button type="button" className="btn py-0.5" disabled={!page} onClick={() => window.print()}>
            Print
          </button>
          <button
            type="button"
            className="btn py-0.5"
            disabled={!page}
            onClick={() =>
              page &&
              download(`${of.replace(' ', '-')}.md`, 'text/markdown', pageMarkdown(page, title, words.text))
            }
          >
            As Markdown
          </button>
        </span>
      </div>
      <h2 className="text-[18px] font-bold">{title}</h2>
      {!page ? (
        <p className="text-quiet">The page is being written …</p>
      ) : (
        <>
          <p className="num mt-0.5">
            {page.figures.trades} {page.figures.trades === 1 ? 'trade' : 'trades'} ·{' '}
            {dollars(page.figures.net)} after {usd(Math.round(page.figures.costs))} costs ·{' '}
            {inR(page.figures.withRisk === 0 ? Number.NaN : page.figures.r)} · won {page.figures.won}
          </p>
          <div className="mt-2 grid grid-cols-3 gap-x-6 gap-y-2 text-[13px]">
            <Part title="Planned and taken" none="Nothing of the shortlist was traded.">
              {page.taken.map((x) => (
                <li key={`${x.date} ${x.symbol}`}>
                  <b>{x.symbol}</b> {x.grade}{' '}
                  <span className="num">
                    {dollars(x.net)} {inR(x.r)}
                  </span>{' '}
                  <span className="text-quiet">{x.note}</span>
                </li>
              ))}
            </Part>
            <Part title="Planned and left" none="Nothing was left.">
              {page.left.map((x) => (
                <li key={`${x.date} ${x.symbol}`}>
                  <b>{x.symbol}</b> {x.grade} <span className="text-quiet">{x.note}</span>
                </li>
              ))}
            </Part>
            <Part
              title="Taken, not on the shortlist"
              none={page.figures.trades === 0 ? 'No trade.' : 'Every trade was on the shortlist.'}
            >
              {page.unplanned.map((x) => (
                <li key={x.symbol}>
                  <b>{x.symbol}</b>{' '}
                  <span className="num">
                    {dollars(x.net)} {inR(x.r)}
                  </span>
                </li>
              ))}
            </Part>
            <Part title="Rules" none="">
              <li>
                plan kept {page.kept}, broken {page.broken}, not said{' '}
                {page.figures.trades - page.kept - page.broken}
              </li>
              {page.rules.map((r) => (
                <li key={r.rule}>
                  {r.rule}: {r.times} ×
                </li>
              ))}
            </Part>
            <Part title="Best and worst" none="No trade.">
              {[page.best, page.worst].filter((t) => t !== null).map(line)}
            </Part>
            <Part title="Leaving early" none="">
              <li className="num">
                {page.early.trades === 0
                  ? 'no plan touched, as far as it is known'
                  : `${page.early.trades} touched: ${dollars(-page.early.cost)}, ${inR(-page.early.costR)}`}
              </li>
              {page.early.unknown > 0 && (
                <li className="text-quiet">{page.early.unknown} cannot be told of yet: see Left early</li>
              )}
            </Part>
          </div>
          <Part title="Trades" none="No trade." wide>
            {page.trades.map(line)}
          </Part>
          <label className="mt-3 block">
            <span className="heading">In my words</span>
            <textarea
              className="field mt-1 h-28 w-full resize-y"
              value={words.text}
              maxLength={20_000}
              placeholder="What I saw, what I did, what changes tomorrow."
              onChange={(e) => words.set(e.target.value)}
            />
          </label>
          {words.problem && <p role="alert">⚠ This could not be kept: {words.problem}</p>}
        </>
      )}
    </section>
  );
}

function Part({
  title,
  none,
  wide = false,
  children,
}: {
  title: string;
  none: string;
  wide?: boolean;
  children: React.ReactNode[] | React.ReactNode;
}) {
  const empty = Array.isArray(children) && children.flat().filter(Boolean).length === 0;
  return (
    <div className={wide ? 'mt-2 text-[13px]' : ''}>
      <h3 className="heading">{title}</h3>
      {empty ? <p className="text-quiet">{none}</p> : <ul>{children}</ul>}
    </div>
  );
}

/** The trader's words of a page, kept as they are typed. */
function useWords(of: string) {
  const [kept, setKept] = useState<{ of: string; text: string }>({ of: '', text: '' });
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    let current = true;
    void askReview({ kind: 'words', of }).then(
      (text) => current && setKept({ of, text }),
      () => {},
    );
    return () => {
      current = false;
    };
  }, [of]);
  return {
    text: kept.of === of ? kept.text : '',
    problem,
    set(text: string) {
      setKept({ of, text });
      askReview({ kind: 'keep words', page: { of, words: text } }).then(
        () => setProblem(null),
        (e: unknown) => setProblem(e instanceof Error ? e.message : String(e)),
      );
    },
  };
}

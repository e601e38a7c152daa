'use client';

import dynamic from 'next/dynamic';
import { useState } from 'react';
import type { Overview } from '@/worker/review/review-messages';
import { useAsked, useKeptRead, useLens } from './asked';
import { FilterBar } from './FilterBar';
import { Journal } from './Journal';
import { ThisDay } from './ThisDay';
import type { ReviewTab } from './tabs';

const loading = () => <p className="panel p-6 text-quiet">The page is on its way …</p>;
const Overall = dynamic(() => import('./Overall'), { ssr: false, loading });
const TakenApart = dynamic(() => import('./TakenApart'), { ssr: false, loading });
const AllTrades = dynamic(() => import('./AllTrades'), { ssr: false, loading });
const LeftEarly = dynamic(() => import('./LeftEarly'), { ssr: false, loading });
const PageView = dynamic(() => import('./PageView'), { ssr: false, loading });
const Files = dynamic(() => import('./Files'), { ssr: false, loading });
const Ahead = dynamic(() => import('./Ahead'), { ssr: false, loading });

const TABS: readonly (readonly [ReviewTab, string])[] = [
  ['day', 'This day'],
  ['overall', 'All days'],
  ['apart', 'Taken apart'],
  ['trades', 'Trades'],
  ['left', 'Left early'],
  ['page', 'Page'],
  ['ahead', 'Looking ahead'],
  ['journal', 'Journal'],
  ['files', 'In and out'],
];

/** Review: what happened, what it cost, what to change. */
export function ReviewView() {
  useKeptRead();
  const filter = useLens((s) => s.filter);
  const unit = useLens((s) => s.unit);
  const { answer, problem } = useAsked({ kind: 'overview', filter, unit });
  const [chosen, setChosen] = useState<ReviewTab | null>(null);
  // Who has more than one day looks at all of them first.
  const tab = chosen ?? (answer && answer.from !== answer.to ? 'overall' : 'day');
  const ofAll = tab !== 'day' && tab !== 'journal' && tab !== 'files';
  return (
    <main className="grid h-full grid-rows-[auto_1fr] gap-1.5 p-1.5">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-1.5 px-1">
        <h1 className="font-semibold">Review</h1>
        <span className="flex gap-1" role="group" aria-label="What is shown">
          {TABS.map(([id, name]) => (
            <button
              key={id}
              type="button"
              className="btn py-0.5"
              aria-pressed={tab === id}
              onClick={() => setChosen(id)}
            >
              {name}
            </button>
          ))}
        </span>
        {ofAll && answer && <FilterBar overview={answer} />}
      </header>
      {tab === 'day' ? (
        <ThisDay />
      ) : tab === 'journal' ? (
        <Journal />
      ) : tab === 'files' ? (
        <Files />
      ) : (
        <OfAll tab={tab} overview={answer} problem={problem} show={setChosen} />
      )}
    </main>
  );
}

function OfAll({
  tab,
  overview,
  problem,
  show,
}: {
  tab: Exclude<ReviewTab, 'day' | 'journal' | 'files'>;
  overview: Overview | null;
  problem: string | null;
  show(tab: ReviewTab): void;
}) {
  if (problem)
    return (
      <p className="panel p-6" role="alert">
        ⚠ Trades could not be read: {problem}
      </p>
    );
  if (!overview) return <p className="panel p-6 text-quiet">Trades are being read …</p>;
  // What is to come may be drawn from other results, and a day without a trade has its page.
  if (tab === 'ahead') return <Ahead />;
  if (tab === 'page') return <PageView traded={overview.days.map((d) => d.date)} show={show} />;
  if (overview.figures.trades === 0) return <Nothing anyAtAll={overview.all > 0} />;
  if (tab === 'overall') return <Overall overview={overview} show={show} />;
  if (tab === 'apart') return <TakenApart unit={overview.unit} show={show} />;
  if (tab === 'left') return <LeftEarly show={show} />;
  return <AllTrades />;
}

function Nothing({ anyAtAll }: { anyAtAll: boolean }) {
  return (
    <p className="panel p-6 text-quiet">
      {anyAtAll
        ? 'No trade fits. Take a filter away.'
        : 'Finished trades of all days appear here: this session’s, those of past ones, and what you import.'}
    </p>
  );
}

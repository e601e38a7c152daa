'use client';

import { useMemo, useState } from 'react';
import { figuresOf, MARKET_VERSION } from '@/core/rehearsal';
import { type Results, resultsOf } from '@/store/rehearsal-results';
import type { KeptRehearsal } from '@/store/rehearsals';
import { Choice } from '../primitives/Choice';
import { SureButton } from '../primitives/SureButton';
import { Comparison } from './Comparison';
import { draftOf } from './draft-of';
import { FiguresTable } from './FiguresTable';
import { GroupTables } from './GroupTables';
import { days as daysText } from './RehearsalForm';
import { choose, goOn, remove, stop, useRehearsals } from './rehearsals';
import { Spread } from './Spread';
import { TradeList } from './TradeList';
import { changeDraft } from './useDraft';

/** What a rehearsal came to, as far as it has come. */
export function RehearsalResults() {
  const list = useRehearsals((s) => s.list);
  const chosen = useRehearsals((s) => s.chosen);
  const done = useRehearsals((s) => s.days);
  const rehearsal = list?.find((r) => r.id === chosen);
  const results = useMemo(() => (rehearsal ? resultsOf(rehearsal, done) : null), [rehearsal, done]);
  if (!list) return <p className="panel p-6 text-quiet">The rehearsals are being read.</p>;
  if (!rehearsal || !results)
    return (
      <section className="panel grow p-6 text-quiet" aria-label="Results">
        <h1 className="mb-2 text-lg font-semibold text-text">Would it have worked, and how sure is that?</h1>
        <p className="max-w-xl">
          On the left is a key, what has to become true for it to be pressed, and over which days. A rehearsal
          presses it on days of the simulated market that you have not seen, with the accounts, guards, fees
          and plans that you have now, and shows what that comes to: here, while it runs.
        </p>
      </section>
    );
  return (
    <section className="panel flex min-h-0 grow flex-col" aria-label="Results">
      <Head rehearsal={rehearsal} list={list} />
      <Progress rehearsal={rehearsal} done={results.days.length} />
      {results.days.length === 0 ? (
        <p className="px-3 py-6 text-quiet">
          {rehearsal.state === 'running' ? 'The first days are on their way.' : 'No day of it is done yet.'}
        </p>
      ) : (
        <Shown rehearsal={rehearsal} results={results} />
      )}
      <p className="border-line border-t px-3 py-1 text-[13px] text-quiet">
        A simulated market is not the real one. This tells how your keys behave on invented days like these,
        with a hand of {rehearsal.terms.reaction} ms and a line of {rehearsal.terms.line} ms each way; it does
        not tell what they will earn.
      </p>
    </section>
  );
}

function Head({ rehearsal, list }: { rehearsal: KeptRehearsal; list: readonly KeptRehearsal[] }) {
  return (
    <div className="flex items-center gap-2 border-line border-b px-3 py-1.5">
      <Choice
        label="Rehearsal"
        className="max-w-[340px] grow font-semibold"
        value={String(rehearsal.id)}
        options={list.map((r) => [String(r.id), `${r.name}, ${daysText(r.days.length)}`] as const)}
        change={(id) => void choose(Number(id))}
      />
      <span className="num text-[13px] text-quiet">{rehearsal.made.slice(0, 16).replace('T', ' ')} UTC</span>
      <button
        type="button"
        className="btn ml-auto px-2 py-0.5 text-[13px]"
        onClick={() => changeDraft(draftOf(rehearsal))}
      >
        Into the form
      </button>
      <SureButton
        key={rehearsal.id}
        className="btn px-2 py-0.5 text-[13px]"
        label="Delete"
        sure="Delete for good"
        act={() => void remove(rehearsal.id)}
      />
    </div>
  );
}

function Progress({ rehearsal, done }: { rehearsal: KeptRehearsal; done: number }) {
  const running = useRehearsals((s) => s.running);
  const of = rehearsal.days.length;
  if (running?.id === rehearsal.id)
    return (
      <div className="flex items-center gap-3 px-3 py-1.5" role="status">
        <div
          className="h-2 grow bg-ground"
          role="progressbar"
          aria-label="Days done"
          aria-valuenow={running.done}
          aria-valuemax={of}
        >
          <div className="h-2 bg-text" style={{ width: `${(running.done / of) * 100}%` }} />
        </div>
        <span className="num">
          {running.done} of {daysText(of)}
          {running.left !== null && running.done < of && `, ${lengthOf(running.left)} to go`}
        </span>
        <button type="button" className="btn py-0.5" onClick={() => void stop()}>
          Stop
        </button>
      </div>
    );
  if (rehearsal.state === 'done') return null;
  const old = rehearsal.market !== MARKET_VERSION;
  return (
    <div className="flex items-center gap-3 px-3 py-1.5" role="status">
      <span>
        Stopped after {done} of {daysText(of)}.
        {old && ' It was begun in an earlier market and cannot go on; put it into the form and begin again.'}
      </span>
      {!old && (
        <button type="button" className="btn py-0.5" onClick={() => void goOn(rehearsal)}>
          Go on
        </button>
      )}
    </div>
  );
}

const lengthOf = (ms: number): string => {
  const s = Math.max(1, Math.round(ms / 1000));
  return s < 90 ? `${s} s` : `${Math.round(s / 60)} min`;
};

const TABS = ['By kind, hour, price', 'Trades', 'Terms'] as const;

function Shown({ rehearsal, results }: { rehearsal: KeptRehearsal; results: Results }) {
  const [tab, setTab] = useState<(typeof TABS)[number]>(TABS[0]);
  const figures = useMemo(
    () => results.hands.map((trades) => figuresOf(trades, results.days.length)),
    [results],
  );
  return (
    <>
      <div className="grid grid-cols-[minmax(330px,max-content)_minmax(0,1fr)] gap-6 px-3 py-1.5">
        <div>
          <FiguresTable figures={figures} results={results} />
          {results.hands.length > 1 && <Comparison results={results} />}
        </div>
        <Spread results={results} />
      </div>
      {results.problems.map((p) => (
        <p key={p} className="px-3 text-[13px]">
          ⚠ {p}
        </p>
      ))}
      <div className="flex gap-1 px-3 py-1" role="group" aria-label="What is shown">
        {TABS.map((t) => (
          <button
            key={t}
            type="button"
            className={`btn py-0.5 ${t === tab ? 'border-text' : ''}`}
            aria-pressed={t === tab}
            onClick={() => setTab(t)}
          >
            {t}
          </button>
        ))}
      </div>
      <div className="min-h-0 grow overflow-y-auto px-3 pb-2">
        {tab === TABS[0] && <GroupTables results={results} />}
        {tab === TABS[1] && <TradeList results={results} />}
        {tab === TABS[2] && <Terms rehearsal={rehearsal} results={results} />}
      </div>
    </>
  );
}

/** What was rehearsed, and what keys came to nothing. */
function Terms({ rehearsal: { terms }, results }: { rehearsal: KeptRehearsal; results: Results }) {
  return (
    <div className="grid grid-cols-2 gap-4">
      {terms.hands.map((h, k) => (
        <section key={h.name} aria-label={`Hand ${h.name}`}>
          {terms.hands.length > 1 && <h2 className="heading">{h.name}</h2>}
          {h.presses.map((p) => (
            <pre key={p.when + p.script} className="num mt-1 whitespace-pre-wrap text-[13px]">
              {`when ${p.when}, at most ${p.most} a day:\n${p.script}`}
            </pre>
          ))}
          <p className="mt-2 text-[13px]">
            {results.pressed[k]} keys pressed.{' '}
            {[...(results.refused[k] ?? [])].map(([why, n]) => `${n} refused: ${why}`).join(' ')}
          </p>
        </section>
      ))}
    </div>
  );
}

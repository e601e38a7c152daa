'use client';

import { useEffect, useState } from 'react';
import { PRICE_SCALE } from '@/core/units';
import { executionsCalls } from '@/worker/executions/executions-calls';
import { BadRows } from '../primitives/BadRows';
import { FileButton } from '../primitives/FileButton';
import { CANCELLED, Working } from '../primitives/Working';
import { readAgain } from './asked';
import { ExecutionMapping } from './ExecutionMapping';
import type { Step } from './taking';

const words = (e: unknown) => (e instanceof Error ? e.message : String(e));

/** Executions taken in from a file: chosen, read as its columns are said to be, kept when the trader agrees. */
export function TakeIn() {
  const [step, setStep] = useState<Step>({ at: 'choose', trouble: null, done: null });
  const [risk, setRisk] = useState('');
  const [worker] = useState(executionsCalls);
  useEffect(() => () => worker.stop(), [worker]);
  const failed = (e: unknown) => setStep({ at: 'choose', trouble: words(e), done: null });
  const progress = (p: { what: string; part: number }) => setStep({ at: 'working', ...p });
  const choose = async (file: File | undefined) => {
    if (!file) return;
    worker.stop();
    try {
      const { rows, map } = await worker.ask({ kind: 'look', file });
      setStep({ at: 'map', file, rows, map });
    } catch (e) {
      failed(e);
    }
  };
  const usualRisk = Number(risk) > 0 ? Number(risk) * PRICE_SCALE : null;
  const read = async ({ file, rows, map }: Extract<Step, { at: 'map' }>) => {
    progress({ what: `Reading ${file.name}`, part: 0 });
    try {
      const summary = await worker.ask({ kind: 'read', file, map, usualRisk }, progress);
      setStep({ at: 'agree', file, rows, map, summary });
    } catch (e) {
      failed(e);
    }
  };
  const keep = async () => {
    progress({ what: 'Keeping the trades', part: 0.9 });
    try {
      const made = new Date().toISOString().slice(0, 16).replace('T', ' ');
      const trades = await worker.ask({ kind: 'keep', made });
      await readAgain();
      setStep({ at: 'choose', trouble: null, done: `${trades} trades are in Review now.` });
    } catch (e) {
      failed(e);
    }
  };
  return (
    <section
      className="panel px-3 py-2"
      aria-label="Take executions in"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        void choose(e.dataTransfer.files[0]);
      }}
    >
      <h2 className="heading">Take executions in</h2>
      {step.at === 'choose' && (
        <>
          <p className="my-1 text-[13px] text-quiet">
            Executions of any broker: CSV, JSON, JSON Lines, Parquet, or FIX 4.4 execution reports. Drop a
            file here, or choose one. You say which column is what; nothing is kept before you agree.
          </p>
          {step.trouble && (
            <p role="alert" className="my-1">
              ⚠ {step.trouble}
            </p>
          )}
          {step.done && (
            <p role="status" className="my-1">
              {step.done}
            </p>
          )}
          <FileButton
            label="File of executions"
            accept=".csv,.txt,.tsv,.json,.jsonl,.ndjson,.parquet,.fix"
            take={(file) => void choose(file)}
          >
            Choose a file
          </FileButton>
        </>
      )}
      {step.at === 'working' && (
        <Working what={step.what} part={step.part} end={() => worker.stop(CANCELLED)} />
      )}
      {step.at === 'map' && (
        <ExecutionMapping
          step={step}
          change={setStep}
          read={() => void read(step)}
          risk={risk}
          setRisk={setRisk}
        />
      )}
      {step.at === 'agree' && <Agree step={step} change={setStep} keep={() => void keep()} />}
    </section>
  );
}

function Agree({
  step,
  change,
  keep,
}: {
  step: Extract<Step, { at: 'agree' }>;
  change: (s: Step) => void;
  keep: () => void;
}) {
  const s = step.summary;
  const facts = [
    `${s.executions} executions make ${s.trades} trades, ${s.from} to ${s.to}.`,
    s.goOn > 0 ? `${s.goOn} of them were there before, and go on with these executions.` : null,
    s.open > 0 ? `${s.open} of them are open at the end: they count when they are closed.` : null,
    s.withRisk < s.trades ? `${s.trades - s.withRisk} say no risk: they have no R.` : null,
    s.said > 0 ? `${s.said} trades come with their notes, tags or grade.` : null,
    s.known > 0 ? `${s.known} executions were taken in before and are left out.` : null,
    s.unsure > 0
      ? `⚠ ${s.unsure} rows without a number of their own equal executions that are kept: ${step.map.again === 'continue' ? 'they are taken in as more of them.' : 'they are left out as the same ones.'} If that is wrong, go back to the columns.`
      : null,
    s.alike > 0
      ? `${s.alike} rows have no number and say what another one says: ${step.map.alike === 'one counts' ? 'they are left out.' : 'they are taken as parts of one order. If they are not, go back to the columns.'}`
      : null,
    s.doubled > 0 ? `${s.doubled} rows say the same execution again and are left out.` : null,
  ].filter((x) => x !== null);
  return (
    <div className="text-[13px]">
      <div className="my-1" data-testid="executions-sum">
        {facts.map((f) => (
          <p key={f}>{f}</p>
        ))}
      </div>
      {s.badCount > 0 && <BadRows rows={s.bad} all={s.badCount} testId="bad-executions" />}
      <span className="mt-2 flex gap-2">
        <button type="button" className="btn" disabled={s.trades === 0 && s.said === 0} onClick={keep}>
          {s.badCount > 0 ? `Keep the ${s.trades} trades of the good rows` : `Keep the ${s.trades} trades`}
        </button>
        <button
          type="button"
          className="btn"
          onClick={() => change({ at: 'map', file: step.file, rows: step.rows, map: step.map })}
        >
          Back to the columns
        </button>
        <button
          type="button"
          className="btn"
          onClick={() => change({ at: 'choose', trouble: null, done: null })}
        >
          Keep nothing
        </button>
      </span>
    </div>
  );
}

'use client';

import { useEffect, useRef, useState } from 'react';
import { EXECUTION_COLUMNS, type ExecutionMap, guessExecutionMap } from '@/core/formats';
import { ALL } from '@/core/review';
import { PRICE_SCALE } from '@/core/units';
import type { KeptImport, KeptMapping } from '@/store/review';
import { type ExecutionsClient, startExecutions } from '@/worker/executions-client';
import type { ReadSummary } from '@/worker/executions-protocol';
import { BadRows } from '../primitives/BadRows';
import { Choice } from '../primitives/Choice';
import { OneOf } from '../primitives/OneOf';
import { SureButton } from '../primitives/SureButton';
import { Working } from '../primitives/Working';
import { askReview, readAgain, useAsked, useLens } from './asked';
import { TakeOut } from './TakeOut';
import { WholeApp } from './WholeApp';

type Step =
  | { at: 'choose'; trouble: string | null; done: string | null }
  | { at: 'map'; file: File; rows: string[][]; map: ExecutionMap }
  | { at: 'working'; what: string; part: number }
  | { at: 'agree'; file: File; rows: string[][]; map: ExecutionMap; summary: ReadSummary };

const words = (e: unknown) => (e instanceof Error ? e.message : String(e));

/** Executions in from any file, trades and executions out. */
export default function Files() {
  return (
    <div className="grid min-h-0 auto-rows-min grid-cols-[1fr_400px] gap-1.5 overflow-y-auto">
      <TakeIn />
      <div className="flex flex-col gap-1.5">
        <TakeOut />
        <Imports />
        <WholeApp />
      </div>
    </div>
  );
}

function TakeIn() {
  const [step, setStep] = useState<Step>({ at: 'choose', trouble: null, done: null });
  const [risk, setRisk] = useState('');
  const client = useRef<ExecutionsClient | null>(null);
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => () => client.current?.stop(), []);
  const failed = (e: unknown) => setStep({ at: 'choose', trouble: words(e), done: null });
  const progress = (what: string, part: number) => setStep({ at: 'working', what, part });
  const choose = async (file: File | undefined) => {
    if (!file) return;
    client.current?.stop();
    client.current = startExecutions();
    try {
      const { rows, map } = await client.current.ask({ kind: 'look', file }, 'looked');
      setStep({ at: 'map', file, rows, map });
    } catch (e) {
      failed(e);
    }
  };
  const usualRisk = Number(risk) > 0 ? Number(risk) * PRICE_SCALE : null;
  const read = async ({ file, rows, map }: Extract<Step, { at: 'map' }>) => {
    progress(`Reading ${file.name}`, 0);
    try {
      const got = await client.current?.ask({ kind: 'read', file, map, usualRisk }, 'read', progress);
      if (got) setStep({ at: 'agree', file, rows, map, summary: got.summary });
    } catch (e) {
      failed(e);
    }
  };
  const keep = async () => {
    progress('Keeping the trades', 0.9);
    try {
      const made = new Date().toISOString().slice(0, 16).replace('T', ' ');
      const got = await client.current?.ask({ kind: 'keep', made }, 'kept');
      await readAgain();
      setStep({ at: 'choose', trouble: null, done: `${got?.trades ?? 0} trades are in Review now.` });
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
          <input
            ref={input}
            type="file"
            className="sr-only"
            tabIndex={-1}
            aria-label="File of executions"
            accept=".csv,.txt,.tsv,.json,.jsonl,.ndjson,.parquet,.fix"
            onChange={(e) => {
              void choose(e.target.files?.[0]);
              e.target.value = '';
            }}
          />
          <button type="button" className="btn" onClick={() => input.current?.click()}>
            Choose a file
          </button>
        </>
      )}
      {step.at === 'working' && (
        <Working what={step.what} part={step.part} end={() => client.current?.stop()} />
      )}
      {step.at === 'map' && (
        <Mapping step={step} change={setStep} read={() => void read(step)} risk={risk} setRisk={setRisk} />
      )}
      {step.at === 'agree' && <Agree step={step} change={setStep} keep={() => void keep()} />}
    </section>
  );
}

/** A table parted at its headings; without them columns are named by their numbers. */
function headed(rows: readonly string[][], heading: number): { headings: string[]; sample: string[][] } {
  const sample = rows.slice(heading + 1);
  const width = Math.max(0, ...sample.map((r) => r.length));
  return { headings: rows[heading] ?? Array.from({ length: width }, (_, k) => `column ${k + 1}`), sample };
}

/** Zones that are offered first; any other can be typed. */
const ZONES = [
  'America/New_York',
  'America/Chicago',
  'America/Los_Angeles',
  'UTC',
  'Europe/London',
  'Europe/Berlin',
  'Asia/Tokyo',
];

function Mapping({
  step,
  change,
  read,
  risk,
  setRisk,
}: {
  step: Extract<Step, { at: 'map' }>;
  change: (s: Step) => void;
  read: () => void;
  risk: string;
  setRisk: (text: string) => void;
}) {
  const { map } = step;
  const { headings, sample } = headed(step.rows, map.heading);
  const set = (m: Partial<ExecutionMap>) => change({ ...step, map: { ...map, ...m } });
  const missing = EXECUTION_COLUMNS.filter(([id, , needed]) => needed && map.columns[id] < 0).map(
    ([, name]) => name,
  );
  const wrongRisk = risk.trim() !== '' && !(Number(risk) > 0);
  return (
    <div className="text-[13px]">
      <p className="my-1">
        <b>{step.file.name}</b>: which column is what?
      </p>
      <KeptMappings step={step} change={change} />
      <div className="grid grid-cols-3 gap-x-3 gap-y-1.5">
        {EXECUTION_COLUMNS.map(([id, name, needed]) => (
          <div key={id}>
            {name}
            {needed && ' *'}
            <Choice
              label={name}
              value={String(map.columns[id])}
              options={[
                ['-1', 'none'],
                ...headings.map((h, i) => [String(i), h.trim() || `column ${i + 1}`] as const),
              ]}
              change={(i) => set({ columns: { ...map.columns, [id]: Number(i) } })}
            />
          </div>
        ))}
        <div>
          Headings are in
          <Choice
            label="Headings are in"
            value={String(map.heading)}
            options={[
              ['-1', 'no line: there are none'],
              ...step.rows
                .slice(0, 30)
                .map((r, i) => [String(i), `line ${i + 1}: ${r.join(' ').slice(0, 40)}`] as const),
            ]}
            change={(i) =>
              change({ ...step, map: { ...guessExecutionMap(step.rows, Number(i)), zone: map.zone } })
            }
          />
        </div>
        <label>
          Times that say no zone are of
          <input
            className="field w-full"
            list="zones"
            value={map.zone}
            onChange={(e) => set({ zone: e.target.value })}
          />
          <datalist id="zones">
            {ZONES.map((z) => (
              <option key={z} value={z} />
            ))}
          </datalist>
        </label>
        <label>
          Risk where none is said, $
          <input
            className="field num w-full"
            inputMode="decimal"
            placeholder="none: no R for them"
            value={risk}
            aria-invalid={wrongRisk}
            onChange={(e) => setRisk(e.target.value)}
          />
          {wrongRisk && <span className="block">⚠ Dollars above zero, or empty</span>}
        </label>
      </div>
      <div className="my-2 flex flex-wrap gap-x-8 gap-y-1">
        <OneOf
          label="Dates such as 3/9/2027"
          value={map.dates}
          options={[
            ['month first', '3/9 is in March'],
            ['day first', '3/9 is in September'],
          ]}
          change={(dates: ExecutionMap['dates']) => set({ dates })}
        />
        <OneOf
          label="Decimals"
          value={map.decimals}
          options={[
            ['point', '5.80'],
            ['comma', '5,80'],
          ]}
          change={(decimals: ExecutionMap['decimals']) => set({ decimals })}
        />
        <OneOf
          label="Costs"
          value={map.minusIsCost ? 'minus' : 'plus'}
          options={[
            ['plus', 'costs are above zero'],
            ['minus', 'costs are below zero'],
          ]}
          change={(v: string) => set({ minusIsCost: v === 'minus' })}
        />
        <OneOf
          label="Rows that are alike, without a number"
          value={map.alike}
          options={[
            ['each counts', 'rows alike, without a number: each counts'],
            ['one counts', 'one of them counts'],
          ]}
          change={(alike: ExecutionMap['alike']) => set({ alike })}
        />
      </div>
      <pre className="num my-2 overflow-auto bg-ground p-2 text-[12px] text-quiet">
        {[headings, ...sample.slice(0, 4)].map((r) => r.join('  ')).join('\n')}
      </pre>
      {missing.length > 0 && <p className="mb-2">⚠ Choose the column of: {missing.join(', ')}.</p>}
      <span className="flex gap-2">
        <button type="button" className="btn" disabled={missing.length > 0 || wrongRisk} onClick={read}>
          Read the rows
        </button>
        <button
          type="button"
          className="btn"
          onClick={() => change({ at: 'choose', trouble: null, done: null })}
        >
          Not this one
        </button>
      </span>
    </div>
  );
}

/** How columns were read before, by name, where their headings are here too. */
function KeptMappings({ step, change }: { step: Extract<Step, { at: 'map' }>; change: (s: Step) => void }) {
  const [kept, setKept] = useState<KeptMapping[]>([]);
  const [name, setName] = useState('');
  useEffect(() => {
    void askReview({ kind: 'mappings' }).then(setKept, () => {});
  }, []);
  const heads = step.rows[step.map.heading] ?? [];
  const fits = kept.filter((k) => JSON.stringify(k.headings) === JSON.stringify(heads));
  return (
    <div className="mb-2 flex items-end gap-2">
      {fits.map((k) => (
        <button
          key={k.name}
          type="button"
          className="btn"
          onClick={() => change({ ...step, map: { ...k.mapping, heading: step.map.heading } })}
        >
          As in “{k.name}”
        </button>
      ))}
      <input
        className="field w-44"
        placeholder="Name to keep this by"
        aria-label="Name of the mapping"
        value={name}
        maxLength={60}
        onChange={(e) => setName(e.target.value)}
      />
      <button
        type="button"
        className="btn"
        disabled={name.trim() === ''}
        onClick={() => {
          const mapping = { name: name.trim(), headings: heads, mapping: step.map };
          void askReview({ kind: 'keep mapping', mapping }).then(() =>
            setKept([...kept.filter((k) => k.name !== mapping.name), mapping]),
          );
        }}
      >
        Keep the mapping
      </button>
    </div>
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
    s.open > 0 ? `${s.open} of them are open at the end: they count when they are closed.` : null,
    s.withRisk < s.trades ? `${s.trades - s.withRisk} say no risk: they have no R.` : null,
    s.known > 0 ? `${s.known} executions were taken in before and are left out.` : null,
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
        <button type="button" className="btn" disabled={s.trades === 0} onClick={keep}>
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

/** Files that were taken in; each can be taken out again. */
function Imports() {
  const version = useLens((s) => s.version);
  const { answer } = useAsked({ kind: 'overview', filter: ALL, unit: null });
  const list: KeptImport[] = answer?.imports ?? [];
  return (
    <section className="panel px-3 py-2 text-[13px]" aria-label="Files taken in" key={version}>
      <h2 className="heading">Files taken in</h2>
      {list.length === 0 && <p className="text-quiet">None yet.</p>}
      <ul>
        {list.map((i) => (
          <li key={i.id} className="flex items-baseline gap-2 py-0.5">
            <span className="truncate">{i.file}</span>
            <span className="num text-quiet">
              {i.trades} trades, {i.made}
            </span>
            <span className="ml-auto">
              <SureButton
                label="Take out"
                sure="Really: its trades and what is said of them go"
                act={() => void askReview({ kind: 'remove import', id: i.id }).then(readAgain)}
              />
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

'use client';

import { useEffect, useState } from 'react';
import { EXECUTION_COLUMNS, type ExecutionMap, guessExecutionMap } from '@/core/formats';
import type { KeptMapping } from '@/store/kept';
import { Choice } from '../primitives/Choice';
import { OneOf } from '../primitives/OneOf';
import { askReview } from './asked';
import type { Step } from './taking';

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

/** Which column of a file is what, and how its cells are written. */
export function ExecutionMapping({
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
          Account where none is said
          <input
            className="field w-full"
            value={map.account}
            maxLength={60}
            onChange={(e) => set({ account: e.target.value })}
          />
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
        <Choice
          label="Rows that say what is kept already"
          value={map.again ?? 'repeat'}
          options={[
            ['repeat', 'rows equal to kept ones: the same again, left out'],
            ['continue', 'rows equal to kept ones: more of them, taken in'],
          ]}
          change={(again: ExecutionMap['again']) => set({ again })}
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
          onClick={() => change({ ...step, map: { ...step.map, ...k.mapping, heading: step.map.heading } })}
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

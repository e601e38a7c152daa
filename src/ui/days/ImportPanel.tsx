'use client';

import { type DragEvent, useEffect, useRef, useState } from 'react';
import { type ColumnMap, guessColumns, type ImportKind, type ReadTable } from '@/core/formats';
import { importCalls } from '@/worker/import/import-calls';
import { ask } from '../client';
import { BadRows } from '../primitives/BadRows';
import { Choice } from '../primitives/Choice';
import { CANCELLED, Working } from '../primitives/Working';

type Step =
  | { at: 'choose'; trouble: string | null }
  | { at: 'map'; files: File[]; rows: string[][]; map: ColumnMap; as: ImportKind }
  | { at: 'reading'; files: File[]; file: string; part: number }
  | { at: 'agree'; files: File[]; table: ReadTable; title: string };

const COLUMNS: [keyof ColumnMap, string][] = [
  ['symbol', 'Symbol'],
  ['date', 'Date'],
  ['time', 'Time'],
  ['open', 'Open'],
  ['high', 'High'],
  ['low', 'Low'],
  ['close', 'Close'],
  ['volume', 'Volume'],
];
const KINDS: ImportKind[] = ['minute bars', 'daily bars', 'prints'];
/** Which columns a kind of row has; the others are not asked for. */
const needed = (as: ImportKind, key: keyof ColumnMap): boolean =>
  as === 'prints' ? !['open', 'high', 'low'].includes(key) : as === 'daily bars' ? key !== 'time' : true;
const optional = (key: keyof ColumnMap): boolean => key === 'symbol' || key === 'time';

/** The trader's own data: files, what their columns mean, what could not be read, and a yes before anything is kept. */
export function ImportPanel({ kept }: { kept: () => Promise<void> }) {
  const [step, setStep] = useState<Step>({ at: 'choose', trouble: null });
  const [worker] = useState(importCalls);
  useEffect(() => () => worker.stop(), [worker]);
  const failed = (e: unknown) =>
    setStep({ at: 'choose', trouble: e instanceof Error ? e.message : String(e) });
  const choose = async (files: File[]) => {
    const usable = files
      .filter((f) => /\.(csv|txt|jsonl|ndjson|parquet)$/i.test(f.name))
      .sort((a, b) => (a.name < b.name ? -1 : 1));
    const [first] = usable;
    if (!first)
      return failed(
        `No CSV, JSON Lines or Parquet file is among ${files.length === 0 ? 'them' : files.map((f) => f.name).join(', ')}.`,
      );
    try {
      const rows = await worker.ask({ kind: 'look', file: first });
      const map = guessColumns(rows[0] ?? []);
      setStep({
        at: 'map',
        files: usable,
        rows,
        map,
        as:
          map.open < 0
            ? 'prints'
            : map.time < 0 && !/\d:\d/.test(rows[1]?.[map.date] ?? '')
              ? 'daily bars'
              : 'minute bars',
      });
    } catch (e) {
      failed(e);
    }
  };
  const read = async (files: File[], map: ColumnMap, as: ImportKind) => {
    setStep({ at: 'reading', files, file: files[0]?.name ?? '', part: 0 });
    try {
      const table = await worker.ask({ kind: 'read', files, map, as }, (p) =>
        setStep({ at: 'reading', files, ...p }),
      );
      setStep({
        at: 'agree',
        files,
        table,
        title: files.length === 1 ? (files[0]?.name ?? '') : `${files.length} files`,
      });
    } catch (e) {
      failed(e);
    }
  };
  const keep = async (s: Extract<Step, { at: 'agree' }>) => {
    const answer = await ask({
      kind: 'keep own day',
      day: { title: s.title, symbols: s.table.symbols },
    });
    if (!answer) return;
    setStep({ at: 'choose', trouble: null });
    await kept();
  };
  const drop = (e: DragEvent) => {
    e.preventDefault();
    void choose([...e.dataTransfer.files]);
  };
  return (
    <section
      className="panel shrink-0 px-3 py-2"
      aria-label="Import your own data"
      onDragOver={(e) => e.preventDefault()}
      onDrop={drop}
    >
      <h2 className="heading">Import your own data</h2>
      {step.at === 'choose' && (
        <>
          <p className="mb-2 text-[13px] text-quiet">
            1-minute bars, daily bars or prints, as CSV, JSON Lines or Parquet, one or several symbols a file.
            Drop files here, or choose them.
          </p>
          {step.trouble && (
            <p role="alert" className="mb-2">
              ⚠ {step.trouble}
            </p>
          )}
          <span className="flex gap-2">
            <Picker label="Choose files" take={choose} />
            <Picker label="Choose a folder" take={choose} folder />
          </span>
        </>
      )}
      {step.at === 'map' && (
        <Mapping step={step} change={setStep} read={() => void read(step.files, step.map, step.as)} />
      )}
      {step.at === 'reading' && (
        <Working what={`Reading ${step.file}`} part={step.part} end={() => worker.stop(CANCELLED)} />
      )}
      {step.at === 'agree' && <Agree step={step} change={setStep} keep={() => void keep(step)} />}
    </section>
  );
}

function Picker({
  label,
  take,
  folder = false,
}: {
  label: string;
  take: (files: File[]) => Promise<void>;
  folder?: boolean;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        multiple
        className="sr-only"
        tabIndex={-1}
        aria-label={`${label} to import`}
        accept={folder ? undefined : '.csv,.txt,.jsonl,.ndjson,.parquet'}
        {...(folder ? { webkitdirectory: '' } : {})}
        onChange={(e) => {
          void take([...(e.target.files ?? [])]);
          e.target.value = '';
        }}
      />
      <button type="button" className="btn" onClick={() => input.current?.click()}>
        {label}
      </button>
    </>
  );
}

function Mapping({
  step,
  change,
  read,
}: {
  step: Extract<Step, { at: 'map' }>;
  change: (s: Step) => void;
  read: () => void;
}) {
  const [headings, ...sample] = step.rows;
  const missing = COLUMNS.filter(([key]) => needed(step.as, key) && !optional(key) && step.map[key] < 0).map(
    ([, label]) => label,
  );
  return (
    <div>
      <p className="mb-1 text-[13px]">
        {step.files.length === 1
          ? step.files[0]?.name
          : `${step.files.length} files, first ${step.files[0]?.name}`}
        . Its rows are{' '}
        <Choice<ImportKind>
          label="Kind of rows"
          className="inline-flex w-36"
          value={step.as}
          options={KINDS.map((k) => [k, k] as const)}
          change={(as) => change({ ...step, as })}
        />
      </p>
      <div className="grid grid-cols-4 gap-x-3 gap-y-1">
        {COLUMNS.filter(([key]) => needed(step.as, key)).map(([key, label]) => (
          <div key={key} className="text-[13px]">
            {nameIn(step.as, key, label)}
            <Choice
              label={nameIn(step.as, key, label)}
              value={String(step.map[key])}
              options={[
                [
                  '-1',
                  key === 'symbol'
                    ? 'from the file’s name'
                    : key === 'time'
                      ? 'in the date column'
                      : 'not chosen',
                ],
                ...(headings ?? []).map((h, i) => [String(i), h || `column ${i + 1}`] as const),
              ]}
              change={(i) => change({ ...step, map: { ...step.map, [key]: Number(i) } })}
            />
          </div>
        ))}
      </div>
      <pre className="num my-2 overflow-auto bg-ground p-2 text-[12px] text-quiet">
        {[headings, ...sample.slice(0, 3)].map((r) => r?.join('  ')).join('\n')}
      </pre>
      {missing.length > 0 && <p className="mb-2">⚠ Choose the column of: {missing.join(', ')}.</p>}
      <span className="flex gap-2">
        <button type="button" className="btn" disabled={missing.length > 0} onClick={read}>
          Read the rows
        </button>
        <button type="button" className="btn" onClick={() => change({ at: 'choose', trouble: null })}>
          Not these
        </button>
      </span>
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
  const { table } = step;
  return (
    <div>
      <p className="mb-1" data-testid="import-sum">
        {table.good} {table.good === 1 ? 'row' : 'rows'} can be used
        {table.symbols.length > 0 &&
          `: ${table.symbols
            .slice(0, 6)
            .map((s) => s.symbol)
            .join(', ')}${table.symbols.length > 6 ? ' …' : ''}`}
        {table.rounded > 0 && `; ${table.rounded} prices were moved to the nearest half tick`}.
      </p>
      {table.bad.length > 0 && <BadRows rows={table.bad} all={table.bad.length} testId="bad-rows" />}
      <label className="my-2 flex items-center gap-2 text-[13px]">
        Name of the day
        <input
          className="field grow"
          value={step.title}
          onChange={(e) => change({ ...step, title: e.target.value })}
        />
      </label>
      <span className="flex gap-2">
        <button
          type="button"
          className="btn"
          disabled={table.good === 0 || step.title.trim() === ''}
          onClick={keep}
        >
          {table.bad.length > 0 ? `Keep the ${table.good} good rows` : 'Keep them'}
        </button>
        <button type="button" className="btn" onClick={() => change({ at: 'choose', trouble: null })}>
          Keep nothing
        </button>
      </span>
    </div>
  );
}

/** What a column is called for rows of a kind. */
const nameIn = (as: ImportKind, key: string, label: string): string =>
  as !== 'prints' ? label : key === 'close' ? 'Price' : key === 'volume' ? 'Shares' : label;

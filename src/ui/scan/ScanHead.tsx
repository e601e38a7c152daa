'use client';

import dynamic from 'next/dynamic';
import { useState } from 'react';
import { MINUTE } from '@/core/units';
import { DEFAULT_SETTINGS, type SavedScan } from '@/store/settings';
import { act, useLive, useSession } from '../client';
import { clock } from '../format';
import { changeScan, setHidden, useHidden } from '../lists';
import { Pop } from '../primitives/Pop';
import { SureButton } from '../primitives/SureButton';
import { useSettings } from '../settings';
import type { RuleProblem } from '../table/useTable';
import { ClauseForm } from './ClauseForm';
import { ColumnsForm } from './ColumnsForm';
import { RankingForm, rankingText } from './RankingForm';
import { TimeField } from './TimeField';

const RuleEditor = dynamic(() => import('./RuleEditor'), {
  ssr: false,
  loading: () => <div className="field h-8 text-quiet">The editor is loading.</div>,
});

interface Props {
  scan: SavedScan;
  problem: RuleProblem | null;
  picture: 'table' | 'lines';
  show(picture: 'table' | 'lines'): void;
}

/** The head of a scan: its name, its rule as text or as clauses, ranking, window and size, and how each clause sifts. */
export function ScanHead({ scan, problem, picture, show }: Props) {
  // The table comes first; the editor is the largest part of the view to load.
  const tableThere = useSession((x) => x.table !== null);
  const [form, setForm] = useState(false);
  const scans = useSettings((s) => s.scans);
  const set = useSettings((s) => s.set);
  const symbol = useSession((s) => s.focus?.symbol ?? '');
  const told = useLive<'values'>({ kind: 'values', symbol: null });
  const values = told?.symbol === symbol ? told.values : null;
  const put = (change: Partial<SavedScan>) => changeScan(scan.id, change);
  const preset = DEFAULT_SETTINGS.scans.find((p) => p.id === scan.id);
  const small = 'btn whitespace-nowrap px-2 py-0.5 text-[13px]';
  return (
    <section className="panel px-3 pt-1.5 pb-1" aria-label="Scan rule">
      <div className="mb-1.5 flex flex-wrap items-center gap-1">
        <input
          className="field w-40 py-0.5 font-semibold"
          aria-label="Name of the scan"
          value={scan.name}
          maxLength={40}
          onChange={(e) => put({ name: e.target.value })}
        />
        <div role="group" aria-label="Edit the rule as">
          <button type="button" className={small} aria-pressed={!form} onClick={() => setForm(false)}>
            Text
          </button>
          <button type="button" className={small} aria-pressed={form} onClick={() => setForm(true)}>
            Clauses
          </button>
        </div>
        <Pop
          title="Ranking"
          label={<span className="block max-w-24 truncate">by {rankingText(scan.ranking)}</span>}
        >
          <RankingForm ranking={scan.ranking} change={(ranking) => put({ ranking })} />
        </Pop>
        <Pop title="Columns" label={`${scan.columns.length} columns`}>
          <ColumnsForm columns={scan.columns} change={(columns) => put({ columns })} />
        </Pop>
        <Pop title="More of this scan" label="More">
          <div className="grid w-72 gap-2 p-3 text-[13px]">
            <div className="flex items-center gap-2">
              works from <TimeField label="Works from" minutes={scan.from} change={(from) => put({ from })} />{' '}
              to <TimeField label="Works until" minutes={scan.to} change={(to) => put({ to })} />
            </div>
            <label className="flex items-center gap-2">
              shows at most
              <input
                type="number"
                className="field num w-20 py-0.5"
                min={1}
                max={8000}
                value={scan.limit}
                onChange={(e) =>
                  put({ limit: Math.max(1, Math.min(8_000, Math.round(Number(e.target.value)) || 1)) })
                }
              />
              rows
            </label>
            <button
              type="button"
              className="btn"
              onClick={() => void act(`alert any when ${scan.rule}`, 'tools', `Newcomers of ${scan.name}`)}
            >
              Tell me of newcomers
            </button>
            {preset && (
              <button type="button" className="btn" onClick={() => put(preset)}>
                Back to how it came
              </button>
            )}
            <SureButton
              label="Delete this scan"
              sure={`Delete “${scan.name}” for good?`}
              disabled={scans.length === 1}
              act={() => {
                const rest = scans.filter((s) => s.id !== scan.id);
                set({ scans: rest, shown: `scan:${rest[0]?.id}` });
              }}
            />
          </div>
        </Pop>
        <div role="group" aria-label="Show as" className="ml-auto">
          <button
            type="button"
            className={small}
            aria-pressed={picture === 'table'}
            onClick={() => show('table')}
          >
            Table
          </button>
          <button
            type="button"
            className={small}
            aria-pressed={picture === 'lines'}
            onClick={() => show('lines')}
          >
            Rank lines
          </button>
        </div>
      </div>
      {form ? (
        <ClauseForm rule={scan.rule} change={(rule) => put({ rule })} values={values} />
      ) : !tableThere ? (
        <div className="field h-8 text-quiet">The editor is loading.</div>
      ) : (
        <RuleEditor value={scan.rule} change={(rule) => put({ rule })} values={values} symbol={symbol} />
      )}
      <Sifting scan={scan} problem={problem} widen={() => put({ from: 4 * 60, to: 20 * 60 })} />
    </section>
  );
}

/** How many pass, what each clause lets through by itself and what only it keeps out. */
function Sifting({ scan, problem, widen }: { scan: SavedScan; problem: RuleProblem | null; widen(): void }) {
  const table = useSession((s) => s.table);
  const hidden = useHidden();
  if (problem)
    return (
      <p className="min-h-6 py-0.5 text-[13px]" role="status" data-testid="rule-problem">
        ⚠ {problem.problem}{' '}
        <span className="text-quiet">The list still follows the last rule that could be read.</span>
      </p>
    );
  if (table?.asked.source.kind !== 'scan')
    return <p className="min-h-6 text-[13px] text-quiet">The first pass is under way.</p>;
  if (table.closed)
    return (
      <p className="min-h-6 py-0.5 text-[13px]" role="status">
        This scan works from {clock(scan.from * MINUTE, 'minutes')} to {clock(scan.to * MINUTE, 'minutes')}.{' '}
        <button type="button" className="underline" onClick={widen}>
          Let it work the whole day
        </button>
      </p>
    );
  const tightest =
    table.passing === 0 && table.clauses.length > 1
      ? [...table.clauses].sort((a, b) => b.onlyHere - a.onlyHere || a.alone - b.alone)[0]
      : null;
  return (
    <div className="num flex min-h-6 flex-wrap items-baseline gap-x-4 py-0.5 text-[12px] text-quiet">
      <span>
        <b className="text-[13px] text-text">{table.passing}</b> of {table.total.toLocaleString('en-US')} pass
        {table.passing > scan.limit && `, the best ${scan.limit} are shown`}
      </span>
      {hidden.length > 0 && (
        <span className="font-sans">
          {hidden.length} hidden today{' '}
          <button type="button" className="underline" onClick={() => setHidden(() => [])}>
            show
          </button>
        </span>
      )}
      {table.clauses.map((c) => (
        <span
          key={c.text}
          title={`${c.alone} symbols pass this clause by itself; ${c.onlyHere} pass all the others and fail only here`}
        >
          {c.text} <span className="text-text">{c.alone}</span>
          {c.onlyHere > 0 && (
            <>
              {' '}
              keeps out <span className="text-text">{c.onlyHere}</span>
            </>
          )}
        </span>
      ))}
      {tightest && (
        <span className="font-sans text-text" role="status">
          ⚠ Nothing passes. The tightest clause is “{tightest.text}”
          {tightest.onlyHere > 0
            ? `: without it ${tightest.onlyHere} would pass.`
            : `: ${tightest.alone} pass it alone.`}
        </span>
      )}
    </div>
  );
}

'use client';

import { X } from 'lucide-react';
import { ALL, DIMENSION_LIST, type DimensionId } from '@/core/review';
import type { Overview } from '@/worker/review/review-messages';
import { Choice } from '../primitives/Choice';
import { onlyGroup, setFilter, useLens } from './asked';

/** Which trades are looked at: dates, words, groups; what counts, or hindsight. */
export function FilterBar({ overview }: { overview: Overview }) {
  const filter = useLens((s) => s.filter);
  const chosen = Object.entries(filter.groups) as [DimensionId, string][];
  const addable = DIMENSION_LIST.filter(
    (d) => filter.groups[d.id] === undefined && (overview.choices[d.id]?.length ?? 0) > 0,
  ).flatMap((d) =>
    (overview.choices[d.id] ?? [])
      .slice(0, 40)
      .map((name) => [`${d.id}\n${name}`, `${d.name}: ${name}`] as const),
  );
  const { open } = overview;
  const date = (which: 'from' | 'to', label: string) => (
    <label className="flex items-center gap-1.5">
      <span className="text-quiet">{label}</span>
      <input
        type="date"
        className="field num px-1 py-0.5 text-[13px]"
        value={filter[which]}
        min={overview.from}
        max={overview.to}
        onChange={(e) => setFilter({ [which]: e.target.value })}
      />
    </label>
  );
  return (
    <div className="flex grow flex-wrap items-center gap-x-3 gap-y-1 text-[13px]" role="search">
      {date('from', 'from')}
      {date('to', 'to')}
      <input
        className="field w-40 py-0.5"
        placeholder="Search"
        aria-label="Search trades"
        value={filter.search}
        onChange={(e) => setFilter({ search: e.target.value })}
      />
      <Choice
        label="Only some trades"
        className="w-36 py-0.5"
        value=""
        options={[['', 'Only …'], ...addable]}
        change={(v) => {
          const [id, name] = v.split('\n') as [DimensionId, string];
          if (v !== '') onlyGroup(id, name);
        }}
      />
      {chosen.map(([id, name]) => (
        <button
          key={id}
          type="button"
          className="btn flex items-center gap-1 py-0.5"
          aria-label={`No longer only ${name}`}
          onClick={() => onlyGroup(id, null)}
        >
          {name} <X size={12} aria-hidden />
        </button>
      ))}
      {overview.hindsight > 0 && (
        <button
          type="button"
          className="btn py-0.5"
          aria-pressed={filter.hindsight}
          title="Trades on a day that had been seen already: retakes, and what came after going back. They are never mixed with what counts."
          onClick={() => setFilter({ hindsight: !filter.hindsight })}
        >
          Hindsight only ({overview.hindsight})
        </button>
      )}
      {JSON.stringify(filter) !== JSON.stringify(ALL) && (
        <button type="button" className="btn py-0.5" onClick={() => setFilter(ALL)}>
          All again
        </button>
      )}
      <span className="num ml-auto text-quiet">
        {overview.figures.trades} of {filter.hindsight ? overview.hindsight : overview.all} trades
        {open.length > 0 &&
          `, ${open.length} open: ${open.slice(0, 2).join(', ')}${open.length > 2 ? ' …' : ''}`}
      </span>
    </div>
  );
}

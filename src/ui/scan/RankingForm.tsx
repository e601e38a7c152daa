'use client';

import { X } from 'lucide-react';
import { useState } from 'react';
import { FIELDS } from '@/core/market';
import type { SavedScan } from '@/store/settings';
import { Choice } from '../primitives/Choice';

const RANKABLE = FIELDS.filter((f) => f.unit !== 'choice' && f.unit !== 'flag');

/** `gap`, or `2× float turnover, gap (smallest first)`. */
export const rankingText = (ranking: SavedScan['ranking']): string =>
  ranking
    .map(
      (p) =>
        `${Math.abs(p.weight) === 1 ? '' : `${Math.abs(p.weight)}× `}${p.field}${p.weight < 0 ? ' (smallest first)' : ''}`,
    )
    .join(' + ');

/** What the list is ordered by: one field, or a blend of several with weights. */
export function RankingForm({
  ranking,
  change,
}: {
  ranking: SavedScan['ranking'];
  change(r: SavedScan['ranking']): void;
}) {
  // A row keeps its id while its field and weight change, so that the keyboard stays in it.
  const [ids, setIds] = useState(() => ranking.map((_, k) => k));
  const put = (k: number, part: Partial<SavedScan['ranking'][number]>) =>
    change(ranking.map((p, j) => (j === k ? { ...p, ...part } : p)));
  return (
    <div className="w-[430px] p-3 text-[13px]">
      <p className="mb-2 text-quiet">
        A single field puts its largest values first. Of several, each counts the share of the passing symbols
        that a symbol beats, times its weight, so that no unit outweighs another.
      </p>
      {ranking.map((p, k) => (
        <div key={ids[k] ?? k} className="mb-1 flex items-center gap-2">
          <input
            type="number"
            className="field num w-16 py-0.5"
            aria-label="Weight"
            min={1}
            max={9}
            value={Math.abs(p.weight)}
            onChange={(e) =>
              put(k, { weight: Math.max(1, Math.min(9, Number(e.target.value) || 1)) * Math.sign(p.weight) })
            }
          />
          <span aria-hidden>×</span>
          <Choice
            label="Ranked by"
            className="w-44 py-0.5"
            value={p.field}
            options={RANKABLE.map((f) => [f.name, f.name] as const)}
            change={(field) => put(k, { field })}
          />
          <Choice<'up' | 'down'>
            label="Direction"
            className="w-32 py-0.5"
            value={p.weight < 0 ? 'down' : 'up'}
            options={[
              ['up', 'largest first'],
              ['down', 'smallest first'],
            ]}
            change={(way) => put(k, { weight: Math.abs(p.weight) * (way === 'down' ? -1 : 1) })}
          />
          {ranking.length > 1 && (
            <button
              type="button"
              className="text-quiet hover:text-text"
              aria-label={`Take ${p.field} out of the ranking`}
              onClick={() => {
                setIds(ids.filter((_, j) => j !== k));
                change(ranking.filter((_, j) => j !== k));
              }}
            >
              <X size={14} aria-hidden />
            </button>
          )}
        </div>
      ))}
      {ranking.length < 6 && (
        <button
          type="button"
          className="btn mt-1 py-0.5"
          onClick={() => {
            setIds([...ids, Math.max(...ids) + 1]);
            change([...ranking, { field: 'relative volume', weight: 1 }]);
          }}
        >
          Blend in another field
        </button>
      )}
    </div>
  );
}

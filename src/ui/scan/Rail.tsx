'use client';

import { Plus } from 'lucide-react';
import { useSession } from '../client';
import { useShortlist } from '../lists';
import { useSettings } from '../settings';

const item =
  'flex w-full items-baseline justify-between gap-2 px-2 py-[3px] text-left text-[13px] hover:bg-raised';

/** What the table can show: saved scans, today's shortlist, watchlists. */
export function Rail() {
  const scans = useSettings((s) => s.scans);
  const lists = useSettings((s) => s.lists);
  const shown = useSettings((s) => s.shown);
  const set = useSettings((s) => s.set);
  const shortlist = useShortlist();
  const date = useSession((s) => s.clock?.date);
  const past = useSettings((s) => s.shortlists).filter((l) => l.date !== date && l.rows.length > 0);
  const passing = useSession((s) => s.table?.passing ?? null);
  const entry = (key: string, name: string, count: number | null) => (
    <li key={key}>
      <button
        type="button"
        className={`${item} ${shown === key ? 'border-l-2 border-text bg-raised pl-1.5' : ''}`}
        aria-pressed={shown === key}
        onClick={() => set({ shown: key })}
      >
        <span className="min-w-0">{name}</span>
        {count !== null && <span className="num text-quiet">{count}</span>}
      </button>
    </li>
  );
  const addScan = () => {
    const id = `scan-${Date.now()}`;
    const base = scans.find((s) => shown === `scan:${s.id}`) ?? (scans[0] as (typeof scans)[number]);
    set({
      scans: [...scans, { ...base, id, name: `${base.name.slice(0, 33)} (copy)` }],
      shown: `scan:${id}`,
    });
  };
  const addList = () => {
    const id = `list-${Date.now()}`;
    set({ lists: [...lists, { id, name: `Watchlist ${lists.length + 1}`, rows: [] }], shown: `list:${id}` });
  };
  return (
    <nav className="panel flex min-h-0 flex-col overflow-y-auto py-1" aria-label="Scans and lists">
      <Heading text="Scans" add="Copy this scan into a new one" onAdd={addScan} />
      <ul>{scans.map((s) => entry(`scan:${s.id}`, s.name, shown === `scan:${s.id}` ? passing : null))}</ul>
      <Heading text="Lists" add="Make a watchlist" onAdd={addList} />
      <ul>
        {entry('shortlist', 'Shortlist of today', shortlist.length)}
        {past.map((l) => entry(`past:${l.date}`, `Shortlist of ${l.date}`, l.rows.length))}
        {lists.map((l) => entry(`list:${l.id}`, l.name, l.rows.length))}
      </ul>
    </nav>
  );
}

function Heading({ text, add, onAdd }: { text: string; add: string; onAdd(): void }) {
  return (
    <div className="mt-1 flex items-center justify-between px-2">
      <h2 className="heading">{text}</h2>
      <button
        type="button"
        className="text-quiet hover:text-text"
        aria-label={add}
        title={add}
        onClick={onAdd}
      >
        <Plus size={15} aria-hidden />
      </button>
    </div>
  );
}

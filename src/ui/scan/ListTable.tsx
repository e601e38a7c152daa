'use client';

import { useRef, useState } from 'react';
import { readWatchlist, watchlistCsv } from '@/core/formats';
import type { ListRow } from '@/store/settings';
import { useSession } from '../client';
import { download } from '../download';
import { setShortlist, symbolsIn, useShortlist } from '../lists';
import { Pop } from '../primitives/Pop';
import { SureButton } from '../primitives/SureButton';
import { useSettings } from '../settings';
import { useTable } from '../table/useTable';
import { ColumnsForm } from './ColumnsForm';
import { ListRows } from './ListRows';

/** The list on the table: today's shortlist, or a watchlist. */
function useList(): {
  name: string;
  rows: ListRow[];
  put(rows: ListRow[]): void;
  rename: ((name: string) => void) | null;
  remove: (() => void) | null;
} {
  const shown = useSettings((s) => s.shown);
  const lists = useSettings((s) => s.lists);
  const set = useSettings((s) => s.set);
  const shortlist = useShortlist();
  const shortlists = useSettings((s) => s.shortlists);
  const list = lists.find((l) => shown === `list:${l.id}`);
  const past = shortlists.find((l) => shown === `past:${l.date}`);
  if (past)
    return {
      name: `Shortlist of ${past.date}`,
      rows: past.rows,
      put: (rows) => set({ shortlists: shortlists.map((l) => (l.date === past.date ? { ...l, rows } : l)) }),
      rename: null,
      remove: () => set({ shortlists: shortlists.filter((l) => l.date !== past.date), shown: 'shortlist' }),
    };
  if (!list)
    return { name: 'Shortlist of today', rows: shortlist, put: setShortlist, rename: null, remove: null };
  const change = (part: Partial<typeof list>) =>
    set({ lists: lists.map((l) => (l.id === list.id ? { ...l, ...part } : l)) });
  return {
    name: list.name,
    rows: list.rows,
    put: (rows) => change({ rows }),
    rename: (name) => change({ name }),
    remove: () => set({ lists: lists.filter((l) => l.id !== list.id), shown: 'shortlist' }),
  };
}

/** A watchlist or the shortlist: reordered by drag, filled by paste or file, with grades and notes beside live values. */
export function ListTable({ alert }: { alert(symbol: string): void }) {
  const { name, rows, put, rename, remove } = useList();
  const columns = useSettings((s) => s.listColumns);
  const set = useSettings((s) => s.set);
  const [message, setMessage] = useState('');
  const file = useRef<HTMLInputElement>(null);
  useTable({ source: { kind: 'list', symbols: rows.map((r) => r.symbol) }, columns, sort: null });
  const add = (symbols: readonly Partial<ListRow>[]) => {
    const fresh = symbols
      .filter((s) => !rows.some((r) => r.symbol === s.symbol))
      .map((s) => ({ grade: '' as const, note: '', ...s, symbol: s.symbol ?? '' }));
    put([...rows, ...fresh]);
    const known = new Set(useSession.getState().symbols ?? []);
    const unknown = fresh.filter((f) => !known.has(f.symbol)).map((f) => f.symbol);
    setMessage(
      `${fresh.length} added${symbols.length > fresh.length ? `, ${symbols.length - fresh.length} there already` : ''}.${unknown.length > 0 ? ` Not traded today, kept as unknown: ${unknown.join(', ')}.` : ''}`,
    );
    return fresh.length;
  };
  const importFile = async (f: File) => {
    const Papa = (await import('papaparse')).default;
    const read = readWatchlist(Papa.parse<string[]>(await f.text(), { skipEmptyLines: true }).data);
    add(read.rows);
    if (read.bad.length > 0)
      setMessage(
        (m) =>
          `${m} No symbol in ${read.bad
            .slice(0, 4)
            .map((b) => `line ${b.line} (“${b.value}”)`)
            .join(', ')}${read.bad.length > 4 ? ` and ${read.bad.length - 4} more` : ''}.`,
      );
  };
  return (
    <div className="grid min-h-0 grid-rows-[auto_minmax(0,1fr)] gap-1.5">
      <section className="panel flex flex-wrap items-center gap-1.5 px-3 py-1.5" aria-label="List">
        {rename ? (
          <input
            className="field w-52 py-0.5 font-semibold"
            aria-label="Name of the list"
            value={name}
            maxLength={40}
            onChange={(e) => rename(e.target.value)}
          />
        ) : (
          <h2 className="mr-2 font-semibold">{name}</h2>
        )}
        <Paste add={(text) => add(symbolsIn(text).map((symbol) => ({ symbol })))} />
        <button type="button" className="btn px-2 py-0.5 text-[13px]" onClick={() => file.current?.click()}>
          Import CSV
        </button>
        <input
          ref={file}
          type="file"
          accept=".csv,.txt"
          className="hidden"
          aria-label="A CSV with symbols"
          onChange={(e) => {
            const [f] = e.target.files ?? [];
            if (f) void importFile(f);
            e.target.value = '';
          }}
        />
        <button
          type="button"
          className="btn px-2 py-0.5 text-[13px]"
          disabled={rows.length === 0}
          onClick={() =>
            download(`${name.toLowerCase().replaceAll(' ', '-')}.csv`, 'text/csv', watchlistCsv(rows))
          }
        >
          Export CSV
        </button>
        <Pop title="Columns" label={`${columns.length} columns`}>
          <ColumnsForm columns={columns} change={(listColumns) => set({ listColumns })} />
        </Pop>
        {remove && (
          <SureButton
            className="btn ml-auto px-2 py-0.5 text-[13px]"
            label="Delete this list"
            sure={`Delete “${name}” for good?`}
            act={remove}
          />
        )}
        <p className="w-full text-[13px] text-quiet" role="status">
          {message}
        </p>
      </section>
      <ListRows rows={rows} put={put} columns={columns} alert={alert} name={name} />
    </div>
  );
}

function Paste({ add }: { add(text: string): number }) {
  const [text, setText] = useState('');
  return (
    <form
      className="flex gap-1"
      onSubmit={(e) => {
        e.preventDefault();
        add(text);
        setText('');
      }}
    >
      <input
        className="field num w-56 py-0.5 text-[13px]"
        aria-label="Type or paste symbols"
        placeholder="type or paste symbols"
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <button type="submit" className="btn px-2 py-0.5 text-[13px]" disabled={symbolsIn(text).length === 0}>
        Add
      </button>
    </form>
  );
}

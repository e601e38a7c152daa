'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState } from 'react';
import { JOURNAL_KINDS, type JournalKind, type JournalLine, journalCsv, journalJson } from '@/core/formats';
import { ask, useSession } from '../client';
import { download } from '../download';
import { clock } from '../format';
import { Choice } from '../primitives/Choice';

const ROW = 24;

/** What was asked, answered, filled and done by itself, to be searched, filtered and exported. */
export function Journal() {
  const [lines, setLines] = useState<readonly JournalLine[] | null>(null);
  const [search, setSearch] = useState('');
  const [symbol, setSymbol] = useState('');
  const [order, setOrder] = useState('');
  const [kind, setKind] = useState<JournalKind | ''>('');
  const date = useSession((s) => s.clock?.date ?? '');
  const dates = useSession((s) => s.clock?.dates) ?? [];
  const attempt = useSession((s) => s.clock?.attempt);
  const book = useSession((s) => s.book);
  const desk = useSession((s) => s.desk);
  useEffect(() => {
    if (attempt === undefined || book === undefined || desk === undefined) return;
    let current = true;
    void ask({ kind: 'journal' }).then((a) => current && a && setLines(a.lines));
    return () => {
      current = false;
    };
  }, [attempt, book, desk]);
  const symbols = useMemo(
    () => [...new Set((lines ?? []).map((l) => l.symbol).filter((s) => s !== ''))].sort(),
    [lines],
  );
  const shown = useMemo(() => {
    const words = search.toLowerCase().split(/\s+/).filter(Boolean);
    return (lines ?? []).filter(
      (l) =>
        (symbol === '' || l.symbol === symbol) &&
        (kind === '' || l.kind === kind) &&
        (order.trim() === '' || String(l.order) === order.trim()) &&
        words.every((w) => `${l.text} ${l.symbol} ${l.status}`.toLowerCase().includes(w)),
    );
  }, [lines, search, symbol, kind, order]);
  const none = shown.length === 0;
  return (
    <section className="panel flex min-h-0 flex-col" aria-label="Day journal">
      <div className="flex flex-wrap items-end gap-3 px-3 py-2 text-[13px]">
        <label>
          <span className="block text-quiet">Search</span>
          <input className="field w-52" value={search} onChange={(e) => setSearch(e.target.value)} />
        </label>
        <div>
          <span className="block text-quiet">Symbol</span>
          <Choice
            label="Symbol"
            className="w-24"
            value={symbol}
            options={[['', 'all'], ...symbols.map((s) => [s, s] as const)]}
            change={setSymbol}
          />
        </div>
        <div>
          <span className="block text-quiet">Kind</span>
          <Choice<JournalKind | ''>
            label="Kind"
            className="w-28"
            value={kind}
            options={[['', 'all'], ...JOURNAL_KINDS.map((k) => [k, k] as const)]}
            change={setKind}
          />
        </div>
        <label>
          <span className="block text-quiet">Order</span>
          <input
            className="field num w-20"
            inputMode="numeric"
            value={order}
            placeholder="all"
            onChange={(e) => setOrder(e.target.value)}
          />
        </label>
        <span className="num pb-1 text-quiet">
          {shown.length} of {lines?.length ?? 0}
        </span>
        <span className="ml-auto flex gap-2">
          <button
            type="button"
            className="btn"
            disabled={none}
            onClick={() => download(`journal-${date}.csv`, 'text/csv', journalCsv(dates, shown))}
          >
            Journal as CSV
          </button>
          <button
            type="button"
            className="btn"
            disabled={none}
            onClick={() => download(`journal-${date}.json`, 'application/json', journalJson(dates, shown))}
          >
            as JSON
          </button>
        </span>
      </div>
      {lines === null && <p className="px-3 py-4 text-quiet">The journal is being read …</p>}
      {lines !== null && none && (
        <p className="px-3 py-4 text-quiet">
          {lines.length === 0
            ? 'Nothing has been asked or done yet. Every request, answer, fill and automatic move will stand here.'
            : 'No line fits. Take a filter away.'}
        </p>
      )}
      {!none && <Lines lines={shown} />}
    </section>
  );
}

/** The newest first. */
function Lines({ lines }: { lines: readonly JournalLine[] }) {
  const box = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 10,
  });
  return (
    <div
      ref={box}
      className="min-h-0 grow overflow-auto border-t border-line px-3 text-[13px]"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls has to be reached by the keyboard
      tabIndex={0}
      role="log"
    >
      <div className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map((item) => {
          const l = lines[lines.length - 1 - item.index];
          if (!l) return null;
          return (
            <div
              key={`${l.seq} ${l.nth}`}
              className="absolute grid w-full grid-cols-[112px_116px_64px_58px_1fr] items-baseline gap-2 whitespace-nowrap"
              style={{ top: item.start, height: ROW }}
              data-testid="journal-line"
            >
              <span className="num text-quiet">{clock(l.at, 'millis')}</span>
              <span
                className={
                  l.kind === 'refused' || l.kind === 'guard'
                    ? 'font-semibold'
                    : l.kind === 'condition'
                      ? 'text-condition'
                      : 'text-quiet'
                }
              >
                {l.kind}
              </span>
              <span className="num font-semibold">{l.symbol}</span>
              <span className="num text-quiet">{l.order === null ? '' : `#${l.order}`}</span>
              <span className="truncate" title={l.text}>
                {l.text}
                {l.status && <span className="ml-2 text-quiet">{l.status}</span>}
              </span>
            </div>
          );
        })}
      </div>
    </div>
  );
}

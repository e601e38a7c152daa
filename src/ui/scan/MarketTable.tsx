// biome-ignore-all lint/a11y/useFocusableInteractive: the grid holds the focus and names the chosen row by aria-activedescendant
// biome-ignore-all lint/a11y/useKeyWithClickEvents: keys go to the grid itself
'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { fieldOf } from '@/core/market';
import { focusOn, useSession } from '../client';
import { toggleShortlist, useShortlist } from '../lists';
import { useSize } from '../primitives/useSize';
import { ColumnHeads } from './ColumnHeads';
import { useSparks } from './Spark';
import { TableLine } from './TableLine';
import { ROW, SPARK_WIDTH, SYMBOL_WIDTH, type TableLook } from './table-look';
import { useRows } from './useRows';

const USUAL_WIDTH = { least: 66, most: 110 };

interface Props {
  label: string;
  look: TableLook;
  /** Opens the focus on the Desk. */
  open(): void;
  /** Takes a symbol out of today's scans; null where that makes no sense. */
  hide: ((symbol: string) => void) | null;
  /** Asks for an alert on a symbol. */
  alert(symbol: string): void;
  /** What stands where no row is. */
  empty: React.ReactNode;
}

/**
 * The live table of symbols. Arrows move the focus, Enter opens it on the Desk, L puts it on the
 * shortlist, H hides it for today, N sets an alert. While the pointer is over it the order is held.
 */
export function MarketTable({ label, look, open, hide, alert, empty }: Props) {
  const [over, setOver] = useState(false);
  const { table, count, rowAt, indexOf, left, waiting } = useRows(over);
  const inFocus = useSession((s) => s.focus?.symbol);
  // What was chosen last counts at once; the session follows a moment later.
  const [chosenLast, setChosenLast] = useState<string | null>(null);
  const focus = chosenLast ?? inFocus;
  const listed = new Set(useShortlist().map((r) => r.symbol));
  const { box: scroller, width: room } = useSize();
  const virtual = useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const shown = virtual.getVirtualItems();
  const sparks = useSparks(shown.flatMap((v) => rowAt(v.index)?.i ?? []));
  const fields = useMemo(() => look.columns.map(fieldOf), [look.columns]);
  // Columns that were not resized share the room.
  const share = Math.floor((room - SYMBOL_WIDTH - SPARK_WIDTH) / Math.max(1, fields.length));
  const usual = Math.max(USUAL_WIDTH.least, Math.min(USUAL_WIDTH.most, share));
  const width = (name: string) => look.widths.find((w) => w.field === name)?.px ?? usual;
  const template = `${SYMBOL_WIDTH}px ${SPARK_WIDTH}px ${fields.map((f) => `${width(f.name)}px`).join(' ')}`;
  const total = SYMBOL_WIDTH + SPARK_WIDTH + fields.reduce((a, f) => a + width(f.name), 0);

  const select = (symbol: string) => {
    setChosenLast(symbol);
    void focusOn(symbol).then(() =>
      requestAnimationFrame(() => setChosenLast((c) => (c === symbol ? null : c))),
    );
  };
  const latest = useRef(select);
  useEffect(() => {
    latest.current = select;
  });
  const press = useCallback(
    (symbol: string) => {
      latest.current(symbol);
      scroller.current?.focus({ preventScroll: true });
    },
    [scroller],
  );
  const choose = (k: number) => {
    const to = Math.max(0, Math.min(count - 1, k));
    const row = rowAt(to);
    if (!row) return;
    virtual.scrollToIndex(to);
    select(row.symbol);
  };
  const onKey = (e: React.KeyboardEvent) => {
    if (e.target !== e.currentTarget || e.ctrlKey || e.altKey || e.metaKey) return;
    if (e.key === 'Enter' && /confirm|moving/.test(useSession.getState().sayBack.kind)) return;
    const at = indexOf(focus);
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? ROW) / ROW) - 2);
    const goes = { ArrowDown: at + 1, ArrowUp: at - 1, PageDown: at + page, PageUp: at - page, Home: 0 };
    const to = e.key === 'End' ? count - 1 : goes[e.key as keyof typeof goes];
    if (to !== undefined) choose(to);
    else if (at < 0 || focus === undefined || !onRow(e, focus, at)) return;
    e.preventDefault();
  };
  /** What keys do with the row in focus. */
  const onRow = (e: React.KeyboardEvent, symbol: string, at: number): boolean => {
    if (e.key === 'Enter') open();
    else if (e.code === 'KeyL') toggleShortlist(symbol);
    else if (e.code === 'KeyN') alert(symbol);
    else if (e.code === 'KeyH' && hide) {
      hide(symbol);
      choose(at + (at + 1 < count ? 1 : -1));
    } else return false;
    return true;
  };
  return (
    <section className="panel flex min-h-0 flex-col" aria-label={label}>
      <div
        ref={scroller}
        role="grid"
        tabIndex={0}
        aria-label={`${label}: arrows choose, Enter opens on the Desk, L shortlist, H hide, N alert`}
        aria-rowcount={count + 1}
        aria-activedescendant={
          shown.some((v) => rowAt(v.index)?.symbol === focus) ? `row-${focus}` : undefined
        }
        className="min-h-0 grow overflow-auto focus-visible:-outline-offset-2"
        onKeyDown={onKey}
      >
        <ColumnHeads fields={fields} template={template} total={total} look={look} width={width} />
        <div
          role="rowgroup"
          style={{ height: virtual.getTotalSize(), width: total, position: 'relative' }}
          onPointerEnter={() => setOver(true)}
          onPointerLeave={() => setOver(false)}
        >
          {shown.map((v) => {
            const row = rowAt(v.index);
            if (!row) return null;
            return (
              <TableLine
                key={row.i}
                row={row}
                number={v.index + 1}
                top={v.start}
                width={total}
                template={template}
                fields={fields}
                table={table}
                line={sparks.get(row.i)}
                chosen={row.symbol === focus}
                listed={listed.has(row.symbol)}
                press={press}
                open={open}
              />
            );
          })}
        </div>
        {table && count === 0 && <div className="p-4 text-quiet">{empty}</div>}
        {!table && <p className="p-4 text-quiet">The first pass over the market is under way.</p>}
      </div>
      <p
        className="flex min-h-6 items-center gap-4 border-t border-line px-3 text-[12px] text-quiet"
        aria-live="off"
      >
        {waiting ? (
          <span className="shrink-0 text-text">
            Order held while the pointer is here
            {waiting.came > 0 && ` · ${waiting.came} more waiting`}
            {waiting.went > 0 && ` · ${waiting.went} left`}
          </span>
        ) : (
          <span className="shrink-0">
            ↑ ↓ choose · Enter Desk · L shortlist{hide ? ' · H hide today' : ''} · N alert
          </span>
        )}
        {left.length > 0 && (
          <span className="num ml-auto truncate">left just now: {left.slice(0, 6).join(' ')}</span>
        )}
      </p>
    </section>
  );
}

/** The table takes the keyboard when its view opens. */
export function useTableFocus(label: string): void {
  useEffect(() => {
    document
      .querySelector<HTMLElement>(`[role="grid"][aria-label^="${label}"]`)
      ?.focus({ preventScroll: true });
  }, [label]);
}

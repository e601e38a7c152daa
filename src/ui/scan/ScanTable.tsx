'use client';

import { Tooltip } from 'radix-ui';
import { useRef } from 'react';
import { columnOf, SCAN_FIELDS, type ScanField } from '@/core/scan';
import { count, signed } from '../format';
import { focusOn, useSession } from '../session';
import { useSettings } from '../settings';

const COLUMNS = ['price', 'gap', 'change', 'premarket volume', 'relative volume', 'float', 'float turnover', 'spread', 'from premarket high', 'news age'].map(
  (name) => SCAN_FIELDS[columnOf(name)] as ScanField,
);

/** The candidates, best first. Click or arrows choose, Enter opens the Desk, L puts on the shortlist. */
export function ScanTable({ open }: { open: () => void }) {
  const scan = useSession((s) => s.scan);
  const focus = useSession((s) => s.focus?.symbol);
  const shortlist = useSettings((s) => s.shortlist);
  const set = useSettings((s) => s.set);
  const body = useRef<HTMLTableSectionElement>(null);
  if (!scan) return <section className="panel p-4 text-quiet">The first pass over the market is under way.</section>;
  const rows = scan.rows;
  const choose = (i: number) => {
    const row = rows[Math.max(0, Math.min(rows.length - 1, i))];
    if (!row) return;
    void focusOn(row.symbol);
    body.current?.querySelector<HTMLElement>(`[data-symbol="${row.symbol}"]`)?.focus();
  };
  return (
    <section className="panel overflow-auto" aria-label="Candidates">
      <Tooltip.Provider delayDuration={300}>
        <table className="plain">
          <thead>
            <tr>
              <th scope="col">Symbol</th>
              {COLUMNS.map((f) => (
                <th key={f.name} scope="col">
                  <Tooltip.Root>
                    <Tooltip.Trigger className="cursor-help underline decoration-dotted underline-offset-4">{f.label}</Tooltip.Trigger>
                    <Tooltip.Portal>
                      <Tooltip.Content side="bottom" className="panel max-w-72 bg-raised px-3 py-2 text-[13px]">
                        <b className="num">{f.name}</b>: {f.meaning}
                      </Tooltip.Content>
                    </Tooltip.Portal>
                  </Tooltip.Root>
                </th>
              ))}
            </tr>
          </thead>
          <tbody ref={body} className="num">
            {rows.map((r, i) => (
              <tr
                key={r.symbol}
                data-symbol={r.symbol}
                tabIndex={r.symbol === focus || (i === 0 && !rows.some((x) => x.symbol === focus)) ? 0 : -1}
                aria-selected={r.symbol === focus}
                className={`cursor-pointer hover:bg-raised ${r.symbol === focus ? 'bg-raised' : ''}`}
                onClick={() => choose(i)}
                onDoubleClick={open}
                onKeyDown={(e) => {
                  if (e.key === 'Enter' && /confirm|moving/.test(useSession.getState().sayBack.kind)) return;
                  if (e.key === 'ArrowDown') choose(i + 1);
                  else if (e.key === 'ArrowUp') choose(i - 1);
                  else if (e.key === 'Enter') {
                    void focusOn(r.symbol);
                    open();
                  } else if (e.code === 'KeyL')
                    set({ shortlist: shortlist.includes(r.symbol) ? shortlist.filter((s) => s !== r.symbol) : [...shortlist, r.symbol] });
                  else return;
                  e.preventDefault();
                }}
              >
                <td>
                  <span className="mr-2 inline-block w-4 text-right text-quiet">{i + 1}</span>
                  <span className={`font-bold ${r.symbol === focus ? 'text-focus' : ''}`}>{r.symbol}</span>
                  {shortlist.includes(r.symbol) && <span className="ml-2 text-[12px] text-quiet">shortlist</span>}
                </td>
                {COLUMNS.map((f) => (
                  <Cell key={f.name} field={f} value={r.values[columnOf(f.name)] ?? null} />
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Tooltip.Provider>
      {rows.length === 0 && (
        <p className="p-4 text-quiet">No symbol passes. The numbers beside the clauses above show which one is the tightest: change that one.</p>
      )}
    </section>
  );
}

function Cell({ field, value }: { field: ScanField; value: number | null }) {
  if (value === null) return <td className="text-quiet">–</td>;
  switch (field.unit) {
    case 'percent':
      return <td className={value >= 0 ? 'text-up' : 'text-down'}>{signed(value, 1, '%')}</td>;
    case 'dollars':
      return <td>{value >= 10_000 ? count(value) : value.toFixed(value < 1 ? 4 : 2)}</td>;
    case 'shares':
      return <td>{count(value)}</td>;
    case 'times':
      return <td>{value.toFixed(value < 10 ? 2 : 0)}×</td>;
    case 'cents':
      return <td>{value.toFixed(value % 1 ? 2 : 0)}c</td>;
    case 'minutes':
      return <td>{value < 60 ? `${value}m` : `${Math.floor(value / 60)}h${String(value % 60).padStart(2, '0')}`}</td>;
  }
}

'use client';

import Link from 'next/link';
import { signed } from '../format';
import { useHidden, useShortlist } from '../lists';
import { focusOn, useSession } from '../session';
import { useSettings } from '../settings';
import { useTable } from '../table/useTable';

const COLUMNS = ['change'];

/** Today's shortlist; while it is empty, the leaders of the scan last shown stand in for it. */
export function Shortlist() {
  const shortlist = useShortlist();
  const hidden = useHidden();
  const scan = useSettings((s) => s.scans.find((x) => s.shown === `scan:${x.id}`) ?? s.scans[0]);
  const listed = shortlist.length > 0;
  useTable({
    source:
      listed || !scan
        ? { kind: 'list', symbols: shortlist.map((r) => r.symbol) }
        : {
            kind: 'scan',
            rule: scan.rule,
            ranking: scan.ranking,
            from: scan.from,
            to: scan.to,
            limit: 40,
            hidden,
          },
    columns: COLUMNS,
    sort: null,
  });
  const table = useSession((s) => s.table);
  const names = useSession((s) => s.symbols);
  const focus = useSession((s) => s.focus?.symbol);
  const column = table?.asked.columns.indexOf('change') ?? -1;
  const change = new Map<string, number>();
  table?.who.forEach((i, at) => void change.set(names?.[i] ?? '', table.columns[column]?.[at] ?? Number.NaN));
  const symbols = listed
    ? shortlist.map((r) => r.symbol)
    : table?.asked.source.kind === 'scan'
      ? [...change.keys()]
      : [];
  return (
    <section className="panel flex min-h-0 flex-col px-3 py-2" aria-label="Shortlist">
      <h2 className="heading">{listed ? 'Shortlist' : 'Leaders of the scan'}</h2>
      {symbols.length === 0 && (
        <p className="pt-1 text-quiet">
          Nothing passes the scan.{' '}
          <Link className="underline" href="/scan" prefetch={false}>
            Loosen its rule
          </Link>
          .
        </p>
      )}
      <ul className="min-h-0 overflow-y-auto">
        {symbols.map((symbol) => {
          const moved = change.get(symbol) ?? Number.NaN;
          const mark = shortlist.find((r) => r.symbol === symbol)?.grade;
          return (
            <li key={symbol}>
              <button
                type="button"
                aria-pressed={symbol === focus}
                onClick={() => void focusOn(symbol)}
                className={`num flex w-full justify-between px-1 py-[2px] text-left hover:bg-raised ${symbol === focus ? 'text-focus' : ''}`}
              >
                <span>
                  {symbol} {mark && <span className="text-quiet">{mark}</span>}
                </span>
                {!Number.isNaN(moved) && (
                  <span className={moved >= 0 ? 'text-up' : 'text-down'}>{signed(moved, 1, '%')}</span>
                )}
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

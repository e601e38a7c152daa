'use client';

import Link from 'next/link';
import { columnOf } from '@/core/scan';
import { signed } from '../format';
import { useScan } from '../scan/useScan';
import { focusOn, useSession } from '../session';
import { useSettings } from '../settings';

/** Today's shortlist; while it is empty, the leaders of the scan stand in for it. */
export function Shortlist() {
  useScan();
  const rows = useSession((s) => s.scan?.rows);
  const focus = useSession((s) => s.focus?.symbol);
  const shortlist = useSettings((s) => s.shortlist);
  const changeOf = (symbol: string) => rows?.find((r) => r.symbol === symbol)?.values[columnOf('change')] ?? null;
  const symbols = shortlist.length > 0 ? shortlist : (rows?.map((r) => r.symbol) ?? []);
  return (
    <section className="panel flex min-h-0 flex-col px-3 py-2" aria-label="Shortlist">
      <h2 className="heading">{shortlist.length > 0 ? 'Shortlist' : 'Leaders of the scan'}</h2>
      {symbols.length === 0 && (
        <p className="pt-1 text-quiet">
          Nothing passes the scan.{' '}
          <Link className="underline" href="/scan">
            Loosen its rule
          </Link>
          .
        </p>
      )}
      <ul className="min-h-0 overflow-y-auto">
        {symbols.map((symbol) => {
          const change = changeOf(symbol);
          return (
            <li key={symbol}>
              <button
                type="button"
                aria-pressed={symbol === focus}
                onClick={() => void focusOn(symbol)}
                className={`num flex w-full justify-between px-1 py-[2px] text-left hover:bg-raised ${symbol === focus ? 'text-focus' : ''}`}
              >
                <span>{symbol}</span>
                {change !== null && <span className={change >= 0 ? 'text-up' : 'text-down'}>{signed(change, 1, '%')}</span>}
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

'use client';

import { useState } from 'react';
import { totalOf } from '@/core/account';
import type { ExecutionsBy } from '@/core/review';
import type { Reviewed, Sorting } from '@/worker/review/review-messages';
import { avg, clock, shortName, usd } from '../format';
import { askReview, useLens } from './asked';
import { Executions } from './Executions';
import { PagedList } from './PagedList';
import { dollars, inR, span } from './said';
import { openTrade, useOpened } from './trade-open';

const WIDTH = 'min-w-[1000px]';
const GRID =
  'grid grid-cols-[minmax(150px,1.4fr)_92px_72px_62px_64px_72px_72px_84px_72px_84px_70px_70px_minmax(60px,1fr)] gap-2 px-3';
const HEADS: readonly [string, Sorting['by'] | null][] = [
  ['Trade', 'symbol'],
  ['Closed', 'closed'],
  ['', null],
  ['In it', 'held'],
  ['Size', 'shares'],
  ['Entry', null],
  ['Exit', null],
  ['Net', 'net'],
  ['R', 'r'],
  ['Costs', 'costs'],
  ['Against', 'mae'],
  ['For', 'mfe'],
  ['Setup', null],
];

/** Every finished trade that fits, in any order; one of them opened beside it. */
export default function AllTrades() {
  const filter = useLens((s) => s.filter);
  const version = useLens((s) => s.version);
  const ref = useOpened((s) => s.ref);
  const [each, setEach] = useState<ExecutionsBy | null>(null);
  const [sorting, setSorting] = useState<Sorting>({ by: 'closed', down: true });
  if (each !== null) return <Executions by={each} show={setEach} />;
  return (
    <PagedList<Reviewed>
      label="All trades"
      by={null}
      show={setEach}
      width={WIDTH}
      rowHeight={26}
      what={JSON.stringify([filter, sorting, version])}
      fetch={(from, count) => askReview({ kind: 'rows', filter, sorting, from, count })}
      row={(trade) => <Row row={trade} on={trade.trade.ref === ref} />}
      heads={
        <div className={`${GRID} ${WIDTH} border-b border-line py-1 text-[13px] text-quiet`}>
          {HEADS.map(([name, by], k) =>
            by ? (
              <button
                key={name}
                type="button"
                className={k === 0 ? 'text-left' : 'text-right'}
                aria-label={`Sort by ${name}${sorting.by === by ? (sorting.down ? ', falling now' : ', rising now') : ''}`}
                onClick={() => setSorting({ by, down: sorting.by === by ? !sorting.down : by !== 'symbol' })}
              >
                {name} {sorting.by === by ? (sorting.down ? '↓' : '↑') : ''}
              </button>
            ) : (
              <span key={`${name}${k}`} className={name === 'Setup' ? '' : 'text-right'}>
                {name}
              </span>
            ),
          )}
        </div>
      }
    />
  );
}

function Row({ row: { trade: t, remark }, on }: { row: Reviewed; on: boolean }) {
  const r = t.risk ? t.net / t.risk : Number.NaN;
  return (
    <button
      type="button"
      className={`num h-full w-full items-center text-right hover:bg-raised ${GRID} ${on ? 'bg-raised' : ''}`}
      data-testid="kept-trade"
      aria-pressed={on}
      onClick={() => openTrade(on ? null : t.ref)}
    >
      <span
        className={`truncate text-left font-bold ${t.direction === 'long' ? 'text-up' : 'text-down'}`}
        title={t.symbol}
      >
        {t.direction} {shortName(t.symbol)}
      </span>
      <span>{t.closed?.date}</span>
      <span className="text-quiet">{t.closed ? clock(t.closed.at) : 'open'}</span>
      <span className="whitespace-nowrap text-quiet">{span(t.held)}</span>
      <span>{t.shares}</span>
      <span>{avg(t.averageEntry)}</span>
      <span>{avg(t.averageExit)}</span>
      <span className={t.net >= 0 ? 'text-up' : 'text-down'}>{dollars(t.net)}</span>
      <span className="font-semibold">{inR(r)}</span>
      <span className="text-quiet">{usd(Math.round(totalOf(t.costs)))}</span>
      <span className="text-quiet">{t.mae === null || !t.risk ? '–' : inR(t.mae / t.risk, 1)}</span>
      <span className="text-quiet">{t.mfe === null || !t.risk ? '–' : inR(t.mfe / t.risk, 1)}</span>
      <span className="truncate text-left">{remark?.setup}</span>
    </button>
  );
}

'use client';

import { useRef } from 'react';
import { totalOf } from '@/core/account';
import type { ExecutionRow, ExecutionsBy } from '@/core/review';
import { avg, clock, shortName, usd } from '../format';
import { askReview, useLens } from './asked';
import { TradeSheet } from './TradeSheet';
import { openTrade, useOpened } from './trade-open';
import { usePaged } from './usePaged';

const ROW = 24;
const GRID =
  'grid grid-cols-[92px_100px_minmax(130px,1fr)_72px_72px_80px_70px_64px_72px_90px_84px_84px] gap-2 px-3';
const KINDS: readonly (readonly [ExecutionsBy | null, string])[] = [
  [null, 'Trades'],
  ['each', 'Executions'],
  ['order', 'by order'],
  ['symbol', 'by symbol'],
  ['day', 'by day'],
];

/** What the list is of: trades, or their executions, each or put together. */
export function ListKind({ by, show }: { by: ExecutionsBy | null; show(by: ExecutionsBy | null): void }) {
  return (
    <div className="flex gap-1 px-3 pt-1.5" role="group" aria-label="What the list is of">
      {KINDS.map(([kind, name]) => (
        <button
          key={name}
          type="button"
          className="btn px-2 py-0 text-[12px]"
          aria-pressed={by === kind}
          onClick={() => show(kind)}
        >
          {name}
        </button>
      ))}
    </div>
  );
}

/** Every execution of the trades that fit, to the millisecond, with route, liquidity, improvement, commission and fees. */
export function Executions({ by, show }: { by: ExecutionsBy; show(by: ExecutionsBy | null): void }) {
  const filter = useLens((s) => s.filter);
  const version = useLens((s) => s.version);
  const ref = useOpened((s) => s.ref);
  const box = useRef<HTMLDivElement>(null);
  const key = JSON.stringify([filter, by, version]);
  const { seen, height, problem, row } = usePaged<ExecutionRow>(box, key, ROW, (from, count) =>
    askReview({ kind: 'executions', filter, by, from, count }),
  );
  return (
    <div className={`grid min-h-0 gap-1.5 ${ref ? 'grid-cols-[1fr_430px]' : ''}`}>
      <section className="panel flex min-h-0 flex-col overflow-x-auto" aria-label="All executions">
        <ListKind by={by} show={show} />
        <div className={`${GRID} min-w-[1010px] border-b border-line py-1 text-[13px] text-quiet`}>
          <span>Date</span>
          <span>{by === 'each' ? 'Time' : 'Last'}</span>
          <span>{by === 'day' ? 'Symbols' : 'Trade'}</span>
          {['Bought', 'Sold', 'Price'].map((h) => (
            <span key={h} className="text-right">
              {h}
            </span>
          ))}
          <span>For</span>
          <span>Route</span>
          <span>Liquidity</span>
          {['Better by', 'Commission', 'Fees'].map((h) => (
            <span key={h} className="text-right">
              {h}
            </span>
          ))}
        </div>
        {problem && (
          <p role="alert" className="p-3">
            ⚠ {problem}
          </p>
        )}
        <div ref={box} className="min-h-0 grow overflow-y-auto text-[12.5px]">
          <div className="relative min-w-[1010px]" style={{ height }}>
            {seen.map((item) => {
              const x = row(item.index);
              return (
                <div key={item.key} className="absolute w-full" style={{ top: item.start, height: ROW }}>
                  {x ? <Line x={x} by={by} /> : <span className="px-3 text-quiet">…</span>}
                </div>
              );
            })}
          </div>
        </div>
      </section>
      {ref && <TradeSheet reference={ref} />}
    </div>
  );
}

function Line({ x, by }: { x: ExecutionRow; by: ExecutionsBy }) {
  const one = by === 'each' || by === 'order';
  const fees = totalOf(x.costs) - x.costs.commission;
  return (
    <button
      type="button"
      className={`num h-full w-full items-center text-left hover:bg-raised ${GRID}`}
      data-testid="execution"
      disabled={!one}
      onClick={() => openTrade(x.ref)}
    >
      <span>{x.date}</span>
      <span className="text-quiet">{clock(x.at, 'millis')}</span>
      <span className="truncate font-semibold" title={x.symbol}>
        {x.symbol === 'several' ? 'several' : shortName(x.symbol)}
        {x.executions > 1 && <span className="font-normal text-quiet"> {x.executions} executions</span>}
      </span>
      <span className="text-right text-up">{x.bought || ''}</span>
      <span className="text-right text-down">{x.sold || ''}</span>
      <span className="text-right">{x.symbol === 'several' ? '' : avg(x.price)}</span>
      <span>{x.role}</span>
      <span className="text-quiet">{x.route}</span>
      <span className="text-quiet">{x.liquidity}</span>
      <span className="text-right">{x.improvement > 0 ? usd(Math.round(x.improvement), true) : ''}</span>
      <span className="text-right">{usd(Math.round(x.costs.commission))}</span>
      <span
        className="text-right"
        title={`venue ${usd(Math.round(x.costs.venue))}, SEC ${usd(Math.round(x.costs.sec))}, TAF ${usd(Math.round(x.costs.taf))}`}
      >
        {usd(Math.round(fees))}
      </span>
    </button>
  );
}

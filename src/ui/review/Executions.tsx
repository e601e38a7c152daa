'use client';

import { totalOf } from '@/core/account';
import { rootOf } from '@/core/instruments';
import type { ExecutionRow, ExecutionsBy } from '@/core/review';
import { avg, clock, shortName, usd } from '../format';
import { askReview, onlyGroup, setFilter, useLens } from './asked';
import { PagedList } from './PagedList';
import { openTrade } from './trade-open';

const WIDTH = 'min-w-[1010px]';
const GRID =
  'grid grid-cols-[92px_100px_minmax(130px,1fr)_72px_72px_80px_70px_64px_72px_90px_84px_84px] gap-2 px-3';
/** Every execution of the trades that fit, to the millisecond, with route, liquidity, improvement, commission and fees. */
export function Executions({ by, show }: { by: ExecutionsBy; show(by: ExecutionsBy | null): void }) {
  const filter = useLens((s) => s.filter);
  const version = useLens((s) => s.version);
  // Several together lead to the trades behind them.
  const open = (x: ExecutionRow) => {
    if (by === 'each' || by === 'order') return openTrade(x.ref);
    if (by === 'symbol') onlyGroup('symbol', rootOf(x.symbol));
    else setFilter({ from: x.date, to: x.date });
    show(null);
  };
  return (
    <PagedList<ExecutionRow>
      label="All executions"
      by={by}
      show={show}
      width={WIDTH}
      rowHeight={24}
      what={JSON.stringify([filter, by, version])}
      fetch={(from, count) => askReview({ kind: 'executions', filter, by, from, count })}
      row={(x) => <Line x={x} by={by} open={() => open(x)} />}
      heads={
        <div className={`${GRID} ${WIDTH} border-b border-line py-1 text-[13px] text-quiet`}>
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
      }
    />
  );
}

function Line({ x, by, open }: { x: ExecutionRow; by: ExecutionsBy; open(): void }) {
  const fees = totalOf(x.costs) - x.costs.commission;
  return (
    <button
      type="button"
      className={`num h-full w-full items-center text-left hover:bg-raised ${GRID}`}
      data-testid="execution"
      title={by === 'symbol' || by === 'day' ? 'Shows the trades behind it' : undefined}
      onClick={open}
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

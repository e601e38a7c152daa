import type { ChainSlice, Exposure } from '@/worker/session/slices';
import { avg, dayText } from '../format';

const amount = (x: number, unit: string): string =>
  `${x < 0 ? '−' : ''}${unit === '$' ? '$' : ''}${Math.abs(x).toLocaleString('en-US')}`;

/** The price, how dear options are against their year, and what is held comes to. */
export function Volatility({ chain }: { chain: ChainSlice }) {
  return (
    <div className="flex flex-wrap items-center gap-x-6 gap-y-1 px-3 pt-2">
      <h2 className="heading">
        {chain.symbol} <span className="num text-text">{avg(chain.spot)}</span>
      </h2>
      <div
        className="flex items-center gap-2"
        title="Implied volatility of a month, and where it stands between the least and the most of its 52 weeks"
      >
        <span className="text-quiet">IV</span>
        <b className="num">{(chain.iv * 100).toFixed(0)}%</b>
        <span className="relative h-[6px] w-[110px] bg-raised" aria-hidden>
          <span
            className="absolute top-[-3px] h-[12px] w-[3px] bg-condition"
            style={{ left: `${Math.max(0, Math.min(100, chain.rank))}%` }}
          />
        </span>
        <span className="num">rank {chain.rank.toFixed(0)}</span>
      </div>
      {chain.reports && (
        <p
          className="text-[12px] text-quiet"
          title="A scheduled report, before the open: options that outlive it are priced for the move, and fall with it"
        >
          reports on <span className="num text-text">{dayText(chain.reports.date, chain.date)}</span>, in{' '}
          <span className="num text-text">{chain.reports.days}</span> days
        </p>
      )}
      <Sum what={`held in ${chain.symbol}`} of={chain.mine} />
      <Sum what="whole account" of={chain.all} dollars />
      {!chain.open && (
        <p className="font-semibold">Options trade from 09:30 to 16:00; these are values, not quotes.</p>
      )}
    </div>
  );
}

function Sum({ what, of, dollars = false }: { what: string; of: Exposure; dollars?: boolean }) {
  return (
    <p className="text-[12px] text-quiet">
      {what}{' '}
      <span className="num text-text">{dollars ? amount(of.dollars, '$') : amount(of.delta, ' sh')}</span>{' '}
      delta <span className="num text-text">{amount(of.theta, '$')}</span> a day
    </p>
  );
}

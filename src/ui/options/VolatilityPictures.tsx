'use client';

import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import type { ChainSlice } from '@/worker/session/slices';
import { avg, dayText } from '../format';

const percent = (x: number): string => `${Math.round(x * 100)}%`;
const TICK = { fill: 'var(--quiet)', fontSize: 11 };

/** Implied volatility three ways: over its year, by strike, by expiry. */
export default function VolatilityPictures({ chain }: { chain: ChainSlice }) {
  const year = chain.year.map((w) => ({ x: -w.ago, iv: w.iv }));
  const skew = chain.rows.flatMap((r) => {
    const iv = r.strike < chain.spot ? r.put.iv : r.call.iv;
    return iv === null ? [] : [{ x: r.strike, iv }];
  });
  const term = chain.expiries.filter((e) => e.days > 0).map((e) => ({ x: e.days, iv: e.iv }));
  const ivs = chain.year.map((w) => w.iv);
  return (
    <div className="grid min-h-0 grow grid-rows-3 gap-2 px-3 py-2">
      <Picture
        title={`Its 52 weeks: from ${percent(Math.min(...ivs))} to ${percent(Math.max(...ivs))}, now ${percent(chain.iv)}, rank ${chain.rank.toFixed(0)}`}
        data={year}
        x={(d) => (d === 0 ? 'today' : `${Math.round(-d / 7)} weeks ago`)}
        at={null}
      />
      <Picture
        title={`By strike, ${dayText(chain.expiry, chain.date)}: puts below the price, calls above`}
        data={skew}
        x={avg}
        at={chain.spot}
      />
      <Picture title="By days to expiry" data={term} x={(d) => `${d}d`} at={null} />
    </div>
  );
}

function Picture({
  title,
  data,
  x,
  at,
}: {
  title: string;
  data: { x: number; iv: number }[];
  x(value: number): string;
  at: number | null;
}) {
  return (
    <figure className="flex min-h-0 flex-col" aria-label={title}>
      <figcaption className="text-[12px] text-quiet">{title}</figcaption>
      <div className="min-h-0 grow">
        <ResponsiveContainer width="100%" height="100%">
          <LineChart data={data} margin={{ top: 4, right: 12, bottom: 0, left: 0 }}>
            <CartesianGrid stroke="var(--line)" vertical={false} />
            <XAxis
              dataKey="x"
              type="number"
              domain={['dataMin', 'dataMax']}
              tickFormatter={x}
              tick={TICK}
              tickCount={7}
            />
            <YAxis width={44} tickFormatter={percent} tick={TICK} domain={['auto', 'auto']} tickCount={4} />
            {at !== null && <ReferenceLine x={at} stroke="var(--focus)" />}
            <Line
              dataKey="iv"
              stroke="var(--condition)"
              strokeWidth={2}
              dot={data.length < 14 ? { r: 3, fill: 'var(--condition)', strokeWidth: 0 } : false}
              isAnimationActive={false}
            />
          </LineChart>
        </ResponsiveContainer>
      </div>
    </figure>
  );
}

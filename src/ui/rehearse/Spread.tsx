import { useMemo } from 'react';
import { Bar, BarChart, CartesianGrid, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { spreadOf } from '@/core/rehearsal';
import type { Results } from '@/store/rehearsal-results';
import { handColour } from './rehearsals';

/** How the results of the trades spread, in R: losses left of the line, gains right of it. */
export function Spread({ results }: { results: Results }) {
  const bins = useMemo(() => spreadOf(results.hands.map((trades) => trades.map((t) => t.r))), [results]);
  const width = bins.length > 1 ? (bins[1]?.from ?? 0) - (bins[0]?.from ?? 0) : 1;
  const data = bins.map((b) => ({ from: Number(b.from.toFixed(2)), a: b.counts[0], b: b.counts[1] }));
  return (
    <figure className="min-w-0">
      <figcaption className="heading">
        Trades by result, bars of {Number(width.toFixed(2))}R
        {results.hands.length > 1 && (
          <>
            {': '}
            <span style={{ color: handColour(0) }}>A filled</span>,{' '}
            <span style={{ color: handColour(1) }}>B hatched</span>
          </>
        )}
      </figcaption>
      <div className="h-[225px]" aria-hidden>
        <ResponsiveContainer width="100%" height="100%">
          <BarChart
            data={data}
            margin={{ top: 6, right: 4, bottom: 0, left: -18 }}
            barGap={0}
            barCategoryGap="8%"
          >
            <defs>
              <pattern
                id="hatched"
                width="5"
                height="5"
                patternUnits="userSpaceOnUse"
                patternTransform="rotate(45)"
              >
                <line x1="0" y1="0" x2="0" y2="5" stroke={handColour(1)} strokeWidth="3" />
              </pattern>
            </defs>
            <CartesianGrid vertical={false} stroke="var(--line)" />
            <XAxis
              dataKey="from"
              stroke="var(--quiet)"
              tick={{ fill: 'var(--quiet)', fontSize: 12 }}
              tickFormatter={(r: number) => (r > 0 ? `+${r}` : `${r}`)}
              interval="preserveStartEnd"
            />
            <YAxis
              allowDecimals={false}
              stroke="var(--quiet)"
              tick={{ fill: 'var(--quiet)', fontSize: 12 }}
            />
            <Bar dataKey="a" fill={handColour(0)} isAnimationActive={false} />
            {results.hands.length > 1 && (
              <Bar dataKey="b" fill="url(#hatched)" stroke={handColour(1)} isAnimationActive={false} />
            )}
          </BarChart>
        </ResponsiveContainer>
      </div>
    </figure>
  );
}

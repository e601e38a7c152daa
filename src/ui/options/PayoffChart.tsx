'use client';

import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceArea,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import type { PayoffSlice } from '@/worker/session/slices';
import { avg } from '../format';

const money = (x: number): string =>
  `${x < 0 ? '−' : ''}$${Math.abs(x).toLocaleString('en-US', { maximumFractionDigits: 0 })}`;

/** What becomes of it by the price of its underlying: today, half way, and at its end. */
export default function PayoffChart({ payoff: p }: { payoff: PayoffSlice }) {
  return (
    <ResponsiveContainer width="100%" height="100%">
      <LineChart data={p.lines} margin={{ top: 6, right: 6, bottom: 0, left: 0 }}>
        <CartesianGrid stroke="var(--line)" vertical={false} />
        <XAxis
          dataKey="spot"
          type="number"
          domain={['dataMin', 'dataMax']}
          tickFormatter={avg}
          tick={{ fill: 'var(--quiet)', fontSize: 10.5 }}
          tickCount={4}
        />
        <YAxis
          width={48}
          tickFormatter={money}
          tick={{ fill: 'var(--quiet)', fontSize: 10.5 }}
          tickCount={5}
        />
        <ReferenceArea x1={p.expected[0]} x2={p.expected[1]} fill="var(--condition)" fillOpacity={0.1} />
        <ReferenceLine y={0} stroke="var(--quiet)" />
        <ReferenceLine x={p.spot} stroke="var(--focus)" />
        {p.even.map((e) => (
          <ReferenceLine key={e} x={e} stroke="var(--text)" strokeDasharray="2 3" />
        ))}
        <Line
          dataKey="end"
          name="at its end"
          stroke="var(--text)"
          strokeWidth={2}
          dot={false}
          isAnimationActive={false}
        />
        <Line
          dataKey="half"
          name="half way"
          stroke="var(--quiet)"
          strokeDasharray="5 3"
          dot={false}
          isAnimationActive={false}
        />
        <Line dataKey="now" name="today" stroke="var(--focus)" dot={false} isAnimationActive={false} />
      </LineChart>
    </ResponsiveContainer>
  );
}

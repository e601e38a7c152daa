'use client';

import {
  Area,
  AreaChart,
  Bar,
  BarChart,
  CartesianGrid,
  Cell,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  ScatterChart,
  Tooltip,
  XAxis,
  YAxis,
  ZAxis,
} from 'recharts';
import type { spreadOf } from '@/core/rehearsal';
import type { DayPoint, Excursion, Unit } from '@/core/review';
import { PRICE_SCALE } from '@/core/units';
import { dayText } from '../format';
import { border, dollars, inR } from './said';

const TICK = { fill: 'var(--quiet)', fontSize: 11 };
const TIP = {
  contentStyle: { background: 'var(--raised)', border: '1px solid var(--quiet)', fontSize: 12 },
  itemStyle: { color: 'var(--text)' },
  labelStyle: { color: 'var(--text)' },
  isAnimationActive: false,
};

/** The running sum after each day. */
export function EquityChart({ days, unit }: { days: readonly DayPoint[]; unit: Unit }) {
  const data = days.map((d) => ({ date: d.date, sum: unit === 'R' ? d.sumR : d.sumNet / PRICE_SCALE }));
  return (
    <ResponsiveContainer width="100%" height="100%">
      <AreaChart data={data} margin={{ top: 6, right: 8, bottom: 0, left: 0 }}>
        <CartesianGrid vertical={false} stroke="var(--line)" />
        <XAxis dataKey="date" tick={TICK} tickFormatter={(d: string) => dayText(d)} minTickGap={40} />
        <YAxis
          width={52}
          tick={TICK}
          tickFormatter={(x: number) => (unit === 'R' ? inR(x, 0) : border(unit, Math.round(x)))}
        />
        <ReferenceLine y={0} stroke="var(--quiet)" />
        <Tooltip
          {...TIP}
          formatter={(x) => [unit === 'R' ? inR(Number(x)) : dollars(Number(x) * PRICE_SCALE), 'sum']}
        />
        <Area
          dataKey="sum"
          type="linear"
          stroke="var(--text)"
          strokeWidth={1.5}
          fill="var(--focus)"
          fillOpacity={0.16}
          isAnimationActive={false}
        />
      </AreaChart>
    </ResponsiveContainer>
  );
}

/** How results spread, in R or dollars: losses left of the line, gains right of it. */
export function SpreadChart({ bins, unit }: { bins: ReturnType<typeof spreadOf>; unit: Unit }) {
  const say = (x: number) => border(unit, x);
  const data = bins.map((b) => ({ from: Number(b.from.toFixed(2)), n: b.counts[0] ?? 0 }));
  return (
    <ResponsiveContainer width="100%" height="100%">
      <BarChart data={data} margin={{ top: 6, right: 8, bottom: 0, left: 0 }} barCategoryGap="10%">
        <CartesianGrid vertical={false} stroke="var(--line)" />
        <XAxis dataKey="from" tick={TICK} tickFormatter={say} minTickGap={20} />
        <YAxis width={42} tick={TICK} allowDecimals={false} />
        <Tooltip
          {...TIP}
          cursor={{ fill: 'var(--raised)' }}
          labelFormatter={(x) => `from ${say(Number(x))}`}
        />
        <Bar dataKey="n" name="trades" isAnimationActive={false}>
          {data.map((d) => (
            <Cell key={d.from} fill={d.from < 0 ? 'var(--down)' : 'var(--up)'} />
          ))}
        </Bar>
      </BarChart>
    </ResponsiveContainer>
  );
}

/** Each trade by how far it went against and for it, in R: rings lost, dots won. */
export function ExcursionChart({
  points,
  choose,
}: {
  points: readonly Excursion[];
  choose(ref: string): void;
}) {
  const side = (won: boolean) => points.filter((p) => p.made > 0 === won);
  /** Steps of a short axis differ in the second place. */
  const digits = (of: (p: Excursion) => number) => (Math.max(...points.map(of)) < 0.5 ? 2 : 1);
  const [across, up] = [digits((p) => p.against), digits((p) => p.forIt)];
  const shape = (won: boolean) => ({
    fill: won ? 'var(--up)' : 'var(--panel)',
    stroke: won ? 'none' : 'var(--down)',
    fillOpacity: 0.75,
  });
  return (
    <ResponsiveContainer width="100%" height="100%">
      <ScatterChart margin={{ top: 6, right: 8, bottom: 0, left: 0 }}>
        <CartesianGrid stroke="var(--line)" />
        <XAxis
          type="number"
          dataKey="against"
          name="against it"
          tick={TICK}
          tickFormatter={(x: number) => inR(-x, across)}
          domain={[0, 'auto']}
        />
        <YAxis
          type="number"
          dataKey="forIt"
          name="for it"
          width={50}
          tick={TICK}
          tickFormatter={(x: number) => inR(x, up)}
          domain={[0, 'auto']}
        />
        <ZAxis range={[22, 22]} />
        <Tooltip
          {...TIP}
          cursor={false}
          formatter={(x, name) => [inR(name === 'against it' ? -Number(x) : Number(x)), name]}
        />
        {[true, false].map((won) => (
          <Scatter
            key={String(won)}
            data={side(won)}
            {...shape(won)}
            isAnimationActive={false}
            onClick={(p) => choose((p as unknown as { payload: Excursion }).payload.trade)}
          />
        ))}
      </ScatterChart>
    </ResponsiveContainer>
  );
}

'use client';

import { memo } from 'react';
import { ComposedChart, XAxis, YAxis } from 'recharts';
import { PRICE_SCALE, toDollars } from '@/core/units';
import { priceRange, priceTicks } from '../chart/candles';
import { HistoryLayer } from '../chart/HistoryLayer';
import { NO_STUDIES } from '../chart/studies';

const EMPTY: never[] = [];
interface Candle {
  label: string;
  open: number;
  high: number;
  low: number;
  close: number;
  volume: number;
}

/** A small still chart of candles with volume; `levels` are drawn across it. */
export default memo(function SmallCandles({
  name,
  candles,
  levels,
  width,
  height,
}: {
  name: string;
  candles: readonly Candle[];
  levels: readonly number[];
  width: number;
  height: number;
}) {
  const range = priceRange(candles, []);
  const n = candles.length;
  const grey = { fill: 'var(--quiet)', fontSize: 12 };
  return (
    <figure aria-label={name}>
      <figcaption className="text-[12px] text-quiet">{name}</figcaption>
      <ComposedChart
        data={EMPTY}
        width={width}
        height={height}
        accessibilityLayer={false}
        margin={{ top: 2, right: 0, bottom: 0, left: 0 }}
      >
        <XAxis
          dataKey="index"
          type="number"
          domain={[-1, n]}
          allowDataOverflow
          ticks={n > 3 ? [Math.floor(n * 0.15), Math.floor(n * 0.8)] : EMPTY}
          interval={0}
          niceTicks="none"
          height={22}
          stroke="var(--line)"
          tick={grey}
          tickFormatter={(i: number) => candles[i]?.label ?? ''}
        />
        <YAxis
          type="number"
          orientation="right"
          domain={range}
          allowDataOverflow
          ticks={priceTicks(range, 4)}
          interval={0}
          niceTicks="none"
          width={40}
          stroke="var(--line)"
          tick={grey}
          tickFormatter={(p: number) => toDollars(p).toFixed(p < PRICE_SCALE ? 3 : 2)}
        />
        <HistoryLayer
          candles={candles}
          from={0}
          studied={{
            ...NO_STUDIES,
            volume: true,
            levels: levels.map((price) => ({ name: String(price), price, dash: '2 4' })),
          }}
        />
      </ComposedChart>
    </figure>
  );
});

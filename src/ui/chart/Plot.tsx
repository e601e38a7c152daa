'use client';

import { memo, useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import {
  CartesianGrid,
  ComposedChart,
  usePlotArea,
  useXAxisScale,
  useYAxisScale,
  XAxis,
  YAxis,
} from 'recharts';
import type { Bar } from '@/core/market';
import { clockOf, MINUTE, PRICE_SCALE, toDollars } from '@/core/units';
import { DAY_CANDLE } from '@/store/arrangement';
import { sliceOf, useSession } from '../client';
import { clock } from '../format';
import { tradeOf } from '../trade/trade-view';
import { priceRange, priceTicks } from './candles';
import type { Frame } from './frame';
import { HistoryLayer } from './HistoryLayer';
import type { Studied } from './studies';
import type { Candle } from './useChartData';

const EMPTY: never[] = [];
const NONE: readonly number[] = [];
const ROOM_RIGHT = 6;

export interface PlotProps {
  symbol: string | undefined;
  all: readonly Candle[];
  /** What has finished of the candle that is forming, where it is in sight. */
  partial: Bar | null;
  from: number;
  end: number;
  minutes: number;
  /** How many candles have room. */
  most: number;
  studied: Studied;
  width: number;
  height: number;
  publish: (f: Frame) => void;
}

/** When a candle was, in full. */
export const whenOf = (c: Candle, minutes: number): string =>
  minutes >= DAY_CANDLE
    ? (c.date ?? '')
    : `${c.date ? `${c.date.slice(5)} ` : ''}${clock(c.start, 'minutes')}`;

/** What is written under a candle. */
const labelOf = (c: Candle | undefined, minutes: number): string =>
  c === undefined ? '' : minutes >= DAY_CANDLE ? (c.date?.slice(5) ?? '') : clock(c.start, 'minutes');

/** The chart over the range of what it shows. The range follows the book and the last price; what is drawn follows only from its numbers. */
export function Plot(p: PlotProps) {
  const { symbol, all, from, end } = p;
  const shown = useMemo(() => all.slice(from, end), [all, from, end]);
  // Order lines widen the range after the fill has been painted, not before.
  const range = useRange(shown, symbol, p.partial);
  const low = useDeferredValue(range[0]);
  const high = useDeferredValue(range[1]);
  const { partial: _forming, ...drawn } = p;
  return <Drawn {...drawn} shown={shown} low={low} high={high} />;
}

/** Frame, axes, grid and history: drawn again only when a bar closes, on zoom, pan or a new range. */
const Drawn = memo(function Drawn(
  p: Omit<PlotProps, 'partial'> & { shown: readonly Candle[]; low: number; high: number },
) {
  const { all, from, end, minutes, most, width, height, publish, shown, low, high } = p;
  const ticks = useMemo(
    () => ticksOf(all, { from, end }, minutes, most, width),
    [all, from, end, minutes, most, width],
  );
  const grey = { fill: 'var(--quiet)', fontSize: 12 };
  return (
    <ComposedChart
      data={EMPTY}
      width={width}
      height={height}
      accessibilityLayer={false}
      margin={{ top: 4, right: 0, bottom: 0, left: 6 }}
    >
      <CartesianGrid stroke="var(--line)" strokeOpacity={0.5} vertical={false} />
      <XAxis
        dataKey="index"
        type="number"
        domain={[end - most - 1, end + ROOM_RIGHT]}
        allowDataOverflow
        ticks={ticks}
        interval={0}
        niceTicks="none"
        height={20}
        stroke="var(--line)"
        tick={grey}
        tickFormatter={(i: number) => labelOf(all[i], minutes)}
      />
      <YAxis
        type="number"
        orientation="right"
        domain={[low, high]}
        allowDataOverflow
        ticks={priceTicks([low, high], Math.max(3, Math.floor(height / 45)))}
        interval={0}
        niceTicks="none"
        width={58}
        stroke="var(--line)"
        tick={{ ...grey, fontFamily: 'var(--font-mono)' }}
        tickFormatter={(price: number) => toDollars(price).toFixed(price < PRICE_SCALE ? 4 : 2)}
      />
      <HistoryLayer candles={shown} from={from} studied={p.studied} />
      <Bridge publish={publish} step={(width - 64) / (most + ROOM_RIGHT + 1)} />
    </ComposedChart>
  );
});

/** Room that a time or a date takes on the axis, in pixels. */
const LABEL = 64;
/** Which candles have their time below: whole times, or every so many days, as many as have room. */
function ticksOf(
  all: readonly Candle[],
  { from, end }: { from: number; end: number },
  minutes: number,
  most: number,
  width: number,
): number[] {
  const count = Math.max(2, Math.min(8, Math.floor((width - 64) / LABEL)));
  const out: number[] = [];
  const every = Math.max(1, Math.ceil(most / count));
  const apart = timeApart(minutes, most, count);
  for (let i = from; i < end; i++) {
    const whole =
      minutes >= DAY_CANDLE
        ? (end - 1 - i) % every === 0
        : Math.floor(clockOf((all[i] as Bar).start) / MINUTE) % apart === 0;
    if (whole) out.push(i);
  }
  return out;
}

/** Minutes between two times on the axis. */
function timeApart(minutes: number, most: number, count: number): number {
  const wanted = (minutes * most) / count;
  return (
    [15, 30, 60, 120, 240].find((m) => m >= wanted && m % minutes === 0) ??
    Math.ceil(wanted / minutes) * minutes
  );
}

/** The price range of what is shown and of the trade; grows when the price leaves it. */
function useRange(shown: readonly Bar[], symbol: string | undefined, partial: Bar | null): [number, number] {
  const book = useSession((s) => s.book);
  const account = useSession((s) => s.account?.id);
  // Prices beyond what is shown, since it was last another one.
  const [outside, setOutside] = useState<{ shown: readonly Bar[]; at: readonly number[] }>({ shown, at: [] });
  const far = outside.shown === shown ? outside.at : NONE;
  const lines = useMemo(
    () => tradeOf(book, symbol, account)?.lines.map((l) => l.price) ?? [],
    [book, symbol, account],
  );
  // Before anything has traded: around the prior close.
  const prior = useSession((s) => sliceOf(s, symbol)?.instrument.priorClose ?? 0);
  const [top, bottom] = [partial?.high ?? null, partial?.low ?? null];
  const range = useMemo((): [number, number] => {
    if (shown.length === 0 && far.length === 0 && prior > 0) return [prior * 0.97, prior * 1.03];
    const candles = priceRange(shown, [...far, ...(top === null || bottom === null ? [] : [top, bottom])]);
    // A trade's exits are seen also on a quiet morning; what lies further away would make the candles flat.
    const reach = 2.5 * (candles[1] - candles[0]);
    return priceRange(shown, [
      ...far,
      ...(top === null || bottom === null ? [] : [top, bottom]),
      ...lines.filter((p) => p > candles[0] - reach && p < candles[1] + reach),
    ]);
  }, [shown, far, lines, prior, top, bottom]);
  useEffect(
    () =>
      useSession.subscribe((s) => {
        const last = sliceOf(s, symbol)?.last;
        if (last == null || (last >= range[0] && last <= range[1])) return;
        setOutside((o) => ({ shown, at: [...(o.shown === shown ? o.at : []), last] }));
      }),
    [symbol, shown, range],
  );
  return range;
}

/** Hands the scales to the layers above whenever they change. */
function Bridge({ publish, step }: { publish: (f: Frame) => void; step: number }) {
  const x = useXAxisScale();
  const y = useYAxisScale();
  const plot = usePlotArea();
  const key =
    plot && x && y
      ? [plot.x, plot.y, plot.width, plot.height, x(0), x(100), y(0), y(100_000), step].join()
      : '';
  const latest = useRef({ x, y, plot });
  useEffect(() => {
    latest.current = { x, y, plot };
  });
  useEffect(() => {
    const now = latest.current;
    if (!key || !now.x || !now.y || !now.plot) return;
    const [y0, y1] = [now.y(0) as number, now.y(100_000) as number];
    const [x0, x1] = [now.x(0) as number, now.x(100) as number];
    publish({
      x: (i) => x0 + ((x1 - x0) * i) / 100,
      y: (p) => y0 + ((y1 - y0) * p) / 100_000,
      priceAt: (py) => ((py - y0) / (y1 - y0)) * 100_000,
      plot: { ...now.plot },
      step,
    });
  }, [key, publish, step]);
  return null;
}

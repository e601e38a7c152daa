'use client';

import { useEffect, useMemo, useRef } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Bar, DailyBar } from '@/core/market';
import { clockOf, DAY, dayOf, REGULAR_CLOSE, REGULAR_OPEN } from '@/core/units';
import { DAY_CANDLE } from '@/store/arrangement';
import type { BarsSlice, SymbolSlice } from '@/worker/session/session-messages';
import { lookAt, useSession } from '../session';
import { joinBars, splitForming } from './candles';

/** A candle of the chart; of a day gone by its date. */
export interface Candle extends Bar {
  date?: string;
}

export interface ChartData {
  /** Candles that have finished, oldest first. */
  closed: readonly Candle[];
  /** What has finished of the one that is forming. */
  partial: Bar | null;
  /** Finished minutes of today. */
  minutes: readonly Bar[];
}

const NOTHING: ChartData = { closed: [], partial: null, minutes: [] };

/** How a symbol stands, whether it is in focus or looked at beside it. */
export const sliceOf = (
  s: { focus: SymbolSlice | null; others: Readonly<Record<string, SymbolSlice>> },
  symbol: string | undefined,
): SymbolSlice | null => (s.focus?.symbol === symbol ? s.focus : (s.others[symbol ?? ''] ?? null));

/** The candles of a symbol, kept up to date as long as the chart is there. */
export function useChartData(symbol: string | undefined, minutes: number): ChartData {
  const focus = useSession((s) => s.focus?.symbol);
  const own = useSession((s) => (s.bars?.symbol === symbol ? s.bars : (s.barsOf[symbol ?? ''] ?? null)));
  const daily = useSession((s) => s.daysOf[symbol ?? '']?.daily);
  const before = useSession((s) => s.earlierOf[symbol ?? '']?.bars);
  // By what is in it: the list itself is another one with every tick of the clock.
  const dates = useSession(useShallow((s) => s.clock?.dates));
  const first = (dates?.length ?? 1) < 2;
  const daysWanted = minutes >= DAY_CANDLE;
  useEffect(() => {
    if (symbol === undefined) return;
    const stop = [
      ...(symbol === focus ? [] : [lookAt('symbol', symbol), lookAt('bars', symbol)]),
      ...(daysWanted ? [lookAt('days', symbol)] : first ? [] : [lookAt('earlier', symbol)]),
    ];
    return () => {
      for (const s of stop) s();
    };
  }, [symbol, focus, daysWanted, first]);
  const now = useMemo((): ChartData => {
    if (!own) return NOTHING;
    if (daysWanted) return { ...days(own, daily ?? []), minutes: own.bars };
    const today = splitForming(own, minutes);
    const closed = before && !first ? [...dated(before, minutes, own, dates), ...today.closed] : today.closed;
    return { closed, partial: today.partial, minutes: own.bars };
  }, [own, daily, before, first, dates, minutes, daysWanted]);
  // Each minute tells all candles anew; where none has closed they are the same list, and nothing is drawn again.
  const told = useRef<{ of: string; closed: readonly Candle[] }>({ of: '', closed: [] });
  const of = `${symbol} ${minutes}`;
  if (told.current.of !== of || !sameCandles(told.current.closed, now.closed))
    told.current = { of, closed: now.closed };
  const { closed } = told.current;
  return useMemo(() => ({ ...now, closed }), [now, closed]);
}

/** Whether two lists of finished candles are the same: what has finished does not change. */
function sameCandles(a: readonly Candle[], b: readonly Candle[]): boolean {
  const [x, y] = [a[a.length - 1], b[b.length - 1]];
  return (
    a.length === b.length &&
    a[0]?.start === b[0]?.start &&
    x?.start === y?.start &&
    x?.close === y?.close &&
    x?.volume === y?.volume
  );
}

/** Candles of earlier days, each with its date. */
function dated(
  before: readonly Bar[],
  minutes: number,
  own: BarsSlice,
  dates: readonly string[] | undefined,
): Candle[] {
  const today = dayOf(own.formingFrom);
  return joinBars(before, minutes).map((b) => {
    const date = dates?.[dates.length - 1 - (today - dayOf(b.start))];
    return date === undefined ? b : { ...b, date };
  });
}

/** Days gone by as candles, and today's regular session as the one that is forming. */
function days(own: BarsSlice, daily: readonly DailyBar[]): Pick<ChartData, 'closed' | 'partial'> {
  const today = dayOf(own.formingFrom);
  const closed = daily.map(
    (d, k): Candle => ({
      ...d,
      start: (today - daily.length + k) * DAY + REGULAR_OPEN,
      // What traded at which price is not kept of a day: taken at the middle of its range.
      turnover: (d.volume * (d.high + d.low + d.close)) / 3,
    }),
  );
  let partial = null as Bar | null;
  for (const b of own.bars) {
    if (clockOf(b.start) < REGULAR_OPEN || clockOf(b.start) >= REGULAR_CLOSE) continue;
    partial = partial
      ? {
          ...partial,
          high: Math.max(partial.high, b.high),
          low: Math.min(partial.low, b.low),
          close: b.close,
          volume: partial.volume + b.volume,
          turnover: partial.turnover + b.turnover,
        }
      : b;
  }
  return { closed, partial };
}

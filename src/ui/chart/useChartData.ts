'use client';

import { useMemo, useRef } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Bar, DailyBar } from '@/core/market';
import { clockOf, DAY, dayOf, REGULAR_CLOSE, REGULAR_OPEN } from '@/core/units';
import { DAY_CANDLE } from '@/store/arrangement';
import type { BarsSlice } from '@/worker/session/slices';
import { useLive, useSession } from '../client';
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

/** The candles of a symbol, kept up to date as long as the chart is there. */
export function useChartData(symbol: string | undefined, minutes: number): ChartData {
  const focus = useSession((s) => s.focus?.symbol);
  // By what is in it: the list itself is another one with every tick of the clock.
  const dates = useSession(useShallow((s) => s.clock?.dates));
  const first = (dates?.length ?? 1) < 2;
  const daysWanted = minutes >= DAY_CANDLE;
  const other = symbol === undefined || symbol === focus ? null : symbol;
  const focusBars = useSession((s) => s.bars);
  useLive<'symbol'>(other === null ? null : { kind: 'symbol', symbol: other });
  const otherBars = useLive<'bars'>(other === null ? null : { kind: 'bars', symbol: other });
  const own = ofSymbol(symbol, other === null ? focusBars : otherBars);
  const asked = symbol ?? null;
  const daily = ofSymbol(
    symbol,
    useLive<'days'>(daysWanted && asked ? { kind: 'days', symbol: asked } : null),
  );
  const before = ofSymbol(
    symbol,
    useLive<'earlier'>(!daysWanted && !first && asked ? { kind: 'earlier', symbol: asked } : null),
  );
  const now = useMemo((): ChartData => {
    if (!own) return NOTHING;
    if (daysWanted) return { ...days(own, daily?.daily ?? []), minutes: own.bars };
    const today = splitForming(own, minutes);
    const closed =
      before && !first ? [...dated(before.bars, minutes, own, dates), ...today.closed] : today.closed;
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

/** What is told of a symbol, where it is of this one. */
const ofSymbol = <T extends { symbol: string }>(symbol: string | undefined, told: T | null): T | null =>
  told?.symbol === symbol ? told : null;

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

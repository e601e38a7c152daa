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
import { type Bar, emaLine, vwapLine } from '@/core/market';
import {
  clockOf,
  MINUTE,
  PRICE_SCALE,
  REGULAR_CLOSE,
  REGULAR_OPEN,
  roundToTick,
  tickSize,
  toDollars,
} from '@/core/units';
import { avg, clock } from '../format';
import { useSize } from '../primitives/useSize';
import { act, discard, peekAt, pointer, useSession } from '../session';
import { useSettings } from '../settings';
import { tradeOf } from '../trade/trade-view';
import { Crosshair } from './Crosshair';
import { priceRange, priceTicks, splitForming } from './candles';
import type { Frame } from './frame';
import { HistoryLayer } from './HistoryLayer';
import { LiveLayer } from './LiveLayer';
import { type Pointing, pointedSentence, snapped } from './pointing';

const EMPTY: never[] = [];
const NONE: readonly number[] = [];
const FEWEST = 24;
const MOST = 600;
const LENGTHS = [1, 2, 5, 15, 60] as const;
/** How near a level, in pixels, a click snaps to it. */
const SNAP = 7;
const ROOM_RIGHT = 6;
const isRegular = (start: number, close: number): boolean =>
  clockOf(start) >= REGULAR_OPEN && clockOf(start) < close;

/**
 * The chart. Recharts draws frame, axes and grid and gives the scales; the history is one path a
 * kind and changes when a bar closes; what moves with every tick is a thin layer above it.
 */
export function ChartPanel() {
  const symbol = useSession((s) => s.focus?.symbol);
  const bars = useSession((s) => s.bars);
  const minutes = useSettings((s) => s.chartMinutes);
  const set = useSettings((s) => s.set);
  const premarketHigh = useSession((s) => s.focus?.premarketHigh ?? null);
  const premarketLow = useSession((s) => s.focus?.premarketLow ?? null);
  const open = useSession((s) => s.clock?.session === 'regular');
  const [back, setBack] = useState(0);
  const shownMost = useSettings((s) => s.chartCandles);
  const [pointing, setPointing] = useState<Pointing | null>(null);
  const [frame, setFrame] = useState<Frame | null>(null);
  const { box, width, height } = useSize();
  const extended = useSettings((s) => s.chartExtended);
  const close = useSession((s) => s.clock?.hours.close ?? REGULAR_CLOSE);
  const held = useSession((s) => tradeOf(s.book, s.focus?.symbol, s.account?.id)?.trade.status === 'open');
  const { closed, partial } = useMemo(
    () => splitForming(bars && bars.symbol === symbol ? bars : null, minutes),
    [bars, symbol, minutes],
  );
  // The average price is that of the whole day, whichever hours are shown.
  const [all, vwap] = useMemo(() => {
    const line = vwapLine(closed);
    const shownAt = closed.map((b) => extended || isRegular(b.start, close));
    return [closed.filter((_, i) => shownAt[i]), line.filter((_, i) => shownAt[i])];
  }, [closed, extended, close]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another symbol or length begins at its newest candle
  useEffect(() => setBack(0), [symbol, minutes]);
  const end = Math.max(Math.min(shownMost, all.length), all.length - back);
  const from = Math.max(0, end - shownMost);
  const shown = useMemo(() => all.slice(from, end), [all, from, end]);
  const pan = useRef<{ x: number; back: number } | null>(null);
  const sentenceAt = (what: Pointing, f: Frame, y: number): string => {
    const { focus, clock: time, desk } = useSession.getState();
    const named = desk?.levels[focus?.symbol ?? ''] ?? {};
    const levels = [premarketHigh, premarketLow, vwap[vwap.length - 1] ?? null, ...Object.values(named)];
    const reach = Math.abs(f.priceAt(y) - f.priceAt(y + SNAP));
    return pointedSentence(
      what,
      snapped(
        f.priceAt(y),
        levels.filter((l) => l !== null),
        reach,
      ),
      {
        bid: focus?.quote.bid ?? null,
        ask: focus?.quote.ask ?? null,
        regular: time?.session === 'regular',
        names: Object.keys(named),
        plan: useSettings.getState()[what === 'short' ? 'planShort' : 'planLong'],
      },
    );
  };
  // Order lines widen the range after the fill has been painted, not before.
  const range = useRange(shown, symbol);
  const low = useDeferredValue(range[0]);
  const high = useDeferredValue(range[1]);
  return (
    <section className="panel relative flex min-h-0 flex-col" aria-label={`Chart of ${symbol ?? 'nothing'}`}>
      <div className="flex items-center gap-2 px-3 py-1">
        <h2 className="heading">{symbol}</h2>
        <Lengths />
        <button
          type="button"
          className="btn px-2 py-0.5 text-[13px]"
          aria-label="Earlier candles"
          disabled={from === 0}
          onClick={() => setBack((b) => b + 30)}
        >
          ◂
        </button>
        <button
          type="button"
          className="btn px-2 py-0.5 text-[13px]"
          aria-label="Later candles"
          disabled={back === 0}
          onClick={() => setBack((b) => Math.max(0, b - 30))}
        >
          ▸
        </button>
        <button
          type="button"
          className="btn px-2 py-0.5 text-[13px]"
          aria-pressed={extended}
          onClick={() => set({ chartExtended: !extended })}
        >
          extended
        </button>
        <Pointer pointing={pointing} set={setPointing} />
      </div>
      <div
        ref={box}
        className="relative min-h-0 grow"
        onPointerMove={(e) => {
          const y = e.clientY - e.currentTarget.getBoundingClientRect().top;
          const inside = frame && y >= frame.plot.y && y <= frame.plot.y + frame.plot.height;
          pointer.price = inside ? Math.round(frame.priceAt(y)) : null;
          if (pointing && inside) hover(pointing, sentenceAt(pointing, frame, y));
          if (pan.current) setBack(panned(pan.current, e.clientX, frame?.step ?? 1, all.length - FEWEST));
        }}
        onPointerDown={(e) => {
          if (e.button === 0 && !pointing && !(e.target as Element).closest('[role=slider]'))
            pan.current = { x: e.clientX, back };
        }}
        onPointerUp={() => {
          pan.current = null;
        }}
        onClick={(e) => {
          const onLine = (e.target as Element).closest('[role=slider]') !== null;
          if (!pointing || !frame || pointer.price === null || onLine) return;
          const y = e.clientY - e.currentTarget.getBoundingClientRect().top;
          void act(sentenceAt(pointing, frame, y), originOf(pointing), 'Chart');
          setPointing(null);
        }}
        onWheel={(e) => {
          const next = Math.round(shownMost * (e.deltaY > 0 ? 1.25 : 0.8));
          set({ chartCandles: Math.max(FEWEST, Math.min(MOST, next)) });
        }}
        onDoubleClick={() => {
          // An exit at a price of the chart, where something is held.
          if (held && pointer.price !== null && !pointing)
            useSession.setState({ exits: { price: roundToTick(pointer.price) } });
        }}
        onPointerLeave={() => {
          pointer.price = null;
          pan.current = null;
          asked = '';
          if (pointing && useSession.getState().sayBack.kind === 'peek') discard();
        }}
        style={pointing ? { cursor: 'crosshair' } : undefined}
        role="application"
        aria-label={
          pointing
            ? `Price of the ${pointing}: arrow keys move it, Enter takes it, Escape leaves it`
            : 'Candles'
        }
        tabIndex={pointing ? 0 : -1}
        onKeyDown={(e) => {
          const last = useSession.getState().focus?.last ?? null;
          const ticks = e.key === 'ArrowUp' ? 1 : e.key === 'ArrowDown' ? -1 : 0;
          if (!pointing || !frame || (ticks === 0 && e.key !== 'Enter' && e.key !== 'Escape')) return;
          e.preventDefault();
          e.stopPropagation();
          if (e.key === 'Escape') return setPointing(null);
          const from = roundToTick(pointer.price ?? last ?? frame.priceAt(frame.plot.y));
          pointer.price = from + ticks * tickSize(from);
          const y = frame.y(pointer.price);
          if (ticks !== 0) return hover(pointing, sentenceAt(pointing, frame, y));
          void act(sentenceAt(pointing, frame, y), originOf(pointing), 'Chart');
          setPointing(null);
        }}
      >
        {width > 0 && (
          <Plot
            all={all}
            vwap={vwap}
            from={from}
            end={end}
            low={low}
            high={high}
            minutes={minutes}
            most={shownMost}
            premarketHigh={premarketHigh}
            premarketLow={premarketLow}
            width={width}
            height={height}
            publish={setFrame}
          />
        )}
        {frame && width > 0 && (
          <LiveLayer
            frame={frame}
            width={width}
            height={height}
            index={back === 0 && (extended || open) ? all.length : null}
            partial={partial}
          />
        )}
        {frame && width > 0 && (
          <Crosshair box={box} frame={frame} candles={all} width={width} height={height} />
        )}
        {/* What the lines are; the values of the candle under the pointer stand below. */}
        <p className="pointer-events-none absolute top-0.5 left-3 flex gap-3 text-[12px] whitespace-nowrap text-quiet">
          <span>
            ━ VWAP <span className="num text-text">{avg(vwap[vwap.length - 1])}</span>
          </span>
          <span>╌ EMA 9</span>
          <span>
            ┄ pre-market high <span className="num text-text">{avg(premarketHigh)}</span> low{' '}
            <span className="num text-text">{avg(premarketLow)}</span>
          </span>
        </p>
        {all.length === 0 && (
          <p className="absolute inset-0 p-4 text-quiet">
            No minute of {symbol} has finished yet. Let time run, or choose a symbol that trades.
          </p>
        )}
      </div>
    </section>
  );
}

/** Where the first candle lies after the pointer has gone so far. */
const panned = (from: { x: number; back: number }, x: number, step: number, most: number): number =>
  Math.max(0, Math.min(Math.max(0, most), from.back + Math.round((x - from.x) / Math.max(1, step))));

/** A line or an alert sends nothing and is not asked about; an entry is, as a drag is. */
const originOf = (what: Pointing) => (what === 'buy' || what === 'short' ? 'drags' : 'tools');

let asked = '';
/** What a click would do, seen on the chart and in the strip; asked again only when it says something else. */
function hover(what: Pointing, text: string): void {
  if ((what !== 'buy' && what !== 'short') || text === asked) return;
  asked = text;
  void peekAt(text, 'Chart');
}

/** Minutes of a candle: the usual ones, or any other. */
function Lengths() {
  const minutes = useSettings((s) => s.chartMinutes);
  const set = useSettings((s) => s.set);
  const [text, setText] = useState<string | null>(null);
  const wanted = Number(text);
  const bad = text !== null && !(Number.isInteger(wanted) && wanted >= 1 && wanted <= 390);
  return (
    <span className="flex items-center gap-1" role="group" aria-label="Minutes of a candle">
      {LENGTHS.map((m) => (
        <button
          key={m}
          type="button"
          className="btn num px-1.5 py-0.5 text-[13px]"
          aria-label={`${m} min`}
          aria-pressed={minutes === m}
          onClick={() => set({ chartMinutes: m })}
        >
          {m}
        </button>
      ))}
      <input
        className="field num w-10 px-1 py-0.5 text-[13px]"
        aria-label="Other minutes of a candle"
        title={bad ? 'A whole number from 1 to 390' : 'Any other number of minutes'}
        aria-invalid={bad}
        value={text ?? (LENGTHS.some((m) => m === minutes) ? '' : String(minutes))}
        placeholder="min"
        onChange={(e) => {
          const n = Number(e.target.value);
          setText(e.target.value);
          if (e.target.value !== '' && Number.isInteger(n) && n >= 1 && n <= 390) set({ chartMinutes: n });
        }}
        onBlur={() => setText(null)}
      />
    </span>
  );
}

const POINTING: readonly [Pointing, string, string][] = [
  ['buy', '▲ buy', 'The next click buys at its price, with the plan of longs; it snaps to levels'],
  ['short', '▼ short', 'The next click shorts at its price, with the plan of shorts; it snaps to levels'],
  ['level', '— line', 'The next click names its price, for orders, alerts and scripts'],
  ['alert', '◔ alert', 'The next click sets an alert at its price'],
];

/** What the next click on the chart does. */
function Pointer({ pointing, set }: { pointing: Pointing | null; set(p: Pointing | null): void }) {
  return (
    <span className="flex items-center gap-1" role="group" aria-label="The next click on the chart">
      {POINTING.map(([what, name, means]) => (
        <button
          key={what}
          type="button"
          className="btn px-1.5 py-0.5 text-[13px] whitespace-nowrap"
          title={means}
          aria-pressed={pointing === what}
          onClick={() => set(pointing === what ? null : what)}
          onKeyDown={(e) => e.key === 'Escape' && set(null)}
        >
          {name}
        </button>
      ))}
    </span>
  );
}

interface PlotProps {
  all: readonly Bar[];
  vwap: readonly (number | null)[];
  from: number;
  end: number;
  low: number;
  high: number;
  minutes: number;
  /** How many candles have room. */
  most: number;
  premarketHigh: number | null;
  premarketLow: number | null;
  width: number;
  height: number;
  publish: (f: Frame) => void;
}

/** Frame, axes, grid and history: drawn again only when a bar closes, on zoom, pan or a new range. */
const Plot = memo(function Plot({
  all,
  vwap,
  from,
  end,
  low,
  high,
  minutes,
  most,
  premarketHigh,
  premarketLow,
  width,
  height,
  publish,
}: PlotProps) {
  const shown = all.slice(from, end);
  const apart = timeApart(minutes, most);
  const ticks = shown.flatMap((c, i) => (i > 2 && (c.start / MINUTE) % apart === 0 ? [from + i] : []));
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
        tickFormatter={(i: number) => (all[i] ? clock(all[i].start, 'minutes') : '')}
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
        tickFormatter={(p: number) => toDollars(p).toFixed(p < PRICE_SCALE ? 4 : 2)}
      />
      <HistoryLayer
        candles={shown}
        from={from}
        vwap={vwap}
        ema={emaLine(
          all.map((c) => c.close),
          9,
        )}
        levels={[premarketHigh, premarketLow]}
      />
      <Bridge publish={publish} step={(width - 64) / (most + ROOM_RIGHT + 1)} />
    </ComposedChart>
  );
});

/** Minutes between two times on the axis: so that about eight have room. */
function timeApart(minutes: number, most: number): number {
  const wanted = (minutes * most) / 8;
  return (
    [15, 30, 60, 120, 240].find((m) => m >= wanted && m % minutes === 0) ??
    Math.ceil(wanted / minutes) * minutes
  );
}

/** The price range of what is shown and of the trade; grows when the price leaves it. */
function useRange(shown: readonly Bar[], symbol: string | undefined): [number, number] {
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
  const prior = useSession((s) => s.focus?.instrument.priorClose ?? 0);
  const range = useMemo((): [number, number] => {
    if (shown.length === 0 && far.length === 0 && prior > 0) return [prior * 0.97, prior * 1.03];
    const candles = priceRange(shown, far);
    // A trade's exits are seen also on a quiet morning; what lies further away would make the candles flat.
    const reach = 2.5 * (candles[1] - candles[0]);
    return priceRange(shown, [
      ...far,
      ...lines.filter((p) => p > candles[0] - reach && p < candles[1] + reach),
    ]);
  }, [shown, far, lines, prior]);
  useEffect(
    () =>
      useSession.subscribe((s) => {
        const last = s.focus?.last;
        if (s.focus?.symbol !== symbol || last == null || (last >= range[0] && last <= range[1])) return;
        setOutside((o) => ({ shown, at: [...(o.shown === shown ? o.at : []), last] }));
      }),
    [symbol, shown, range],
  );
  return range;
}

/** Hands the scales to the live layer whenever they change. */
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

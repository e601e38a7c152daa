'use client';

import { useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { clockOf, REGULAR_CLOSE, REGULAR_OPEN, roundToTick } from '@/core/units';
import { DAY_CANDLE } from '@/store/arrangement';
import type { SymbolSlice } from '@/worker/session/slices';
import { useLook } from '../arrangement';
import { act, pointer, sliceOf, useSession } from '../client';
import { avg } from '../format';
import { useSize } from '../primitives/useSize';
import { useSettings } from '../settings';
import { priceIntoTicket } from '../trade/ticket-text';
import { tradeOf } from '../trade/trade-view';
import { Hand, Lengths, LengthsPop, PinPop, StudiesPop } from './ChartHead';
import { Crosshair } from './Crosshair';
import { DrawLayer } from './DrawLayer';
import { undo } from './drawn';
import type { Frame } from './frame';
import { LiveLayer } from './LiveLayer';
import { PANE, Panes } from './Panes';
import { Plot } from './Plot';
import { type Studied, studied } from './studies';
import { factsOf } from './tools';
import { useChartData } from './useChartData';
import { useTool } from './useTool';

const NO_MINUTES: never[] = [];
const FEWEST = 24;
const MOST = 600;
/** Plain pans and arrow buttons go by so many candles. */
const STRIDE = 30;
const isRegular = (start: number, close: number): boolean =>
  clockOf(start) >= REGULAR_OPEN && clockOf(start) < close;

/**
 * A chart. Recharts draws frame, axes and grid and gives the scales; the history is one path a
 * kind and changes when a bar closes; what moves with every tick is a thin layer above it.
 */
export function ChartPanel({ panel }: { panel: string }) {
  const [look, set] = useLook(panel);
  const { minutes, candles: most } = look;
  const focus = useSession((s) => s.focus?.symbol);
  const symbol = look.symbol || focus;
  // Several charts whose candles close in one moment are drawn one after the other, not in one go.
  const data = useDeferredValue(useChartData(symbol, minutes));
  const listed = useSession((s) => symbol === undefined || (s.symbols?.includes(symbol) ?? true));
  // By its numbers: the record itself is another one with every update.
  const instrument = useSession(useShallow((s) => listedOf(sliceOf(s, symbol))));
  const premarketHigh = useSession((s) => sliceOf(s, symbol)?.premarketHigh ?? null);
  const premarketLow = useSession((s) => sliceOf(s, symbol)?.premarketLow ?? null);
  const open = useSession((s) => s.clock?.session === 'regular');
  const close = useSession((s) => s.clock?.hours.close ?? REGULAR_CLOSE);
  const held = useSession((s) => tradeOf(s.book, symbol, s.account?.id)?.trade.status === 'open');
  const everyHour = useSettings((s) => s.chartExtended);
  const setting = useSettings((s) => s.set);
  const extended = everyHour || minutes >= DAY_CANDLE;
  const [back, setBack] = useState(0);
  const [frame, setFrame] = useState<Frame | null>(null);
  const { box, width, height } = useSize();

  const { closed } = data;
  const kept = useMemo(
    () => closed.map((b) => extended || isRegular(b.start, close)),
    [closed, extended, close],
  );
  const all = useMemo(() => closed.filter((_, i) => kept[i]), [closed, kept]);
  // Only one study looks at the minutes of today.
  const today = look.studies.some((s) => s.startsWith('opening range')) ? data.minutes : NO_MINUTES;
  const studies = useMemo(
    () =>
      studied(look.studies, {
        candles: closed,
        kept,
        minutes,
        today,
        instrument,
        premarketHigh,
        premarketLow,
      }),
    [look.studies, closed, kept, today, minutes, instrument, premarketHigh, premarketLow],
  );
  // biome-ignore lint/correctness/useExhaustiveDependencies: another symbol or length begins at its newest candle
  useEffect(() => setBack(0), [symbol, minutes]);
  const end = Math.max(Math.min(most, all.length), all.length - back);
  const from = Math.max(0, end - most);
  const snaps = useMemo(() => snapsOf(studies), [studies]);
  const hand = useTool({ symbol, frame, candles: all, minutes, levels: snaps });
  const pan = useRef<{ x: number; back: number } | null>(null);
  const plotHeight = height - studies.panes.length * PANE;
  const { tool } = hand;
  const mine = symbol === focus;
  return (
    <section
      className="panel @container relative flex h-full min-h-0 flex-col"
      aria-label={`Chart of ${symbol ?? 'nothing'}${panel === 'chart-1' ? '' : `, ${panel.replace('-', ' ')}`}`}
      onKeyDown={(e) => {
        if (!(e.ctrlKey || e.metaKey) || e.key !== 'z' || symbol === undefined) return;
        if ((e.target as Element).closest('input')) return;
        e.preventDefault();
        void undo(symbol);
      }}
    >
      <div className="flex items-center gap-1 overflow-hidden px-1.5 py-1 @[420px]:gap-1.5 @[420px]:px-3">
        <h2 className="heading">{symbol}</h2>
        <PinPop look={look} set={set} />
        <span className="hidden @[760px]:flex">
          <Lengths look={look} set={set} />
        </span>
        <span className="flex @[760px]:hidden">
          <LengthsPop look={look} set={set} />
        </span>
        <span className="hidden gap-1 @[560px]:flex">
          <Turn label="Earlier candles" sign="◂" off={from === 0} go={() => setBack((b) => b + STRIDE)} />
          <Turn
            label="Later candles"
            sign="▸"
            off={back === 0}
            go={() => setBack((b) => Math.max(0, b - STRIDE))}
          />
          <button
            type="button"
            className="btn px-1.5 py-0.5 text-[13px]"
            aria-pressed={everyHour}
            aria-label="extended"
            title="Hours before and after the regular session"
            onClick={() => setting({ chartExtended: !everyHour })}
          >
            ext<span className="hidden @[860px]:inline">ended</span>
          </button>
          <StudiesPop look={look} set={set} />
        </span>
        {held && symbol !== undefined && <Out symbol={symbol} extended={!open} />}
        <Hand symbol={symbol} tool={tool} choose={(t) => (t ? hand.setTool(t) : hand.leave())} />
      </div>
      <div
        ref={box}
        className={`relative min-h-0 grow overflow-hidden ${tool ? '[&_[role=slider]]:pointer-events-none' : ''}`}
        onPointerMove={(e) => {
          const at = hand.inside(e);
          if (mine) pointer.price = at && frame ? Math.round(frame.priceAt(at.y)) : null;
          if (tool && at && frame) hand.hover(hand.pointAt(frame, at.x, at.y));
          if (pan.current) setBack(panned(pan.current, e.clientX, frame?.step ?? 1, all.length - FEWEST));
        }}
        onPointerDown={(e) => {
          if (e.button === 0 && !tool && !(e.target as Element).closest('[role=slider],[role=toolbar]'))
            pan.current = { x: e.clientX, back };
        }}
        onPointerUp={() => {
          pan.current = null;
        }}
        onClick={(e) => {
          const onLine = (e.target as Element).closest('[role=slider],[role=toolbar],input') !== null;
          const at = hand.inside(e);
          if (tool && at && frame && !onLine) hand.take(hand.pointAt(frame, at.x, at.y));
        }}
        onWheel={(e) => {
          const next = Math.round(most * (e.deltaY > 0 ? 1.25 : 0.8));
          set({ candles: Math.max(FEWEST, Math.min(MOST, next)) });
        }}
        onDoubleClick={() => {
          // An exit at a price of the chart, where something is held; else the ticket's price.
          if (!mine || pointer.price === null || tool) return;
          const price = roundToTick(pointer.price);
          if (held) useSession.setState({ exits: { price } });
          else void priceIntoTicket(price);
        }}
        onPointerLeave={() => {
          if (mine) pointer.price = null;
          pan.current = null;
        }}
        style={tool ? { cursor: 'crosshair' } : undefined}
        role="application"
        aria-label={
          tool
            ? `Price of the ${tool.kind === 'level' ? 'line' : tool.kind}: arrow keys move it, Enter takes it, Escape leaves it`
            : 'Candles'
        }
        tabIndex={tool ? 0 : -1}
        onKeyDown={hand.onKeyDown}
      >
        {width > 0 && plotHeight > 40 && (
          <Plot
            symbol={symbol}
            all={all}
            partial={back === 0 ? data.partial : null}
            from={from}
            end={end}
            minutes={minutes}
            most={most}
            studied={studies}
            width={width}
            height={plotHeight}
            publish={setFrame}
          />
        )}
        {frame && width > 0 && symbol !== undefined && (
          <>
            <LiveLayer
              symbol={symbol}
              frame={frame}
              width={width}
              height={plotHeight}
              index={back === 0 && (everyHour || open) && (minutes < DAY_CANDLE || open) ? all.length : null}
              partial={data.partial}
              candles={all}
              minutes={minutes}
            />
            <DrawLayer
              symbol={symbol}
              frame={frame}
              candles={all}
              minutes={minutes}
              width={width}
              height={plotHeight}
              drawing={hand.drawing}
            />
            <div className="absolute inset-x-0 bottom-0">
              <Panes panes={studies.panes} frame={frame} width={width} from={from} end={end} />
            </div>
            <Crosshair
              box={box}
              frame={frame}
              candles={all}
              minutes={minutes}
              width={width}
              height={plotHeight}
            />
          </>
        )}
        {hand.noteAt && frame && <NoteField done={hand.takeNote} y={frame.y(hand.noteAt.price)} />}
        <Legend studied={studies} />
        {tool && factsOf(tool.kind).clicks > 1 && (
          <p className="absolute bottom-7 left-3 bg-panel/80 px-1 text-[12px]" role="status">
            {factsOf(tool.kind).name}: point {tool.points.length + 1} of {factsOf(tool.kind).clicks}
          </p>
        )}
        {all.length === 0 && (
          <p className="absolute inset-0 p-4 text-quiet">
            {listed
              ? `No candle of ${symbol} has finished yet. Let time run, or choose a symbol that trades.`
              : `${symbol} is not listed today. Unpin the chart, or pin it to another symbol.`}
          </p>
        )}
      </div>
    </section>
  );
}

/** What the studies have to know of a company. */
function listedOf(slice: SymbolSlice | null) {
  if (!slice) return null;
  const { priorHigh, priorLow, priorClose, averageVolume, premarketShare } = slice.instrument;
  return { priorHigh, priorLow, priorClose, averageVolume, premarketShare };
}

/** Prices that a click snaps to: levels, and where VWAP stands. */
const snapsOf = (s: Studied): number[] => [
  ...s.levels.map((l) => l.price),
  ...s.lines.filter((l) => l.name === 'VWAP').flatMap((l) => l.values[l.values.length - 1] ?? []),
];

/** Where the first candle lies after the pointer has gone so far. */
const panned = (from: { x: number; back: number }, x: number, step: number, most: number): number =>
  Math.max(0, Math.min(Math.max(0, most), from.back + Math.round((x - from.x) / Math.max(1, step))));

/** The ways out of what is held, on its own chart. */
function Out({ symbol, extended }: { symbol: string; extended: boolean }) {
  const hours = extended ? ' extended' : '';
  return (
    <span className="ml-1 flex gap-0.5" role="group" aria-label={`Out of ${symbol}`}>
      <button
        type="button"
        className="btn px-1 py-0.5 text-[13px] whitespace-nowrap"
        title={`Close half of ${symbol}`}
        onClick={() => void act(`close half of ${symbol} at usual through${hours}`, 'buttons', 'Chart')}
      >
        ½ out
      </button>
      <button
        type="button"
        className="btn px-1 py-0.5 text-[13px] font-semibold"
        onClick={() => void act(`flatten of ${symbol}`, 'buttons', 'Chart')}
      >
        flatten
      </button>
    </span>
  );
}

function Turn({ label, sign, off, go }: { label: string; sign: string; off: boolean; go(): void }) {
  return (
    <button
      type="button"
      className="btn px-1.5 py-0.5 text-[13px]"
      aria-label={label}
      disabled={off}
      onClick={go}
    >
      {sign}
    </button>
  );
}

/** What the lines are, with their values now. */
function Legend({ studied: s }: { studied: Studied }) {
  const sign = (dash: string) => (dash === '' ? '━' : dash.startsWith('2') ? '┄' : '╌');
  return (
    <p className="pointer-events-none absolute top-0.5 left-3 flex max-w-[calc(100%-80px)] gap-3 overflow-hidden text-[12px] whitespace-nowrap text-quiet">
      {s.lines
        .filter((l) => l.name !== '')
        .map((l) => (
          <span key={l.name}>
            {sign(l.dash)} {l.name}{' '}
            <span className="num text-text">{avg(l.values[l.values.length - 1])}</span>
          </span>
        ))}
      {s.levels.map((l) => (
        <span key={l.name} className="hidden @[620px]:inline">
          {sign(l.dash)} {l.name} <span className="num text-text">{avg(l.price)}</span>
        </span>
      ))}
    </p>
  );
}

/** Words for a note, written where it will stand. */
function NoteField({ y, done }: { y: number; done(text: string): void }) {
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.focus(), []);
  return (
    <input
      ref={field}
      className="field absolute left-1/3 z-10 w-56"
      style={{ top: y - 14 }}
      aria-label="Words of the note"
      placeholder="Words, then Enter"
      maxLength={200}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') done(e.currentTarget.value);
        else if (e.key === 'Escape') done('');
      }}
      onBlur={(e) => done(e.currentTarget.value)}
    />
  );
}

'use client';

import { memo, useEffect, useRef, useState } from 'react';
import type { Bar } from '@/core/market';
import { averageEntry } from '@/core/orders';
import { type Price, roundToTick, tickSize, toDollars } from '@/core/units';
import { px } from '../format';
import { act, ask, useSession } from '../session';
import { followPointer, startDrag, stepBy } from '../trade/drag';
import { spread } from '../trade/spread';
import { lineColour, type OrderLine, tradeOf } from '../trade/trade-view';
import { type Frame, indexAt } from './frame';
import { box } from './HistoryLayer';
import { type Candle, sliceOf } from './useChartData';

interface Props {
  symbol: string | undefined;
  frame: Frame;
  width: number;
  height: number;
  /** Where the forming candle stands; null when the view is scrolled back. */
  index: number | null;
  /** Finished minutes of the candle that is forming. */
  partial: Bar | null;
  candles: readonly Candle[];
  minutes: number;
}

/** What moves with every tick, above the chart: the forming candle, the last price, order lines. */
export const LiveLayer = memo(function LiveLayer(p: Props) {
  const { symbol, frame, width, height } = p;
  const svg = useRef<SVGSVGElement>(null);
  const book = useSession((s) => s.book);
  const account = useSession((s) => s.account?.id);
  const view = tradeOf(book, symbol, account);
  const entry = view ? averageEntry(view.trade) : null;
  const priceAt = (_x: number, clientY: number) =>
    frame.priceAt(clientY - (svg.current?.getBoundingClientRect().top ?? 0));
  return (
    <svg
      ref={svg}
      width={width}
      height={height}
      className="pointer-events-none absolute inset-0"
      role="group"
      aria-label="Orders on the chart"
    >
      <FormingCandle {...p} />
      {entry !== null && (
        <Marked frame={frame} price={entry} label="entry" colour="var(--text)" dash="1 3" place={4} />
      )}
      <FillMarks frame={frame} symbol={symbol} candles={p.candles} minutes={p.minutes} />
      <AlertLines frame={frame} symbol={symbol} priceAt={priceAt} />
      <AwaitedPrices frame={frame} symbol={symbol} priceAt={priceAt} />
      <Ghosts frame={frame} symbol={symbol} />
      <OrderLines lines={view?.lines ?? NO_LINES} frame={frame} priceAt={priceAt} />
    </svg>
  );
});

/** A price with its name across the plot. Each kind has its own place for the name, so that two near each other are read. */
function Marked({
  frame: { plot, y: yOf },
  price,
  label,
  colour,
  dash,
  place,
  faint = false,
}: {
  frame: Frame;
  price: number;
  label: string;
  colour: string;
  dash: string;
  place: number | 'end';
  faint?: boolean;
}) {
  const y = yOf(price);
  // What stands at the very edge is in.
  if (y < plot.y - 0.5 || y > plot.y + plot.height + 0.5) return null;
  const end = place === 'end';
  return (
    <g opacity={faint ? 0.5 : 1}>
      <line
        x1={plot.x}
        x2={plot.x + plot.width}
        y1={y}
        y2={y}
        stroke={colour}
        strokeWidth={1.2}
        strokeDasharray={dash}
      />
      <text
        x={end ? plot.x + plot.width - 4 : plot.x + place}
        y={y < plot.y + 14 ? y + 13 : y - 3}
        textAnchor={end ? 'end' : undefined}
        fill={colour}
        fontSize={12}
      >
        {label}
      </text>
    </g>
  );
}

/** What a key or button would do, or waits for a yes: entry, stop and targets, until it is let go. */
function Ghosts({ frame, symbol }: { frame: Frame; symbol: string | undefined }) {
  const sayBack = useSession((s) => s.sayBack);
  const peeked = sayBack.kind === 'peek' || sayBack.kind === 'confirm' ? sayBack.peeked : null;
  const facts = peeked?.of === symbol && peeked?.problem === null ? peeked.facts : null;
  if (!facts) return null;
  const lines = [
    { label: `${facts.side} ${facts.qty} · ${px(facts.price)}`, price: facts.price, colour: 'var(--text)' },
    ...(facts.stop === null
      ? []
      : [{ label: `stop · ${px(facts.stop)}`, price: facts.stop, colour: lineColour('stop') }]),
    ...facts.targets.map((t, k) => ({
      label: `target ${k + 1} of ${t.shares} · ${px(t.price)}`,
      price: t.price,
      colour: lineColour('target'),
    })),
  ];
  return (
    <g data-testid="ghosts">
      {lines.map((l, k) => {
        // What lies beyond the plot stands at its edge, each at its own place.
        const { plot } = frame;
        const y = frame.y(l.price);
        const edge = y < plot.y ? plot.y : y > plot.y + plot.height ? plot.y + plot.height : null;
        return (
          <Marked
            key={l.label}
            frame={frame}
            colour={l.colour}
            price={edge === null ? l.price : frame.priceAt(edge)}
            label={edge === null ? l.label : `${edge === plot.y ? '▲' : '▼'} ${l.label}`}
            dash="7 5"
            place={edge === null ? 230 : 8 + 180 * k}
          />
        );
      })}
    </g>
  );
}

/** Prices at which an alert waits: dragged, or moved by arrow keys, it waits at another. */
function AlertLines({ frame, symbol, priceAt }: Waits) {
  const list = useSession((s) => s.alerts?.list);
  return list?.map((a) =>
    a.symbol === symbol && a.on.kind === 'price' && a.status === 'armed' ? (
      <Awaited
        key={a.id}
        frame={frame}
        price={a.on.price}
        label="alert"
        dash="2 4"
        place={4}
        priceAt={priceAt}
        move={async (price) => {
          if (await act(`alert of ${symbol} at ${px(price)}`, 'tools', 'Alert'))
            void ask({ kind: 'alert', id: a.id, change: { kind: 'remove' } });
        }}
      />
    ) : null,
  );
}

/** Prices that an order waits for: where its sentence has the number, it can be dragged to another. */
function AwaitedPrices({ frame, symbol, priceAt }: Waits) {
  const waiting = useSession((s) => s.waits?.waiting);
  return waiting?.flatMap((w) =>
    w.prices.map(({ symbol: of, price }) => {
      const written = w.text.split(px(price)).length === 2;
      return of === symbol ? (
        <Awaited
          key={`${w.id} ${price}`}
          frame={frame}
          price={price}
          label={`condition ${w.id}`}
          dash="1 4"
          place={110}
          faint={w.paused}
          priceAt={priceAt}
          move={
            written
              ? (to) =>
                  void act(
                    `cancel condition ${w.id}\n${w.text.replace(px(price), px(to))}`,
                    'drags',
                    `Condition ${w.id}`,
                  )
              : null
          }
        />
      ) : null;
    }),
  );
}

interface Waits {
  frame: Frame;
  symbol: string | undefined;
  priceAt(x: number, y: number): number;
}

/** A price that something waits for. */
function Awaited({
  frame,
  price,
  label,
  dash,
  place,
  faint = false,
  priceAt,
  move,
}: {
  frame: Frame;
  price: number;
  label: string;
  dash: string;
  place: number;
  faint?: boolean;
  priceAt(x: number, y: number): number;
  move: ((price: Price) => void) | null;
}) {
  const [to, setTo] = useState<Price | null>(null);
  const { plot } = frame;
  const y = frame.y(to ?? price);
  const line = (
    <Marked
      frame={frame}
      price={to ?? price}
      label={`${label}${label === 'alert' ? '' : ' ·'} ${px(to ?? price)}`}
      colour="var(--condition)"
      dash={dash}
      place={place}
      faint={faint}
    />
  );
  if (!move || y < plot.y || y > plot.y + plot.height) return line;
  const settle = (at: Price) => {
    setTo(null);
    if (at !== price) move(at);
  };
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={`${label} on the chart`}
      aria-valuenow={toDollars(price)}
      aria-valuetext={px(to ?? price)}
      className="pointer-events-auto cursor-ns-resize touch-none"
      onPointerDown={(e) => {
        e.preventDefault();
        followPointer(e, priceAt, setTo, settle);
      }}
      onKeyDown={(e) => {
        const ticks = e.key === 'ArrowUp' ? 1 : e.key === 'ArrowDown' ? -1 : 0;
        if (e.key === 'Enter' && to !== null) settle(to);
        else if (e.key === 'Escape' && to !== null) setTo(null);
        else if (ticks !== 0) {
          const from = to ?? (price as Price);
          setTo(roundToTick(Math.max(1, from + ticks * tickSize(from))));
        } else return;
        e.preventDefault();
        e.stopPropagation();
      }}
    >
      <rect x={plot.x} y={y - 5} width={plot.width} height={10} fill="transparent" />
      {line}
    </g>
  );
}

/** Fills of the symbol, each at its price below or above its candle. */
function FillMarks({
  frame,
  symbol,
  candles,
  minutes,
}: Pick<Props, 'frame' | 'symbol' | 'candles' | 'minutes'>) {
  const reviews = useSession((s) => s.book?.reviews);
  const account = useSession((s) => s.account?.id);
  const { plot } = frame;
  return reviews
    ?.filter((r) => r.symbol === symbol)
    .flatMap((r) => r.fills)
    .filter((f) => f.account === account)
    .map((f) => {
      const [x, y] = [frame.x(indexAt(candles, minutes, f.at)), frame.y(f.price)];
      if (x < plot.x || x > plot.x + plot.width || y < plot.y || y > plot.y + plot.height) return null;
      const up = f.side === 'buy';
      const tip = up ? y + 2 : y - 2;
      const base = up ? y + 11 : y - 11;
      return (
        <path
          key={f.id}
          d={`M${x} ${tip}L${x - 5} ${base}H${x + 5}Z`}
          fill={up ? 'var(--up)' : 'var(--down)'}
          stroke="var(--ground)"
        >
          <title>{`${up ? 'bought' : 'sold'} ${f.qty} at ${px(f.price)}`}</title>
        </path>
      );
    });
}

const NO_LINES: readonly OrderLine[] = [];
/** Height of a label, in pixels. */
const LABEL = 18;
/** The lines of orders; labels of those that stand near each other are read one below the other. */
function OrderLines({
  lines,
  frame,
  priceAt,
}: {
  lines: readonly OrderLine[];
  frame: Frame;
  priceAt: (x: number, y: number) => number;
}) {
  const { plot } = frame;
  const seen = lines.filter((l) => {
    const y = frame.y(l.price);
    return y >= plot.y - 1 && y <= plot.y + plot.height + 1;
  });
  const places = spread(
    seen.map((l) => ({ at: frame.y(l.price) - plot.y, size: LABEL })),
    plot.height,
    1,
  );
  return lines.map((l) => {
    const k = seen.indexOf(l);
    return (
      <Line
        key={l.id}
        line={l}
        frame={frame}
        priceAt={priceAt}
        aside={k < 0 ? 0 : (places[k] ?? 0) + plot.y - frame.y(l.price)}
      />
    );
  });
}

function Line({
  line,
  frame,
  priceAt,
  aside,
}: {
  line: OrderLine;
  frame: Frame;
  /** How far its label stands below it. */
  aside: number;
  priceAt: (x: number, y: number) => number;
}) {
  const drag = useSession((s) => (s.drag?.orderId === line.id ? s.drag.price : null));
  const price = drag ?? line.price;
  const { plot } = frame;
  const y = frame.y(price);
  if (y < plot.y - 1 || y > plot.y + plot.height + 1) return null;
  const colour = lineColour(line.role);
  const label = `${line.label} ${line.open} · ${px(price)}`;
  const wide = label.length * 7.6 + 12;
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={`${line.label} of ${line.open} on the chart`}
      aria-valuenow={toDollars(price)}
      aria-valuetext={px(price)}
      className="pointer-events-auto cursor-ns-resize touch-none"
      onPointerDown={(e) => startDrag(e, line, priceAt)}
      onKeyDown={(e) => {
        if (e.key !== 'ArrowUp' && e.key !== 'ArrowDown') return;
        e.preventDefault();
        stepBy(line, e.key === 'ArrowUp' ? 1 : -1);
      }}
    >
      <rect x={plot.x} y={y - 5} width={plot.width} height={10} fill="transparent" />
      <line
        x1={plot.x}
        x2={plot.x + plot.width}
        y1={y}
        y2={y}
        stroke={colour}
        strokeWidth={drag === null ? 1.4 : 2.4}
        strokeDasharray={line.pending ? '1 4' : line.sleeping ? '6 5' : undefined}
      />
      <rect
        x={plot.x + plot.width - wide - 2}
        y={y - 9 + aside}
        width={wide}
        height={LABEL}
        rx={2}
        fill="var(--panel)"
        stroke={colour}
      />
      <text
        x={plot.x + plot.width - wide + 3}
        y={y + 4 + aside}
        fill={colour}
        fontSize={12}
        fontFamily="var(--font-mono)"
      >
        {label}
      </text>
    </g>
  );
}

/** Updated outside React, at most once a frame. */
function FormingCandle({ symbol, frame, index, partial }: Props) {
  const all = useRef<SVGGElement>(null);
  const body = useRef<SVGPathElement>(null);
  const line = useRef<SVGLineElement>(null);
  const tag = useRef<SVGRectElement>(null);
  const text = useRef<SVGTextElement>(null);
  useEffect(() => {
    const draw = () => {
      const slice = sliceOf(useSession.getState(), symbol);
      const last = slice?.last ?? null;
      const { plot } = frame;
      // Nothing has traded: no price of another day may stay.
      all.current?.setAttribute('visibility', last === null ? 'hidden' : 'visible');
      if (last === null) return;
      const y = Math.max(plot.y, Math.min(plot.y + plot.height, frame.y(last)));
      line.current?.setAttribute('y1', String(y));
      line.current?.setAttribute('y2', String(y));
      tag.current?.setAttribute('y', String(y - 9));
      text.current?.setAttribute('y', String(y + 4));
      if (text.current) text.current.textContent = px(last);
      const c = merge(partial, slice?.forming ?? null);
      if (!c || index === null) return body.current?.setAttribute('d', '');
      const cx = frame.x(index);
      const half = Math.max(1, frame.step * 0.34);
      const rises = c.close >= c.open;
      const [o, cl] = [frame.y(c.open), frame.y(c.close)];
      body.current?.setAttribute(
        'd',
        `M${cx} ${frame.y(c.high)}V${Math.min(o, cl)}M${cx} ${frame.y(c.low)}V${Math.max(o, cl)}${box(cx, half, o, cl)}`,
      );
      body.current?.setAttribute('stroke', rises ? 'var(--up)' : 'var(--down)');
      body.current?.setAttribute('fill', rises ? 'var(--panel)' : 'var(--down)');
    };
    draw();
    return useSession.subscribe((s, before) => {
      if (sliceOf(s, symbol) !== sliceOf(before, symbol)) draw();
    });
  }, [symbol, frame, index, partial]);
  const { plot } = frame;
  return (
    <g ref={all} aria-hidden>
      <line ref={line} x1={plot.x} x2={plot.x + plot.width} stroke="var(--text)" strokeWidth={0.7} />
      <path ref={body} strokeWidth={1.2} />
      <rect ref={tag} x={plot.x + plot.width + 1} width={57} height={18} fill="var(--text)" />
      <text
        ref={text}
        x={plot.x + plot.width + 5}
        fill="var(--ground)"
        fontSize={13}
        fontWeight={700}
        fontFamily="var(--font-mono)"
      />
    </g>
  );
}

/** The forming candle: its finished minutes and the minute that is trading. */
function merge(a: Bar | null, b: Bar | null): Bar | null {
  if (!a || !b) return a ?? b;
  return { ...a, high: Math.max(a.high, b.high), low: Math.min(a.low, b.low), close: b.close };
}

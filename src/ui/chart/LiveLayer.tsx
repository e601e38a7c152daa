'use client';

import { memo, useEffect, useRef } from 'react';
import type { Bar } from '@/core/market';
import { averageEntry } from '@/core/orders';
import { toDollars } from '@/core/units';
import { px } from '../format';
import { useSession } from '../session';
import { startDrag, stepBy } from '../trade/drag';
import { lineColour, type OrderLine, tradeOf } from '../trade/trade-view';
import type { Frame } from './frame';
import { box } from './HistoryLayer';
import { sliceOf } from './useChartData';

interface Props {
  symbol: string | undefined;
  frame: Frame;
  width: number;
  height: number;
  /** Where the forming candle stands; null when the view is scrolled back. */
  index: number | null;
  /** Finished minutes of the candle that is forming. */
  partial: Bar | null;
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
      <AlertLines frame={frame} symbol={symbol} />
      <AwaitedPrices frame={frame} symbol={symbol} />
      <Ghosts frame={frame} symbol={symbol} />
      {view?.lines.map((l) => (
        <Line key={l.id} line={l} frame={frame} priceAt={priceAt} />
      ))}
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
  if (y < plot.y || y > plot.y + plot.height) return null;
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

/** Prices at which an alert waits. */
function AlertLines({ frame, symbol }: { frame: Frame; symbol: string | undefined }) {
  const list = useSession((s) => s.alerts?.list);
  return list?.map((a) =>
    a.symbol === symbol && a.on.kind === 'price' && a.status === 'armed' ? (
      <Marked
        key={a.id}
        frame={frame}
        price={a.on.price}
        label={`alert ${px(a.on.price)}`}
        colour="var(--condition)"
        dash="2 4"
        place={4}
      />
    ) : null,
  );
}

/** Prices that an order waits for. */
function AwaitedPrices({ frame, symbol }: { frame: Frame; symbol: string | undefined }) {
  const waiting = useSession((s) => s.waits?.waiting);
  return waiting?.flatMap((w) =>
    w.prices.map(({ symbol: of, price }) =>
      of === symbol ? (
        <Marked
          key={`${w.id} ${price}`}
          frame={frame}
          price={price}
          label={`condition ${w.id} · ${px(price)}`}
          colour="var(--condition)"
          dash="1 4"
          place={110}
          faint={w.paused}
        />
      ) : null,
    ),
  );
}

function Line({
  line,
  frame,
  priceAt,
}: {
  line: OrderLine;
  frame: Frame;
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
        y={y - 9}
        width={wide}
        height={18}
        rx={2}
        fill="var(--panel)"
        stroke={colour}
      />
      <text
        x={plot.x + plot.width - wide + 3}
        y={y + 4}
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

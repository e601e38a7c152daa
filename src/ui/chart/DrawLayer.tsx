'use client';

import { memo, type PointerEvent as ReactPointerEvent, useId, useRef, useState } from 'react';
import { extensions, measured, retracements } from '@/core/drawings';
import type { DrawnLevel, PricePoint } from '@/core/market';
import { MINUTE, type Price, roundToTick, tickSize, toDollars } from '@/core/units';
import { DAY_CANDLE } from '@/store/arrangement';
import type { DrawingKind } from '@/store/drawing';
import type { Drawing } from '@/store/settings';
import { px, signed } from '../format';
import { act, useSession } from '../session';
import { useSettings } from '../settings';
import { draw, drawingsOf, remember } from './drawn';
import { type Frame, indexAt, timeAt } from './frame';
import { levelSentence } from './pointing';
import type { Candle } from './useChartData';

/** Something drawn, whatever it is kept as. */
export interface Item {
  key: string;
  kind: 'level' | 'trend' | DrawingKind;
  points: readonly PricePoint[];
  text: string;
  colour: string;
  dashed: boolean;
  /** Number among the drawings; null for a level. */
  id: number | null;
}

interface Props {
  symbol: string;
  frame: Frame;
  candles: readonly Candle[];
  minutes: number;
  width: number;
  height: number;
  /** What is being drawn now. */
  drawing: Item | null;
}

const levelItem = ([name, level]: [string, DrawnLevel]): Item => ({
  key: `level ${name}`,
  kind: typeof level === 'number' ? 'level' : 'trend',
  points: typeof level === 'number' ? [{ at: 0, price: level }] : [level.from, level.to],
  text: name,
  colour: 'quiet',
  dashed: true,
  id: null,
});
const drawnItem = (d: Drawing): Item => ({ ...d, key: `drawing ${d.id}` }) as Item;

const NO_LEVELS: Readonly<Record<string, DrawnLevel>> = {};
/** Levels and drawings of a symbol above its candles: each can be moved, styled, copied and taken away. */
export const DrawLayer = memo(function DrawLayer(p: Props) {
  const { symbol, width, height } = p;
  const levels = useSession((s) => s.desk?.levels[symbol]) ?? NO_LEVELS;
  const since = useSession((s) => s.clock?.dates[0]);
  const list = useSettings((s) => drawingsOf(s.drawings, symbol, since));
  const perR = useSession((s) => {
    const trade = s.book?.trades.find((t) => t.symbol === symbol && t.status === 'open');
    return s.book?.scopes.find((x) => x.tradeId === trade?.id)?.riskPerShare ?? null;
  });
  const [moved, setMoved] = useState<Item | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const svg = useRef<SVGSVGElement>(null);
  const clip = useId();
  const { plot } = p.frame;
  const items = [...Object.entries(levels).map(levelItem), ...list.map(drawnItem)].map((i) =>
    moved?.key === i.key ? moved : i,
  );
  const one = items.find((i) => i.key === chosen);
  return (
    <>
      <svg
        ref={svg}
        width={width}
        height={height}
        className="pointer-events-none absolute inset-0"
        role="group"
        aria-label="Drawn on the chart"
      >
        <clipPath id={clip}>
          <rect x={plot.x} y={plot.y} width={plot.width} height={plot.height} />
        </clipPath>
        <g clipPath={`url(#${clip})`}>
          {items
            .filter((i) => wideEnough(i, p.minutes))
            .map((i) => (
              <Shape
                key={i.key}
                {...p}
                item={i}
                perR={perR}
                chosen={i.key === chosen}
                choose={() => setChosen(i.key)}
                move={(points) => setMoved(points && { ...i, points })}
                svg={svg}
              />
            ))}
          {p.drawing && <Shape {...p} item={p.drawing} perR={perR} svg={svg} />}
        </g>
      </svg>
      {one && <Style item={one} symbol={symbol} done={() => setChosen(null)} />}
    </>
  );
});

/** On a chart of days, what was drawn within one of them says nothing; levels and notes do. */
const wideEnough = ({ kind, points }: Item, minutes: number): boolean =>
  kind === 'level' ||
  kind === 'note' ||
  minutes < DAY_CANDLE ||
  Math.max(...points.map((p) => p.at)) - Math.min(...points.map((p) => p.at)) >= minutes * MINUTE;

/** Keeps where something was moved to. */
function keep(symbol: string, item: Item, points: readonly PricePoint[]): void {
  if (JSON.stringify(points) === JSON.stringify(item.points)) return;
  remember(symbol);
  if (item.id !== null)
    return draw(symbol, (list) => list.map((d) => (d.id === item.id ? { ...d, points: [...points] } : d)));
  const [a, b] = points as [PricePoint, PricePoint];
  const level: DrawnLevel = item.kind === 'level' ? (a.price as Price) : { from: a, to: b };
  void act(levelSentence(item.text, symbol, level), 'tools', 'Chart');
}

/** Takes something off the chart. */
function remove(symbol: string, item: Item): void {
  remember(symbol);
  if (item.id !== null) draw(symbol, (list) => list.filter((d) => d.id !== item.id));
  else void act(`discard level "${item.text}" of ${symbol}`, 'tools', 'Chart');
}

const COLOURS = ['quiet', 'text', 'condition', 'focus'] as const;
/** What can be done with what is chosen. */
function Style({ item, symbol, done }: { item: Item; symbol: string; done(): void }) {
  const change = (to: Partial<Drawing>) => {
    remember(symbol);
    draw(symbol, (list) => list.map((d) => (d.id === item.id ? { ...d, ...to } : d)));
  };
  return (
    <div
      className="panel absolute top-6 right-16 z-10 flex items-center gap-1 p-1 text-[13px]"
      role="toolbar"
      aria-label={`What is drawn: ${nameOf(item)}`}
    >
      <span className="px-1 text-quiet">{nameOf(item)}</span>
      {item.id !== null && (
        <>
          {COLOURS.map((c) => (
            <button
              key={c}
              type="button"
              className="btn h-6 w-6 p-0"
              aria-label={`Colour: ${c}`}
              aria-pressed={item.colour === c}
              onClick={() => change({ colour: c })}
            >
              <span className="inline-block h-3 w-3" style={{ background: `var(--${c})` }} />
            </button>
          ))}
          <button
            type="button"
            className="btn px-1.5 py-0.5"
            aria-pressed={item.dashed}
            onClick={() => change({ dashed: !item.dashed })}
          >
            dashed
          </button>
          <button
            type="button"
            className="btn px-1.5 py-0.5"
            onClick={() => {
              remember(symbol);
              draw(symbol, (list) => [
                ...list,
                ...list
                  .filter((d) => d.id === item.id)
                  .map((d) => ({
                    ...d,
                    id: nextId(list),
                    points: d.points.map((x) => ({ ...x, price: x.price + 2 * tickSize(x.price as Price) })),
                  })),
              ]);
            }}
          >
            copy
          </button>
        </>
      )}
      <button
        type="button"
        className="btn px-1.5 py-0.5"
        onClick={() => {
          remove(symbol, item);
          done();
        }}
      >
        delete
      </button>
      <button type="button" className="btn px-1.5 py-0.5" aria-label="Leave it" onClick={done}>
        ✕
      </button>
    </div>
  );
}

/** A number that no drawing has. */
export const nextId = (list: readonly { id: number }[]): number =>
  1 + list.reduce((most, d) => Math.max(most, d.id), 0);

const nameOf = (i: Item): string =>
  i.kind === 'level' || i.kind === 'trend' ? `“${i.text}”` : i.kind === 'note' ? 'note' : i.kind;

interface ShapeProps extends Props {
  item: Item;
  perR: number | null;
  svg: React.RefObject<SVGSVGElement | null>;
  chosen?: boolean;
  choose?(): void;
  move?(points: readonly PricePoint[] | null): void;
}

function Shape({ item, symbol, frame, candles, minutes, perR, svg, chosen, choose, move }: ShapeProps) {
  const at = ({ at: time, price }: PricePoint): [number, number] => [
    frame.x(indexAt(candles, minutes, time)),
    frame.y(price),
  ];
  const { plot } = frame;
  const right = plot.x + plot.width;
  const spots = item.points.map(at);
  const { path, fill, labels } = outline(item, spots, { frame, minutes, perR, right });
  const colour = `var(--${item.colour})`;
  const flat = item.kind === 'level';
  const drag = (e: ReactPointerEvent, which: number | null) => {
    if (!move || e.button !== 0) return;
    e.preventDefault();
    e.stopPropagation();
    choose?.();
    (e.currentTarget as unknown as HTMLElement).focus();
    const view = e.currentTarget.ownerDocument.defaultView ?? window;
    const begin = spotAt(e.nativeEvent);
    let points = item.points;
    const onMove = (ev: PointerEvent) => {
      const now = spotAt(ev);
      points = item.points.map((p, k) =>
        which !== null && which !== k
          ? p
          : {
              at: flat ? 0 : p.at + now.at - begin.at,
              price: roundToTick(Math.max(1, p.price + now.price - begin.price)),
            },
      );
      move(points);
    };
    const end = () => {
      view.removeEventListener('pointermove', onMove);
      view.removeEventListener('pointerup', end);
      view.removeEventListener('pointercancel', end);
      keep(symbol, item, points);
      move(null);
    };
    view.addEventListener('pointermove', onMove);
    view.addEventListener('pointerup', end);
    view.addEventListener('pointercancel', end);
  };
  const spotAt = (e: { clientX: number; clientY: number }): PricePoint => {
    const box = svg.current?.getBoundingClientRect();
    const x = e.clientX - (box?.left ?? 0);
    return {
      at: timeAt(candles, minutes, (x - frame.x(0)) / frame.step),
      price: frame.priceAt(e.clientY - (box?.top ?? 0)),
    };
  };
  const step = (price: number, time: number) =>
    keep(
      symbol,
      item,
      item.points.map((p) => ({
        at: flat ? 0 : p.at + time * minutes * MINUTE,
        price: roundToTick(Math.max(1, p.price + price * tickSize(p.price as Price))),
      })),
    );
  const seen = flat ? spots[0] && spots[0][1] >= plot.y && spots[0][1] <= plot.y + plot.height : true;
  if (!seen) return null;
  return (
    <g
      className={move ? 'pointer-events-auto cursor-move touch-none' : undefined}
      role="slider"
      tabIndex={move ? 0 : -1}
      aria-label={`${nameOf(item)} on the chart`}
      aria-valuenow={toDollars(item.points[0]?.price ?? 0)}
      aria-valuetext={item.points.map((p) => px(p.price)).join(' to ')}
      onPointerDown={(e) => drag(e, null)}
      onFocus={choose}
      onKeyDown={(e) => {
        const [up, on] =
          { ArrowUp: [1, 0], ArrowDown: [-1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[e.key] ?? [];
        if (e.key === 'Delete') remove(symbol, item);
        else if (up !== undefined && on !== undefined) step(up, on);
        else return;
        e.preventDefault();
        e.stopPropagation();
      }}
    >
      {fill !== '' && <path d={fill} fill={colour} fillOpacity={0.1} />}
      {move && <path d={path} stroke="transparent" strokeWidth={9} fill="none" />}
      <path
        d={path}
        stroke={colour}
        strokeWidth={chosen ? 2 : 1.2}
        strokeDasharray={item.dashed ? '8 3' : undefined}
        fill="none"
      />
      {labels.map((l) => (
        <text key={l.text} x={l.x} y={l.y} textAnchor={l.end ? 'end' : undefined} fill={colour} fontSize={12}>
          {l.text}
        </text>
      ))}
      {chosen &&
        !flat &&
        spots.map(([x, y], k) => (
          <circle
            key={k}
            cx={x}
            cy={y}
            r={4.5}
            fill="var(--panel)"
            stroke={colour}
            onPointerDown={(e) => drag(e, k)}
          />
        ))}
    </g>
  );
}

interface Label {
  x: number;
  y: number;
  text: string;
  end?: boolean;
}
/** The outline of something drawn, in pixels. */
function outline(
  { kind, points, text }: Item,
  spots: readonly [number, number][],
  { frame, minutes, perR, right }: { frame: Frame; minutes: number; perR: number | null; right: number },
): { path: string; fill: string; labels: Label[] } {
  const { plot } = frame;
  const [[x0, y0], [x1, y1] = spots[0] as [number, number]] = spots as [[number, number], [number, number]];
  const [a, b = a] = points as [PricePoint, PricePoint?];
  const across = (from: number, y: number) => `M${from} ${y}H${right}`;
  const ratios = (list: { ratio: number; price: number }[], from: number) => ({
    path: list.map((r) => across(from, frame.y(r.price))).join(''),
    labels: list.map((r) => ({
      x: right - 4,
      y: frame.y(r.price) - 3,
      end: true,
      text: `${(r.ratio * 100).toFixed(1)} % · ${px(roundToTick(Math.max(1, r.price)))}`,
    })),
  });
  switch (kind) {
    case 'level':
      return {
        path: across(plot.x, y0),
        fill: '',
        labels: [
          { x: right - 4, y: y0 < plot.y + 14 ? y0 + 13 : y0 - 3, end: true, text: `${text} ${px(a.price)}` },
        ],
      };
    case 'trend':
    case 'ray': {
      const slope = x1 === x0 ? 0 : (y1 - y0) / (x1 - x0);
      const from = kind === 'trend' ? plot.x : x0;
      const to = x1 < x0 && kind === 'ray' ? plot.x : right;
      const yAt = (x: number) => y0 + slope * (x - x0);
      const label = kind === 'trend' ? [{ x: right - 4, y: yAt(right) - 4, end: true, text }] : [];
      return { path: `M${from} ${yAt(from)}L${to} ${yAt(to)}`, fill: '', labels: label };
    }
    case 'box': {
      const d = `M${x0} ${y0}H${x1}V${y1}H${x0}Z`;
      return { path: d, fill: d, labels: [] };
    }
    case 'fibonacci': {
      const r = ratios(retracements(a.price, b.price), Math.min(x0, x1));
      return {
        path: `M${x0} ${y0}L${x1} ${y1}${r.path}`,
        fill: '',
        labels: spots.length > 1 ? r.labels : [],
      };
    }
    case 'extension': {
      const c = points[2];
      const legs = spots.map(([x, y], k) => `${k === 0 ? 'M' : 'L'}${x} ${y}`).join('');
      if (!c) return { path: legs, fill: '', labels: [] };
      const r = ratios(extensions(a.price, b.price, c.price), (spots[2] as [number, number])[0]);
      return { path: legs + r.path, fill: '', labels: r.labels };
    }
    case 'note':
      return {
        path: `M${x0 - 3} ${y0}H${x0 + 3}M${x0} ${y0 - 3}V${y0 + 3}`,
        fill: '',
        labels: [{ x: x0 + 6, y: y0 + 4, text }],
      };
    case 'measure': {
      const m = measured(a, b, minutes, perR);
      const said = [
        `${m.units >= 0 ? '+' : '−'}${px(Math.abs(m.units))}`,
        signed(m.percent, 2, '%'),
        ...(m.r === null ? [] : [signed(m.r, 2, 'R')]),
        `${m.candles} candles`,
      ].join(' · ');
      const d = `M${x0} ${y0}H${x1}V${y1}H${x0}Z`;
      return {
        path: `M${x0} ${y0}L${x1} ${y1}`,
        fill: d,
        labels: [
          Math.max(x0, x1) + 6.6 * said.length < right
            ? { x: Math.max(x0, x1) + 6, y: y1 + 4, text: said }
            : { x: Math.min(x0, x1) - 6, y: y1 + 4, text: said, end: true },
        ],
      };
    }
  }
}

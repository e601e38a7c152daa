'use client';

import type { PointerEvent as ReactPointerEvent, RefObject } from 'react';
import type { PricePoint } from '@/core/market';
import { MINUTE, type Price, roundToTick, tickSize, toDollars } from '@/core/units';
import { px } from '../format';
import { followPointer } from '../trade/drag';
import { type Frame, indexAt, timeAt } from './frame';
import { type Item, keep, nameOf, remove } from './items';
import { outline } from './outline';
import type { Candle } from './useChartData';

interface ShapeProps {
  symbol: string;
  frame: Frame;
  candles: readonly Candle[];
  minutes: number;
  item: Item;
  perR: number | null;
  svg: RefObject<SVGSVGElement | null>;
  chosen?: boolean;
  choose?(): void;
  move?(points: readonly PricePoint[] | null): void;
}

/** Something drawn: taken by its body or by one of its points, moved by arrow keys, taken away by Delete. */
export function Shape({
  item,
  symbol,
  frame,
  candles,
  minutes,
  perR,
  svg,
  chosen,
  choose,
  move,
}: ShapeProps) {
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
    const begin = spotAt(e.nativeEvent);
    let points = item.points;
    followPointer(
      e,
      (ev) => {
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
      },
      () => {
        keep(symbol, item, points);
        move(null);
      },
    );
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

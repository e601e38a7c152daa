'use client';

import { type RefObject, useEffect, useRef } from 'react';
import { vwapLine } from '@/core/market';
import { roundToTick } from '@/core/units';
import { avg, count, px } from '../format';
import type { Frame } from './frame';
import { whenOf } from './Plot';
import type { Candle } from './useChartData';

/** Lines through the pointer, with its price and the values of the candle under it; drawn outside React. */
export function Crosshair({
  box,
  frame,
  candles,
  minutes,
  width,
  height,
}: {
  /** What the pointer moves over. */
  box: RefObject<HTMLDivElement | null>;
  frame: Frame;
  candles: readonly Candle[];
  minutes: number;
  width: number;
  height: number;
}) {
  const all = useRef<SVGGElement>(null);
  const across = useRef<SVGPathElement>(null);
  const tag = useRef<SVGRectElement>(null);
  const price = useRef<SVGTextElement>(null);
  const values = useRef<HTMLParagraphElement>(null);
  useEffect(() => {
    const over = box.current;
    if (!over) return;
    const { plot } = frame;
    const hide = () => {
      all.current?.setAttribute('visibility', 'hidden');
      if (values.current) values.current.textContent = '';
    };
    const draw = (e: PointerEvent) => {
      const r = over.getBoundingClientRect();
      const [x, y] = [e.clientX - r.left, e.clientY - r.top];
      if (x < plot.x || x > plot.x + plot.width || y < plot.y || y > plot.y + plot.height) return hide();
      const i = Math.round((x - frame.x(0)) / frame.step);
      all.current?.setAttribute('visibility', 'visible');
      const cx = frame.x(i);
      across.current?.setAttribute(
        'd',
        `M${plot.x} ${y}H${plot.x + plot.width}M${cx} ${plot.y}V${plot.y + plot.height}`,
      );
      tag.current?.setAttribute('y', String(y - 9));
      price.current?.setAttribute('y', String(y + 4));
      if (price.current) price.current.textContent = px(roundToTick(Math.max(1, frame.priceAt(y))));
      const c = candles[i];
      if (values.current)
        values.current.textContent = c
          ? `${whenOf(c, minutes)}  O ${px(c.open)}  H ${px(c.high)}  L ${px(c.low)}  C ${px(c.close)}  ${count(c.volume)} shares  VWAP ${avg(vwapLine([c])[0])}`
          : '';
    };
    hide();
    over.addEventListener('pointermove', draw);
    over.addEventListener('pointerleave', hide);
    return () => {
      over.removeEventListener('pointermove', draw);
      over.removeEventListener('pointerleave', hide);
    };
  }, [box, frame, candles, minutes]);
  const { plot } = frame;
  return (
    <>
      <svg width={width} height={height} className="pointer-events-none absolute inset-0" aria-hidden>
        <g ref={all} visibility="hidden">
          <path ref={across} stroke="var(--quiet)" strokeWidth={0.7} strokeDasharray="2 3" />
          <rect ref={tag} x={plot.x + plot.width + 1} width={57} height={18} fill="var(--raised)" />
          <text
            ref={price}
            x={plot.x + plot.width + 5}
            fill="var(--text)"
            fontSize={13}
            fontFamily="var(--font-mono)"
          />
        </g>
      </svg>
      <p
        ref={values}
        className="num pointer-events-none absolute top-5 left-3 bg-panel/80 px-1 text-[12px] whitespace-pre text-text"
        aria-hidden
      />
    </>
  );
}

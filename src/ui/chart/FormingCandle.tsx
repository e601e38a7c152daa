'use client';

import { useEffect, useRef } from 'react';
import type { Bar } from '@/core/market';
import { sliceOf, useSession } from '../client';
import { px } from '../format';
import type { Frame } from './frame';
import { box } from './HistoryLayer';

/** Updated outside React, at most once a frame. */
export function FormingCandle({
  symbol,
  frame,
  index,
  partial,
}: {
  symbol: string | undefined;
  frame: Frame;
  /** Where it stands; null when the view is scrolled back. */
  index: number | null;
  /** Its finished minutes. */
  partial: Bar | null;
}) {
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

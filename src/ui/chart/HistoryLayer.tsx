'use client';

import { memo, useId } from 'react';
import { usePlotArea, useXAxisScale, useYAxisScale } from 'recharts';
import type { Bar } from '@/core/market';

interface Props {
  candles: readonly Pick<Bar, 'open' | 'high' | 'low' | 'close' | 'volume'>[];
  from: number;
  vwap: readonly (number | null)[];
  ema: readonly (number | null)[];
  levels: readonly (number | null)[];
}

/** Finished candles, volume, VWAP, EMA 9 and levels as one path a kind. */
export const HistoryLayer = memo(function HistoryLayer({ candles, from, vwap, ema, levels }: Props) {
  const x = useXAxisScale();
  const y = useYAxisScale();
  const plot = usePlotArea();
  const clip = useId();
  if (!x || !y || !plot) return null;
  const px = (i: number) => x(i) as number;
  const py = (p: number) => y(p) as number;
  const half = Math.max(1, Math.abs(px(1) - px(0)) * 0.34);
  const floor = plot.y + plot.height;
  const most = Math.max(1, ...candles.map((c) => c.volume));
  let up = '';
  let down = '';
  let volume = '';
  candles.forEach((c, k) => {
    const i = from + k;
    const [cx, o, h, l, cl] = [px(i), py(c.open), py(c.high), py(c.low), py(c.close)];
    if (c.close >= c.open)
      up += `M${cx} ${h}V${Math.min(o, cl)}M${cx} ${l}V${Math.max(o, cl)}${box(cx, half, o, cl)}`;
    else down += `M${cx} ${h}V${l}${box(cx, half, o, cl)}`;
    const tall = (c.volume / most) * plot.height * 0.18;
    volume += box(cx, half, floor - tall, floor);
  });
  const line = (values: readonly (number | null)[]) =>
    candles.reduce((d, _c, k) => {
      const v = values[from + k];
      return v === null || v === undefined ? d : `${d}${d ? 'L' : 'M'}${px(from + k)} ${py(v)}`;
    }, '');
  return (
    <g>
      <clipPath id={clip}>
        <rect x={plot.x} y={plot.y} width={plot.width} height={plot.height} />
      </clipPath>
      <g clipPath={`url(#${clip})`}>
        <path d={volume} fill="var(--line)" />
        {levels.map(
          (p, k) =>
            p !== null && (
              <path
                key={k === 0 ? 'high' : 'low'}
                d={`M${plot.x} ${py(p)}H${plot.x + plot.width}`}
                stroke="var(--quiet)"
                strokeDasharray="2 4"
              />
            ),
        )}
        <path d={line(vwap)} fill="none" stroke="var(--quiet)" strokeWidth={1.5} />
        <path d={line(ema)} fill="none" stroke="var(--quiet)" strokeWidth={1} strokeDasharray="5 3" />
        <path d={up} fill="none" stroke="var(--up)" strokeWidth={1.2} />
        <path d={down} fill="var(--down)" stroke="var(--down)" strokeWidth={1} />
      </g>
    </g>
  );
});

/** A candle body; a flat one is still a line. */
export const box = (cx: number, half: number, a: number, b: number): string =>
  `M${cx - half} ${a}H${cx + half}V${Math.abs(a - b) < 1 ? a + 1 : b}H${cx - half}Z`;

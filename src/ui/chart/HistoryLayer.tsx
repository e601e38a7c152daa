'use client';

import { memo, useId } from 'react';
import { usePlotArea, useXAxisScale, useYAxisScale } from 'recharts';
import type { Bar } from '@/core/market';
import type { Studied, Values } from './studies';

interface Props {
  candles: readonly Pick<Bar, 'open' | 'high' | 'low' | 'close' | 'volume'>[];
  from: number;
  studied: Studied;
}

/** Finished candles, volume, averages and levels as one path a kind. */
export const HistoryLayer = memo(function HistoryLayer({ candles, from, studied }: Props) {
  const x = useXAxisScale();
  const y = useYAxisScale();
  const plot = usePlotArea();
  const clip = useId();
  if (!x || !y || !plot) return null;
  const px = (i: number) => x(i) as number;
  const py = (p: number) => y(p) as number;
  const half = Math.max(1, Math.abs(px(1) - px(0)) * 0.34);
  const floor = plot.y + plot.height;
  const usual = studied.usual?.slice(from, from + candles.length) ?? [];
  const most = Math.max(1, ...candles.map((c) => c.volume), ...usual);
  const tall = (shares: number) => (shares / most) * plot.height * 0.18;
  let up = '';
  let down = '';
  let volume = '';
  let expected = '';
  candles.forEach((c, k) => {
    const i = from + k;
    const [cx, o, h, l, cl] = [px(i), py(c.open), py(c.high), py(c.low), py(c.close)];
    if (c.close >= c.open)
      up += `M${cx} ${h}V${Math.min(o, cl)}M${cx} ${l}V${Math.max(o, cl)}${box(cx, half, o, cl)}`;
    else down += `M${cx} ${h}V${l}${box(cx, half, o, cl)}`;
    volume += box(cx, half, floor - tall(c.volume), floor);
    const u = usual[k];
    if (u !== undefined) expected += `M${cx - half - 1} ${floor - tall(u)}H${cx + half + 1}`;
  });
  const line = (values: Values) =>
    candles.reduce((d, _c, k) => {
      const v = values[from + k];
      return v === null || v === undefined ? d : `${d}${d ? 'L' : 'M'}${px(from + k)} ${py(v)}`;
    }, '');
  return (
    <g>
      <clipPath id={clip}>
        <rect x={plot.x} y={plot.y} width={plot.width} height={plot.height} />
      </clipPath>
      <g clipPath={`url(#${clip})`} fill="none" stroke="var(--quiet)">
        {studied.volume && <path d={volume} fill="var(--line)" stroke="none" />}
        {expected !== '' && <path d={expected} strokeWidth={1.5} />}
        {studied.levels.map((l) => (
          <path
            key={l.name}
            d={`M${plot.x} ${py(l.price)}H${plot.x + plot.width}`}
            strokeDasharray={l.dash}
          />
        ))}
        {studied.lines.map((l, k) => (
          <path key={k} d={line(l.values)} strokeWidth={l.width} strokeDasharray={l.dash} />
        ))}
        <path d={up} stroke="var(--up)" strokeWidth={1.2} />
        <path d={down} fill="var(--down)" stroke="var(--down)" strokeWidth={1} />
      </g>
    </g>
  );
});

/** A candle body; a flat one is still a line. */
export const box = (cx: number, half: number, a: number, b: number): string =>
  `M${cx - half} ${a}H${cx + half}V${Math.abs(a - b) < 1 ? a + 1 : b}H${cx - half}Z`;

'use client';

import { memo, useId, useRef, useState } from 'react';
import { multiplierOfSymbol } from '@/core/instruments';
import type { DrawnLevel } from '@/core/market';
import { riskPerShare } from '@/core/orders';
import { useSession } from '../client';
import { useSettings } from '../settings';
import { DrawnStyle } from './DrawnStyle';
import { drawingsOf } from './drawn';
import type { Frame } from './frame';
import { drawnItem, type Item, levelItem, wideEnough } from './items';
import { Shape } from './Shape';
import type { Candle } from './useChartData';

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

const NO_LEVELS: Readonly<Record<string, DrawnLevel>> = {};
/** Levels and drawings of a symbol above its candles: each can be moved, styled, copied and taken away. */
export const DrawLayer = memo(function DrawLayer(p: Props) {
  const { symbol, width, height } = p;
  const levels = useSession((s) => s.desk?.levels[symbol]) ?? NO_LEVELS;
  const since = useSession((s) => s.clock?.dates[0]);
  const list = useSettings((s) => drawingsOf(s.drawings, symbol, since));
  const perR = useSession((s) => {
    const trade = s.book?.trades.find((t) => t.symbol === symbol && t.status === 'open');
    return trade ? riskPerShare(trade, multiplierOfSymbol(trade.symbol)) : null;
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
      {one && <DrawnStyle item={one} symbol={symbol} done={() => setChosen(null)} />}
    </>
  );
});

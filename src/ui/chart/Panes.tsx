'use client';

import { memo } from 'react';
import type { Frame } from './frame';
import type { Studied } from './studies';

/** Height of a pane in pixels. */
export const PANE = 46;

/** Studies with a scale of their own, below the candles; drawn again only when a candle closes. */
export const Panes = memo(function Panes({
  panes,
  frame,
  width,
  from,
  end,
}: {
  panes: Studied['panes'];
  frame: Frame;
  width: number;
  from: number;
  end: number;
}) {
  const { plot } = frame;
  return panes.map((p) => {
    const shown = p.values.slice(from, end);
    const known = shown.filter((v) => v !== null);
    const low = p.low ?? Math.min(...known);
    const high = p.high ?? Math.max(...known);
    const y = (v: number) => PANE - 4 - ((v - low) / Math.max(1e-9, high - low)) * (PANE - 16);
    const path = shown.reduce<string>(
      (d, v, k) => (v === null ? d : `${d}${d ? 'L' : 'M'}${frame.x(from + k)} ${y(v)}`),
      '',
    );
    const last = known[known.length - 1];
    return (
      <div key={p.name} className="relative border-t border-line" style={{ height: PANE }}>
        <svg width={width} height={PANE} aria-hidden>
          {p.marks.map((m) => (
            <path
              key={m}
              d={`M${plot.x} ${y(m)}H${plot.x + plot.width}`}
              stroke="var(--line)"
              strokeDasharray="3 3"
            />
          ))}
          <path d={path} fill="none" stroke="var(--quiet)" strokeWidth={1.3} />
        </svg>
        <p className="num absolute top-0 left-3 text-[12px] text-quiet">
          {p.name} <span className="text-text">{last === undefined ? '–' : p.say(last)}</span>
        </p>
      </div>
    );
  });
});

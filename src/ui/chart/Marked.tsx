'use client';

import type { Frame } from './frame';

/** A price with its name across the plot. Each kind has its own place for the name, so that two near each other are read. */
export function Marked({
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

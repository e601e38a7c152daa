'use client';

import { toDollars } from '@/core/units';
import { useSession } from '../client';
import { px } from '../format';
import { startDrag, stepBy } from '../trade/drag';
import { spread } from '../trade/spread';
import { lineColour, type OrderLine } from '../trade/trade-view';
import type { Frame } from './frame';

/** Height of a label, in pixels. */
const LABEL = 18;
/** The lines of orders; labels of those that stand near each other are read one below the other. */
export function OrderLines({
  lines,
  frame,
  priceAt,
}: {
  lines: readonly OrderLine[];
  frame: Frame;
  priceAt: (x: number, y: number) => number;
}) {
  const { plot } = frame;
  const seen = lines.filter((l) => {
    const y = frame.y(l.price);
    return y >= plot.y - 1 && y <= plot.y + plot.height + 1;
  });
  const places = spread(
    seen.map((l) => ({ at: frame.y(l.price) - plot.y, size: LABEL })),
    plot.height,
    1,
  );
  return lines.map((l) => {
    const k = seen.indexOf(l);
    return (
      <Line
        key={l.id}
        line={l}
        frame={frame}
        priceAt={priceAt}
        aside={k < 0 ? 0 : (places[k] ?? 0) + plot.y - frame.y(l.price)}
      />
    );
  });
}

function Line({
  line,
  frame,
  priceAt,
  aside,
}: {
  line: OrderLine;
  frame: Frame;
  /** How far its label stands below it. */
  aside: number;
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
        y={y - 9 + aside}
        width={wide}
        height={LABEL}
        rx={2}
        fill="var(--panel)"
        stroke={colour}
      />
      <text
        x={plot.x + plot.width - wide + 3}
        y={y + 4 + aside}
        fill={colour}
        fontSize={12}
        fontFamily="var(--font-mono)"
      >
        {label}
      </text>
    </g>
  );
}

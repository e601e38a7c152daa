import { extensions, measured, retracements } from '@/core/drawings';
import type { PricePoint } from '@/core/market';
import { roundToTick } from '@/core/units';
import { px, signed } from '../format';
import type { Frame } from './frame';
import type { Item } from './items';

interface Label {
  x: number;
  y: number;
  text: string;
  end?: boolean;
}
/** The outline of something drawn, in pixels. */
export function outline(
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

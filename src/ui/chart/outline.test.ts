import fc from 'fast-check';
import type { PricePoint } from '@/core/market';
import type { Frame } from './frame';
import type { Item } from './items';
import { outline } from './outline';

const frame: Frame = {
  x: (i) => 10 * i,
  y: (p) => 1_000 - p / 100,
  priceAt: (y) => (1_000 - y) * 100,
  plot: { x: 0, y: 0, width: 500, height: 1_000 },
  step: 10,
};
const about = { frame, minutes: 1, perR: 1_000, right: 500 };
const item = (kind: Item['kind'], points: PricePoint[], text = ''): Item => ({
  key: 'one',
  kind,
  points,
  text,
  colour: 'quiet',
  dashed: false,
  id: 1,
});
const spots = (points: PricePoint[]): [number, number][] =>
  points.map((p) => [frame.x(p.at / 60_000), frame.y(p.price)]);
const drawn = (i: Item) => outline(i, spots([...i.points]), about);
/** The numbers of a path's first line. */
const ends = (path: string) => (path.match(/-?[\d.]+(e-?\d+)?/g) ?? []).slice(0, 4).map(Number);

const point = fc.record({
  at: fc.integer({ min: 0, max: 50 }).map((m) => m * 60_000),
  price: fc.integer({ min: 10_000, max: 90_000 }),
});

test('a ray begins at its first point and goes through the second to the edge; a trend line crosses the whole plot through both', () => {
  fc.assert(
    fc.property(point, point, (a, b) => {
      fc.pre(a.at < b.at);
      const [[xa, ya], [xb, yb]] = spots([a, b]) as [[number, number], [number, number]];
      const through = (line: number[]) => {
        const [x0, y0, x1, y1] = line as [number, number, number, number];
        const at = (x: number) => y0 + ((y1 - y0) * (x - x0)) / (x1 - x0);
        expect(at(xa)).toBeCloseTo(ya, 4);
        expect(at(xb)).toBeCloseTo(yb, 4);
        return [x0, x1];
      };
      fc.pre(xa < 500);
      expect(through(ends(drawn(item('ray', [a, b])).path))).toEqual([xa, 500]);
      expect(through(ends(drawn(item('trend', [a, b], 'trend 1')).path))).toEqual([0, 500]);
    }),
  );
});

test('a retracement has a line and a price for each ratio; an extension needs its third point', () => {
  const move = [
    { at: 0, price: 50_000 },
    { at: 600_000, price: 60_000 },
  ];
  const { labels } = drawn(item('fibonacci', move));
  expect(labels.map((l) => l.text)).toEqual([
    '0.0 % · 6.00',
    '23.6 % · 5.76',
    '38.2 % · 5.62',
    '50.0 % · 5.50',
    '61.8 % · 5.38',
    '78.6 % · 5.21',
    '100.0 % · 5.00',
  ]);
  expect(labels.map((l) => l.y)).toEqual([...labels.map((l) => l.y)].sort((a, b) => a - b));
  expect(drawn(item('extension', move)).labels).toEqual([]);
  expect(drawn(item('extension', [...move, { at: 900_000, price: 57_000 }])).labels[2]?.text).toBe(
    '100.0 % · 6.70',
  );
});

test('a distance is said in dollars, percent, R and candles, beside it where there is room', () => {
  const [label] = drawn(
    item('measure', [
      { at: 0, price: 50_000 },
      { at: 300_000, price: 52_000 },
    ]),
  ).labels;
  expect(label?.text).toBe('+0.20 · +4.00% · +2.00R · 5 candles');
  expect(label?.end).toBeUndefined();
  const [far] = drawn(
    item('measure', [
      { at: 2_400_000, price: 52_000 },
      { at: 2_900_000, price: 50_000 },
    ]),
  ).labels;
  expect([far?.end, far?.text.startsWith('−0.20')]).toEqual([true, true]);
});

import fc from 'fast-check';
import { joinBars, priceRange, priceTicks, splitForming } from './candles.ts';

const bar = (minute: number, open: number, high: number, low: number, close: number) => ({
  start: minute * 60_000,
  open,
  high,
  low,
  close,
  volume: 100,
  turnover: 100 * close,
});

test('minutes join into five-minute candles on the clock, and empty intervals make none', () => {
  const bars = [
    bar(570, 10, 14, 9, 12),
    bar(573, 12, 20, 11, 13),
    bar(574, 13, 13, 5, 6),
    bar(585, 7, 8, 7, 8),
  ];
  expect(joinBars(bars, 5).map((c) => [c.start / 60_000, c.open, c.high, c.low, c.close, c.volume])).toEqual([
    [570, 10, 20, 5, 6, 300],
    [585, 7, 8, 7, 8, 100],
  ]);
  expect(bars[0]?.high).toBe(14);
});

test('the candle that is still forming is kept apart from those that are over', () => {
  const bars = [bar(570, 10, 14, 9, 12), bar(575, 12, 15, 12, 15), bar(576, 15, 16, 14, 14)];
  const at577 = splitForming({ bars, formingFrom: 577 * 60_000 }, 5);
  expect(at577.closed.map((c) => c.start / 60_000)).toEqual([570]);
  expect(at577.partial).toMatchObject({ open: 12, high: 16, low: 12, close: 14 });
  expect(splitForming({ bars, formingFrom: 580 * 60_000 }, 5).partial).toBeNull();
  expect(splitForming({ bars, formingFrom: 577 * 60_000 }, 1)).toEqual({ closed: bars, partial: null });
});

test('the axis shows every price that it must, with a margin, and round ticks inside it', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 100, max: 5_000_000 }), { minLength: 2, maxLength: 20 }),
      fc.integer({ min: 3, max: 12 }),
      (prices, count) => {
        const candles = prices.map((p, i) => bar(i, p, p, p, p));
        const [low, high] = priceRange(candles, [prices[0] as number]);
        expect(low).toBeLessThan(Math.min(...prices));
        expect(high).toBeGreaterThan(Math.max(...prices));
        const ticks = priceTicks([low, high], count);
        expect(ticks.length).toBeLessThanOrEqual(count + 1);
        for (const t of ticks) expect(t >= Math.floor(low) && t <= Math.ceil(high)).toBe(true);
      },
    ),
  );
});

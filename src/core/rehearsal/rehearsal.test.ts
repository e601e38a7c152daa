import fc from 'fast-check';
import { createRandom, normal, uniform } from '../sim/index.ts';
import { daysToTell, intervalOf, meanOf } from '../statistics/index.ts';
import { differenceOf, figuresOf, groupsOf, type RehearsedTrade, spreadOf } from './index.ts';

const trade = (day: number, r: number, over: Partial<RehearsedTrade> = {}): RehearsedTrade => ({
  day,
  symbol: 'VULPN',
  side: 'long',
  pressedAt: 34_199_000,
  enteredAt: 34_200_000,
  leftAt: 34_260_000,
  price: 50_000,
  shares: 100,
  r,
  gross: r * 1_000 + 50,
  costs: 50,
  slippage: 20,
  risk: 1_000,
  open: false,
  ...over,
});

// By hand.
test('the figures of six trades', () => {
  const f = figuresOf(
    [1, -1, -1, 2, -0.5, 1].map((r, k) => trade(k, r)),
    10,
  );
  expect(f).toMatchObject({ trades: 6, days: 10, winRate: 0.5, drawdown: 2, interval: null });
  expect(f.average).toBeCloseTo(0.25, 12);
  expect(f.profitFactor).toBeCloseTo(4 / 2.5, 12);
  expect(f.worstRow).toEqual({ trades: 2, r: -2 });
  expect(f.expectancy).toBeCloseTo(250, 9);
  expect(f.costs).toBeCloseTo(0.05, 12);
  expect([f.slippage, f.held]).toEqual([0.02, 60_000]);
  expect(figuresOf([], 5)).toMatchObject({ trades: 0, profitFactor: null, drawdown: 0, interval: null });
});

// Source: the definition of a 95 % interval. Skewed results (many small losses, a few large gains), days with none, one or several trades.
test('of intervals from many rehearsals about nineteen in twenty hold what is true', () => {
  const r = createRandom(11, 'coverage');
  let held = 0;
  const TIMES = 160;
  for (let k = 0; k < TIMES; k++) {
    const days = Array.from({ length: 40 }, () => {
      const count = Math.floor(uniform(r) * 4);
      // All trades of a day share some luck.
      const luck = 0.4 * normal(r);
      let sum = 0;
      for (let n = 0; n < count; n++) sum += luck + (uniform(r) < 0.3 ? 2.5 : -1) + 0.3 * normal(r);
      return { sum, count };
    });
    const truth = 0.3 * 2.5 - 0.7;
    const i = intervalOf(days);
    if (i && i.low <= truth && truth <= i.high) held++;
  }
  expect(held / TIMES).toBeGreaterThan(0.9);
  expect(held / TIMES).toBeLessThan(0.99);
});

// Source: W. Gosset's t for normal values; 2.045 is its 97.5 % quantile at 29 degrees of freedom.
test('for normal values the interval is that of the textbook', () => {
  const r = createRandom(5, 'normal');
  const days = Array.from({ length: 30 }, () => ({ sum: 0.2 + normal(r), count: 1 }));
  const { mean, error } = meanOf(days);
  const i = intervalOf(days);
  expect(i?.low).toBeCloseTo(mean - 2.045 * error, 1);
  expect(i?.high).toBeCloseTo(mean + 2.045 * error, 1);
});

// Source: n = ((z₀.₉₇₅ + z₀.₈) σ ∕ δ)²: half a standard deviation takes 32 (J. Cohen, Statistical Power Analysis, 1988: 34 with t).
test('how many days it takes to tell two variants apart', () => {
  expect(daysToTell(0.5, 1)).toBe(32);
  expect(daysToTell(-0.25, 1)).toBe(126);
  expect(daysToTell(0, 1)).toBeNull();
});

test('the same twice has no difference; one that is better by the same each day is surely better; order does not matter', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -3, max: 5, noNaN: true }), { minLength: 10, maxLength: 40 }),
      (rs) => {
        const a = rs.map((r, k) => trade(k, r));
        const same = differenceOf(a, a, rs.length);
        expect([same.mean, same.interval, same.needs]).toEqual([0, null, null]);
        const better = a.map((t) => ({ ...t, r: t.r + 0.5 + 0.01 * (t.day % 2) }));
        const d = differenceOf(better, a, rs.length);
        expect(d.interval && d.interval.low > 0.4 && d.interval.high < 0.6).toBe(true);
        expect(differenceOf(a, better, rs.length).mean).toBeCloseTo(-d.mean, 9);
      },
    ),
    { numRuns: 25 },
  );
});

test('every result lies in exactly one bar, and gains never beside losses', () => {
  const results = fc.array(
    fc.integer({ min: -40_000, max: 90_000 }).map((x) => x / 128),
    { maxLength: 40 },
  );
  fc.assert(
    fc.property(results, results, (a, b) => {
      const bins = spreadOf([a, b]);
      expect(bins.length).toBeLessThanOrEqual(34);
      for (const [h, rs] of [a, b].entries()) {
        const count = (some: typeof bins) => some.reduce((n, x) => n + (x.counts[h] as number), 0);
        expect(count(bins)).toBe(rs.length);
        expect(count(bins.filter((x) => x.from < 0))).toBe(rs.filter((r) => r < 0).length);
        const top = bins[bins.length - 1]?.from ?? 0;
        expect(count(bins.filter((x) => x.from === top))).toBe(rs.filter((r) => r >= top).length);
      }
    }),
  );
  // As many as two years of executions hold.
  expect(spreadOf([Array.from({ length: 300_000 }, (_, k) => k % 2)])).toEqual([
    { from: 0, counts: [150_000] },
    ...Array.from({ length: 9 }, () => ({ from: expect.any(Number), counts: [0] })),
    { from: 1, counts: [150_000] },
  ]);
});

test('groups hold all trades once; the sum of their results is the whole', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(5), fc.integer({ min: -3, max: 5 }))), (of) => {
      const trades = of.map(([day, r], k) => trade(day, r, { symbol: 'ABC'[k % 3] as string }));
      const groups = groupsOf(trades, (t) => t.symbol);
      expect(groups.reduce((n, g) => n + g.trades, 0)).toBe(trades.length);
      expect(groups.reduce((n, g) => n + g.trades * g.average, 0)).toBeCloseTo(
        trades.reduce((n, t) => n + t.r, 0),
        9,
      );
    }),
  );
  const [one] = groupsOf([trade(0, 1), trade(1, 3)], () => 'all');
  expect(one).toMatchObject({ trades: 2, winRate: 1, average: 2 });
  expect(one?.error).toBeCloseTo(1, 12);
});

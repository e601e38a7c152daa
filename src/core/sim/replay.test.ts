import fc from 'fast-check';
import { at, FULL_DAY, MINUTE, REGULAR_OPEN } from '../units/index.ts';
import {
  type BarRow,
  createMarket,
  leastVolume,
  minutesOf,
  ownScenario,
  printsOf,
  stepMarket,
  tapeOf,
} from './index.ts';
import { createRandom } from './random.ts';

/** Bars as files have them: prices on the cent, open and close within high and low. */
const prices = fc
  .tuple(
    fc.integer({ min: 150, max: 900 }),
    fc.nat(40),
    fc.double({ min: 0, max: 1, noNaN: true }),
    fc.double({ min: 0, max: 1, noNaN: true }),
  )
  .map(([low, range, o, c]) => ({
    low: low * 100,
    high: (low + range) * 100,
    open: (low + Math.round(range * o)) * 100,
    close: (low + Math.round(range * c)) * 100,
  }));
const bar: fc.Arbitrary<BarRow> = fc
  .tuple(prices, fc.integer({ min: 0, max: 60_000 }), fc.nat(400))
  .map(([p, volume, m]) => ({
    ...p,
    start: REGULAR_OPEN + (m % 390) * MINUTE,
    volume: volume === 0 ? 0 : Math.max(leastVolume(p), volume),
  }));

const summed = (list: readonly { price: number; qty: number }[]) => ({
  open: list[0]?.price,
  high: Math.max(...list.map((p) => p.price)),
  low: Math.min(...list.map((p) => p.price)),
  close: list[list.length - 1]?.price,
  volume: list.reduce((a, p) => a + p.qty, 0),
});

test('the trades of an imported bar honour its open, high, low, close and volume, in order and inside their minute', () => {
  fc.assert(
    fc.property(bar, fc.nat(), (b, seed) => {
      const list = printsOf(b, seed);
      if (b.volume === 0) return expect(list).toEqual([]);
      const { start, ...wanted } = b;
      expect(summed(list)).toEqual(wanted);
      const times = list.map((p) => p.at);
      expect(times).toEqual([...times].sort((x, y) => x - y));
      expect([
        Math.min(...times) >= start,
        Math.max(...times) < start + MINUTE,
        list.every((p) => p.qty > 0),
      ]).toEqual([true, true, true]);
    }),
    { numRuns: 500 },
  );
});

test('a daily bar spread over the session adds up to itself', () => {
  fc.assert(
    fc.property(prices, fc.integer({ min: 100, max: 5_000_000 }), fc.nat(), (p, volume, seed) => {
      const rows = minutesOf({ ...p, volume }, FULL_DAY, createRandom(seed, 'minutes'));
      expect({
        open: rows[0]?.open,
        close: rows[rows.length - 1]?.close,
        high: Math.max(...rows.map((r) => r.high)),
        low: Math.min(...rows.map((r) => r.low)),
        volume: rows.reduce((a, r) => a + r.volume, 0),
      }).toEqual({ ...p, volume });
      for (const r of rows)
        expect([
          r.low <= r.open,
          r.open <= r.high,
          r.low <= r.close,
          r.close <= r.high,
          r.volume >= leastVolume(r),
        ]).toEqual(Array(5).fill(true));
    }),
    { numRuns: 150 },
  );
});

test('a day of one’s own plays those bars through a full book, also those that end at a midpoint', () => {
  const minutes: BarRow[] = Array.from({ length: 30 }, (_, k) => {
    const open = 50_000 + 100 * ((k * 7) % 11);
    const close = 50_000 + 100 * (((k + 1) * 7) % 11);
    return {
      start: at(9, 30) + k * MINUTE,
      open,
      close,
      high: Math.max(open, close) + 350,
      low: Math.min(open, close) - 250,
      volume: 900 + 700 * k,
    };
  });
  const m = createMarket(
    ownScenario(
      {
        id: 'x',
        title: 'x',
        symbols: [{ symbol: 'ACMEK', days: [{ date: '2027-05-04', minutes, daily: null }] }],
      },
      0,
      null,
    ),
  );
  const tape = tapeOf(m, 'ACMEK');
  while (stepMarket(m, at(20)) >= 0);
  minutes.forEach((b, k) => {
    const i = 330 + k;
    expect([tape.barOpen[i], tape.barHigh[i], tape.barLow[i], tape.barClose[i], tape.barVolume[i]]).toEqual([
      b.open,
      b.high,
      b.low,
      b.close,
      b.volume,
    ]);
  });
});

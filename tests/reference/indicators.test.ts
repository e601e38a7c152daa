// Source: the package technicalindicators 3.1.0 (VWAP by typical price; EMA seeded with the SMA; ATR after Wilder).
import fc from 'fast-check';
import { ATR, EMA, ROC, RSI, SMA, VWAP } from 'technicalindicators';
import {
  atrOf,
  boardTrade,
  createBoard,
  emaLine,
  factsOf,
  fieldOf,
  fieldValue,
  rsiLine,
  smaLine,
  vwapBands,
  vwapLine,
} from '@/core/market';
import { at, FULL_DAY } from '@/core/units';
import { sampleStock } from '../sample';

const prices = fc.array(fc.integer({ min: 10_000, max: 900_000 }), { minLength: 30, maxLength: 120 });

test('EMA agrees with the library from its first value on', () => {
  fc.assert(
    fc.property(prices, fc.integer({ min: 2, max: 20 }), (values, period) => {
      const theirs = EMA.calculate({ period, values });
      const ours = emaLine(values, period).slice(period - 1);
      ours.forEach((v, i) => {
        expect(v).toBeCloseTo(theirs[i] as number, 5);
      });
    }),
  );
});

test('SMA and RSI agree with the library from their first value on', () => {
  fc.assert(
    fc.property(prices, fc.integer({ min: 2, max: 20 }), (values, period) => {
      smaLine(values, period)
        .slice(period - 1)
        .forEach((v, i) => {
          expect(v).toBeCloseTo(SMA.calculate({ period, values })[i] as number, 5);
        });
      // The library rounds to two places.
      const theirs = RSI.calculate({ period, values });
      rsiLine(values, period)
        .slice(period)
        .forEach((v, i) => {
          expect(Math.abs((v as number) - (theirs[i] as number))).toBeLessThan(0.011);
        });
    }),
  );
});

// Worked example: closes of a spreadsheet that is often copied in textbooks on Wilder's RSI (from memory): 70.46 after 14 changes, then 66.25.
test('RSI of the textbook’s closes', () => {
  const closes = [
    44.34, 44.09, 44.15, 43.61, 44.33, 44.83, 45.1, 45.42, 45.84, 46.08, 45.89, 46.03, 45.61, 46.28, 46.28,
    46.0,
  ];
  const [first, second] = rsiLine(closes, 14).slice(14);
  expect(first).toBeCloseTo(70.46, 1);
  expect(second).toBeCloseTo(66.25, 1);
});

// By hand, from the definition of a weighted standard deviation: 100 shares at 10 and 300 at 12 have mean 11.5 and deviation √0.75.
test('VWAP bands are one weighted standard deviation apart', () => {
  const [, last] = vwapBands([
    { volume: 100, turnover: 1_000 },
    { volume: 300, turnover: 3_600 },
  ]);
  expect(last?.vwap).toBeCloseTo(11.5, 9);
  expect(last?.deviation).toBeCloseTo(Math.sqrt(0.75), 9);
});

test('VWAP agrees with the library where every bar trades at one price, so that typical price is the price', () => {
  fc.assert(
    fc.property(prices, (values) => {
      const volume = values.map((v) => 1 + (v % 977));
      const theirs = VWAP.calculate({ high: values, low: values, close: values, volume });
      const ours = vwapLine(
        values.map((v, i) => ({ turnover: v * (volume[i] as number), volume: volume[i] as number })),
      );
      ours.forEach((v, i) => {
        expect(v).toBeCloseTo(theirs[i] as number, 5);
      });
    }),
  );
});

test('ATR after Wilder agrees with the library', () => {
  const bar = fc.tuple(
    fc.integer({ min: 10_000, max: 60_000 }),
    fc.integer({ min: 100, max: 9_000 }),
    fc.double({ min: 0, max: 1, noNaN: true }),
  );
  fc.assert(
    fc.property(
      fc.array(bar, { minLength: 20, maxLength: 80 }),
      fc.integer({ min: 2, max: 14 }),
      (rows, period) => {
        const bars = rows.map(([low, range, share]) => ({
          low,
          high: low + range,
          close: low + Math.round(range * share),
        }));
        const theirs = ATR.calculate({
          period,
          high: bars.map((b) => b.high),
          low: bars.map((b) => b.low),
          close: bars.map((b) => b.close),
        });
        expect(atrOf(bars, period)).toBeCloseTo(theirs[theirs.length - 1] as number, 4);
      },
    ),
  );
});

test('the fields that an indicator library has: distance from VWAP, and speed as its rate of change over minute closes', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 10_000, max: 90_000 }), { minLength: 17, maxLength: 60 }),
      (prices) => {
        const board = createBoard(1);
        const volume = prices.map((p) => 100 + (p % 900));
        prices.forEach((p, k) => {
          boardTrade(board, 0, at(8, k), p, volume[k] as number, FULL_DAY.close);
        });
        const now = at(8, prices.length - 1, 30);
        const view = {
          board,
          facts: factsOf([sampleStock()]),
          now,
          newsAt: Float64Array.of(Number.NaN),
          newsKind: new Uint8Array(1),
        };
        const value = (name: string) => fieldValue(fieldOf(name), view, 0);
        const last = prices[prices.length - 1] as number;
        const vwap = VWAP.calculate({ high: prices, low: prices, close: prices, volume }).pop() as number;
        expect(value('from vwap')).toBeCloseTo((last / vwap - 1) * 100, 6);
        for (const minutes of [1, 5, 15])
          expect(value(`speed ${minutes}m`)).toBeCloseTo(
            ROC.calculate({ period: minutes, values: prices }).pop() as number,
            6,
          );
      },
    ),
  );
});

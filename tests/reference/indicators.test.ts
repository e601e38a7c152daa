// Source: the package technicalindicators 3.1.0 (VWAP by typical price; EMA seeded with the SMA).
import fc from 'fast-check';
import { EMA, VWAP } from 'technicalindicators';
import { emaLine, vwapLine } from '@/core/market';

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

test('VWAP agrees with the library where every bar trades at one price, so that typical price is the price', () => {
  fc.assert(
    fc.property(prices, (values) => {
      const volume = values.map((v) => 1 + (v % 977));
      const theirs = VWAP.calculate({ high: values, low: values, close: values, volume });
      const ours = vwapLine(values.map((v, i) => ({ turnover: v * (volume[i] as number), volume: volume[i] as number })));
      ours.forEach((v, i) => {
        expect(v).toBeCloseTo(theirs[i] as number, 5);
      });
    }),
  );
});

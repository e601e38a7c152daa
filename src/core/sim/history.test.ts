import fc from 'fast-check';
import { sampleStock } from '../../../tests/sample.ts';
import { atrOf, trueRange } from '../market/index.ts';
import { isTradingDay, type Price } from '../units/index.ts';
import { dailyHistory, HISTORY_DAYS, practiceDay } from './index.ts';

test('a daily chart ends in the prior candle, is made of trading days, and has the ATR that every other place shows', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 5_000, max: 3_000_000 }),
      fc.double({ min: 0.01, max: 0.12, noNaN: true }),
      fc.double({ min: 0.5, max: 1.5, noNaN: true }),
      fc.double({ min: 0, max: 1, noNaN: true }),
      fc.string({ unit: fc.constantFrom(...'ABCDE'), minLength: 5, maxLength: 5 }),
      (close, range, own, share, symbol) => {
        const atr = Math.round(close * range) as Price;
        const low = Math.round(close - atr * own * share);
        const high = Math.round(low + atr * own);
        const x = sampleStock({
          symbol,
          priorClose: close as Price,
          priorLow: low as Price,
          priorHigh: Math.max(high, close) as Price,
          priorOpen: close as Price,
          atr,
        });
        const days = dailyHistory(x, '2027-03-09');
        expect(days).toHaveLength(HISTORY_DAYS);
        expect(days[HISTORY_DAYS - 1]).toMatchObject({
          date: '2027-03-08',
          high: x.priorHigh,
          low: x.priorLow,
          close: x.priorClose,
        });
        days.forEach((d, k) => {
          expect(isTradingDay(d.date)).toBe(true);
          expect(
            d.low <= Math.min(d.open, d.close) &&
              d.high >= Math.max(d.open, d.close) &&
              d.low > 0 &&
              d.volume > 0,
          ).toBe(true);
          if (k > 0) expect(d.date > (days[k - 1]?.date ?? '')).toBe(true);
        });
        // A tick of rounding a day at most, and a price cannot fall below nothing.
        const tick = days.some((d) => d.high >= 10_000) ? 100 : 1;
        const floored = days.some((d, k) => k > 0 && trueRange(d, days[k - 1]?.close ?? 0) > 0.55 * d.close);
        if (!floored)
          expect(Math.abs((atrOf(days) as number) - atr)).toBeLessThanOrEqual(2 * tick + atr * 0.002);
      },
    ),
    { numRuns: 60 },
  );
});

test('the same symbol and date give the same days', () => {
  const { symbols, date } = practiceDay('fresh-headlines', 3, 0, null, 20);
  const instrument = symbols[0]?.instrument;
  if (!instrument) throw new Error('a listed symbol was expected');
  expect(dailyHistory(instrument, date)).toEqual(dailyHistory({ ...instrument }, date));
  expect(dailyHistory({ ...instrument, symbol: 'OTHER' }, date)).not.toEqual(dailyHistory(instrument, date));
});

import fc from 'fast-check';
import type { Bar } from '@/core/market';
import { DAY, MINUTE, REGULAR_OPEN } from '@/core/units';
import { indexAt, timeAt } from './frame';
import { NO_STUDIES, readStudy, STUDY_KINDS, studied } from './studies';

const bar = (start: number, close: number, volume = 100): Bar => ({
  start,
  open: close,
  high: close + 200,
  low: close - 100,
  close,
  volume,
  turnover: close * volume,
});
const about = {
  minutes: 1,
  instrument: {
    priorHigh: 60_000,
    priorLow: 50_000,
    priorClose: 55_000,
    averageVolume: 1e6,
    premarketShare: 0.1,
  },
  premarketHigh: 61_000,
  premarketLow: null,
} as Omit<Parameters<typeof studied>[1], 'candles' | 'kept' | 'today'>;

test('VWAP is that of the whole day, averages are those of what is shown', () => {
  const candles = [bar(0, 50_000), bar(MINUTE, 52_000), bar(2 * MINUTE, 54_000)];
  const kept = [false, true, true];
  const s = studied(['vwap', 'sma 2'], { ...about, candles, kept, today: candles });
  expect(s.lines.map((l) => l.values)).toEqual([
    [51_000, 52_000],
    [null, 53_000],
  ]);
});

test('VWAP begins anew with each day, averages run on', () => {
  const candles = [bar(0, 50_000), bar(MINUTE, 52_000), bar(DAY, 60_000), bar(DAY + MINUTE, 62_000)];
  const s = studied(['vwap', 'sma 2'], { ...about, candles, kept: candles.map(() => true), today: [] });
  expect(s.lines.map((l) => l.values)).toEqual([
    [50_000, 51_000, 60_000, 61_000],
    [null, 51_000, 56_000, 61_000],
  ]);
});

test('the opening range is there once its minutes are over; a level that is not known is not drawn', () => {
  const candles = [0, 1, 2, 3, 4].map((m) => bar(REGULAR_OPEN + m * MINUTE, 50_000 + 1_000 * m));
  const kept = candles.map(() => true);
  const levels = (today: Bar[]) =>
    studied(['opening range 5', 'premarket'], { ...about, candles, kept, today }).levels.map((l) => [
      l.name,
      l.price,
    ]);
  expect(levels(candles.slice(0, 4))).toEqual([['pre-market high', 61_000]]);
  expect(levels(candles)).toEqual([
    ['5m range high', 54_200],
    ['5m range low', 49_900],
    ['pre-market high', 61_000],
  ]);
});

test('the usual volume of a day’s minutes adds up to what usually trades by then', () => {
  const candles = Array.from({ length: 390 }, (_, m) => bar(REGULAR_OPEN + m * MINUTE, 50_000));
  const s = studied(['usual volume'], { ...about, candles, kept: candles.map(() => true), today: candles });
  // Between 09:30 and 16:00: all but what comes before the open, a tenth here, and after the close, 3 % (core/market).
  expect((s.usual ?? []).reduce((a, v) => a + v, 0)).toBeCloseTo(870_000, 0);
});

test('a study reads as it is written, with the length that it has, or not at all', () => {
  for (const k of STUDY_KINDS)
    expect(readStudy(k.length === null ? k.word : `${k.word} 21`)).toEqual({
      word: k.word,
      length: k.length === null ? 0 : 21,
    });
  for (const text of ['ema 0', 'ema 1.5', 'ema 500', 'vwap 3', 'hull 9', ''])
    expect(readStudy(text)).toBeNull();
  const none = { ...about, candles: [], kept: [], today: [] };
  expect(studied(['hull 9', 'ema x'], none)).toEqual(NO_STUDIES);
});

test('a time among candles comes back as the time of its candle, gaps, before and beyond them too', () => {
  const starts = fc
    .uniqueArray(fc.integer({ min: 0, max: 400 }), { minLength: 1, maxLength: 60 })
    .map((ms) => ms.sort((a, b) => a - b).map((m) => ({ start: m * MINUTE })));
  fc.assert(
    fc.property(starts, fc.integer({ min: -50, max: 120 }), (candles, i) => {
      const at = timeAt(candles, 1, i);
      expect(indexAt(candles, 1, at)).toBeCloseTo(i, 6);
    }),
  );
});

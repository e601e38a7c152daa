// What is known to come, and what has just happened, is in the price of options: no more and no less.
import { sampleStock } from '../../../tests/sample.ts';
import { at, dateAfter, epochDay, type Price, price } from '../units/index.ts';
import { impliedFacts, impliedOn } from './implied-level.ts';
import { marketYears } from './market-time.ts';
import { newsDates, newsMove, usualVolatility } from './reports.ts';
import { surfaceOf, varianceUntil } from './surface.ts';

const BAND = { low: 0.35, high: 0.8 };
const DATE = '2027-03-09';
/** The first invented name whose next report after a date is some days away. */
function reporting(days: readonly [number, number]): { symbol: string; date: string } {
  for (let k = 0; k < 5_000; k++) {
    const symbol = `T${k}`;
    const [date] = newsDates(symbol, DATE, 300);
    if (date && date >= dateAfter(DATE, days[0]) && date <= dateAfter(DATE, days[1])) return { symbol, date };
  }
  throw new Error('no name reports then');
}
const listed = (symbol: string, over: { tier?: 1 | 2; float?: number; heat?: number } = {}) => {
  const { heat, ...rest } = over;
  const options = { ...impliedFacts(symbol, BAND.low, BAND.high, DATE), ...(heat ? { heat } : {}) };
  return { ...sampleStock({ symbol, priorClose: price(400_000) }), tier: 1 as const, ...rest, options };
};

test('a report is worth its own day’s variance from the expiry behind it on, and is in the volatility of a month', () => {
  const { symbol, date } = reporting([12, 25]);
  const x = listed(symbol);
  const usual = usualVolatility(x.options);
  const s = surfaceOf(x, DATE, at(11), x.priorClose);
  const until = (d: string) => varianceUntil(s, marketYears(DATE, at(11), d, at(16)));
  const [before, on] = [until(dateAfter(date, -1)), until(date)];
  // More than a usual day: what the report moves, and not much beside it.
  expect(on - before).toBeGreaterThan(newsMove(usual) ** 2);
  expect(on - before).toBeLessThan(newsMove(usual) ** 2 + (4 * usual * usual) / 252);
  const plain = impliedOn(symbol, BAND.low, BAND.high, epochDay(DATE));
  const month = x.options.iv ** 2 - plain ** 2;
  expect((month * 30) / 365).toBeCloseTo(newsMove(usual) ** 2, 9);
  const quiet = reporting([45, 80]).symbol;
  expect(listed(quiet).options.iv).toBe(impliedOn(quiet, BAND.low, BAND.high, epochDay(DATE)));
});

test('the day after a lively day, and the rest of the day of what moved far, are priced livelier, far expiries hardly', () => {
  const { symbol } = reporting([60, 80]);
  const variance = (x: ReturnType<typeof listed>, spot: number, days: number, ms = at(11)) =>
    varianceUntil(
      surfaceOf(x, DATE, ms, spot as Price),
      marketYears(DATE, ms, dateAfter(DATE, days), at(16)),
    );
  const calm = listed(symbol);
  const heated = listed(symbol, { heat: 1.5 });
  expect(variance(heated, 400_000, 0) / variance(calm, 400_000, 0)).toBeGreaterThan(1.5);
  expect(variance(heated, 400_000, 150) / variance(calm, 400_000, 150)).toBeLessThan(1.05);
  const small = listed(symbol, { tier: 2, float: 9_000_000 });
  const plain = variance(small, 400_000, 0);
  expect(variance(small, 520_000, 0) / plain).toBeGreaterThan(3);
  expect(variance(small, 280_000, 0) / plain).toBeGreaterThan(3);
  // Nothing of it is left at the close.
  expect(variance(small, 520_000, 0, at(16))).toBe(0);
});

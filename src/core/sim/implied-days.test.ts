import { marketYearsLeft, newsDates, newsMove, usualVolatility } from '../options/index.ts';
import { at, DAY, dateAfter, hoursOn } from '../units/index.ts';
import { carryOf, createMarket, practiceDay, standStill, stepMarket } from './index.ts';

const squared = (list: readonly number[]) => list.reduce((a, z) => a + z * z, 0) / list.length;

test('time that variance counts: 252 full days a year, nothing over a weekend, half a day less after an early close', () => {
  const left = (date: string, ms: number, expiry: string) => 252 * marketYearsLeft(date, ms, expiry);
  expect(Math.abs(left('2027-01-04', 0, '2028-01-03') - 252)).toBeLessThan(1.5);
  const close = (date: string) => hoursOn(date).close;
  // Friday's close to Monday's is a day like Monday's to Tuesday's.
  expect(left('2027-03-12', close('2027-03-12'), '2027-03-15')).toBeCloseTo(1, 9);
  expect(left('2027-03-13', at(12), '2027-03-15')).toBeCloseTo(1, 9);
  expect(left('2027-03-15', close('2027-03-15'), '2027-03-16')).toBeCloseTo(1, 9);
  expect(left('2027-11-24', close('2027-11-24'), '2027-11-26')).toBeLessThan(0.9);
  expect(left('2027-11-26', close('2027-11-26'), '2027-11-26')).toBe(0);
  let last = Number.POSITIVE_INFINITY;
  for (let ms = 0; ms < DAY; ms += 60_000) {
    const now = left('2027-03-12', ms, '2027-04-16');
    expect(now).toBeLessThanOrEqual(last);
    last = now;
  }
  // No jump at midnight.
  expect(left('2027-03-13', 0, '2027-04-16')).toBeCloseTo(last, 9);
});

test('who reports moves as far as options were priced for, up and down alike; everybody else as far as theirs say', () => {
  const reports: number[] = [];
  const large: number[] = [];
  for (let seed = 1; seed <= 6; seed++) {
    const first = practiceDay('quiet-day', seed, 0, null, 2_500);
    const m = createMarket(first);
    standStill(m);
    while (stepMarket(m, DAY) >= 0);
    const day = practiceDay('quiet-day', seed, 1, carryOf(m), 2_500);
    const market = createMarket(day, 1);
    standStill(market);
    while (stepMarket(market, market.dayStart + DAY) >= 0);
    const { closes } = carryOf(market);
    day.symbols.forEach((p, i) => {
      const x = p.instrument;
      if (!x.options || x.kind !== 'stock') return;
      if (newsDates(x.symbol, day.date, 0).length > 0) {
        const [jump] = p.jumps;
        if (p.jumps.length === 1 && jump && jump.at < at(9, 30))
          reports.push(jump.by / newsMove(usualVolatility(x.options)));
        return;
      }
      const ahead = newsDates(x.symbol, dateAfter(day.date, 1), 30).length > 0;
      const said = x.options.iv / Math.sqrt(252);
      if (x.tier === 1 && !ahead) large.push(((closes[i] as number) / x.priorClose - 1) / said);
    });
  }
  expect(reports.length).toBeGreaterThan(15);
  expect(Math.abs(reports.reduce((a, z) => a + z, 0) / reports.length)).toBeLessThan(0.6);
  expect(squared(reports)).toBeGreaterThan(0.5);
  expect(squared(reports)).toBeLessThan(1.6);
  expect(large.length).toBeGreaterThan(500);
  expect(squared(large)).toBeGreaterThan(0.8);
  expect(squared(large)).toBeLessThan(1.25);
});

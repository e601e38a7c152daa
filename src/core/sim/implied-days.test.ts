import { impliedOn, marketYearsLeft, newsDates, newsMove, usualVolatility } from '../options/index.ts';
import { at, DAY, dateAfter, epochDay, hoursOn } from '../units/index.ts';
import { carryOf, createMarket, practiceDay, standStill, stepMarket } from './index.ts';
import type { Phase } from './plan.ts';

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

test('the market’s moves and its own come to what a company’s options say; the market is as lively as those on the index; a busy day warms the next', () => {
  const first = createMarket(practiceDay('quiet-day', 3, 0, null, 900));
  standStill(first);
  while (stepMarket(first, DAY) >= 0);
  const carry = carryOf(first);
  const dayOf = (n: number, with_ = carry) => practiceDay('quiet-day', 3, n, with_, 900);
  const day = dayOf(1);
  const spread = (list: readonly Phase[], end: number) =>
    list.reduce((a, p, k) => a + (p.vol * p.vol * ((list[k + 1]?.from ?? end) - p.from)) / 60_000, 0);
  const said = (p: (typeof day.symbols)[number], date: string) => {
    const { band } = p.instrument.options as NonNullable<typeof p.instrument.options>;
    return impliedOn(p.instrument.symbol, band?.low ?? 0, band?.high ?? 0, epochDay(date));
  };
  const shares: number[] = [];
  day.symbols.forEach((p, i) => {
    if (!p.instrument.options?.band || p.instrument.kind !== 'stock' || p.jumps.length > 0) return;
    if ((carry.busy[i] ?? 0) > 1.5 || p.instrument.tier !== 1) return;
    // Of its own all but the night, which is 0.23 of it; sectors add half to the market.
    const own = (p.vol * p.vol * spread(p.phases, day.hours.end)) / 0.77;
    const market = p.beta * p.beta * 1.49 * spread(day.mood, day.hours.end);
    shares.push(((own + market) * 252) / said(p, day.date) ** 2);
  });
  expect(shares.length).toBeGreaterThan(100);
  const sorted = shares.sort((a, b) => a - b);
  expect(sorted[Math.floor(sorted.length / 2)]).toBeCloseTo(1, 1);
  expect(sorted[Math.floor(sorted.length * 0.9)]).toBeLessThan(1.15);

  const later = dayOf(40);
  const index = (d: typeof day) =>
    d.symbols.find((p) => p.instrument.kind === 'index stand-in') as (typeof d.symbols)[number];
  const livelier = spread(later.mood, later.hours.end) / spread(day.mood, day.hours.end);
  expect(livelier).toBeCloseTo((said(index(later), later.date) / said(index(day), day.date)) ** 2, 6);
  expect(Math.abs(livelier - 1)).toBeGreaterThan(0.02);

  const k = day.symbols.findIndex(
    (p) => p.instrument.options && p.instrument.tier === 1 && p.jumps.length === 0,
  );
  const busy = carry.busy.slice();
  busy[k] = 5;
  const [calm, warm] = [dayOf(1), dayOf(1, { ...carry, busy })].map(
    (d) => d.symbols[k] as (typeof d.symbols)[number],
  );
  const wider = ((warm?.vol ?? 0) / (calm?.vol ?? 1)) ** 2;
  expect(wider).toBeGreaterThan(1.3);
  expect(warm?.instrument.options?.heat).toBeCloseTo(wider - 1, 6);
});

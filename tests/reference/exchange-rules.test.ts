import { getHolidays } from 'nyse-holidays';
import {
  at,
  FULL_DAY,
  fromDollars,
  HALF_DAY,
  holidayOn,
  hoursOn,
  isTradingDay,
  nextTradingDay,
} from '@/core/units';
import { bandsOf, LULD, lowestShortPrice, restrictsShorts } from '@/core/venue';

// Source: the package nyse-holidays 1.2.0 (full-day holidays by the NYSE's rules).
test('the exchange’s holidays are those of another calendar, for ten years', () => {
  for (let year = 2022; year <= 2031; year++) {
    const theirs = getHolidays(year)
      .map((h) => h.dateString)
      .filter((d) => d.startsWith(String(year)))
      .sort();
    const ours: string[] = [];
    for (let date = `${year - 1}-12-31`; ; ) {
      const next = dayAfter(date);
      if (next > `${year}-12-31`) break;
      if (holidayOn(next)) ours.push(next);
      date = next;
    }
    expect([year, ours]).toEqual([year, theirs]);
  }
});

/** The next calendar day, by the language's own calendar. */
const dayAfter = (date: string): string =>
  new Date(Date.parse(`${date}T00:00:00Z`) + 86_400_000).toISOString().slice(0, 10);

// Source: NYSE, "Holidays & Trading Hours": early closes at 13:00 on 3 July 2025, 28 November 2025, 24 December 2025 and
// 27 November and 24 December 2026 (from memory).
test('early closes', () => {
  for (const d of ['2025-07-03', '2025-11-28', '2025-12-24', '2026-11-27', '2026-12-24'])
    expect([d, hoursOn(d)]).toEqual([d, HALF_DAY]);
  for (const d of ['2025-07-02', '2026-07-02', '2025-12-26', '2027-12-24'])
    expect([d, hoursOn(d)]).toEqual([d, FULL_DAY]);
  expect([isTradingDay('2027-12-24'), nextTradingDay('2027-11-24'), nextTradingDay('2027-11-26')]).toEqual([
    false,
    '2027-11-26',
    '2027-11-29',
  ]);
});

// Source: National Market System Plan to Address Extraordinary Market Volatility (limit up–limit down); figures from memory.
test.each([
  [5, 2, at(10), 4.5, 5.5],
  [5, 1, at(10), 4.75, 5.25],
  [2, 2, at(10), 1.6, 2.4],
  [0.9, 2, at(10), 0.72, 1.08],
  [0.5, 2, at(10), 0.35, 0.65],
  [0.1, 2, at(10), 0.025, 0.175],
  [5, 2, at(15, 40), 4.5, 5.5],
  [5, 1, at(15, 40), 4.5, 5.5],
  [2, 2, at(15, 40), 1.2, 2.8],
] as const)('bands around $%f, tier %i', (reference, tier, now, lower, upper) => {
  expect(bandsOf(fromDollars(reference), tier, now, FULL_DAY)).toEqual({
    lower: fromDollars(lower),
    upper: fromDollars(upper),
  });
  expect([LULD.limitState, LULD.pause]).toEqual([15_000, 300_000]);
});

// Source: Regulation SHO, Rule 201 (17 CFR 242.201): a fall of 10 % or more from the prior close; then only above the best bid.
test('the short-sale restriction', () => {
  expect([
    restrictsShorts(90_000, 100_000),
    restrictsShorts(90_001, 100_000),
    restrictsShorts(80_000, 100_000),
  ]).toEqual([true, false, true]);
  expect([lowestShortPrice(fromDollars(5)), lowestShortPrice(fromDollars(0.5))]).toEqual([
    fromDollars(5.01),
    fromDollars(0.5001),
  ]);
});

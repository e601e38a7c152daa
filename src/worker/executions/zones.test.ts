import fc from 'fast-check';
import { at, DAY, dateAfter } from '../../core/units/index.ts';
import { placer, utcOf } from './zones.ts';

// Clocks in New York went forward on 2027-03-14 at 02:00 and go back on 2027-11-07 (Energy Policy Act of 2005); in London on 2027-03-28 and 2027-10-31.
test('the same moment in New York, whichever side of the change of clocks', () => {
  const utc = placer('UTC');
  expect(utc('2027-03-12', at(14, 31))).toEqual({ date: '2027-03-12', at: at(9, 31) });
  expect(utc('2027-03-15', at(13, 31))).toEqual({ date: '2027-03-15', at: at(9, 31) });
  expect(utc('2027-03-16', at(3))).toEqual({ date: '2027-03-15', at: at(23) });
  // Between the two changes London is four hours ahead, not five.
  expect(placer('Europe/London')('2027-03-19', at(13, 30))).toEqual({ date: '2027-03-19', at: at(9, 30) });
  expect(placer('Europe/London')('2027-04-02', at(14, 30))).toEqual({ date: '2027-04-02', at: at(9, 30) });
});

test('a time that clocks skipped is none; a zone that is none is named', () => {
  expect(placer('America/New_York')('2027-03-14', at(2, 30))).toBeNull();
  expect(placer('America/New_York')('2027-03-14', at(3, 30))).toEqual({ date: '2027-03-14', at: at(3, 30) });
  expect(() => placer('Mars/Olympus')).toThrow(/Mars\/Olympus.*no time zone/);
});

test('what goes out in universal time comes back the same, on every day of years', () => {
  const utc = placer('UTC');
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 1_500 }),
      fc.integer({ min: 4 * 3_600_000, max: DAY - 1 }),
      (day, ms) => {
        const date = dateAfter('2026-01-01', day);
        const there = utcOf(date, ms);
        expect(utc(there.date, there.at)).toEqual({ date, at: ms });
      },
    ),
  );
});

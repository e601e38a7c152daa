import fc from 'fast-check';
import { freeMoney } from '../../../tests/model/free-money.ts';
import { sampleStock } from '../../../tests/sample.ts';
import type { OptionContract } from '../instruments/index.ts';
import {
  at,
  daysBetween,
  hoursOn,
  nextTradingDay,
  PRICE_SCALE,
  type Price,
  price,
  roundToTick,
} from '../units/index.ts';
import {
  american,
  chainMoment,
  classOf,
  contractGreeks,
  expiriesOn,
  impliedYear,
  isStrike,
  makersQuote,
  RATE,
  strikesAround,
  strikesListed,
  surfaceOf,
  termsOf,
  varianceUntil,
  yearsLeft,
} from './index.ts';

/** A company with options, anywhere the invented market has them, at any moment of a regular session. */
const under = fc
  .record({
    dollars: fc.double({ min: 0.8, max: 500, noNaN: true }),
    volume: fc.integer({ min: 50_000, max: 40_000_000 }),
    low: fc.double({ min: 0.1, max: 1.6, noNaN: true }),
    wide: fc.double({ min: 1.3, max: 3.2, noNaN: true }),
    mood: fc.double({ min: 0, max: 1, noNaN: true }),
    symbol: fc.constantFrom('VULPN', 'ORBNT', 'BRYXT', 'FOXID', 'LUMEK', 'GOFIT'),
    date: fc.constantFrom('2027-03-09', '2027-03-12', '2027-03-19', '2027-11-26', '2028-02-29'),
    minute: fc.integer({ min: 0, max: 389 }),
    moved: fc.double({ min: 0.5, max: 1.8, noNaN: true }),
    tier: fc.constantFrom<1 | 2>(1, 2),
  })
  .map(({ dollars, volume, low, wide, mood, symbol, date, minute, moved, tier }) => {
    const close = roundToTick(dollars * PRICE_SCALE);
    const mid = close * moved;
    const bid = roundToTick(mid * 0.9985, 'down');
    return {
      listing: {
        ...sampleStock({ symbol }),
        priorClose: close,
        averageVolume: volume,
        tier,
        options: { iv: low * wide ** mood, ivLow: low, ivHigh: low * wide },
      },
      date,
      ms: Math.min(at(9, 30) + minute * 60_000, hoursOn(date).close - 1),
      bid,
      ask: roundToTick(Math.max(bid + 1, mid * 1.0015), 'up'),
    };
  });

test('there is no free money in a chain: verticals, butterflies, calendars, conversions and exercise', () => {
  fc.assert(
    fc.property(under, (u) => {
      expect(freeMoney(u)).toBeLessThan(1e-6);
    }),
    { numRuns: 40 },
  );
});

test('the volatility that a chain shows gives the middle of the quote back; none where no volatility does', () => {
  fc.assert(
    fc.property(under, fc.nat(), (u, pick) => {
      const m = chainMoment(u);
      const expiries = expiriesOn(u.date, classOf(u.listing).weeklies);
      const expiry = expiries[pick % expiries.length] as string;
      const strikes = strikesListed(u.listing, u.date, expiry);
      const strike = strikes[(pick >> 4) % strikes.length] as Price;
      const right = pick % 2 === 0 ? 'call' : 'put';
      const c: OptionContract = { kind: 'option', root: u.listing.symbol, expiry, right, strike };
      const q = makersQuote(c, m);
      const middle = ((q.bid ?? 0) + (q.ask as number)) / 2;
      const { iv, vega } = contractGreeks(c, m, q.bid, q.ask);
      // What exercise brings, of a call at its end, discounted.
      const least =
        right === 'call'
          ? m.spot - strike * Math.exp(-RATE * yearsLeft(u.date, u.ms, expiry))
          : strike - m.spot;
      if (iv === null) return expect(middle).toBeLessThanOrEqual(Math.max(0, least) + 1e-3 * strike);
      const away = Math.abs(american(termsOf(c, m), iv) - middle) / PRICE_SCALE;
      // A tenth of a point of volatility, and what American prices are good to.
      expect(away).toBeLessThanOrEqual(0.1 * vega + (2e-4 * strike) / PRICE_SCALE);
    }),
    { numRuns: 300 },
  );
});

test('variance rises with time, by more where something is known to come', () => {
  fc.assert(
    fc.property(under, (u) => {
      const s = surfaceOf(u.listing, u.date, u.ms, (u.bid + u.ask) / 2);
      let last = 0;
      for (let days = 1; days < 290; days += 3) {
        const v = varianceUntil(s, days / 365);
        expect(v).toBeGreaterThan(last);
        last = v;
      }
      expect(s.wings * s.wings * (1 + Math.abs(s.skew))).toBeLessThanOrEqual(4);
    }),
  );
});

// Source: third Fridays and the holidays of the exchange, by hand. Good Friday of 2028 is 14 April, its third Friday 21 April.
test('expiries: Fridays, third Fridays of the cycle, the day before where the exchange is closed', () => {
  expect(expiriesOn('2027-03-09', false)).toEqual(['2027-03-19', '2027-04-16', '2027-06-17', '2027-09-17']);
  const weekly = expiriesOn('2027-03-09', true);
  // Good Friday of 2027 is 26 March.
  expect(weekly.slice(0, 6)).toEqual([
    '2027-03-12',
    '2027-03-19',
    '2027-03-25',
    '2027-04-02',
    '2027-04-09',
    '2027-04-16',
  ]);
  expect(expiriesOn('2027-03-12', true)[0]).toBe('2027-03-12');
  expect(expiriesOn('2027-03-13', true)[0]).toBe('2027-03-19');
  for (let date = '2027-01-04', k = 0; k < 260; k++, date = nextTradingDay(date))
    for (const e of expiriesOn(date, true)) expect(daysBetween(date, e)).toBeLessThanOrEqual(280);
});

test('strikes stand around the price, each one that can be listed, nearer where much trades', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 8_000, max: 6_000_000 }),
      fc.double({ min: 0.01, max: 1.5, noNaN: true }),
      fc.boolean(),
      (around, deviation, dense) => {
        const list = strikesAround(around, deviation, dense);
        expect(list).toEqual([...new Set(list)].sort((a, b) => a - b));
        expect(list.every((s) => isStrike(s, dense))).toBe(true);
        expect(list.filter((s) => s > around).length).toBeGreaterThanOrEqual(5);
        expect(list.length).toBeLessThanOrEqual(61);
      },
    ),
  );
  const dollars = (around: number, dense: boolean) =>
    strikesAround(price(around * PRICE_SCALE), 0.01, dense).map((s) => s / PRICE_SCALE);
  expect(dollars(6, false)).toEqual([3, 3.5, 4, 4.5, 5, 6, 7, 8, 9, 10, 11]);
  expect(dollars(48.2, true)).toEqual([44, 45, 46, 47, 48, 49, 50, 51, 52, 53]);
});

test('implied volatility lives through the year between its low and high, by small steps', () => {
  const year = impliedYear('VULPN', 0.4, 1.2, '2027-03-09').map((w) => w.iv);
  expect(year.length).toBe(53);
  expect(Math.min(...year)).toBeGreaterThanOrEqual(0.4);
  expect(Math.max(...year)).toBeLessThanOrEqual(1.2);
  expect(Math.max(...year) / Math.min(...year)).toBeGreaterThan(1.3);
  expect(impliedYear('VULPN', 0.4, 1.2, '2027-03-16').slice(0, -1)).toEqual(
    impliedYear('VULPN', 0.4, 1.2, '2027-03-09').slice(1),
  );
});

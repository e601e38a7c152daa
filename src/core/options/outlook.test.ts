import { sampleStock } from '../../../tests/sample.ts';
import { createRandom, normal } from '../sim/random.ts';
import { at, price } from '../units/index.ts';
import { chainMoment, contractGreeks, makersQuote, outlookOf, pitchOf, RATE, worthAt } from './index.ts';

const m = chainMoment({
  listing: {
    ...sampleStock({ symbol: 'VULPN', priorClose: price(480_000), averageVolume: 3_000_000 }),
    options: { iv: 0.45, ivLow: 0.3, ivHigh: 0.7 },
  },
  date: '2027-03-09',
  ms: at(11),
  bid: 479_900,
  ask: 480_100,
});

// By hand: a put vertical of 45/40 sold at 1.20 makes 1.20, loses 3.80, and is even at 43.80.
test('most, least and breakeven of verticals and single options, by hand', () => {
  const sold = outlookOf('VULPN 2027-04-16 45/40 put', -1, 12_000, m);
  expect(sold).toMatchObject({ most: 12_000, least: 38_000, even: [438_000] });
  const bought = outlookOf('VULPN 2027-04-16 48/53 call', 1, 20_000, m);
  expect(bought).toMatchObject({ most: 30_000, least: 20_000, even: [500_000], half: null });
  expect(outlookOf('VULPN 2027-04-16 50 call', 1, 15_000, m)).toMatchObject({
    most: null,
    least: 15_000,
    even: [515_000],
  });
  expect(outlookOf('VULPN 2027-04-16 45 put', -1, 10_000, m)).toMatchObject({
    most: 10_000,
    least: 440_000,
    even: [440_000],
  });
  // Whoever has the other side of it wins what this one loses.
  const other = outlookOf('VULPN 2027-04-16 45/40 put', 1, 12_000, m);
  expect((sold?.profit ?? 0) + (other?.profit ?? 0)).toBeCloseTo(1, 10);
});

test('a vertical is quoted narrower than its legs one by one, and within them; theta is what a day takes', () => {
  const leg = (strike: number) => ({
    kind: 'option' as const,
    root: 'VULPN',
    expiry: '2027-04-16',
    right: 'put' as const,
    strike: price(strike * 10_000),
  });
  const [dear, cheap] = [makersQuote(leg(45), m), makersQuote(leg(40), m)];
  const both = pitchOf('VULPN 2027-04-16 45/40 put', m);
  const apart = { bid: (dear.bid ?? 0) - (cheap.ask ?? 0), ask: (dear.ask ?? 0) - (cheap.bid ?? 0) };
  expect(both.bid).toBeGreaterThanOrEqual(apart.bid);
  expect(both.ask).toBeLessThanOrEqual(apart.ask);
  expect((both.ask ?? 0) - (both.bid ?? 0)).toBeLessThan(0.9 * (apart.ask - apart.bid));
  const g = contractGreeks(leg(45), m, null, null);
  const [years, vol] = [38.2 / 365, g.iv as number];
  const one = [{ sign: 1 as const, way: -1 as const, strike: 450_000, volatility: vol }];
  const day = (worthAt(one, m.spot, years - 1 / 365) - worthAt(one, m.spot, years)) / 10_000;
  expect(g.theta / day).toBeGreaterThan(0.85);
  expect(g.theta / day).toBeLessThan(1.15);
});

// Source: simulation of the lognormal distribution, 40,000 paths of 120 steps (standard error 0.0025); 1 − |delta| as a rule of thumb (common practice).
test('probability of profit and of half the credit are those of many simulated paths', () => {
  const name = 'VULPN 2027-04-16 45/40 put';
  const credit = pitchOf(name, m).fair;
  const o = outlookOf(name, -1, credit, m);
  if (!o) throw new Error('no outlook');
  const r = createRandom(5, 'paths');
  const [paths, steps] = [40_000, 120];
  const mean = o.legs.reduce((a, l) => a + l.volatility, 0) / o.legs.length;
  const dt = o.years / steps;
  // Where it is worth half, at each step, by bisection.
  const half = Array.from({ length: steps }, (_, k) => {
    let [low, high] = [o.spot * 0.3, o.spot * 3];
    for (let n = 0; n < 50; n++) {
      const mid = (low + high) / 2;
      if (worthAt(o.legs, mid, Math.max(1e-9, o.years - (k + 1) * dt)) > credit / 2) low = mid;
      else high = mid;
    }
    return high;
  });
  let [wins, halves] = [0, 0];
  for (let n = 0; n < paths; n++) {
    let [x, reached] = [o.spot, false];
    for (let k = 0; k < steps; k++) {
      x *= Math.exp((RATE - (mean * mean) / 2) * dt + mean * Math.sqrt(dt) * normal(r));
      if (x >= (half[k] as number)) reached = true;
    }
    if (x > (o.even[0] as number)) wins++;
    if (reached) halves++;
  }
  expect(Math.abs(o.profit - wins / paths)).toBeLessThan(0.02);
  expect(Math.abs((o.half ?? 0) - halves / paths)).toBeLessThan(0.02);
  expect(o.half).toBeGreaterThan(o.profit - 0.02);
});

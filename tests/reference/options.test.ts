// Source: @quantlib/ql 0.3.6 (a build of QuantLib in JavaScript) for European prices, greeks and American prices on a
// binomial tree; worked examples of J. C. Hull, Options, Futures, and Other Derivatives, and E. G. Haug, The Complete
// Guide to Option Pricing Formulas (from memory); put–call parity and bounds after R. C. Merton (1973).
import {
  Actual360,
  AmericanExercise,
  BinomialVanillaEngine,
  BlackCalculator,
  BlackConstantVol,
  BlackScholesMertonProcess,
  CoxRossRubinstein,
  CumulativeNormalDistribution,
  DateExt,
  FlatForward,
  Handle,
  Option,
  PlainVanillaPayoff,
  Settings,
  SimpleQuote,
  TARGET,
  VanillaOption,
  type YieldTermStructure,
} from '@quantlib/ql';
import fc from 'fast-check';
import {
  american,
  americanGreeks,
  americanVolatility,
  european,
  europeanGreeks,
  impliedVolatility,
  type Terms,
  type Way,
} from '@/core/options';
import { exp, ln, normal } from '@/core/options/elementary';

const between = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const way = fc.constantFrom<Way>(1, -1);
/** Terms with a volatility. */
const terms = fc
  .record({
    way,
    spot: between(1, 500),
    moneyness: between(-0.7, 0.7),
    years: between(1 / 365, 2),
    rate: between(0, 0.1),
    dividend: fc.oneof(fc.constant(0), between(0, 0.08)),
    volatility: between(0.05, 2.5),
  })
  .map(({ moneyness, volatility, ...o }) => ({
    o: { ...o, strike: o.spot * Math.exp(moneyness) } satisfies Terms,
    volatility,
  }));

const theirs = (o: Terms, volatility: number) => {
  const forward = o.spot * Math.exp((o.rate - o.dividend) * o.years);
  return new BlackCalculator().init2(
    o.way === 1 ? Option.Type.Call : Option.Type.Put,
    o.strike,
    forward,
    volatility * Math.sqrt(o.years),
    Math.exp(-o.rate * o.years),
  );
};

test('exponential, logarithm and the normal distribution are those of the machine and of the library', () => {
  const their = new CumulativeNormalDistribution();
  fc.assert(
    fc.property(between(-700, 700), between(-8, 8), (x, z) => {
      expect(exp(x) / Math.exp(x)).toBeCloseTo(1, 14);
      expect(ln(Math.exp(x))).toBeCloseTo(x, 11);
      expect(normal(z)).toBeCloseTo(their.f(z), 14);
    }),
    { numRuns: 2_000 },
  );
  // Tails by their relative size: Mathematica's values (from memory of published tables).
  expect(normal(-10) / 7.619853024160527e-24).toBeCloseTo(1, 13);
  expect(normal(-30) / 4.906713927148187e-198).toBeCloseTo(1, 12);
  expect([exp(0), exp(-800), exp(800), ln(1), ln(0)]).toEqual([1, 0, Infinity, 0, -Infinity]);
});

test('European prices and greeks are those of the library', () => {
  fc.assert(
    fc.property(terms, ({ o, volatility }) => {
      const [ours, b] = [europeanGreeks(o, volatility), theirs(o, volatility)];
      const near = (a: number, z: number, scale: number) =>
        expect(Math.abs(a - z) / scale).toBeLessThan(1e-10);
      near(ours.price, b.value(), o.spot);
      near(ours.delta, b.delta(o.spot), 1);
      near(ours.gamma * o.spot, b.gamma(o.spot) * o.spot, 1 + ours.gamma * o.spot);
      near(ours.vega, b.vega(o.years), o.spot);
      near(ours.rho, b.rho(o.years), o.spot);
      near(ours.theta, b.theta(o.spot, o.years), o.spot * (1 + Math.abs(ours.theta)));
      expect(european(o, volatility)).toBe(ours.price);
    }),
    { numRuns: 1_000 },
  );
});

test('worked examples of the textbooks', () => {
  const hull = (w: Way): Terms => ({ way: w, spot: 42, strike: 40, years: 0.5, rate: 0.1, dividend: 0 });
  expect(european(hull(1), 0.2)).toBeCloseTo(4.759422, 6);
  expect(european(hull(-1), 0.2)).toBeCloseTo(0.808599, 6);
  // Haug: an index put at 95 on 100, three months to go, 10 % interest, 5 % yield, 20 % volatility.
  expect(
    european({ way: -1, spot: 100, strike: 95, years: 0.5, rate: 0.1, dividend: 0.05 }, 0.2),
  ).toBeCloseTo(2.4648, 4);
  // The American put of Hull's example, and that of F. Longstaff and E. Schwartz (2001).
  expect(american({ way: -1, spot: 50, strike: 50, years: 5 / 12, rate: 0.1, dividend: 0 }, 0.4)).toBeCloseTo(
    4.283,
    2,
  );
  // With 50 exercises a year theirs is 4.478; at any time it is a little more.
  const simulated = american({ way: -1, spot: 36, strike: 40, years: 1, rate: 0.06, dividend: 0 }, 0.2);
  expect(simulated).toBeGreaterThan(4.478);
  expect(simulated).toBeLessThan(4.49);
});

test('implied volatility is found to 1e-9 wherever the price says it', () => {
  fc.assert(
    fc.property(terms, ({ o, volatility }) => {
      const { price, vega } = europeanGreeks(o, volatility);
      // What of the price is time value has to have digits enough to tell.
      fc.pre(vega * 1e-9 > 4 * Number.EPSILON * Math.max(price, Math.abs(o.spot - o.strike)));
      expect(Math.abs((impliedVolatility(o, price) ?? 0) - volatility)).toBeLessThan(1e-9);
    }),
    {
      numRuns: 3_000,
      examples: [
        [
          {
            o: { way: 1, spot: 100, strike: 419.5, years: 0.0026, rate: 0.01, dividend: 0 },
            volatility: 0.83,
          },
        ],
      ],
    },
  );
  const o: Terms = { way: 1, spot: 10, strike: 8, years: 0.1, rate: 0.04, dividend: 0 };
  const least = 10 - 8 * Math.exp(-0.004);
  expect([0, 2, least, 10, 11, Number.NaN].map((price) => impliedVolatility(o, price))).toEqual(
    Array(6).fill(null),
  );
});

/** The library's American price on a tree; its years are days of a year of 360. */
function onTree(o: Terms, volatility: number, steps: number): number {
  const today = DateExt.UTC('9,March,2027');
  Settings.evaluationDate.set(today);
  const flat = (x: number) =>
    new Handle(
      new FlatForward().ffInit3(0, new TARGET(), new Handle(new SimpleQuote(x)), new Actual360()),
    ) as unknown as Handle<YieldTermStructure>;
  const vol = new BlackConstantVol().bcvInit4(
    0,
    new TARGET(),
    new Handle(new SimpleQuote(volatility)),
    new Actual360(),
  );
  const option = new VanillaOption(
    new PlainVanillaPayoff(o.way === 1 ? Option.Type.Call : Option.Type.Put, o.strike),
    new AmericanExercise().aeInit1(today, DateExt.add(today, Math.round(o.years * 360))),
  );
  const process = new BlackScholesMertonProcess(
    new Handle(new SimpleQuote(o.spot)),
    flat(o.dividend),
    flat(o.rate),
    new Handle(vol),
  );
  option.setPricingEngine(new BinomialVanillaEngine(new CoxRossRubinstein()).bveInit(process, steps));
  return option.NPV();
}

test.each<[string, Terms, number]>([
  ['a put of two months', { way: -1, spot: 42, strike: 40, years: 60 / 360, rate: 0.1, dividend: 0 }, 0.2],
  ['the textbook put', { way: -1, spot: 42, strike: 40, years: 0.5, rate: 0.1, dividend: 0 }, 0.2],
  ['deep in the money', { way: -1, spot: 8, strike: 10, years: 0.25, rate: 0.045, dividend: 0 }, 0.9],
  ['a week to go', { way: -1, spot: 5, strike: 5.5, years: 7 / 360, rate: 0.045, dividend: 0 }, 1.6],
  ['nine months', { way: -1, spot: 30, strike: 27.5, years: 0.75, rate: 0.04, dividend: 0 }, 0.6],
  [
    'a call on what pays a yield',
    { way: 1, spot: 48, strike: 45, years: 0.5, rate: 0.03, dividend: 0.06 },
    0.25,
  ],
  [
    'a put on what pays a yield',
    { way: -1, spot: 48, strike: 50, years: 0.5, rate: 0.05, dividend: 0.03 },
    0.3,
  ],
  [
    'a call on what pays none is the European one',
    { way: 1, spot: 42, strike: 40, years: 0.5, rate: 0.1, dividend: 0 },
    0.2,
  ],
])('American prices are within a tenth of a cent of a tree of 2,000 steps: %s', (_, o, volatility) => {
  expect(Math.abs(american(o, volatility) - onTree(o, volatility, 2_000))).toBeLessThan(1e-3);
});

test('an American price is at least the European one and exercise, rises with volatility and time, and is convex in strike', () => {
  fc.assert(
    fc.property(terms, ({ o, volatility }) => {
      const at = (change: Partial<Terms>, v = volatility) => american({ ...o, ...change }, v);
      const price = at({});
      const slack = 2e-5 * o.strike;
      expect(price).toBeGreaterThanOrEqual(
        Math.max(european(o, volatility), o.way * (o.spot - o.strike)) - 1e-12,
      );
      expect(price).toBeLessThanOrEqual(o.way === 1 ? o.spot : o.strike);
      expect(at({}, volatility * 1.1)).toBeGreaterThanOrEqual(price - slack);
      expect(at({ years: o.years * 1.2 })).toBeGreaterThanOrEqual(price - slack);
      const d = o.strike * 0.05;
      const [low, high] = [at({ strike: o.strike - d }), at({ strike: o.strike + d })];
      expect(low + high - 2 * price).toBeGreaterThanOrEqual(-2 * slack);
      expect(o.way * (low - high)).toBeGreaterThanOrEqual(-slack);
      expect(Math.abs(low - high)).toBeLessThanOrEqual(2 * d + slack);
    }),
    { numRuns: 400 },
  );
});

test('American greeks are the differences of prices, and the implied volatility leads back', () => {
  fc.assert(
    fc.property(terms, ({ o, volatility }) => {
      fc.pre(volatility >= 0.15);
      const g = americanGreeks(o, volatility);
      const at = (change: Partial<Terms>, v = volatility) => american({ ...o, ...change }, v);
      expect(g.price).toBeCloseTo(at({}), 10);
      const h = o.spot * volatility * Math.sqrt(o.years) * 1e-2;
      const [up, down] = [at({ spot: o.spot + h }), at({ spot: o.spot - h })];
      // Where it is exercised the price has an edge; differences across it say nothing.
      const exercised = (change: Partial<Terms>, v?: number) =>
        Math.abs(at(change, v) - o.way * ((change.spot ?? o.spot) - o.strike)) < 1e-4 * o.strike;
      fc.pre(!exercised({}) && !exercised({ spot: o.spot + h }) && !exercised({ spot: o.spot - h }));
      expect(Math.abs(g.delta - (up - down) / (2 * h))).toBeLessThan(1e-3);
      expect(Math.abs(g.gamma - (up - 2 * g.price + down) / (h * h)) * o.spot).toBeLessThan(
        1e-2 * (1 + g.gamma * o.spot),
      );
      const v = (at({}, volatility + 1e-3) - at({}, volatility - 1e-3)) / 2e-3;
      expect(Math.abs(g.vega - v)).toBeLessThan(2e-2 * o.spot * Math.sqrt(o.years) + 1e-3);
      const back = americanVolatility(o, g.price);
      if (g.vega > 1e-2 * o.spot) expect(Math.abs((back ?? 0) - volatility)).toBeLessThan(1e-5);
    }),
    { numRuns: 400 },
  );
});

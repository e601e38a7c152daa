// npm run bench:options: speed of the option prices, with @quantlib/ql on the same work in the same process.
import {
  Actual360,
  AmericanExercise,
  BinomialVanillaEngine,
  BlackCalculator,
  BlackConstantVol,
  BlackScholesMertonProcess,
  blackFormulaImpliedStdDev1,
  CoxRossRubinstein,
  DateExt,
  FlatForward,
  Handle,
  Option,
  PlainVanillaPayoff,
  Settings,
  SimpleQuote,
  TARGET,
  VanillaOption,
} from '@quantlib/ql';
import {
  american,
  americanGreeks,
  americanVolatility,
  european,
  europeanGreeks,
  impliedVolatility,
  type Terms,
} from '../src/core/options/index.ts';

const median = (runs: number, work: () => void): number =>
  Array.from({ length: runs }, () => {
    const t = performance.now();
    work();
    return performance.now() - t;
  }).sort((a, b) => a - b)[Math.floor(runs / 2)] as number;

const say = (what: string, value: string, beside = '') =>
  console.log(`${what.padEnd(66)} ${value.padStart(12)}  ${beside}`);

/** A chain of so many contracts: strikes on both sides of the money, expiries to nine months. */
const chain = (count: number): { o: Terms; volatility: number }[] =>
  Array.from({ length: count }, (_, k) => ({
    o: {
      way: k % 2 === 0 ? 1 : -1,
      spot: 48,
      strike: 24 + (k % 97) * 0.5,
      years: (3 + 7 * (k % 37)) / 365,
      rate: 0.04,
      dividend: 0,
    },
    volatility: 0.4 + 0.005 * (k % 60),
  }));
let sink = 0;

const some = chain(20_000);
const ours = median(9, () => {
  for (const { o, volatility } of some) sink += europeanGreeks(o, volatility).price;
});
const theirs = median(5, () => {
  for (const { o, volatility } of some) {
    const b = new BlackCalculator().init2(
      o.way === 1 ? Option.Type.Call : Option.Type.Put,
      o.strike,
      o.spot * Math.exp((o.rate - o.dividend) * o.years),
      volatility * Math.sqrt(o.years),
      Math.exp(-o.rate * o.years),
    );
    sink +=
      b.value() +
      b.delta(o.spot) +
      b.gamma(o.spot) +
      b.vega(o.years) +
      b.theta(o.spot, o.years) +
      b.rho(o.years);
  }
});
const perSecond = (ms: number, count = some.length) => `${(count / ms / 1_000).toFixed(2)} M/s`;
say(
  'European price and five greeks',
  perSecond(ours),
  `the library's closed form ${perSecond(theirs)}: ${(theirs / ours).toFixed(1)} times`,
);

const priced = some
  .map(({ o, volatility }) => ({ o, price: european(o, volatility), volatility }))
  .filter(({ o, price, volatility }) => price > 0.005 && europeanGreeks(o, volatility).vega > 0.01);
const implied = median(9, () => {
  for (const { o, price } of priced) sink += impliedVolatility(o, price) ?? 0;
});
const theirImplied = median(3, () => {
  for (const { o, price } of priced.slice(0, 4_000)) {
    const discount = Math.exp(-o.rate * o.years);
    sink += blackFormulaImpliedStdDev1(
      o.way === 1 ? Option.Type.Call : Option.Type.Put,
      o.strike,
      o.spot / discount,
      price,
      discount,
      0,
      undefined,
      1e-9,
      100,
    );
  }
});
say(
  'European implied volatility to 1e-9',
  perSecond(implied, priced.length),
  `the library's ${perSecond(theirImplied, Math.min(4_000, priced.length))}`,
);

const puts = chain(2_000).filter(({ o }) => o.way === -1);
const one = median(9, () => {
  for (const { o, volatility } of puts) sink += american(o, volatility);
});
const today = DateExt.UTC('9,March,2027');
Settings.evaluationDate.set(today);
const flat = (x: number) =>
  new Handle(
    new FlatForward().ffInit3(0, new TARGET(), new Handle(new SimpleQuote(x)), new Actual360()),
  ) as never;
const vol = new BlackConstantVol().bcvInit4(
  0,
  new TARGET(),
  new Handle(new SimpleQuote(0.5)),
  new Actual360(),
);
const option = new VanillaOption(
  new PlainVanillaPayoff(Option.Type.Put, 50),
  new AmericanExercise().aeInit1(today, DateExt.add(today, 90)),
);
const spot = new SimpleQuote(48);
const process_ = new BlackScholesMertonProcess(new Handle(spot), flat(0), flat(0.04), new Handle(vol));
option.setPricingEngine(new BinomialVanillaEngine(new CoxRossRubinstein()).bveInit(process_, 2_000));
let nudge = 0;
const tree = median(3, () => {
  spot.setValue(48 + ++nudge * 0.01);
  sink += option.NPV();
});
/** The same tree by plain arrays: the fairest rival. */
function plainTree(o: Terms, volatility: number, n: number): number {
  const dt = o.years / n;
  const up = Math.exp(volatility * Math.sqrt(dt));
  const p = (Math.exp((o.rate - o.dividend) * dt) - 1 / up) / (up - 1 / up);
  const df = Math.exp(-o.rate * dt);
  const spots = Float64Array.from({ length: 2 * n + 1 }, (_, i) => o.spot * up ** (i - n));
  const x = Float64Array.from({ length: n + 1 }, (_, i) => Math.max(0, o.strike - (spots[2 * i] as number)));
  for (let k = n - 1; k >= 0; k--)
    for (let i = 0; i <= k; i++) {
      const held = df * (p * (x[i + 1] as number) + (1 - p) * (x[i] as number));
      x[i] = Math.max(held, o.strike - (spots[2 * i + n - k] as number));
    }
  return x[0] as number;
}
const plain = median(9, () => {
  sink += plainTree({ way: -1, spot: 48, strike: 50, years: 0.25, rate: 0.04, dividend: 0 }, 0.5, 2_000);
});
const micro = (ms: number) => `${(ms * 1e3).toFixed(1)} µs`;
say(
  'American put',
  micro(one / puts.length),
  `a tree of 2,000 steps by plain arrays ${(plain * 1e3).toFixed(0)} µs: ${(plain / (one / puts.length)).toFixed(0)} times; the library's ${tree.toFixed(0)} ms (budget 100 times)`,
);

const whole = chain(2_000).map(({ o, volatility }) => ({ o, volatility, price: american(o, volatility) }));
say(
  'a chain of 2,000 American contracts with greeks and implied volatility',
  `${median(5, () => {
    for (const { o, volatility, price } of whole) {
      sink += americanGreeks(o, volatility).delta;
      sink += americanVolatility(o, price) ?? 0;
    }
  }).toFixed(0)} ms`,
  'budget 250 ms',
);
if (Number.isNaN(sink)) throw new Error('a price is not a number');

import { createMarket, demoDay, stepMarket, tapeOf } from '@/core/sim';
import { at, REGULAR_OPEN } from '@/core/units';

// Source: R. Cont, "Empirical properties of asset returns", Quantitative Finance 1 (2001): heavy tails and volatility
// clustering, no linear correlation of returns at lags of minutes. Whole-market checks come with the larger market.
test('minute returns have heavy tails, clustered size and next to no linear correlation', () => {
  const day = createMarket(demoDay(7));
  while (stepMarket(day, at(15, 59)) >= 0);
  const names = ['VULPN', 'ORBNT', 'TARNH', 'QUOLS', 'MIRLS', 'BRYXT', 'PIVTS'];
  const stats = names.map((symbol) => {
    const close = tapeOf(day, symbol).barClose.slice(REGULAR_OPEN / 60_000 - 240, 715);
    const r = Array.from(close.slice(1), (c, i) => Math.log(c / (close[i] as number)));
    const mean = r.reduce((a, b) => a + b, 0) / r.length;
    const x = r.map((v) => v - mean);
    const moment = (k: number) => x.reduce((a, v) => a + v ** k, 0) / x.length;
    const correlation = (list: number[], lag: number) => {
      const m = list.reduce((a, b) => a + b, 0) / list.length;
      const y = list.map((v) => v - m);
      return y.slice(lag).reduce((a, v, i) => a + v * (y[i] as number), 0) / y.reduce((a, v) => a + v * v, 0);
    };
    return { kurtosis: moment(4) / moment(2) ** 2, linear: correlation(x, 3), size: correlation(x.map(Math.abs), 3) };
  });
  const mean = (f: (s: (typeof stats)[number]) => number) => stats.reduce((a, s) => a + f(s), 0) / stats.length;
  expect(mean((s) => s.kurtosis)).toBeGreaterThan(3.5);
  expect(mean((s) => s.size)).toBeGreaterThan(0.05);
  expect(Math.abs(mean((s) => s.linear))).toBeLessThan(0.1);
});

import { createMarket, practiceDay, runAlone, stepMarket } from '@/core/sim';
import { AFTER_CLOSE, MINUTE, REGULAR_CLOSE, REGULAR_OPEN } from '@/core/units';

const scenario = practiceDay('crowded-open', 11, 0, null, 700);

/** Minute closes and volumes of a symbol's regular session; a minute without a trade keeps the price. */
function minutes(i: number): { closes: number[]; volumes: number[] } {
  const n = (REGULAR_CLOSE - REGULAR_OPEN) / MINUTE;
  const closes = new Array<number>(n).fill(0);
  const volumes = new Array<number>(n).fill(0);
  runAlone(scenario, i, REGULAR_CLOSE - 1, (h) => {
    const m = Math.floor((h.at - REGULAR_OPEN) / MINUTE);
    if (m < 0) return;
    closes[m] = h.price;
    volumes[m] = (volumes[m] as number) + h.qty;
  });
  for (let m = 1; m < n; m++) closes[m] ||= closes[m - 1] as number;
  return { closes: closes.filter((c) => c > 0), volumes };
}

const liquid = scenario.symbols
  .flatMap((s, i) => (s.instrument.averageVolume > 700_000 && s.instrument.priorClose > 30_000 ? [i] : []))
  .slice(0, 60);
const data = liquid.map(minutes);
const mean = (list: readonly number[]) => list.reduce((a, b) => a + b, 0) / list.length;

function stats(closes: readonly number[]) {
  const r = closes.slice(1).map((c, k) => Math.log(c / (closes[k] as number)));
  const x = r.map((v) => v - mean(r));
  const moment = (k: number) => mean(x.map((v) => v ** k));
  const correlation = (list: readonly number[], lag: number) => {
    const y = list.map((v) => v - mean(list));
    return y.slice(lag).reduce((a, v, k) => a + v * (y[k] as number), 0) / y.reduce((a, v) => a + v * v, 0);
  };
  return {
    kurtosis: moment(4) / moment(2) ** 2,
    linear: [2, 3, 5, 10].map((lag) => correlation(x, lag)),
    size: [1, 5, 10].map((lag) => correlation(x.map(Math.abs), lag)),
  };
}

// Source: R. Cont, "Empirical properties of asset returns: stylized facts and statistical issues", Quantitative Finance 1
// (2001): heavy tails (kurtosis above the normal's 3), no linear autocorrelation of returns beyond very short times,
// volatility that clusters (absolute returns stay correlated).
test('minute returns over sixty stocks: heavy tails, no linear autocorrelation at lags of minutes, clustered size', () => {
  expect(liquid.length).toBe(60);
  const all = data.map((d) => stats(d.closes));
  expect(mean(all.map((s) => s.kurtosis))).toBeGreaterThan(4);
  for (let k = 0; k < 4; k++)
    expect(Math.abs(mean(all.map((s) => s.linear[k] as number)))).toBeLessThan(0.05);
  const size = [0, 1, 2].map((k) => mean(all.map((s) => s.size[k] as number)));
  expect(size[0]).toBeGreaterThan(0.1);
  expect(Math.min(...size)).toBeGreaterThan(0.02);
});

// Source: P. Jain and G. Joh, "The dependence between hourly prices and trading volume", Journal of Financial and
// Quantitative Analysis 23 (1988): volume is highest after the open and before the close, lowest around midday.
test('volume is U-shaped through the session', () => {
  const part = (from: number, to: number) =>
    mean(data.map((d) => mean(d.volumes.slice(from, to)) / mean(d.volumes)));
  const [first, midday, last] = [part(0, 30), part(165, 225), part(360, 390)];
  expect(first).toBeGreaterThan(1.5 * midday);
  expect(last).toBeGreaterThan(1.5 * midday);
});

// Common practice: a day's volume is of the order of the 30-day average that the reference data states.
test('most companies trade about their usual volume', () => {
  const m = createMarket(scenario);
  while (stepMarket(m, AFTER_CLOSE) >= 0);
  const ratio = scenario.symbols
    .map((s, i) => (m.board.volume[i] as number) / s.instrument.averageVolume)
    .sort((a, b) => a - b);
  const median = ratio[Math.floor(ratio.length / 2)] as number;
  expect(median).toBeGreaterThan(0.6);
  expect(median).toBeLessThan(1.6);
});

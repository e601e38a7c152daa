import {
  auctionOf,
  createMarket,
  keepFloor,
  PRACTICE_DAYS,
  practiceDay,
  quoteOf,
  runAlone,
  type Scenario,
  stepMarket,
  tapeOf,
} from '@/core/sim';
import { at, MINUTE, REGULAR_CLOSE, REGULAR_OPEN, SECOND } from '@/core/units';
import {
  autocorrelation,
  correlation,
  deviation,
  mean,
  mids,
  outside,
  responseAfter,
  returns,
  sided,
  waitsVariation,
  watchDay,
} from '../model/tape.ts';
import { RULES, tapeOfDay } from '../model/zoo.ts';
import { createHand, ORDER_RULES, resultOf } from '../model/zoo-orders.ts';

// The whole table, over many seeds, is in docs/realism.md (`npm run realism`); these are its quick lines.

const isMover = (s: Scenario['symbols'][number]) => s.given === null && s.instrument.kind === 'stock';
const scenario = practiceDay('crowded-open', 31, 0, null, 400);
const symbolsOf = (test: (s: Scenario['symbols'][number]) => boolean, n: number) =>
  scenario.symbols
    .filter(test)
    .slice(0, n)
    .map((s) => s.instrument.symbol);
const movers = symbolsOf((s) => isMover(s) && s.rate > 0.4, 3);
const large = symbolsOf((s) => s.given !== null && s.instrument.tier === 1, 3);
const seen = watchDay(scenario, [...movers, ...large], REGULAR_CLOSE);
const over = (symbols: readonly string[], measure: (s: (typeof seen)[number]) => number) =>
  mean(seen.filter((s) => symbols.includes(s.symbol)).map(measure));

// Source: J.-P. Bouchaud, Y. Gefen, M. Potters and M. Wyart, Quantitative Finance 4 (2004), the response to a trade; F. Lillo and
// J. D. Farmer, Studies in Nonlinear Dynamics & Econometrics 8 (2004), the long memory of sides. Bands from memory.
test('prices move by trades: a print moves the mid for good, and its side has a long memory', () => {
  for (const group of [movers, large])
    for (const ms of [SECOND, MINUTE]) {
      const response = over(group, (s) => responseAfter(s, ms, REGULAR_CLOSE));
      expect(response).toBeGreaterThan(0.3);
      expect(response).toBeLessThan(1.2);
    }
  const side = (lag: number) =>
    over(movers, (s) =>
      autocorrelation(
        sided(s).map((p) => p.side),
        lag,
      ),
    );
  expect(side(1)).toBeGreaterThan(0.22);
  expect(side(1)).toBeLessThan(0.42);
  expect(side(50)).toBeGreaterThan(0.02);
});

// Source: Regulation NMS, Rule 611 (no trade through a protected quotation); R. Engle and J. Russell, Econometrica 66 (1998), waits
// that cluster; R. Cont, Quantitative Finance 1 (2001), absolute returns that stay correlated. Odd lots and quotes a print from memory.
test('every print lies within the quote that was public; arrivals and moves cluster; quotes change more often than prints', () => {
  expect(over([...movers, ...large], outside)).toBe(0);
  expect(over(movers, (s) => waitsVariation(s, at(10, 30), at(15)))).toBeGreaterThan(1.3);
  const minutes = (s: (typeof seen)[number]) =>
    returns(mids(s, MINUTE, REGULAR_OPEN + MINUTE, REGULAR_CLOSE)).map(Math.abs);
  expect(over(movers, (s) => autocorrelation(minutes(s), 1))).toBeGreaterThan(0.12);
  expect(over(large, (s) => s.quotes.length / s.prints.length)).toBeGreaterThan(6);
  expect(over(movers, (s) => s.quotes.length / s.prints.length)).toBeGreaterThan(1.5);
  const odd = over(movers, (s) => mean(s.prints.map((p) => (p.qty < 100 ? 1 : 0))));
  expect(odd).toBeGreaterThan(0.2);
  expect(odd).toBeLessThan(0.5);
});

/** Prices a minute of a symbol's first hour. */
function firstHour(day: Scenario, symbol: string, until: number = at(10, 30)): number[] {
  const out: number[] = [];
  let last = 0;
  let next: number = REGULAR_OPEN;
  runAlone(
    day,
    day.symbols.findIndex((s) => s.instrument.symbol === symbol),
    until,
    (h) => {
      for (; h.at >= next; next += MINUTE) if (last > 0) out.push(last);
      last = h.price;
    },
  );
  return out;
}

// A random walk: nothing that is the same in every variation of a day.
test('variations of a day differ as days do: paths of one company are not alike, the index has no way of its own', () => {
  const alike: number[] = [];
  let up = 0;
  let days = 0;
  for (const { id } of PRACTICE_DAYS) {
    const paths: number[][] = [];
    for (let seed = 60; seed < 64; seed++) {
      const day = practiceDay(id, seed, 0, null, 40);
      const path = firstHour(day, 'VULPN').slice(0, 55);
      if (path.length === 55) paths.push(path);
      const index = firstHour(day, 'FOXID', day.hours.close);
      days++;
      if ((index.at(-1) as number) > (index[1] as number)) up++;
    }
    for (const [k, a] of paths.entries()) for (const b of paths.slice(k + 1)) alike.push(correlation(a, b));
  }
  expect(Math.abs(mean(alike))).toBeLessThan(0.2);
  expect(up / days).toBeGreaterThan(0.25);
  expect(up / days).toBeLessThan(0.75);
});

const PAIRS = PRACTICE_DAYS.slice(0, 5).map(({ id }, k) => ({ id, seed: 70 + k }));
const overTwoErrors = (list: readonly number[]) =>
  mean(list) > (2.5 * deviation(list)) / Math.sqrt(list.length);

// Common practice: what everybody can see is in the price, so that a naive rule pays its costs.
test('no naive rule that takes earns, none before costs by much', () => {
  const found = new Map<string, number[]>();
  const listOf = (name: string) => {
    const list = found.get(name) ?? [];
    found.set(name, list);
    return list;
  };
  for (const { id, seed } of PAIRS) {
    const day = practiceDay(id, seed, 0, null, 90);
    day.symbols.forEach((s, i) => {
      if (!isMover(s)) return;
      const tape = tapeOfDay(day, i);
      for (const [name, rule] of Object.entries(RULES))
        for (const o of rule(tape)) if (o) listOf(name).push(o.by);
    });
  }
  expect(found.size).toBeGreaterThan(18);
  expect([...found].filter(([, list]) => overTwoErrors(list)).map(([name]) => name)).toEqual([]);
});

// Common practice: who knows what kind of day it is, and that news will come, knows no direction.
test('gaps and news even out: what is overnight or comes in the session is up as much as down', () => {
  const overnight: number[] = [];
  const later: number[] = [];
  for (const { id } of PRACTICE_DAYS)
    for (let seed = 0; seed < 40; seed++)
      for (const s of practiceDay(id, seed, 0, null, 80).symbols) {
        const before = s.jumps.filter((j) => j.at < REGULAR_OPEN).reduce((a, j) => a * (1 + j.by), 1);
        if (isMover(s)) overnight.push((1 + s.overnight) * before - 1);
        for (const j of s.jumps) if (j.at >= REGULAR_OPEN) later.push(j.by);
      }
  for (const list of [overnight, later]) {
    expect(list.length).toBeGreaterThan(2_000);
    expect(Math.abs(mean(list))).toBeLessThan((3 * deviation(list)) / Math.sqrt(list.length));
  }
});

// From an attack on the market: the forming cross once told the price of the close before it was made.
test('what the forming cross shows tells no more than the quote', () => {
  const gains: number[] = [];
  for (const { id, seed } of PAIRS) {
    const day = practiceDay(id, seed, 0, null, 60);
    for (const s of [...day.symbols.slice(0, 4), ...day.symbols.slice(14, 24)]) {
      const m = createMarket({ ...day, symbols: [s] });
      const { symbol } = s.instrument;
      keepFloor(m, symbol);
      while (stepMarket(m, day.hours.close - 90 * SECOND) >= 0);
      const { bid, ask } = quoteOf(m, symbol);
      const forming = auctionOf(m, symbol)?.price;
      while (stepMarket(m, day.hours.close) >= 0);
      const cross = tapeOf(m, symbol).recent.findLast((p) => p.condition === 'closing auction')?.price;
      if (!forming || !cross || !bid || !ask) continue;
      if (forming > ask) gains.push(cross / ask - 1);
      if (forming < bid) gains.push(1 - cross / bid);
    }
  }
  expect(overTwoErrors(gains)).toBe(false);
});

// Source: G. Huberman and W. Stanzl, Econometrica 72 (2004); J. Gatheral, Quantitative Finance 10 (2010): no round trip that earns.
test.each(Object.entries(ORDER_RULES))('with real orders, %s earns nothing', (_name, rule) => {
  const by = PAIRS.flatMap(({ id, seed }) => {
    const day = practiceDay(id, seed, 0, null, 60);
    return [day.symbols.find(isMover), day.symbols[10 + (seed % 20)]].flatMap((s) => {
      if (!s) return [];
      const hand = createHand({ ...day, symbols: [s] }, s.instrument.symbol, at(10));
      rule(hand, 6);
      return hand.traded > 0 ? [resultOf(hand).by] : [];
    });
  });
  expect(by.length).toBeGreaterThan(3);
  expect(overTwoErrors(by)).toBe(false);
});

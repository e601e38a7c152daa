import type { Bar } from '../market/index.ts';
import {
  type Hours,
  MINUTE,
  mix,
  PRICE_SCALE,
  type Price,
  REGULAR_OPEN,
  roundToTick,
  tickSize,
} from '../units/index.ts';
import { below, normal, type Random, uniform } from './random.ts';

/** One imported minute: its start as a time of day, prices in 1/10,000 dollar, shares. */
export interface BarRow extends Omit<Bar, 'turnover'> {
  /** The trades themselves, where they were imported. */
  trades?: readonly PlannedPrint[];
}

/** One trade of an imported day. */
export interface PlannedPrint {
  at: number;
  price: number;
  qty: number;
}

/** Fewest shares that can trade at all the prices of a bar: one at each. */
export const leastVolume = (b: Omit<BarRow, 'start' | 'volume'>): number => pathOf(b).length;

/** The prices a bar must touch, in an order that honours it: open, the nearer extreme first, close (common practice). */
function pathOf(b: Omit<BarRow, 'start' | 'volume'>): number[] {
  const turns = b.close >= b.open ? [b.open, b.low, b.high, b.close] : [b.open, b.high, b.low, b.close];
  return turns.filter((p, i) => i === 0 || p !== turns[i - 1]);
}

/**
 * The trades that make up one bar: they start at its open, touch its high and low, end at its
 * close, and their shares add up to its volume. The same bar and seed give the same trades.
 */
export function printsOf(bar: BarRow, seed: number): readonly PlannedPrint[] {
  if (bar.trades) return bar.trades;
  if (bar.volume <= 0) return [];
  const must = pathOf(bar);
  const tick = tickSize(bar.low as Price);
  const h = (k: number) => mix(seed + k, bar.start);
  const extra = Math.min(40, Math.max(0, Math.floor(bar.volume / 150) - must.length));
  const prices: number[] = [];
  const legs = Math.max(1, must.length - 1);
  must.forEach((p, i) => {
    prices.push(p);
    const to = must[i + 1];
    const between = i < legs ? Math.floor(extra / legs) : 0;
    for (let k = 1; k <= between; k++) {
      const target = p + (((to ?? p) - p) * k) / (between + 1);
      const shake = ((h(prices.length) % 5) - 2) * tick;
      prices.push(Math.max(bar.low, Math.min(bar.high, Math.round((target + shake) / tick) * tick)));
    }
  });
  if (bar.close !== prices[prices.length - 1]) prices.push(bar.close);
  const n = prices.length;
  let left = bar.volume;
  return prices.map((price, i) => {
    const rest = n - i - 1;
    const fair = left / (rest + 1);
    const rough = fair * (0.4 + (h(1000 + i) % 1000) / 833);
    const qty =
      rest === 0
        ? left
        : Math.max(1, Math.min(left - rest, rough > 150 ? Math.round(rough / 100) * 100 : Math.round(rough)));
    left -= qty;
    return { at: bar.start + Math.floor(((i + 0.2 + (h(2000 + i) % 600) / 1000) * MINUTE) / n), price, qty };
  });
}

/**
 * A daily bar spread over the minutes of its regular session: a random course drawn between open
 * and close and bent so that its highest and lowest prices are the bar's, with the usual U of
 * volume. Honours open, high, low, close and volume exactly.
 */
export function minutesOf(day: Omit<BarRow, 'start'>, hours: Hours, r: Random): BarRow[] {
  const whole = (hours.close - REGULAR_OPEN) / MINUTE;
  // A thin day trades in fewer minutes, so that each has shares for its prices.
  const n = Math.max(1, Math.min(whole, Math.floor(day.volume / 12)));
  const walk = [0];
  for (let k = 1; k <= n; k++) walk.push((walk[k - 1] as number) + normal(r));
  const end = walk[n] as number;
  const bridge = walk.map((v, k) => v - (end * k) / n);
  const top = Math.max(...bridge);
  const bottom = Math.min(...bridge);
  const line = (k: number) => day.open + ((day.close - day.open) * k) / n;
  const up = (v: number, k: number) =>
    v >= 0
      ? line(k) + (v / (top || 1)) * (day.high - line(k))
      : line(k) + (v / (bottom || -1)) * (day.low - line(k));
  const tick = day.low >= PRICE_SCALE ? tickSize(day.low as Price) : 1;
  const at = bridge.map((v, k) => Math.max(day.low, Math.min(day.high, Math.round(up(v, k) / tick) * tick)));
  at[0] = day.open;
  at[n] = day.close;
  const shares = Array.from(
    { length: n },
    (_, k) => (0.5 + uniform(r)) * (1 + 6 * ((k / n) * (k / n) - k / n + 0.25)),
  );
  const total = shares.reduce((a, b) => a + b, 0);
  const rows = shares.map((share, k): BarRow => {
    const [from, to] = [at[k] as number, at[k + 1] as number];
    return {
      start: REGULAR_OPEN + Math.floor((k * whole) / n) * MINUTE,
      open: from,
      close: to,
      high: Math.max(from, to),
      low: Math.min(from, to),
      volume: Math.floor((day.volume * share) / total),
    };
  });
  // What rounding has left goes to the busiest minute; the extremes are put where the course came nearest to them.
  const spare = day.volume - rows.reduce((a, b) => a + b.volume, 0);
  const busiest = rows.reduce((a, b) => (b.volume > a.volume ? b : a));
  busiest.volume += spare;
  const highest = rows.reduce((a, b) => (b.high > a.high ? b : a));
  const lowest = rows.reduce((a, b) => (b.low < a.low ? b : a));
  highest.high = day.high;
  lowest.low = day.low;
  return withTradableVolume(rows, busiest);
}

/** A minute with fewer shares than prices gives them to the busiest minute; what must not be lost is kept by lending from it. */
function withTradableVolume(rows: BarRow[], busiest: BarRow): BarRow[] {
  for (const row of rows) {
    const need = leastVolume(row);
    if (row === busiest || row.volume >= need) continue;
    busiest.volume -= need - row.volume;
    row.volume = need;
  }
  return rows;
}

/** The best prices around the next trade of an imported day: half a spread that grows with the bar's range. */
export function quoteAround(
  price: number,
  buys: boolean,
  range: number,
  r: Random,
  o: number,
): { bid: Price; ask: Price; bidSize: number; askSize: number } {
  const tick = tickSize(price as Price);
  const spread = Math.max(tick, Math.floor((range * 0.15 * uniform(r, o)) / tick) * tick);
  const bid = roundToTick(buys ? price - spread : price, 'down');
  const ask = roundToTick(buys ? price : price + spread, 'up');
  const size = () => 100 * (1 + below(r, 12, o));
  return { bid: Math.min(bid, ask - tick) as Price, ask, bidSize: size(), askSize: size() };
}

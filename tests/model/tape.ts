// What an onlooker can measure of the simulated market: quotes and prints of some symbols of a day, and figures of them.
import {
  createMarket,
  keepFloor,
  type Market,
  numberOf,
  quoteOf,
  type Scenario,
  stepMarket,
  tapeOf,
} from '@/core/sim';
import { REGULAR_OPEN, SECOND } from '@/core/units';

/** All that was public of one symbol: each change of the quote and each print, in their order. Prices in 1/10,000 dollar. */
export interface Seen {
  symbol: string;
  quotes: { at: number; bid: number; ask: number }[];
  prints: {
    at: number;
    price: number;
    qty: number;
    /** 1 bought, −1 sold, 0 an auction. */
    side: number;
    venue: string;
    /** The quote that was public before it. */
    bid: number;
    ask: number;
  }[];
}

/** Runs a day and writes down what it shows of some symbols. */
export function watchDay(scenario: Scenario, symbols: readonly string[], until: number): Seen[] {
  const m = createMarket(scenario);
  const watched = new Map<number, { seen: Seen; shown: Shown }>();
  for (const symbol of symbols) {
    keepFloor(m, symbol);
    const shown = shownOf(m, symbol);
    watched.set(numberOf(m, symbol), { seen: { symbol, quotes: [shown], prints: [] }, shown });
  }
  for (let i = stepMarket(m, until); i >= 0; i = stepMarket(m, until)) {
    const w = watched.get(i);
    if (!w) continue;
    if (m.printed === i) takePrint(m, w.seen, w.shown);
    const next = shownOf(m, w.seen.symbol);
    const same = next.bid === w.shown.bid && next.ask === w.shown.ask && next.sizes === w.shown.sizes;
    if (same) continue;
    w.seen.quotes.push(next);
    w.shown = next;
  }
  return [...watched.values()].map((w) => w.seen);
}

interface Shown {
  at: number;
  bid: number;
  ask: number;
  sizes: number;
}
function shownOf(m: Market, symbol: string): Shown {
  const q = quoteOf(m, symbol);
  return { at: m.now, bid: q.bid ?? 0, ask: q.ask ?? 0, sizes: q.bidSize + q.askSize * 4096 };
}

/** Without the trader a step makes one print at most. */
function takePrint(m: Market, s: Seen, { bid, ask }: Shown): void {
  const p = tapeOf(m, s.symbol).recent.at(-1);
  if (!p) return;
  const side = p.aggressor === 'buy' ? 1 : p.aggressor === 'sell' ? -1 : 0;
  const venue = p.condition.includes('auction') ? p.condition : p.venue;
  s.prints.push({ at: p.at, price: p.price, qty: p.qty, side, venue, bid, ask });
}

export const mean = (list: readonly number[]): number =>
  list.length === 0 ? Number.NaN : list.reduce((a, b) => a + b, 0) / list.length;
export const deviation = (list: readonly number[]): number => {
  const m = mean(list);
  return Math.sqrt(mean(list.map((x) => (x - m) ** 2)));
};
export const median = (list: readonly number[]): number => {
  const sorted = [...list].sort((a, b) => a - b);
  return sorted.length === 0 ? Number.NaN : (sorted[Math.floor(sorted.length / 2)] as number);
};
export function correlation(a: readonly number[], b: readonly number[]): number {
  const [x, y] = [mean(a), mean(b)];
  const over = mean(a.map((v, k) => (v - x) * ((b[k] as number) - y)));
  const under = deviation(a) * deviation(b);
  return under === 0 ? 0 : over / under;
}
export const autocorrelation = (list: readonly number[], lag: number): number =>
  correlation(list.slice(lag), list.slice(0, list.length - lag));

/** The quote that was public at a time, by binary search; null before the first. */
export function quoteAt(s: Seen, at: number): { bid: number; ask: number } | null {
  let [low, high] = [0, s.quotes.length];
  while (low < high) {
    const k = (low + high) >> 1;
    if ((s.quotes[k] as { at: number }).at <= at) low = k + 1;
    else high = k;
  }
  const q = s.quotes[low - 1];
  return q && q.bid > 0 && q.ask > 0 ? q : null;
}
const midAt = (s: Seen, at: number): number | null => {
  const q = quoteAt(s, at);
  return q && (q.bid + q.ask) / 2;
};

/** Prints of the regular session that took one side, auctions apart. */
export const sided = (s: Seen, until = Number.POSITIVE_INFINITY) =>
  s.prints.filter((p) => p.side !== 0 && p.at >= REGULAR_OPEN && p.at < until && p.bid > 0 && p.ask > 0);

/** Mean move of the mid with the side of a print after so many ms, in half spreads of that moment. */
export function responseAfter(s: Seen, ms: number, until: number): number {
  const list = sided(s, until - ms).flatMap((p) => {
    const after = midAt(s, p.at + ms);
    const half = (p.ask - p.bid) / 2;
    return after === null || half <= 0 ? [] : [(p.side * (after - (p.bid + p.ask) / 2)) / half];
  });
  return mean(list.map((x) => Math.max(-20, Math.min(20, x))));
}

/** Mids on a grid of so many ms in the regular session until a time. */
export function mids(s: Seen, step: number, from: number, until: number): number[] {
  const out: number[] = [];
  for (let t = from; t < until; t += step) {
    const m = midAt(s, t);
    if (m !== null) out.push(m);
    else if (out.length > 0) out.push(out[out.length - 1] as number);
  }
  return out;
}
export const returns = (prices: readonly number[], lag = 1): number[] =>
  prices.slice(lag).map((p, k) => Math.log(p / (prices[k] as number)));

/** Variance over `lag` steps beside `lag` times that of one step: 1 for a random walk. */
export function varianceRatio(prices: readonly number[], lag: number): number {
  const one = mean(returns(prices).map((r) => r * r));
  const many = mean(returns(prices, lag).map((r) => r * r));
  return many / (lag * one);
}

/** Coefficient of variation of the times between prints. */
export function waitsVariation(s: Seen, from: number, until: number): number {
  const at = s.prints.filter((p) => p.at >= from && p.at < until).map((p) => p.at);
  const waits = at.slice(1).map((t, k) => t - (at[k] as number));
  return deviation(waits) / mean(waits);
}

/** Variance over mean of the number of prints in windows of so many ms. */
export function fano(s: Seen, window: number, from: number, until: number): number {
  const counts = new Array<number>(Math.floor((until - from) / window)).fill(0);
  for (const p of s.prints) {
    const k = Math.floor((p.at - from) / window);
    if (k >= 0 && k < counts.length) counts[k] = (counts[k] as number) + 1;
  }
  return deviation(counts) ** 2 / mean(counts);
}

/** Part of the prints that are answers to others, from the dispersion of counts (S. Hardiman and J.-P. Bouchaud, Physical Review E 90, 2014). */
export const branching = (dispersion: number): number => 1 - 1 / Math.sqrt(Math.max(1, dispersion));

/** Spread over mid, in basis points, weighted by time in steps of a second. */
export function spreadOf(s: Seen, from: number, until: number): number {
  const list: number[] = [];
  for (let t = from; t < until; t += SECOND) {
    const q = quoteAt(s, t);
    if (q) list.push((2e4 * (q.ask - q.bid)) / (q.ask + q.bid));
  }
  return mean(list);
}

/** Effective over quoted spread of the prints. */
export const effectiveOverQuoted = (s: Seen): number => {
  const list = sided(s);
  return (
    mean(list.map((p) => 2 * Math.abs(p.price - (p.bid + p.ask) / 2))) / mean(list.map((p) => p.ask - p.bid))
  );
};

/** Part of the prints outside the quote that was public. */
export const outside = (s: Seen): number =>
  mean(sided(s).map((p) => (p.price < p.bid || p.price > p.ask ? 1 : 0)));

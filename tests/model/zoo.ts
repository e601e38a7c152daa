// Naive rules of trading on the simulated market. Those here take what is quoted, in small size, so that a
// day can be run once for all of them; those that rest, push or split send real orders (zoo-orders.ts).
import { type Happening, runAlone, type Scenario } from '@/core/sim';
import { at, CENT, MINUTE, REGULAR_CLOSE, REGULAR_OPEN, SECOND } from '@/core/units';

/** One symbol's day as a tape: what was quoted before each print. Times of day in ms, prices in 1/10,000 dollar. */
export interface Tape {
  symbol: string;
  n: number;
  at: number[];
  bid: number[];
  ask: number[];
  price: number[];
  side: number[];
  qty: number[];
  condition: number[];
  /** 0 while both sides find somebody. */
  status: number[];
  priorClose: number;
  /** News of it, as times of day, with whether its words are good. */
  news: { at: number; good: boolean }[];
  close: number;
}

const GOOD = ['contract', 'earnings', 'approval', 'partnership', 'guidance', 'trial result', 'filing'];
const BAD_WORDS = /offering|less|lowers|late|loses|missed/;

/** The tape of a symbol's day. */
export function tapeOfDay(scenario: Scenario, i: number): Tape {
  const { instrument } = scenario.symbols[i] as Scenario['symbols'][number];
  const t: Tape = {
    symbol: instrument.symbol,
    n: 0,
    at: [],
    bid: [],
    ask: [],
    price: [],
    side: [],
    qty: [],
    condition: [],
    status: [],
    priorClose: instrument.priorClose,
    news: scenario.news
      .filter((x) => x.symbol === instrument.symbol && x.kind !== 'halt')
      .map((x) => ({ at: x.at, good: GOOD.includes(x.kind) && !BAD_WORDS.test(x.headline) })),
    close: scenario.hours.close,
  };
  runAlone(scenario, i, scenario.hours.close + MINUTE, (h: Readonly<Happening>) => {
    t.at.push(h.at);
    t.bid.push(h.bid);
    t.ask.push(h.ask);
    t.price.push(h.price);
    t.side.push(h.side);
    t.qty.push(h.qty);
    t.condition.push(h.condition);
    t.status.push(h.status);
  });
  t.n = t.at.length;
  return t;
}

/** First print at or after a time; -1 when there is none. */
export function indexAt(t: Tape, time: number): number {
  let [low, high] = [0, t.n];
  while (low < high) {
    const k = (low + high) >> 1;
    if ((t.at[k] as number) < time) low = k + 1;
    else high = k;
  }
  return low < t.n ? low : -1;
}

/** What can be had at or after a time: the quote before the first print from then on, while none stands at a price band. */
function quoteFrom(t: Tape, time: number): { at: number; bid: number; ask: number } | null {
  let k = indexAt(t, time);
  if (k < 0) return null;
  while (k < t.n && ((t.bid[k] as number) === 0 || t.status[k] !== 0)) k++;
  return k < t.n ? { at: t.at[k] as number, bid: t.bid[k] as number, ask: t.ask[k] as number } : null;
}

/** Half a cent a share and three tenths of a cent for taking, each way: the example fees of the app for small orders at a share rate. */
const COST = 80;

/** A trade of a rule: `by` its gain after costs in basis points of what was put in, `gross` at mids without costs. */
export interface Outcome {
  by: number;
  gross: number;
}

/** Takes at one time and gets out at another, at what is quoted. */
export function roundTrip(t: Tape, enter: number, exit: number, side: 1 | -1): Outcome | null {
  const a = quoteFrom(t, enter);
  const b = quoteFrom(t, Math.max(exit, (a?.at ?? 0) + 1));
  if (!a || !b) return null;
  const [from, to] = side === 1 ? [a.ask, b.bid] : [a.bid, b.ask];
  const mids = [(a.bid + a.ask) / 2, (b.bid + b.ask) / 2] as const;
  const cost = 2 * Math.min(COST, from / 100);
  return {
    by: (1e4 * (side * (to - from) - cost)) / from,
    gross: (1e4 * side * (mids[1] - mids[0])) / mids[0],
  };
}

/** A rule: what it would have traded on one tape. */
export type Rule = (t: Tape) => (Outcome | null)[];

const gapOf = (t: Tape): number => {
  const k = indexAt(t, REGULAR_OPEN);
  return k < 0 ? 0 : (t.price[k] as number) / t.priorClose - 1;
};

/** Looks at each print of a window; where `when` says a side, trades it after `after` ms for `hold` ms, then waits as long again. */
const whenever =
  (
    from: number,
    until: number,
    after: number,
    hold: number,
    make: (t: Tape) => (k: number) => 0 | 1 | -1,
  ): Rule =>
  (t) => {
    const out: (Outcome | null)[] = [];
    const when = make(t);
    let free = from;
    for (
      let k = Math.max(0, indexAt(t, from));
      k < t.n && (t.at[k] as number) < Math.min(until, t.close - hold - MINUTE);
      k++
    ) {
      const side = when(k);
      const now = t.at[k] as number;
      if (side === 0 || now < free) continue;
      out.push(roundTrip(t, now + after, now + after + hold, side));
      free = now + after + 2 * hold;
    }
    return out;
  };

/** Price so many ms before print `k`, by a pointer that only goes forward. */
function back(t: Tape, ms: number): (k: number) => number {
  let j = 0;
  return (k) => {
    while ((t.at[j + 1] as number) <= (t.at[k] as number) - ms) j++;
    return (t.at[j] as number) <= (t.at[k] as number) - ms ? (t.price[j] as number) : (t.price[k] as number);
  };
}
const moved = (ms: number, by: number, follow: 1 | -1) => (t: Tape) => {
  const before = back(t, ms);
  return (k: number): 0 | 1 | -1 => {
    const r = (t.price[k] as number) / before(k) - 1;
    return r > by ? follow : r < -by ? (follow === 1 ? -1 : 1) : 0;
  };
};

/** Highest and lowest price of a window. */
function rangeOf(t: Tape, from: number, until: number): [number, number] | null {
  let [high, low] = [0, Number.POSITIVE_INFINITY];
  for (let k = indexAt(t, from); k >= 0 && k < t.n && (t.at[k] as number) < until; k++) {
    high = Math.max(high, t.price[k] as number);
    low = Math.min(low, t.price[k] as number);
  }
  return high > 0 ? [high, low] : null;
}
const crossing =
  (range: (t: Tape) => [number, number] | null, sides: 1 | -1 | 0, by: number) => (t: Tape) => {
    const r = range(t);
    let done = false;
    return (k: number): 0 | 1 | -1 => {
      if (!r || done) return 0;
      const p = t.price[k] as number;
      if (sides !== -1 && p >= r[0] + by) {
        done = true;
        return 1;
      }
      if (sides !== 1 && p <= r[1] - by) {
        done = true;
        return -1;
      }
      return 0;
    };
  };

const morning = [REGULAR_OPEN + SECOND, at(11)] as const;
const session = [REGULAR_OPEN + 5 * MINUTE, REGULAR_CLOSE] as const;
const onNews =
  (after: number, hold: number, side: (good: boolean) => 1 | -1): Rule =>
  (t) =>
    t.news
      .filter((x) => x.at > at(4, 30) && x.at + after + hold < t.close)
      .map((x) => roundTrip(t, x.at + after, x.at + after + hold, side(x.good)));
/** The first moment after each reopening, with the side of the move across the stop. */
const reopened =
  (after: number, hold: number, follow: 1 | -1): Rule =>
  (t) =>
    t.condition.flatMap((c, k) => {
      if (c !== 3 || k === 0) return [];
      const up = (t.price[k] as number) >= (t.price[k - 1] as number);
      const side = (up ? follow : -follow) as 1 | -1;
      return [roundTrip(t, (t.at[k] as number) + after, (t.at[k] as number) + after + hold, side)];
    });
const imbalance =
  (n: number, least: number, follow: 1 | -1) =>
  (t: Tape) =>
  (k: number): 0 | 1 | -1 => {
    if (k < n) return 0;
    let sum = 0;
    for (let j = k - n + 1; j <= k; j++) sum += t.side[j] as number;
    return sum >= least * n ? follow : sum <= -least * n ? (-follow as 1 | -1) : 0;
  };
const fromAverage = (by: number) => (t: Tape) => {
  let [turnover, volume] = [0, 0];
  return (k: number): 0 | 1 | -1 => {
    turnover += (t.price[k] as number) * (t.qty[k] as number);
    volume += t.qty[k] as number;
    const r = ((t.price[k] as number) * volume) / turnover - 1;
    return r > by ? -1 : r < -by ? 1 : 0;
  };
};
/** A dime beyond the last 15 minutes before the open, stop 30 cents, target 2.5 R, by the close; short where `side` is −1. */
const dime =
  (side: 1 | -1): Rule =>
  // biome-ignore lint/complexity/noExcessiveCognitiveComplexity: two walks along the tape
  (t) => {
    const r = rangeOf(t, REGULAR_OPEN - 15 * MINUTE, REGULAR_OPEN);
    if (!r) return [];
    const level = side === 1 ? r[0] + 10 * CENT : r[1] - 10 * CENT;
    for (let k = indexAt(t, REGULAR_OPEN + SECOND); k >= 0 && k < t.n && (t.at[k] as number) < at(11); k++) {
      const p = t.price[k] as number;
      if (side === 1 ? p < level : p > level) continue;
      const a = quoteFrom(t, (t.at[k] as number) + 200);
      if (!a) return [];
      const from = side === 1 ? a.ask : a.bid;
      for (let j = indexAt(t, a.at + 1); j >= 0 && j < t.n; j++) {
        const gain = side * ((t.price[j] as number) - from);
        if (
          (gain > -30 * CENT && gain < 75 * CENT && (t.at[j] as number) < t.close - MINUTE) ||
          (t.bid[j] as number) === 0
        )
          continue;
        return [roundTrip(t, a.at, (t.at[j] as number) + 200, side)];
      }
      return [];
    }
    return [];
  };

/** The rules, by what they do. */
export const RULES: Readonly<Record<string, Rule>> = {
  'gap over 20 % up: buy at 09:30, sell at 10:00': (t) =>
    gapOf(t) > 0.2 ? [roundTrip(t, REGULAR_OPEN + SECOND, at(10), 1)] : [],
  'gap over 20 % up: short at 09:30, cover at 10:00': (t) =>
    gapOf(t) > 0.2 ? [roundTrip(t, REGULAR_OPEN + SECOND, at(10), -1)] : [],
  'gap over 5 % up: buy at 09:30, sell at the close': (t) =>
    gapOf(t) > 0.05 ? [roundTrip(t, REGULAR_OPEN + SECOND, t.close - MINUTE, 1)] : [],
  'gap over 5 % down: buy at 09:30, sell at the close': (t) =>
    gapOf(t) < -0.05 ? [roundTrip(t, REGULAR_OPEN + SECOND, t.close - MINUTE, 1)] : [],
  'above the pre-market high: buy, hold 10 min': whenever(
    ...morning,
    500,
    10 * MINUTE,
    crossing((t) => rangeOf(t, at(4), REGULAR_OPEN), 1, CENT),
  ),
  'below the pre-market low: short, hold 10 min': whenever(
    ...morning,
    500,
    10 * MINUTE,
    crossing((t) => rangeOf(t, at(4), REGULAR_OPEN), -1, CENT),
  ),
  'out of the first 5 minutes: follow for 15 min': whenever(
    REGULAR_OPEN + 5 * MINUTE,
    at(11),
    500,
    15 * MINUTE,
    crossing((t) => rangeOf(t, REGULAR_OPEN, REGULAR_OPEN + 5 * MINUTE), 0, CENT),
  ),
  'a dime over the last pre-market candle: buy, 30 c, 2.5 R': dime(1),
  'a dime under the last pre-market candle: short, 30 c, 2.5 R': dime(-1),
  '3 % in 2 minutes: follow for 5 min': whenever(...session, SECOND, 5 * MINUTE, moved(2 * MINUTE, 0.03, 1)),
  '3 % in 2 minutes: fade for 5 min': whenever(...session, SECOND, 5 * MINUTE, moved(2 * MINUTE, 0.03, -1)),
  '5 % in 5 minutes: follow for 20 min': whenever(
    ...session,
    SECOND,
    20 * MINUTE,
    moved(5 * MINUTE, 0.05, 1),
  ),
  '5 % in 5 minutes: fade for 20 min': whenever(...session, SECOND, 20 * MINUTE, moved(5 * MINUTE, 0.05, -1)),
  '1.5 % in 3 seconds: follow for 30 s': whenever(
    ...session,
    SECOND,
    30 * SECOND,
    moved(3 * SECOND, 0.015, 1),
  ),
  '1.5 % in 3 seconds: fade for 60 s': whenever(...session, SECOND, MINUTE, moved(3 * SECOND, 0.015, -1)),
  'headline: buy after 2 s, hold 2 min': onNews(2 * SECOND, 2 * MINUTE, () => 1),
  'headline: its words’ way after 2 s, hold 2 min': onNews(2 * SECOND, 2 * MINUTE, (good) => (good ? 1 : -1)),
  'headline: its words’ way after 500 ms, hold 15 min': onNews(500, 15 * MINUTE, (good) => (good ? 1 : -1)),
  'reopened: follow after 1 s, hold 5 min': reopened(SECOND, 5 * MINUTE, 1),
  'reopened: fade after 1 s, hold 5 min': reopened(SECOND, 5 * MINUTE, -1),
  '8 of 10 prints one side: follow for 20 s': whenever(...session, 300, 20 * SECOND, imbalance(10, 0.6, 1)),
  '45 of 50 prints one side: fade for 60 s': whenever(...session, 300, MINUTE, imbalance(50, 0.8, -1)),
  '4 % from the day’s average: back to it, 15 min': whenever(
    ...session,
    SECOND,
    15 * MINUTE,
    fromAverage(0.04),
  ),
  'up on the day at 15:00: buy, sell a minute before the close': (t) => {
    const k = indexAt(t, at(15));
    return k >= 0 && (t.price[k] as number) / t.priorClose > 1.03
      ? [roundTrip(t, at(15), t.close - MINUTE, 1)]
      : [];
  },
};

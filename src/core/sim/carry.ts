// What one day hands on to the next, of symbols that were run and of those that nobody looked at.
import { type Board, type Listing, trueRange } from '../market/index.ts';
import { AFTER_CLOSE, PRE_OPEN, type Price, REGULAR_OPEN, roundToTick } from '../units/index.ts';
import { restrictsShorts } from '../venue/index.ts';
import { CONDITION } from './columns.ts';
import { lastingTrace, priceNow } from './impact.ts';
import { runAlone } from './market.ts';
import type { Market } from './market-state.ts';
import type { Given, Scenario, SymbolPlan } from './plan.ts';
import { createRandom, exponential, normal, type Random } from './random.ts';
import { endOf } from './sketch.ts';
import type { DayFrame } from './sketch-frame.ts';
import { type Tides, tideAt } from './tides.ts';
import { varianceLeft } from './usual.ts';

/** What one day hands on to the next. Prices in 1/10,000 dollar, in the order of the scenario's symbols. */
export interface Carry {
  closes: Int32Array;
  highs: Int32Array;
  lows: Int32Array;
  opens: Int32Array;
  volumes: Float64Array;
  /** Where each stood when trading ended after hours, in price units. */
  stood: Float64Array;
  /** How many times its usual volume a mover of that day traded; of all others how much of that was still felt, 1 where nothing was. */
  busy: Float64Array;
  /** ATR(14) after Wilder with that day in it. */
  atrs: Int32Array;
  date: string;
  /** Restricted by what happened on that day: holds on the next one too. */
  restricted: Uint8Array;
  /**
   * 1 where the day was not run: close and where it stood are those of a full run all the same; its
   * other prices, volume and restriction are drawn; who asks later is answered by {@link sharpen}.
   */
  coarse: Uint8Array;
}

/** What is known of a symbol before a day begins. */
export interface Prior {
  instrument: Listing;
  restricted: boolean;
}

/** The same symbol with what the day before hands on of it. */
export function priorOf(x: Listing, carry: Carry, i: number): Prior {
  const close = carry.closes[i] as number;
  const restricted = carry.restricted[i] === 1;
  if (close === 0) return { instrument: x, restricted };
  const instrument = {
    ...x,
    priorOpen: (carry.opens[i] || close) as Price,
    priorHigh: Math.max(carry.highs[i] || close, close) as Price,
    priorLow: Math.min(carry.lows[i] || close, close) as Price,
    atr: carry.atrs[i] as number,
  };
  return { instrument, restricted };
}

/** A day's candle, as it is handed on. */
interface Candle {
  open: number;
  high: number;
  low: number;
  close: number;
  volume: number;
  /** Under the restriction from that day on. */
  restricted: boolean;
}

/** What a finished day hands on to the next one. */
export function carryOf(m: Market): Carry {
  const { symbols } = m.scenario;
  const n = symbols.length;
  const out: Carry = {
    closes: new Int32Array(n),
    highs: new Int32Array(n),
    lows: new Int32Array(n),
    opens: new Int32Array(n),
    volumes: new Float64Array(n),
    stood: new Float64Array(n),
    busy: new Float64Array(n),
    atrs: new Int32Array(n),
    date: m.scenario.date,
    restricted: new Uint8Array(n),
    coarse: new Uint8Array(n),
  };
  symbols.forEach((plan, i) => {
    const { given, instrument } = plan;
    const still = given !== null && m.coarse && !m.floors.has(i);
    const candle = still ? drawn(m, i, plan, given) : ran(m.board, i);
    put(out, i, plan, candle);
    out.coarse[i] = still ? 1 : 0;
    out.stood[i] =
      given === null
        ? priceNow(m.sketches, i, plan, m.frame.hours.end)
        : endOf(plan, given, m.frame) * (1 + lastingTrace(m.sketches, i, plan));
    out.busy[i] = given === null ? candle.volume / instrument.averageVolume : plan.busy;
  });
  return out;
}

const ran = (b: Board, i: number): Candle => ({
  open: b.open[i] as number,
  high: b.high[i] as number,
  low: b.low[i] as number,
  // Imported bars may all lie outside the regular session.
  close: (b.close[i] || b.last[i]) as number,
  volume: b.volume[i] as number,
  // What was under the restriction only because of the day before is free again.
  restricted: b.restricted[i] === 2,
});

function put(c: Carry, i: number, { instrument: x }: SymbolPlan, candle: Candle): void {
  c.opens[i] = candle.open;
  c.highs[i] = candle.high;
  c.lows[i] = candle.low;
  c.closes[i] = candle.close;
  c.volumes[i] = candle.volume;
  c.restricted[i] = candle.restricted ? 1 : 0;
  c.atrs[i] = smoothed(x.atr, candle, x.priorClose);
}

/** ATR(14) after Wilder with one more day in it. */
const smoothed = (atr: number, day: Pick<Candle, 'high' | 'low'>, priorClose: number): number =>
  day.high === 0 ? atr : Math.round((atr * 13 + trueRange(day, priorClose)) / 14);

/** A day that was run comes after one of which only now is known what it was: its ATR follows. */
export function follow(carry: Carry, before: Carry, i: number): void {
  const day = { high: carry.highs[i] as number, low: carry.lows[i] as number };
  carry.atrs[i] = smoothed(before.atrs[i] as number, day, before.closes[i] as number);
}

/**
 * The day of a symbol that stands still, by its plan. It closes where it would close. How far it went
 * on the way is drawn: the extremes of a walk whose ends are known (of a Brownian bridge, W. Feller 1951),
 * with the variance that its plan and the market's own range (M. Parkinson 1980) say.
 */
function drawn(m: Market, i: number, plan: SymbolPlan, given: Given): Candle {
  const { sketches: s, board: b, frame } = m;
  const r = createRandom(frame.seed, `${plan.instrument.symbol} coarse`);
  const phase = s.phase[i] as number;
  const now = s.movedAt[i] as number;
  const from = priceNow(s, i, plan, now);
  const close = roundToTick(Math.max(1, endOf(plan, given, frame)));
  const way = close / from - 1;
  const own = plan.vol * plan.vol * varianceLeft(given, plan.phases, phase, now);
  const swing = plan.beta * rangeOf(frame.tides, plan.instrument.sector, now, frame.hours.close);
  const variance = own + (swing * swing) / 2.7726;
  const reach = (to: number) => (to + Math.sqrt(to * to + 2 * variance * exponential(r))) / 2;
  const tops = from * (1 + reach(way));
  const bottoms = from * Math.max(0.1, 1 - reach(-way));
  const open = (b.open[i] as number) || opened(r, plan, given, { from, way, variance });
  const price = (p: number): Price => roundToTick(Math.max(1, p));
  const high = Math.max(b.high[i] as number, price(tops), open, close);
  const low = Math.min((b.low[i] as number) || high, price(bottoms), open, close);
  return {
    open,
    high,
    low,
    close,
    volume: (b.volume[i] as number) + sharesLeft(plan, given, frame, now),
    restricted: b.restricted[i] === 2 || restrictsShorts(low as Price, plan.instrument.priorClose),
  };
}

function opened(
  r: Random,
  plan: SymbolPlan,
  given: Given,
  { from, way, variance }: { from: number; way: number; variance: number },
): number {
  const at = plan.phases.findIndex((p) => p.from >= REGULAR_OPEN);
  const part = 1 - (given.left[at] as number) / (given.left[0] as number);
  return roundToTick(
    Math.max(1, from * (1 + way * part + Math.sqrt(variance * part * (1 - part)) * normal(r))),
  );
}

/** Shares that a symbol is expected to trade from now on. */
function sharesLeft(plan: SymbolPlan, given: Given, { hours }: DayFrame, now: number): number {
  let seconds = 0;
  plan.phases.forEach((p, k) => {
    const until = plan.phases[k + 1]?.from ?? hours.end;
    seconds +=
      (Math.max(0, until - Math.max(now, p.from)) / 1000) * p.pace * Math.sqrt(given.heats[k] as number);
  });
  const crosses = (now < REGULAR_OPEN ? plan.cross : 0) + (now < hours.close ? plan.close : 0);
  return Math.round((plan.rate * seconds * plan.lot + crosses) / 100) * 100;
}

const ranges = new WeakMap<Tides, Map<string, number>>();

/** How far apart the market's extremes lie between two times of day, for a sector, as a fraction. */
function rangeOf(tides: Tides, sector: string, from: number, to: number): number {
  const kept = ranges.get(tides) ?? new Map<string, number>();
  ranges.set(tides, kept);
  const step = 60_000;
  const first = Math.max(PRE_OPEN, from - (from % step));
  const key = `${sector} ${first}`;
  const there = kept.get(key);
  if (there !== undefined) return there;
  let high = 0;
  let low = Number.POSITIVE_INFINITY;
  for (let t = first; t <= to; t += step) {
    const x = tideAt(tides, sector, t);
    high = Math.max(high, x);
    low = Math.min(low, x);
  }
  const range = low > high ? 0 : high / low - 1;
  kept.set(key, range);
  return range;
}

/**
 * Puts the day that symbol `i` really had in the place of what was drawn of it: the same that a full run
 * comes to.
 * @param alone that day's scenario of this symbol alone.
 */
export function sharpen(carry: Carry, i: number, alone: Scenario, frame: DayFrame): void {
  const plan = alone.symbols[0] as SymbolPlan;
  const candle: Candle = { open: 0, high: 0, low: 0, close: 0, volume: 0, restricted: false };
  const { close } = frame.hours;
  runAlone(
    alone,
    0,
    AFTER_CLOSE,
    ({ at, price, qty, condition }) => {
      candle.high = Math.max(candle.high, price);
      candle.low = candle.low === 0 ? price : Math.min(candle.low, price);
      candle.volume += qty;
      if (at < close || condition === CONDITION.closing) candle.close = price;
      if (at < REGULAR_OPEN || at >= close) return;
      candle.open ||= price;
      candle.restricted ||= restrictsShorts(price as Price, plan.instrument.priorClose);
    },
    frame,
  );
  put(carry, i, plan, candle);
  carry.coarse[i] = 0;
}

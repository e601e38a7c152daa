// What makers show: a spread that pays for what trades tell, and sizes that flicker.
import {
  CENT,
  type Hours,
  MINUTE,
  mix,
  PRICE_SCALE,
  type Price,
  REGULAR_OPEN,
  roundToTick,
  SECOND,
  tickSize,
} from '../units/index.ts';
import { type Sketches, STATUS } from './columns.ts';
import { priceNow } from './impact.ts';
import type { SymbolPlan } from './plan.ts';
import { SURPRISE } from './sides.ts';

/**
 * Half a spread for each unit of what a print tells: makers earn next to nothing (L. Glosten and
 * P. Milgrom, 1985; M. Wyart and others, Quantitative Finance 8, 2008: spread and volatility a trade
 * are proportional).
 */
const HALF_SPREAD = SURPRISE / 0.95;
/** How long makers stay wider after they were picked off or the day has opened. */
const CALMS = 12 * SECOND;
const OPENING_CALMS = 75 * SECOND;

const halfSpread = (s: Sketches, i: number, plan: SymbolPlan, price: number): number =>
  price *
  Math.max(plan.least, (s.sigma[i] as number) * HALF_SPREAD * plan.spread) *
  (1 + (s.wide[i] as number));

/** Lets the makers calm down over the time since the last step. */
export function narrow(s: Sketches, i: number, now: number): void {
  const wide = s.wide[i] as number;
  if (wide === 0) return;
  const dt = now - (s.movedAt[i] as number);
  const over = now < REGULAR_OPEN + 4 * MINUTE && now >= REGULAR_OPEN ? OPENING_CALMS : CALMS;
  s.wide[i] = wide < 0.01 ? 0 : (wide * over) / (over + dt);
}

/**
 * Where the makers stand now. A side stays until the price has come too close to it or gone too far
 * away, so that a bid gives way to sales only and an offer to purchases only.
 */
export function requote(s: Sketches, i: number, plan: SymbolPlan, now: number, anew = false): void {
  const price = priceNow(s, i, plan, now);
  const half = halfSpread(s, i, plan, price);
  const tick = tickSize(Math.round(price) as Price);
  const near = 0.3 * half;
  const far = 1.25 * half + tick;
  let low = s.low[i] as number;
  let high = s.high[i] as number;
  if (anew || low === 0 || price - low < near || price - low > far) {
    low = roundToTick(Math.max(1, price - half), 'nearest');
    if (low > price) low = roundToTick(Math.max(1, low - 1), 'down');
  }
  if (anew || high === 0 || high - price < near || high - price > far) {
    high = roundToTick(price + half, 'nearest');
    if (high < price) high = roundToTick(high + 1, 'up');
  }
  if (high <= low) {
    if (price - low < high - price && low > tick) low = roundToTick(high - 1, 'down');
    else high = roundToTick(low + 1, 'up');
  }
  place(s, i, price, low, high);
}

/**
 * The makers' prices beside the price bands; what is shown follows at once. A price beyond a band
 * stands there unexecutable while the price itself is beyond it.
 */
function place(s: Sketches, i: number, price: number, low: number, high: number): void {
  const upper = s.upper[i] as number;
  const lower = s.lower[i] as number;
  let [bid, ask] = [low, high];
  if (upper > 0) {
    if (bid >= upper) [bid, ask] = [upper, roundToTick(upper + 1, 'up')];
    else if (ask > upper && price <= upper) ask = upper;
    if (ask <= lower) [bid, ask] = [roundToTick(Math.max(1, lower - 1), 'down'), lower];
    else if (bid < lower && price >= lower) bid = lower;
  }
  if (bid === s.low[i] && ask === s.high[i]) return;
  s.low[i] = bid;
  s.high[i] = ask;
  s.flicker[i] = -1;
}

/** Nobody quotes. */
export function withdraw(s: Sketches, i: number): void {
  s.low[i] = 0;
  s.high[i] = 0;
  s.bid[i] = 0;
  s.ask[i] = 0;
  s.bidSize[i] = 0;
  s.askSize[i] = 0;
  s.flicker[i] = -1;
}

/** Quotes change about eight times a print, not more often than this. */
const LEAST_FLICKER = 200;

/** A stretch of the day begins: how long one flicker of the symbol's quote stands in it. */
export function flickers(s: Sketches, i: number, plan: SymbolPlan): void {
  const perSecond = plan.rate * (stretchOf(s, i, plan)?.pace ?? 0);
  s.flickerLength[i] =
    perSecond <= 0
      ? 60 * SECOND
      : Math.max(LEAST_FLICKER, Math.min(60 * SECOND, Math.floor(SECOND / (8 * perSecond))));
}

const stretchOf = (s: Sketches, i: number, plan: SymbolPlan) => plan.phases[s.phase[i] as number];

/** When the quote that is shown changes next without a trade, as a time of day. */
export function nextFlicker(s: Sketches, i: number, plan: SymbolPlan, now: number): number {
  const phase = stretchOf(s, i, plan);
  if (!phase || plan.bars) return Number.POSITIVE_INFINITY;
  const length = s.flickerLength[i] as number;
  return phase.from + (Math.floor((now - phase.from) / length) + 1) * length;
}

/** Since when what is shown now has been shown, trades apart, as a time of day. */
export function flickerFrom(s: Sketches, i: number, plan: SymbolPlan, now: number): number {
  const phase = stretchOf(s, i, plan);
  if (!phase || plan.bars) return Math.floor(now / 500) * 500;
  const length = s.flickerLength[i] as number;
  return phase.from + Math.floor((now - phase.from) / length) * length;
}

/**
 * Brings what is shown to a time of day: the makers' prices or one tick better, with sizes of this
 * flicker. A function of the makers' prices and the time, so it does not matter who looks how often.
 */
export function show(s: Sketches, i: number, plan: SymbolPlan, now: number, hours: Hours): void {
  const low = s.low[i] as number;
  const high = s.high[i] as number;
  const phase = stretchOf(s, i, plan);
  if (low === 0 || !phase || plan.bars) return;
  const number =
    Math.floor((now - phase.from) / (s.flickerLength[i] as number)) + (s.phase[i] as number) * 1e6;
  if (number === s.flicker[i]) return;
  s.flicker[i] = number;
  const draw = mix(s.key[i] as number, number);
  const tick = tickSize(high as Price);
  const room = s.status[i] === STATUS.trading ? high - low : 0;
  const regular = now >= REGULAR_OPEN && now < hours.close;
  const depth = plan.depth * (regular ? 1 : 0.45);
  const bidUp = room >= 2 * tick && draw % 8 === 0;
  const askDown = room >= (bidUp ? 3 : 2) * tick && (draw >>> 8) % 8 === 0;
  s.bid[i] = bidUp ? roundToTick(low + 1, 'up') : low;
  s.ask[i] = askDown ? roundToTick(high - 1, 'down') : high;
  s.bidSize[i] = bidUp ? 100 * (1 + ((draw >>> 16) % 4)) : sizeAt(low, depth, mix(draw, low));
  s.askSize[i] = askDown ? 100 * (1 + ((draw >>> 20) % 4)) : sizeAt(high, depth, mix(draw, high + 1));
}

/** Shares shown at a price: round lots around the mean depth, more at half and whole dollars. */
export function sizeAt(price: number, depth: number, draw: number): number {
  const round = price < PRICE_SCALE ? 1 : price % PRICE_SCALE === 0 ? 3 : price % (50 * CENT) === 0 ? 2 : 1;
  const u = ((draw & 0xfffff) + 0.5) / 0x100000;
  const size = (0.3 + 0.8 * Math.min(8, 1 / Math.sqrt(u) - 1)) * depth * round;
  return 100 * (1 + Math.floor(size / 100));
}

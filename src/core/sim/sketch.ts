import {
  CENT,
  type Hours,
  MINUTE,
  PRE_OPEN,
  PRICE_SCALE,
  type Price,
  REGULAR_OPEN,
  roundToTick,
  SECOND,
  tickSize,
} from '../units/index.ts';
import { bandsOf, LULD } from '../venue/index.ts';
import type { SymbolPlan } from './plan.ts';
import { below, createRandom, exponential, normal, uniform } from './random.ts';
import { type PlannedPrint, printsOf, quoteAround } from './replay.ts';
import { type Tides, tideAt } from './tides.ts';

/**
 * The planned day of each symbol: what it is worth, how it quotes, when it trades, halts and
 * reopens, were the trader not there. Each symbol draws from its own stream only, so one symbol's
 * day is the same whether 8,000 others run beside it or none, and can be run again at any time.
 * Full books grow around this plan (floor.ts); symbols that nobody looks at are nothing but it.
 *
 * Participants show in it so: quoting interest keeps the spread around worth and shows size;
 * momentum and reverting interest pull worth along and back; hidden interest at half and whole
 * dollars holds the price until it is eaten; retail bursts follow news.
 *
 * One column a quantity, one place a symbol. Prices in 1/10,000 dollar, times of day in ms.
 */
export interface Sketches {
  count: number;
  random: Int32Array;
  worth: Float64Array;
  /** Momentary variance relative to the phase's own; clusters, and makes the tails heavy. */
  heat: Float64Array;
  /** Persistence of the side that trades, −1 to 1. */
  flow: Float64Array;
  /** Extra activity after news, falling with time. */
  burst: Float64Array;
  /** Part of a jump that is still to come. */
  pending: Float64Array;
  fast: Float64Array;
  slow: Float64Array;
  tide: Float64Array;
  movedAt: Float64Array;
  nextAt: Float64Array;
  /** Time of the next thing on the day's programme (open, close, jump, halt). */
  cueAt: Float64Array;
  phase: Uint16Array;
  jump: Uint16Array;
  halt: Uint16Array;
  /** 0 before the opening, 1 after it, 2 after the closing auction. */
  stage: Uint8Array;
  status: Uint8Array;
  until: Float64Array;
  limitSince: Float64Array;
  extensions: Uint8Array;
  bid: Int32Array;
  ask: Int32Array;
  bidSize: Int32Array;
  askSize: Int32Array;
  /** Hidden interest: a level, the shares still wanted there, its side (1 sells), and when it gives up. */
  wallAt: Int32Array;
  wallQty: Float64Array;
  wallSide: Int8Array;
  wallEnds: Float64Array;
  /** Unseen shares at the midpoint: above zero buyers. */
  midpoint: Int32Array;
  reference: Float64Array;
  upper: Int32Array;
  lower: Int32Array;
  /** Ten buckets of 30 s: sum of prices, number of trades, and the newest bucket's number. */
  meanSum: Float64Array;
  meanCount: Uint16Array;
  bucket: Float64Array;
  /** Imported days: number of the bar and of its next trade. */
  bar: Int32Array;
  trade: Int32Array;
}

export const STATUS = { trading: 0, limitUp: 1, limitDown: 2, pause: 3, halted: 4 } as const;
export const VENUE = { lit: 0, mid: 1, off: 2 } as const;
export const CONDITION = { regular: 0, opening: 1, closing: 2, reopening: 3 } as const;

/** What one step of the plan comes to: the quote that stands, and at most one trade against it. */
export interface Happening {
  at: number;
  bid: number;
  ask: number;
  bidSize: number;
  askSize: number;
  /** Trade; `qty` 0 when there is none. `side` 1 when the buyer took liquidity, −1 the seller, 0 in an auction. An auction that pairs nobody still has its condition and price. */
  price: number;
  qty: number;
  side: number;
  venue: number;
  condition: number;
}

/** An empty happening, to be filled again and again. */
export const newHappening = (): Happening => ({
  at: 0,
  bid: 0,
  ask: 0,
  bidSize: 0,
  askSize: 0,
  price: 0,
  qty: 0,
  side: 0,
  venue: 0,
  condition: 0,
});

/** What all symbols of a day share. */
export interface DayFrame {
  seed: number;
  hours: Hours;
  tides: Tides;
}

const BUCKETS = 10;
const BUCKET = LULD.window / BUCKETS;
const NEVER = 1e15;
/** How many of the things that happen are trades; the others are quotes that move. */
export const PRINT_SHARE = 0.6;

/** The plans of a day at 04:00. */
export function createSketches(plans: readonly SymbolPlan[], day: DayFrame): Sketches {
  const n = plans.length;
  const f = () => new Float64Array(n);
  const i32 = () => new Int32Array(n);
  const s: Sketches = {
    count: n,
    random: new Int32Array(n * 4),
    worth: f(),
    heat: f().fill(1),
    flow: f(),
    burst: f(),
    pending: f(),
    fast: f(),
    slow: f(),
    tide: f().fill(1),
    movedAt: f().fill(PRE_OPEN),
    nextAt: f().fill(PRE_OPEN),
    cueAt: f(),
    phase: new Uint16Array(n),
    jump: new Uint16Array(n),
    halt: new Uint16Array(n),
    stage: new Uint8Array(n),
    status: new Uint8Array(n),
    until: f(),
    limitSince: f(),
    extensions: new Uint8Array(n),
    bid: i32(),
    ask: i32(),
    bidSize: i32(),
    askSize: i32(),
    wallAt: i32(),
    wallQty: f(),
    wallSide: new Int8Array(n),
    wallEnds: f(),
    midpoint: i32(),
    reference: f(),
    upper: i32(),
    lower: i32(),
    meanSum: new Float64Array(n * BUCKETS),
    meanCount: new Uint16Array(n * BUCKETS),
    bucket: f(),
    bar: i32(),
    trade: i32(),
  };
  plans.forEach((plan, i) => {
    s.random.set(createRandom(day.seed, plan.instrument.symbol), i * 4);
    const worth = plan.bars
      ? (plan.bars[0]?.open ?? plan.instrument.priorClose)
      : plan.instrument.priorClose * (1 + plan.overnight);
    s.worth[i] = worth;
    s.fast[i] = worth;
    s.slow[i] = worth;
    if (plan.bars) {
      const q = quoteAround(worth, true, plan.instrument.atr / 40, s.random, i * 4);
      setQuote(s, i, q.bid, q.ask, q.bidSize, q.askSize);
      s.nextAt[i] = replayPrint(s, i, plan, day.seed)?.at ?? NEVER;
      return;
    }
    requote(s, i, plan, PRE_OPEN, day.hours);
    s.cueAt[i] = cueOf(s, i, plan, day.hours);
    schedule(s, i, plan, PRE_OPEN, day.hours);
  });
  return s;
}

/** A copy of one symbol's plan as it stands, alone in its columns: to look ahead without touching the day. */
export function copyOne(s: Sketches, i: number): Sketches {
  const out = { count: 1 } as unknown as Record<string, unknown>;
  for (const [name, column] of Object.entries(s)) {
    if (typeof column === 'number') continue;
    const wide = (column as Float64Array).length / s.count;
    out[name] = (column as Float64Array).slice(i * wide, (i + 1) * wide);
  }
  return { ...out, count: 1 } as Sketches;
}

/** Lets the one thing happen that is due for symbol `i`, and writes what it came to into `h`. */
export function stepSketch(s: Sketches, i: number, plan: SymbolPlan, day: DayFrame, h: Happening): void {
  const now = s.nextAt[i] as number;
  h.at = now;
  h.qty = 0;
  h.side = 0;
  h.venue = VENUE.lit;
  h.condition = CONDITION.regular;
  if (plan.bars) return stepReplay(s, i, plan, day, h);
  const phases = plan.phases;
  let idle = false;
  while ((phases[(s.phase[i] as number) + 1]?.from ?? NEVER) <= now) {
    s.phase[i] = (s.phase[i] as number) + 1;
    idle = true;
  }
  moveWorth(s, i, plan, day, now);
  const status = s.status[i] as number;
  if (status >= STATUS.pause) {
    if (now >= (s.until[i] as number)) reopen(s, i, plan, day, now, h);
  } else if (now >= (s.cueAt[i] as number)) {
    onCue(s, i, plan, day, now, h);
  } else {
    requote(s, i, plan, now, day.hours);
    watchBands(s, i, now, day.hours);
  }
  h.bid = s.bid[i] as number;
  h.ask = s.ask[i] as number;
  h.bidSize = s.bidSize[i] as number;
  h.askSize = s.askSize[i] as number;
  if (h.condition === CONDITION.regular && !idle && (s.status[i] as number) < STATUS.pause)
    trade(s, i, plan, now, day.hours, h);
  if (h.qty > 0) reckon(s, i, plan, h, day.hours);
  schedule(s, i, plan, now, day.hours);
}

/** Programme of the day: the next time that something must happen whatever chance says. */
function cueOf(s: Sketches, i: number, plan: SymbolPlan, hours: Hours): number {
  let t = s.stage[i] === 0 ? REGULAR_OPEN : s.stage[i] === 1 ? hours.close : NEVER;
  const jump = plan.jumps[s.jump[i] as number];
  if (jump && jump.at < t) t = jump.at;
  const halt = plan.halts[s.halt[i] as number];
  if (halt && halt.at < t) t = halt.at;
  return t;
}

function onCue(s: Sketches, i: number, plan: SymbolPlan, day: DayFrame, now: number, h: Happening): void {
  const jump = plan.jumps[s.jump[i] as number];
  const halt = plan.halts[s.halt[i] as number];
  if (jump && jump.at <= now) {
    s.jump[i] = (s.jump[i] as number) + 1;
    s.worth[i] = (s.worth[i] as number) * (1 + jump.by * 0.4);
    s.pending[i] = (s.pending[i] as number) + (jump.by * 0.6) / (1 + jump.by * 0.4);
    s.heat[i] = 7;
    s.burst[i] = 7;
  } else if (halt && halt.at <= now) {
    s.halt[i] = (s.halt[i] as number) + 1;
    stop(s, i, STATUS.halted, Math.min(halt.until, day.hours.close));
  } else if (s.stage[i] === 0) {
    s.stage[i] = 1;
    auction(s, i, plan, plan.cross, CONDITION.opening, day.hours, h);
  } else if (s.stage[i] === 1) {
    s.stage[i] = 2;
    s.upper[i] = 0;
    s.lower[i] = 0;
    s.status[i] = STATUS.trading;
    auction(s, i, plan, plan.cross * 2, CONDITION.closing, day.hours, h);
  }
  s.cueAt[i] = cueOf(s, i, plan, day.hours);
  if (s.status[i] === STATUS.trading) requote(s, i, plan, now, day.hours);
}

function stop(s: Sketches, i: number, status: number, until: number): void {
  s.status[i] = status;
  s.until[i] = until;
  s.extensions[i] = 0;
  setQuote(s, i, 0, 0, 0, 0);
  s.wallQty[i] = 0;
}

/** A call auction at what the symbol is worth: one trade that all who are in it share. */
function auction(
  s: Sketches,
  i: number,
  plan: SymbolPlan,
  mean: number,
  condition: number,
  hours: Hours,
  h: Happening,
): void {
  const qty = Math.floor((mean * (0.5 + uniform(s.random, i * 4))) / 100) * 100;
  h.condition = condition;
  h.price = roundToTick(s.worth[i] as number);
  h.qty = qty;
  if (condition === CONDITION.closing) return;
  s.reference[i] = h.price;
  s.bucket[i] = -1;
  setBands(s, i, plan, h.at, hours);
}

/** Trading resumes by auction. While the price would lie outside the widened collar, the auction is extended (from memory: 5 % and five minutes each time). */
function reopen(s: Sketches, i: number, plan: SymbolPlan, day: DayFrame, now: number, h: Happening): void {
  if (s.status[i] === STATUS.halted) {
    const halt = plan.halts[(s.halt[i] as number) - 1];
    if (halt && s.extensions[i] === 0) s.worth[i] = (s.worth[i] as number) * (1 + halt.gap);
  } else if (now < day.hours.close) {
    const reference = (s.reference[i] as number) || (s.worth[i] as number);
    const widened = 0.12 + 0.05 * (s.extensions[i] as number);
    if (Math.abs((s.worth[i] as number) / reference - 1) > widened && (s.extensions[i] as number) < 2) {
      s.extensions[i] = (s.extensions[i] as number) + 1;
      s.until[i] = Math.min(day.hours.close, now + LULD.pause);
      return;
    }
  }
  s.status[i] = STATUS.trading;
  s.limitSince[i] = 0;
  s.heat[i] = Math.max(s.heat[i] as number, 3);
  if (now >= day.hours.close && s.stage[i] === 1) {
    s.stage[i] = 2;
    s.upper[i] = 0;
    s.lower[i] = 0;
    s.cueAt[i] = NEVER;
    auction(s, i, plan, plan.cross * 2, CONDITION.closing, day.hours, h);
  } else auction(s, i, plan, Math.max(plan.cross, plan.lot * 30), CONDITION.reopening, day.hours, h);
  requote(s, i, plan, now, day.hours);
}

function moveWorth(s: Sketches, i: number, plan: SymbolPlan, day: DayFrame, now: number): void {
  const dt = now - (s.movedAt[i] as number);
  if (dt <= 0) return;
  s.movedAt[i] = now;
  const phase = plan.phases[s.phase[i] as number];
  if (!phase) return;
  const minutes = dt / MINUTE;
  const heat = s.heat[i] as number;
  const z = normal(s.random, i * 4);
  // Single steps have heavy tails of their own; 0.95 keeps their variance at one.
  const shock = 0.95 * z * (0.87 + 0.055 * z * z);
  const stopped = (s.status[i] as number) >= STATUS.pause;
  const w0 = s.worth[i] as number;
  let w =
    w0 *
    (1 +
      phase.drift * minutes * (stopped ? 0.4 : 1) +
      plan.vol * phase.vol * Math.sqrt(heat * minutes) * (stopped ? 0.4 : 1) * shock);
  const tide = tideAt(day.tides, plan.instrument.sector, now);
  w *= 1 + plan.beta * (tide / (s.tide[i] as number) - 1);
  s.tide[i] = tide;
  const due = (s.pending[i] as number) * (dt / (dt + 25 * SECOND));
  w *= 1 + due;
  s.pending[i] = (s.pending[i] as number) - due;
  // Momentum follows the last half minute, reverting interest leans against the last quarter of an hour.
  const ahead = (w / (s.fast[i] as number) - 1) * 0.01 * Math.min(1, dt / (10 * SECOND));
  const back = (w / (s.slow[i] as number) - 1) * 0.008 * Math.min(1, minutes);
  w *= 1 + Math.max(-0.01, Math.min(0.01, ahead - back));
  w = Math.max(w, 200);
  s.fast[i] = (s.fast[i] as number) + (w - (s.fast[i] as number)) * (dt / (dt + 30 * SECOND));
  s.slow[i] = (s.slow[i] as number) + (w - (s.slow[i] as number)) * (dt / (dt + 15 * MINUTE));
  s.worth[i] = stopped ? w : held(s, i, plan, w0, w, now);
  const steps = dt / 250;
  const next =
    heat +
    (1 - heat) * Math.min(1, 0.0006 * steps) +
    Math.min(0.34, 0.036 * Math.sqrt(steps)) * heat * (z * z - 1);
  s.heat[i] = Math.max(0.25, Math.min(10, next));
  s.burst[i] = ((s.burst[i] as number) * 8 * MINUTE) / (8 * MINUTE + dt);
}

/** Hidden interest at half dollars (whole ones from $20 up) holds worth at its level until it is eaten or gives up. */
function held(s: Sketches, i: number, plan: SymbolPlan, from: number, to: number, now: number): number {
  const at = s.wallAt[i] as number;
  // Nobody stands in the way of a stampede.
  if (Math.abs(plan.phases[s.phase[i] as number]?.drift ?? 0) > 0.02) {
    s.wallQty[i] = 0;
    return to;
  }
  if ((s.wallQty[i] as number) > 0) {
    if (now > (s.wallEnds[i] as number)) s.wallQty[i] = 0;
    else return s.wallSide[i] === 1 ? Math.min(to, at - 1) : Math.max(to, at + 1);
  }
  if (from < PRICE_SCALE) return to;
  const step = from < 20 * PRICE_SCALE ? 50 * CENT : 100 * CENT;
  const level = to > from ? Math.floor(to / step) * step : Math.ceil(to / step) * step;
  const crossed = to > from ? level > from : level < from;
  if (!crossed || uniform(s.random, i * 4) > 0.4) return to;
  s.wallAt[i] = level;
  s.wallSide[i] = to > from ? 1 : -1;
  s.wallQty[i] = Math.floor((plan.lot * (10 + 90 * uniform(s.random, i * 4))) / 100) * 100;
  s.wallEnds[i] = now + (2 + 8 * uniform(s.random, i * 4)) * MINUTE;
  return to > from ? level - 1 : level + 1;
}

function setQuote(s: Sketches, i: number, bid: number, ask: number, bidSize: number, askSize: number): void {
  s.bid[i] = bid;
  s.ask[i] = ask;
  s.bidSize[i] = bidSize;
  s.askSize[i] = askSize;
}

/** Shares shown at a best price. */
function shown(s: Sketches, i: number, plan: SymbolPlan, regular: boolean): number {
  const mean = (plan.depth * (regular ? 1 : 0.45)) / Math.sqrt(s.heat[i] as number);
  return 100 * (1 + Math.floor(Math.min(400, mean * exponential(s.random, i * 4))));
}

/** A quote stands until worth leaves it, and is renewed now and then. */
function requote(s: Sketches, i: number, plan: SymbolPlan, now: number, hours: Hours): void {
  const w = s.worth[i] as number;
  const bid = s.bid[i] as number;
  const ask = s.ask[i] as number;
  const inside = (ask - bid) * 0.06;
  if (bid > 0 && w > bid + inside && w < ask - inside && uniform(s.random, i * 4) > 0.12) return;
  const regular = now >= REGULAR_OPEN && now < hours.close;
  const wide = regular ? (now < REGULAR_OPEN + 2 * MINUTE ? 1.5 : 1) : 2;
  const tick = tickSize(Math.round(w) as Price);
  const half = Math.max(
    tick * 0.5,
    w * plan.halfSpread * wide * (0.7 + 0.3 * Math.sqrt(s.heat[i] as number)),
  );
  // Where the usual spread is about a tick, it is one tick.
  const narrow = half < tick * 0.8;
  const low = roundToTick(narrow ? w : w - half, 'down');
  let high = roundToTick(narrow ? low + tick : w + half, 'up');
  if (high <= low) high = roundToTick(low + tick, 'up');
  setQuote(
    s,
    i,
    low,
    high,
    low === bid && (s.bidSize[i] as number) > 0 ? (s.bidSize[i] as number) : shown(s, i, plan, regular),
    high === ask && (s.askSize[i] as number) > 0 ? (s.askSize[i] as number) : shown(s, i, plan, regular),
  );
}

function setBands(s: Sketches, i: number, plan: SymbolPlan, now: number, hours: Hours): void {
  const bands = bandsOf(s.reference[i] as number, plan.instrument.tier, now, hours);
  s.upper[i] = bands.upper;
  s.lower[i] = bands.lower;
}

/** A quote that reaches a band stands there; if it stays, trading pauses. */
function watchBands(s: Sketches, i: number, now: number, hours: Hours): void {
  const upper = s.upper[i] as number;
  const lower = s.lower[i] as number;
  if (upper === 0 || s.stage[i] !== 1) return;
  const bid = s.bid[i] as number;
  const ask = s.ask[i] as number;
  const status = bid >= upper ? STATUS.limitUp : ask <= lower ? STATUS.limitDown : STATUS.trading;
  if (status === STATUS.limitUp)
    setQuote(s, i, upper, roundToTick(upper + 1, 'up'), s.bidSize[i] as number, s.askSize[i] as number);
  else if (status === STATUS.limitDown)
    setQuote(
      s,
      i,
      roundToTick(Math.max(1, lower - 1), 'down'),
      lower,
      s.bidSize[i] as number,
      s.askSize[i] as number,
    );
  if (status !== s.status[i]) {
    s.status[i] = status;
    s.limitSince[i] = now;
  } else if (status !== STATUS.trading && now - (s.limitSince[i] as number) >= LULD.limitState) {
    stop(s, i, STATUS.pause, Math.min(now + LULD.pause, hours.close));
  }
}

/** Shares of one order: round lots with a heavy tail, and odd lots, more of them while a crowd rushes in. */
function lotOf(s: Sketches, i: number, plan: SymbolPlan): number {
  const o = i * 4;
  if (uniform(s.random, o) < 0.12 + Math.min(0.25, (s.burst[i] as number) * 0.03))
    return 1 + below(s.random, 99, o);
  const lots = (plan.lot / 100) * (1 / Math.sqrt(uniform(s.random, o)) - 1);
  return 100 * (1 + Math.floor(Math.min(60, lots)));
}

function trade(s: Sketches, i: number, plan: SymbolPlan, now: number, hours: Hours, h: Happening): void {
  const o = i * 4;
  if (uniform(s.random, o) > PRINT_SHARE || h.bid === 0) return;
  const limit = s.status[i] as number;
  const mid = (h.bid + h.ask) / 2;
  const lean = Math.max(-0.3, Math.min(0.3, ((s.worth[i] as number) - mid) / (h.ask - h.bid)));
  const draw = uniform(s.random, o);
  let side = draw < 0.5 + 0.25 * (s.flow[i] as number) + lean ? 1 : -1;
  if (limit !== STATUS.trading) side = limit === STATUS.limitUp ? -1 : 1;
  s.flow[i] = 0.9 * (s.flow[i] as number) + 0.1 * side;
  const lot = lotOf(s, i, plan);
  const where = uniform(s.random, o);
  h.side = side;
  if (where < 0.09 && now >= REGULAR_OPEN && now < hours.close && limit === STATUS.trading) {
    meetAtMidpoint(s, i, side, lot, h);
    return;
  }
  h.price = side === 1 ? h.ask : h.bid;
  if (where < 0.22) {
    h.venue = VENUE.off;
    h.qty = lot;
    return;
  }
  h.qty = Math.min(lot, side === 1 ? h.askSize : h.bidSize);
  eat(s, i, plan, side, h.qty, now, hours);
}

/** An order comes to the midpoint book: it meets what waits there unseen, or waits itself. */
function meetAtMidpoint(s: Sketches, i: number, side: number, lot: number, h: Happening): void {
  const waiting = (s.midpoint[i] as number) * -side;
  if (waiting > 0) {
    h.qty = Math.min(lot, waiting);
    h.price = Math.floor((h.bid + h.ask) / 2);
    h.venue = VENUE.mid;
    s.midpoint[i] = (s.midpoint[i] as number) + side * h.qty;
  } else s.midpoint[i] = Math.max(-6000, Math.min(6000, (s.midpoint[i] as number) + side * lot));
}

/** Takes shares from the best price; when they are gone the next price shows, unless hidden interest stands behind it. */
function eat(
  s: Sketches,
  i: number,
  plan: SymbolPlan,
  side: number,
  qty: number,
  now: number,
  hours: Hours,
): void {
  const regular = now >= REGULAR_OPEN && now < hours.close;
  const price = side === 1 ? (s.ask[i] as number) : (s.bid[i] as number);
  const left = (side === 1 ? (s.askSize[i] as number) : (s.bidSize[i] as number)) - qty;
  const wall = s.wallQty[i] as number;
  const walled = wall > 0 && s.wallSide[i] === side && s.wallAt[i] === price;
  if (walled) s.wallQty[i] = Math.max(0, wall - qty);
  const size = left > 0 ? left : shown(s, i, plan, regular);
  const next =
    left > 0 || (walled && wall > qty)
      ? price
      : side === 1
        ? roundToTick(price + 1, 'up')
        : roundToTick(Math.max(1, price - 1), 'down');
  if (side === 1) {
    s.ask[i] = next;
    s.askSize[i] = size;
  } else {
    s.bid[i] = next;
    s.bidSize[i] = size;
  }
}

/** Keeps the mean trade price of the last five minutes and moves the bands with it. */
function reckon(s: Sketches, i: number, plan: SymbolPlan, h: Happening, hours: Hours): void {
  if (s.stage[i] !== 1) return;
  const bucket = Math.floor(h.at / BUCKET);
  const base = i * BUCKETS;
  const newest = s.bucket[i] as number;
  if (bucket !== newest) {
    if (newest < 0 || bucket - newest >= BUCKETS) {
      s.meanSum.fill(0, base, base + BUCKETS);
      s.meanCount.fill(0, base, base + BUCKETS);
    } else {
      updateReference(s, i, plan, h.at, hours);
      for (let b = newest + 1; b <= bucket; b++) {
        s.meanSum[base + (b % BUCKETS)] = 0;
        s.meanCount[base + (b % BUCKETS)] = 0;
      }
    }
    s.bucket[i] = bucket;
  }
  const k = base + (bucket % BUCKETS);
  s.meanSum[k] = (s.meanSum[k] as number) + h.price;
  s.meanCount[k] = (s.meanCount[k] as number) + 1;
  if ((s.reference[i] as number) === 0) {
    s.reference[i] = h.price;
    setBands(s, i, plan, h.at, hours);
  }
}

function updateReference(s: Sketches, i: number, plan: SymbolPlan, now: number, hours: Hours): void {
  let sum = 0;
  let count = 0;
  for (let b = i * BUCKETS; b < (i + 1) * BUCKETS; b++) {
    sum += s.meanSum[b] as number;
    count += s.meanCount[b] as number;
  }
  if (count === 0) return;
  const mean = sum / count;
  const reference = s.reference[i] as number;
  if (reference === 0 || Math.abs(mean / reference - 1) >= LULD.referenceMove) s.reference[i] = mean;
  setBands(s, i, plan, now, hours);
}

function schedule(s: Sketches, i: number, plan: SymbolPlan, now: number, hours: Hours): void {
  if ((s.status[i] as number) >= STATUS.pause) {
    s.nextAt[i] = Math.max(now + 1, s.until[i] as number);
    return;
  }
  const phase = plan.phases[s.phase[i] as number];
  const perSecond =
    plan.rate *
    (phase?.pace ?? 0) *
    (1 + (s.burst[i] as number)) *
    Math.min(3, 0.6 + 0.4 * (s.heat[i] as number));
  const wait = perSecond > 0 ? 1 + Math.floor((exponential(s.random, i * 4) * 1000) / perSecond) : NEVER;
  const boundary = plan.phases[(s.phase[i] as number) + 1]?.from ?? hours.end;
  let next = Math.min(now + wait, s.cueAt[i] as number);
  if (boundary > now && boundary < next) next = boundary;
  const limited = s.status[i] !== STATUS.trading;
  if (limited) next = Math.min(next, Math.max(now + 1, (s.limitSince[i] as number) + LULD.limitState));
  s.nextAt[i] = next >= hours.end ? NEVER : next;
}

// --- imported days

const minutes = new WeakMap<object, readonly PlannedPrint[]>();

function replayPrint(s: Sketches, i: number, plan: SymbolPlan, seed: number): PlannedPrint | null {
  const bars = plan.bars ?? [];
  for (;;) {
    const bar = bars[s.bar[i] as number];
    if (!bar) return null;
    let prints = minutes.get(bar);
    if (!prints) {
      prints = printsOf(bar, seed);
      minutes.set(bar, prints);
    }
    const print = prints[s.trade[i] as number];
    if (print) return print;
    s.bar[i] = (s.bar[i] as number) + 1;
    s.trade[i] = 0;
  }
}

/** The next imported trade, with a book's best prices around it. */
function stepReplay(s: Sketches, i: number, plan: SymbolPlan, day: DayFrame, h: Happening): void {
  const print = replayPrint(s, i, plan, day.seed);
  if (!print) {
    s.nextAt[i] = NEVER;
    return;
  }
  const bar = plan.bars?.[s.bar[i] as number];
  const side = print.price >= (s.worth[i] as number) ? 1 : -1;
  const q = quoteAround(print.price, side === 1, bar ? bar.high - bar.low : 0, s.random, i * 4);
  setQuote(
    s,
    i,
    q.bid,
    q.ask,
    Math.max(q.bidSize, side === -1 ? print.qty : 0),
    Math.max(q.askSize, side === 1 ? print.qty : 0),
  );
  h.bid = q.bid;
  h.ask = q.ask;
  h.bidSize = s.bidSize[i] as number;
  h.askSize = s.askSize[i] as number;
  h.price = print.price;
  h.qty = print.qty;
  h.side = side;
  s.worth[i] = print.price;
  s.movedAt[i] = h.at;
  if (side === 1) s.askSize[i] = Math.max(100, h.askSize - print.qty);
  else s.bidSize[i] = Math.max(100, h.bidSize - print.qty);
  s.trade[i] = (s.trade[i] as number) + 1;
  s.nextAt[i] = replayPrint(s, i, plan, day.seed)?.at ?? NEVER;
}

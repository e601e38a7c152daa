// The planned day of each symbol, step by step: one print, or one thing of the day's programme.
import {
  type Hours,
  keyOf,
  mix,
  onTick,
  PRE_OPEN,
  type Price,
  REGULAR_OPEN,
  roundToTick,
  tickSize,
} from '../units/index.ts';
import { LULD } from '../venue/index.ts';
import { cool, excite, waitFor, warm } from './arrivals.ts';
import { CONDITION, emptyColumns, type Happening, NEVER, type Sketches, STATUS, VENUE } from './columns.ts';
import { MEAN_NEWS, NEWS_OF, priceNow, sigmaOf } from './impact.ts';
import { reckon, setBands, watchBands } from './limits.ts';
import type { Given, Phase, Rushes, SymbolPlan } from './plan.ts';
import { flickers, narrow, requote, show, sizeAt, withdraw } from './quote.ts';
import { below, createRandom, normal, uniform } from './random.ts';
import { type PlannedPrint, printsOf, quoteAround } from './replay.ts';
import { expectedSide, rememberSide, SURPRISE } from './sides.ts';
import { sameTide, type Tides, tideAt } from './tides.ts';
import { varianceLeft } from './usual.ts';

/** How much wider makers quote right after the opening auction; where prints crowd each tells less, and they stand back further. */
const OPENS_WIDER = { usual: 0.8, mover: 3 };

/** How sure the tape can be of the next side at most: some trade always comes from the other one. */
const MOST_SURE = 0.98;

/** What all symbols of a day share. */
export interface DayFrame {
  seed: number;
  hours: Hours;
  tides: Tides;
}

/** The plans of a day at 04:00. */
export function createSketches(plans: readonly SymbolPlan[], day: DayFrame): Sketches {
  const s = emptyColumns(plans.length);
  s.movedAt.fill(PRE_OPEN);
  s.heatAt.fill(PRE_OPEN);
  plans.forEach((plan, i) => {
    const { symbol } = plan.instrument;
    s.random.set(createRandom(day.seed, symbol), i * 4);
    s.key[i] = keyOf(day.seed, symbol);
    if (plan.bars) {
      const worth = plan.bars[0]?.open ?? plan.instrument.priorClose;
      s.worth[i] = worth;
      const q = quoteAround(worth, true, plan.instrument.atr / 40, s.random, i * 4);
      setQuote(s, i, q.bid, q.ask, q.bidSize, q.askSize);
      s.nextAt[i] = replayPrint(s, i, plan, day.seed)?.at ?? NEVER;
      return;
    }
    s.worth[i] = startOf(plan);
    flickers(s, i, plan);
    s.quick[i] = normal(s.random, i * 4);
    s.slow[i] = normal(s.random, i * 4);
    warm(s, i, plan);
    learnSigma(s, i, plan);
    requote(s, i, plan, PRE_OPEN, true);
    show(s, i, plan, PRE_OPEN, day.hours);
    s.cueAt[i] = cueOf(s, i, plan, day.hours);
    schedule(s, i, plan, PRE_OPEN, day.hours);
  });
  return s;
}

const startOf = (plan: SymbolPlan): number => plan.stood * (1 + plan.overnight);

/**
 * Lets the one thing happen that is due for symbol `i`, and writes what it came to into `h`. Whoever looks
 * at the quote after it brings it to the time first ({@link show}).
 */
export function stepSketch(s: Sketches, i: number, plan: SymbolPlan, day: DayFrame, h: Happening): void {
  const now = s.nextAt[i] as number;
  h.at = now;
  h.qty = 0;
  h.side = 0;
  h.venue = VENUE.lit;
  h.condition = CONDITION.regular;
  h.status = STATUS.trading;
  if (plan.bars) return stepReplay(s, i, plan, day, h);
  const changed = nextStretch(s, i, plan, now);
  const wandered = cool(s, i, plan, now);
  if (changed && plan.given) warm(s, i, plan);
  if (wandered || changed) learnSigma(s, i, plan);
  narrow(s, i, now);
  followTide(s, i, plan, day, now);
  s.movedAt[i] = now;
  show(s, i, plan, now, day.hours);
  h.bid = s.bid[i] as number;
  h.ask = s.ask[i] as number;
  h.bidSize = s.bidSize[i] as number;
  h.askSize = s.askSize[i] as number;
  h.status = stands(s, i);
  h.upper = s.upper[i] as number;
  h.lower = s.lower[i] as number;
  if ((s.status[i] as number) >= STATUS.pause) {
    if (now >= (s.until[i] as number)) reopen(s, i, plan, day, now, h);
  } else if (now >= (s.cueAt[i] as number)) onCue(s, i, plan, day, now, h);
  else {
    if (!changed) trade(s, i, plan, day, now, h);
    if (watchBands(s, i, now)) stop(s, i, STATUS.pause, Math.min(now + LULD.pause, day.hours.close));
  }
  schedule(s, i, plan, now, day.hours);
}

/** The trading status as it is felt: an offer above the upper band, or a bid below the lower one, is as good as none. */
function stands(s: Sketches, i: number): number {
  const status = s.status[i] as number;
  if (status !== STATUS.trading || s.upper[i] === 0) return status;
  if ((s.ask[i] as number) > (s.upper[i] as number)) return STATUS.limitUp;
  return (s.bid[i] as number) < (s.lower[i] as number) ? STATUS.limitDown : status;
}

const stretch = (s: Sketches, i: number, plan: SymbolPlan): Phase | undefined =>
  plan.phases[s.phase[i] as number];

function nextStretch(s: Sketches, i: number, plan: SymbolPlan, now: number): boolean {
  const { phases } = plan;
  let changed = false;
  while ((phases[(s.phase[i] as number) + 1]?.from ?? NEVER) <= now) {
    s.phase[i] = (s.phase[i] as number) + 1;
    flickers(s, i, plan);
    changed = true;
  }
  return changed;
}

/** Half of the heat goes into what a print tells, the other half into how many come. */
function learnSigma(s: Sketches, i: number, plan: SymbolPlan): void {
  const phase = stretch(s, i, plan);
  s.sigma[i] = phase
    ? sigmaOf(plan.vol * phase.vol, plan.rate * phase.pace) * Math.sqrt(Math.sqrt(s.heat[i] as number))
    : 0;
}

function followTide(s: Sketches, i: number, plan: SymbolPlan, day: DayFrame, now: number): void {
  if (sameTide(s.movedAt[i] as number, now)) return;
  const tide = tideAt(day.tides, plan.instrument.sector, now);
  s.pending[i] = (s.pending[i] as number) + plan.beta * (tide / (s.tide[i] as number) - 1);
  s.tide[i] = tide;
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
    learn(s, i, plan, jump.by);
    requote(s, i, plan, now, true);
  } else if (halt && halt.at <= now) {
    s.halt[i] = (s.halt[i] as number) + 1;
    stop(s, i, STATUS.halted, Math.min(halt.until, day.hours.close));
  } else if (s.stage[i] === 0) {
    s.stage[i] = 1;
    s.wide[i] = plan.given ? OPENS_WIDER.usual : OPENS_WIDER.mover;
    auction(s, i, plan, plan.cross, CONDITION.opening, day.hours, h);
    requote(s, i, plan, now, true);
  } else if (s.stage[i] === 1) close(s, i, plan, day, h);
  s.cueAt[i] = cueOf(s, i, plan, day.hours);
}

/** News: worth steps at once, makers stand back, many come to trade. */
function learn(s: Sketches, i: number, plan: SymbolPlan, by: number): void {
  s.worth[i] = (s.worth[i] as number) * (1 + by);
  s.wide[i] = 6;
  s.burst[i] = Math.max(s.burst[i] as number, Math.min(8, 2 + 20 * Math.abs(by)));
  s.quick[i] = Math.max(s.quick[i] as number, 1.5);
  learnSigma(s, i, plan);
}

function stop(s: Sketches, i: number, status: number, until: number): void {
  s.status[i] = status;
  s.until[i] = until;
  s.extensions[i] = 0;
  if (status === STATUS.pause) s.pauses[i] = (s.pauses[i] as number) + 1;
  endFlush(s, i);
  withdraw(s, i);
}

/** A flush that trading's end cuts short has happened all the same: what was left of it comes at once. */
function endFlush(s: Sketches, i: number): void {
  const left = s.flush[i] as number;
  if (left === 0) return;
  s.flush[i] = 0;
  tell(s, i, Math.max(-0.6, 2 * left * (s.sigma[i] as number) * NEWS_OF.lit), Math.sign(left));
}

/** The closing auction: who has his course given stands where it says. */
function close(s: Sketches, i: number, plan: SymbolPlan, day: DayFrame, h: Happening): void {
  s.stage[i] = 2;
  s.upper[i] = 0;
  s.lower[i] = 0;
  s.status[i] = STATUS.trading;
  s.rush[i] = 0;
  endFlush(s, i);
  if (plan.given) s.worth[i] = endOf(plan, plan.given, day);
  auction(s, i, plan, plan.close, CONDITION.closing, day.hours, h);
  requote(s, i, plan, h.at, true);
}

/** Where a symbol whose course is given stands at the close, without the trader. */
export const endOf = (plan: SymbolPlan, given: Given, day: DayFrame): number =>
  startOf(plan) *
  (1 + given.ends) *
  (1 + plan.beta * (tideAt(day.tides, plan.instrument.sector, day.hours.close) - 1));

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
  s.worth[i] =
    (s.worth[i] as number) * (1 + (condition === CONDITION.closing ? 0 : (s.pending[i] as number)));
  s.pending[i] = 0;
  h.condition = condition;
  h.price = roundToTick(Math.max(1, priceNow(s, i, plan, h.at)));
  h.qty = Math.max(100, Math.floor((mean * (0.5 + uniform(s.random, i * 4))) / 100) * 100);
  h.bid = 0;
  h.ask = 0;
  if (condition === CONDITION.closing) return;
  s.reference[i] = h.price;
  s.bucket[i] = -1;
  setBands(s, i, plan, h.at, hours);
  reckon(s, i, plan, h.at, h.price, hours);
}

/** Trading resumes by auction. While the price would lie outside the widened collar, the auction is extended (from memory: 5 % and five minutes each time). */
function reopen(s: Sketches, i: number, plan: SymbolPlan, day: DayFrame, now: number, h: Happening): void {
  const o = i * 4;
  if (s.extensions[i] === 0) {
    const gap =
      s.status[i] === STATUS.halted
        ? (plan.halts[(s.halt[i] as number) - 1]?.gap ?? 0)
        : 1.2 * plan.vol * (stretch(s, i, plan)?.vol ?? 1) * normal(s.random, o);
    s.worth[i] = (s.worth[i] as number) * (1 + Math.max(-0.6, gap));
  }
  if (s.status[i] === STATUS.pause && now < day.hours.close) {
    const price = priceNow(s, i, plan, now);
    const reference = (s.reference[i] as number) || price;
    const widened = 0.12 + 0.05 * (s.extensions[i] as number);
    if (Math.abs(price / reference - 1) > widened && (s.extensions[i] as number) < 2) {
      s.extensions[i] = (s.extensions[i] as number) + 1;
      s.until[i] = Math.min(day.hours.close, now + LULD.pause);
      return;
    }
  }
  s.status[i] = STATUS.trading;
  s.limitSince[i] = 0;
  s.wide[i] = 3;
  s.burst[i] = Math.max(s.burst[i] as number, 3);
  if (now >= day.hours.close && s.stage[i] === 1) {
    s.cueAt[i] = NEVER;
    close(s, i, plan, day, h);
    return;
  }
  auction(s, i, plan, Math.max(plan.cross, plan.lot * 30), CONDITION.reopening, day.hours, h);
  requote(s, i, plan, now, true);
}

function setQuote(s: Sketches, i: number, bid: number, ask: number, bidSize: number, askSize: number): void {
  s.bid[i] = bid;
  s.ask[i] = ask;
  s.bidSize[i] = bidSize;
  s.askSize[i] = askSize;
}

// --- prints

/** How much more often than the tape says one side comes: a rush, the way to a given end, the market's move. */
function tilted(s: Sketches, i: number, plan: SymbolPlan, now: number): number {
  const sigma = s.sigma[i] as number;
  let tilt = s.rush[i] as number;
  if (sigma === 0) return tilt;
  if (plan.given) {
    // A walk of which the end is known drifts there by its distance over the steps that are left.
    const left = varianceLeft(plan.given, plan.phases, s.phase[i] as number, now) * plan.vol * plan.vol;
    const away = (1 + plan.given.ends) / (s.own[i] as number) - 1;
    tilt += bounded((away * sigma * SURPRISE * 0.9) / Math.max(left, 4 * sigma * sigma), 0.35);
  }
  return tilt + after(s, i);
}

/** How much more often the side comes that the market's move asks for. */
const after = (s: Sketches, i: number): number =>
  s.sigma[i] === 0 ? 0 : bounded((s.pending[i] as number) / (4 * (s.sigma[i] as number)), 0.25);

const bounded = (x: number, by: number): number => Math.max(-by, Math.min(by, x));

/** A rush may set in, or end in a flush, with any trade. */
function mayRush(s: Sketches, i: number, plan: SymbolPlan, r: Rushes, now: number, pace: number): void {
  const draw = uniform(s.random, i * 4);
  const on = s.rush[i] as number;
  if (on !== 0) {
    if (draw < 1 / r.trades) {
      s.rush[i] = 0;
      // What a rush brings is what it tilts beyond what the tape already expects: a flush takes back as much, and no more.
      const expected = expectedSide(s, i);
      const brings = bounded(expected + on, MOST_SURE) - expected;
      s.flush[i] = -Math.round((MEAN_NEWS * brings * r.trades) / 2);
    }
  } else if (now >= r.from && s.flush[i] === 0 && (now < r.until || (r.untilPaused && s.pauses[i] === 0))) {
    const chance = r.perHour / (3600 * Math.max(0.01, plan.rate * pace));
    if (draw < chance) s.rush[i] = draw < chance * r.up ? r.tilt : -r.tilt;
  }
}

function trade(s: Sketches, i: number, plan: SymbolPlan, day: DayFrame, now: number, h: Happening): void {
  const o = i * 4;
  if (plan.rushes) mayRush(s, i, plan, plan.rushes, now, stretch(s, i, plan)?.pace ?? 0);
  // The same draws whatever the price is: the trader moves the price, not what happens by chance.
  const draw = uniform(s.random, o);
  const where = uniform(s.random, o);
  const lot = lotOf(s, i, plan);
  const flush = s.flush[i] as number;
  const expected = expectedSide(s, i);
  const chance = 0.5 * (1 + bounded(expected + tilted(s, i, plan, now), MOST_SURE));
  const side = flush !== 0 ? (flush > 0 ? 1 : -1) : draw < chance ? 1 : -1;
  const regular = s.stage[i] === 1;
  const venue =
    flush !== 0 || h.status !== STATUS.trading
      ? VENUE.lit
      : where < 0.09 && regular
        ? VENUE.mid
        : where < 0.32
          ? VENUE.off
          : VENUE.lit;
  if (flush !== 0) s.flush[i] = flush - side;
  print(s, i, h, side, venue, lot, (where - 0.09) / 0.23);
  const news = (s.sigma[i] as number) * (venue === VENUE.lit ? NEWS_OF.lit : NEWS_OF.hidden);
  // What follows the market's move by more of one side's trades is not left to follow it otherwise.
  if (flush === 0) s.pending[i] = (s.pending[i] as number) - news * after(s, i);
  tell(s, i, flush !== 0 ? 2 * side * news : news * (side - expected), side);
  rememberSide(s, i, side);
  excite(s, i);
  if (h.qty > 0) reckon(s, i, plan, now, h.price, day.hours);
  const size = side === 1 ? h.askSize : h.bidSize;
  requote(s, i, plan, now);
  if (h.qty > 0 && venue === VENUE.lit) eat(s, i, plan, h, size);
}

/** A print has told something: worth moves by it, and by what of the market's move goes the same way. */
function tell(s: Sketches, i: number, by: number, side: number): void {
  const pending = s.pending[i] as number;
  const along = pending * side > 0 ? 0.5 * pending : 0;
  s.pending[i] = pending - along;
  s.own[i] = (s.own[i] as number) * (1 + by);
  s.worth[i] = Math.max(200, (s.worth[i] as number) * (1 + by) * (1 + along));
}

/** Shares of one print: round lots with a heavy tail, and odd lots. */
function lotOf(s: Sketches, i: number, plan: SymbolPlan): number {
  const o = i * 4;
  const odd = uniform(s.random, o) < 0.35;
  const u = uniform(s.random, o);
  if (odd) return 1 + Math.floor(u * u * 99);
  const extra = Math.max(0, plan.lot - 80) * 1.8;
  return 100 * (1 + Math.floor((Math.min(30, 1 / Math.sqrt(u) - 1) * extra) / 100));
}

/** What trades, where and at which price of the quote that stands. */
function print(
  s: Sketches,
  i: number,
  h: Happening,
  side: number,
  venue: number,
  lot: number,
  share: number,
): void {
  if (h.bid === 0) return;
  // At a band only who sells into it (or buys, at the lower one) finds somebody.
  if ((h.status === STATUS.limitUp && side === 1) || (h.status === STATUS.limitDown && side === -1)) return;
  h.side = side;
  h.venue = venue;
  if (venue === VENUE.mid) return meetAtMidpoint(s, i, side, lot, h);
  h.price = side === 1 ? h.ask : h.bid;
  if (venue === VENUE.off) {
    h.qty = lot;
    const room = h.ask - h.bid;
    const tick = tickSize(h.ask as Price);
    const better =
      room < 2 * tick
        ? share > 0.75
          ? Math.floor(room / 2)
          : 0
        : Math.floor((bounded(share - 0.4, 0.5) * room) / tick) * tick;
    if (better > 0) h.price -= side * better;
    return;
  }
  h.qty = Math.min(lot, side === 1 ? h.askSize : h.bidSize);
}

/** An order comes to the midpoint book: it meets what waits there unseen, or waits itself. */
function meetAtMidpoint(s: Sketches, i: number, side: number, lot: number, h: Happening): void {
  const waiting = (s.midpoint[i] as number) * -side;
  if (waiting > 0) {
    h.qty = Math.min(lot, waiting);
    h.price = Math.floor((h.bid + h.ask) / 2);
    s.midpoint[i] = (s.midpoint[i] as number) + side * h.qty;
  } else s.midpoint[i] = Math.max(-6000, Math.min(6000, (s.midpoint[i] as number) + side * lot));
}

/**
 * What a lit print leaves of the price that it took: where the makers give way it takes all that
 * was shown (unless that was far more), else the rest stays, or new shares come when none is left.
 */
function eat(s: Sketches, i: number, plan: SymbolPlan, h: Happening, shown: number): void {
  const { side } = h;
  const stays = side === 1 ? (s.high[i] as number) <= h.price : (s.low[i] as number) >= h.price;
  if (!stays) {
    if (shown <= 3 * h.qty) h.qty = shown;
    return;
  }
  if (s.flicker[i] === -1) return;
  const left = shown - h.qty;
  const size = left > 0 ? left : sizeAt(h.price, plan.depth, mix(s.key[i] as number, h.at + h.price));
  const makers = side === 1 ? (s.high[i] as number) : (s.low[i] as number);
  // Who stood a tick before the makers is gone when his shares are.
  if (side === 1) {
    if (left <= 0) s.ask[i] = makers;
    s.askSize[i] = size;
  } else {
    if (left <= 0) s.bid[i] = makers;
    s.bidSize[i] = size;
  }
}

function schedule(s: Sketches, i: number, plan: SymbolPlan, now: number, hours: Hours): void {
  if ((s.status[i] as number) >= STATUS.pause) {
    s.nextAt[i] = Math.max(now + 1, s.until[i] as number);
    return;
  }
  const phase = stretch(s, i, plan);
  const wait = s.flush[i] === 0 ? waitFor(s, i, plan, phase?.pace ?? 0) : 6 + below(s.random, 10, i * 4);
  const boundary = plan.phases[(s.phase[i] as number) + 1]?.from ?? hours.end;
  let next = Math.min(now + wait, s.cueAt[i] as number);
  if (boundary > now && boundary < next) next = boundary;
  if (s.status[i] !== STATUS.trading)
    next = Math.min(next, Math.max(now + 1, (s.limitSince[i] as number) + LULD.limitState));
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

/** The next imported trade, with a book's best prices around it; where the trader has moved the price, all of it is moved. */
function stepReplay(s: Sketches, i: number, plan: SymbolPlan, day: DayFrame, h: Happening): void {
  const print = replayPrint(s, i, plan, day.seed);
  if (!print) {
    s.nextAt[i] = NEVER;
    return;
  }
  const bar = plan.bars?.[s.bar[i] as number];
  const side = print.price >= (s.worth[i] as number) ? 1 : -1;
  s.worth[i] = print.price;
  // Where the trader has moved the price, it is another one; else it is honoured, at half a tick too.
  const now = priceNow(s, i, plan, h.at);
  const price = now === print.price ? print.price : roundToTick(Math.max(1, now));
  if (!onTick(price as Price)) h.venue = VENUE.off;
  const q = quoteAround(price, side === 1, bar ? bar.high - bar.low : 0, s.random, i * 4);
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
  h.price = price;
  h.qty = print.qty;
  h.side = side;
  s.movedAt[i] = h.at;
  if (side === 1) s.askSize[i] = Math.max(100, h.askSize - print.qty);
  else s.bidSize[i] = Math.max(100, h.bidSize - print.qty);
  s.trade[i] = (s.trade[i] as number) + 1;
  s.nextAt[i] = replayPrint(s, i, plan, day.seed)?.at ?? NEVER;
}

// The planned day of each symbol, step by step: one print, or one thing of the day's programme.
import { type Hours, keyOf, PRE_OPEN, REGULAR_OPEN, roundToTick } from '../units/index.ts';
import { LULD } from '../venue/index.ts';
import { cool, waitFor, warm } from './arrivals.ts';
import { CONDITION, emptyColumns, type Happening, NEVER, type Sketches, STATUS, VENUE } from './columns.ts';
import { NEWS_OF, priceNow, sigmaOf } from './impact.ts';
import { reckon, setBands, watchBands } from './limits.ts';
import type { Given, SymbolPlan } from './plan.ts';
import { flickers, narrow, requote, show, withdraw } from './quote.ts';
import { below, createRandom, normal, uniform } from './random.ts';
import { quoteAround } from './replay.ts';
import { type DayFrame, setQuote, stretch } from './sketch-frame.ts';
import { replayPrint, stepReplay } from './sketch-replay.ts';
import { tell, trade } from './sketch-trades.ts';
import { sameTide, tideAt } from './tides.ts';

/** How much wider makers quote right after the opening auction; where prints crowd each tells less, and they stand back further. */
const OPENS_WIDER = { usual: 0.8, mover: 3 };

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
  reckon(s, i, plan, h, hours);
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

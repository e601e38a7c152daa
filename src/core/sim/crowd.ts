import { PRICE_SCALE, type Price, REGULAR_CLOSE, REGULAR_OPEN, roundToTick, type Side, tickSize } from '../units/index.ts';
import { type Book, bestAsk, bestBid, cancel, createBook, type MatchSink, openQty, submit } from '../venue/index.ts';
import { below, createRandom, exponential, normal, type Random, uniform } from './random.ts';
import type { SymbolPlan } from './scenario.ts';

/**
 * The crowd that trades one symbol. It has an opinion of what the symbol is worth (`worth`, moved
 * by the scenario's phases, jumps and chance) and acts on it: resting orders around it, taking
 * what is mispriced, withdrawing. The book is what these orders leave; nothing sets a quote
 * directly, and the trader's own orders meet the same crowd.
 */
export interface Crowd {
  plan: SymbolPlan;
  /** Opinion and actions draw from separate streams, so that the trader's deeds never move the opinion. */
  opinion: Random;
  deeds: Random;
  book: Book;
  /** Price units, not rounded. */
  worth: number;
  /** Momentary variance relative to the phase's own; clusters, and makes the tails heavy. */
  heat: number;
  phase: number;
  jump: number;
  opinionAt: number;
  nextAt: number;
  counter: number;
  bids: number[];
  asks: number[];
}

/** How many resting orders of the crowd a side may hold. */
const MOST_RESTING = 56;
const FEWEST_RESTING = 12;
/** Opinion moves on a grid of a quarter of a second, whatever the crowd does. */
const OPINION_STEP = 250;

/** The crowd at 04:00 with its first book. Order ids of the crowd are even numbers. */
export function createCrowd(plan: SymbolPlan, seed: number, start: number, sink: MatchSink): Crowd {
  const worth = plan.instrument.priorClose * (1 + plan.overnight);
  const crowd: Crowd = {
    plan,
    opinion: createRandom(seed, `${plan.instrument.symbol} opinion`),
    deeds: createRandom(seed, `${plan.instrument.symbol} deeds`),
    book: createBook(roundToTick(worth)),
    worth,
    heat: 1,
    phase: 0,
    jump: 0,
    opinionAt: start,
    nextAt: start,
    counter: 0,
    bids: [],
    asks: [],
  };
  for (let i = 0; i < FEWEST_RESTING; i++) {
    rest(crowd, 'buy', 2, sink);
    rest(crowd, 'sell', 2, sink);
  }
  schedule(crowd);
  return crowd;
}

/** Lets the crowd do its one deed that is due at `crowd.nextAt`, and sets the next time. */
export function act(crowd: Crowd, sink: MatchSink): void {
  const now = crowd.nextAt;
  moveOpinion(crowd, now);
  const { book, deeds } = crowd;
  const wide = now < REGULAR_OPEN || now >= REGULAR_CLOSE ? 2 : 1;
  const half = halfSpread(crowd, wide);
  const bid = bestBid(book);
  const ask = bestAsk(book);
  const draw = uniform(deeds);
  if (bid !== null && bid > crowd.worth + half * 0.3) take(crowd, 'sell', half, sink);
  else if (ask !== null && ask < crowd.worth - half * 0.3) take(crowd, 'buy', half, sink);
  else if (crowd.bids.length < FEWEST_RESTING) rest(crowd, 'buy', wide, sink);
  else if (crowd.asks.length < FEWEST_RESTING) rest(crowd, 'sell', wide, sink);
  else if (draw < 0.26 && bid !== null && ask !== null) {
    const lean = (crowd.worth - (bid + ask) / 2) / (4 * half);
    const buys = uniform(deeds) < 0.5 + Math.max(-0.42, Math.min(0.42, lean));
    take(crowd, buys ? 'buy' : 'sell', half, sink);
  } else if (draw < 0.66) rest(crowd, uniform(deeds) < 0.5 ? 'buy' : 'sell', wide, sink);
  else withdraw(crowd, uniform(deeds) < 0.5 ? 'buy' : 'sell', half);
  schedule(crowd);
}

function schedule(crowd: Crowd): void {
  const phase = crowd.plan.phases[crowd.phase];
  const perSecond = 4 * (phase?.pace ?? 1) * Math.min(3, 0.6 + 0.4 * crowd.heat);
  crowd.nextAt += 1 + Math.floor((exponential(crowd.deeds) * 1000) / perSecond);
}

function moveOpinion(crowd: Crowd, now: number): void {
  const { phases, jumps } = crowd.plan;
  while (crowd.opinionAt + OPINION_STEP <= now) {
    crowd.opinionAt += OPINION_STEP;
    const t = crowd.opinionAt;
    while ((phases[crowd.phase + 1]?.from ?? Number.POSITIVE_INFINITY) <= t) crowd.phase++;
    const jump = jumps[crowd.jump];
    if (jump && jump.at <= t) {
      crowd.worth *= 1 + jump.by;
      crowd.heat = 9;
      crowd.jump++;
    }
    const phase = phases[crowd.phase];
    if (!phase) continue;
    const minutes = OPINION_STEP / 60_000;
    const z = normal(crowd.opinion);
    crowd.worth *= 1 + phase.drift * minutes + phase.vol * Math.sqrt(crowd.heat * minutes) * z;
    crowd.worth = Math.max(crowd.worth, 200);
    const heat = crowd.heat + (1 - crowd.heat) * 0.006 + 0.055 * crowd.heat * (z * z - 1);
    crowd.heat = Math.max(0.25, Math.min(10, heat));
  }
}

function halfSpread(crowd: Crowd, wide: number): number {
  const tick = tickSize(Math.round(crowd.worth) as Price);
  const heat = 0.7 + 0.3 * Math.sqrt(crowd.heat);
  return Math.max(tick * 0.55, crowd.worth * crowd.plan.halfSpread * wide * heat);
}

/** Shares of one order: round lots with a heavy tail, larger where the price is low, and odd lots. */
function lot(crowd: Crowd): number {
  const { deeds } = crowd;
  if (uniform(deeds) < 0.12) return 1 + below(deeds, 99);
  const dollars = crowd.worth / PRICE_SCALE;
  const base = dollars < 1 ? 500 : dollars < 5 ? 200 : 100;
  return base * (1 + Math.floor(Math.min(24, 0.9 / Math.sqrt(uniform(deeds)) - 0.9)));
}

function rest(crowd: Crowd, side: Side, wide: number, sink: MatchSink): void {
  const { deeds } = crowd;
  const half = halfSpread(crowd, wide);
  let steps = 0;
  while (steps < 14 && uniform(deeds) < 0.72) steps++;
  const away = half * (0.5 + uniform(deeds) * 0.7) + steps * Math.max(half * 0.55, tickSize(Math.round(crowd.worth) as Price));
  const at = side === 'buy' ? roundToTick(crowd.worth - away, 'down') : roundToTick(crowd.worth + away, 'up');
  const id = ++crowd.counter * 2;
  const left = submit(crowd.book, id, side, at, lot(crowd), 0, true, sink);
  if (left <= 0) return;
  const list = side === 'buy' ? crowd.bids : crowd.asks;
  if (list.length >= MOST_RESTING) {
    const victim = below(deeds, list.length);
    cancel(crowd.book, list[victim] as number);
    list[victim] = id;
  } else list.push(id);
}

function take(crowd: Crowd, side: Side, half: number, sink: MatchSink): void {
  const reach = half * (1 + 2 * uniform(crowd.deeds));
  const limit = side === 'buy' ? roundToTick(crowd.worth + reach, 'up') : roundToTick(crowd.worth - reach, 'down');
  submit(crowd.book, ++crowd.counter * 2, side, limit, lot(crowd), 0, false, sink);
}

function withdraw(crowd: Crowd, side: Side, half: number): void {
  const list = side === 'buy' ? crowd.bids : crowd.asks;
  for (let tries = 0; tries < 3 && list.length > 0; tries++) {
    const i = below(crowd.deeds, list.length);
    const id = list[i] as number;
    const gone = openQty(crowd.book, id) === 0;
    const touch = side === 'buy' ? bestBid(crowd.book) : bestAsk(crowd.book);
    const stale = touch !== null && Math.abs(touch - crowd.worth) > half * 12;
    if (!gone && !stale && uniform(crowd.deeds) < 0.35) return;
    if (!gone) cancel(crowd.book, id);
    list[i] = list[list.length - 1] as number;
    list.pop();
    if (!gone) return;
  }
}

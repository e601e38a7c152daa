import { boardTrade, createBoard, createTape, type Print, record } from '../market/index.ts';
import { AFTER_CLOSE, clockOf, DAY, PRE_OPEN, type Price, REGULAR_OPEN } from '../units/index.ts';
import { askSize, bestAsk, bestBid, bidSize, restrictsShorts } from '../venue/index.ts';
import { CONDITION, type Happening, newHappening, type Sketches, STATUS } from './columns.ts';
import { out } from './executions.ts';
import { conditionName, createFloor, happen, onlyCrowd, settleBook, venueName } from './floor.ts';
import type { Floor, FloorContext } from './floor-types.ts';
import type { Market } from './market-state.ts';
import { numberOf } from './market-symbols.ts';
import type { Scenario } from './plan.ts';
import { nextFlicker, show } from './quote.ts';
import { createSketches, stepSketch } from './sketch.ts';
import type { DayFrame } from './sketch-frame.ts';
import { tidesOf } from './tides.ts';

/** What of a market must be kept; the rest is made anew from its scenario by {@link reviveMarket}. */
export type SavedMarket = Pick<
  Market,
  'dayStart' | 'now' | 'sketches' | 'board' | 'bulkAt' | 'coarse' | 'stops' | 'happened'
> & { floors: Floor[] };

const UNTOUCHED_KEPT = 20;

const scratch = newHappening();

/** What all symbols of a scenario's day share. */
export const frameOf = (scenario: Scenario): DayFrame => ({
  seed: scenario.seed,
  hours: scenario.hours,
  tides: tidesOf(scenario.mood, scenario.seed),
});

/** A market at 04:00 of the scenario's day. */
export function createMarket(scenario: Scenario, day = 0): Market {
  const frame = frameOf(scenario);
  const sketches = createSketches(scenario.symbols, frame);
  const m: Market = {
    ...blank(scenario, frame),
    dayStart: day * DAY,
    now: day * DAY + PRE_OPEN,
    sketches,
    board: createBoard(scenario.symbols.length),
    bulkAt: PRE_OPEN,
  };
  scenario.symbols.forEach((plan, i) => {
    quoteOnBoard(m, i);
    m.board.restricted[i] = plan.restricted ? 1 : 0;
  });
  return m;
}

const blank = (scenario: Scenario, frame: DayFrame) => ({
  scenario,
  frame,
  index: new Map(scenario.symbols.map((s, i) => [s.instrument.symbol, i])),
  floors: new Map<number, Floor>(),
  reports: [],
  printed: -1,
  stops: [],
  happened: 0,
  coarse: false,
});

/** The market as it can be kept. */
export const saveMarket = (m: Market): SavedMarket => ({
  dayStart: m.dayStart,
  now: m.now,
  sketches: m.sketches,
  board: m.board,
  bulkAt: m.bulkAt,
  coarse: m.coarse,
  stops: m.stops,
  happened: m.happened,
  floors: [...m.floors.values()].filter((f) => f.touched || f.kept),
});

/** The market from what was kept of it. */
export function reviveMarket(scenario: Scenario, saved: SavedMarket): Market {
  const frame = frameOf(scenario);
  return { ...blank(scenario, frame), ...saved, floors: new Map(saved.floors.map((f) => [f.i, f])) };
}

/**
 * Lets the next due happening of a full book come, if it is due by `until`; when none is, all other
 * symbols run up to `until` and the clock stands there.
 * @returns the symbol's number, or −1.
 */
export function stepMarket(m: Market, until: number): number {
  const end = Math.min(until - m.dayStart, AFTER_CLOSE);
  let due = -1;
  let first = end + 1;
  for (const f of m.floors.values()) {
    const t = Math.min(m.sketches.nextAt[f.i] as number, f.flickerAt);
    if (t < first || (t === first && f.i < due)) {
      first = t;
      due = f.i;
    }
  }
  m.printed = -1;
  if (due < 0) {
    runOthers(m, end);
    m.now = Math.max(m.now, until);
    return -1;
  }
  m.now = Math.max(m.now, m.dayStart + first);
  const f = m.floors.get(due) as Floor;
  if (f.kept || f.touched) m.happened++;
  if (f.flickerAt <= first) {
    // What is shown changes before what trades on it.
    show(m.sketches, due, planOf(m, due), first, m.frame.hours);
    settleBook(f, contextOf(m, f));
    flickers(m, f, first);
    bookOnBoard(m, f);
    return due;
  }
  const status = m.sketches.status[due] as number;
  stepSketch(m.sketches, due, planOf(m, due), m.frame, scratch);
  show(m.sketches, due, planOf(m, due), first, m.frame.hours);
  const trace = m.sketches.taken[due];
  happen(f, contextOf(m, f), scratch);
  if (m.sketches.taken[due] !== trace) f.arrivals = null;
  flickers(m, f, first);
  bookOnBoard(m, f);
  noteStatus(m, due, status, scratch.at);
  return due;
}

/** When the quote that a floor shows changes next by itself. Where the trader has nothing to do with it, whoever looks at it brings it to the time. */
export function flickers(m: Market, f: Floor, clock: number): void {
  const still = !(f.kept || f.touched) || (m.sketches.status[f.i] as number) >= STATUS.pause;
  f.flickerAt = still ? Number.POSITIVE_INFINITY : nextFlicker(m.sketches, f.i, planOf(m, f.i), clock);
}

/** Runs every symbol without a full book up to a time of day; coarsely, only those of which something is told. */
function runOthers(m: Market, end: number): void {
  if (end <= m.bulkAt) return;
  const { nextAt } = m.sketches;
  if (m.coarse) {
    for (const i of movers(m.scenario))
      if ((nextAt[i] as number) <= end && !m.floors.has(i)) runOne(m, i, end);
    return;
  }
  m.bulkAt = end;
  for (let i = 0; i < nextAt.length; i++)
    if ((nextAt[i] as number) <= end && !m.floors.has(i)) runOne(m, i, end);
}

const moversOf = new WeakMap<Scenario, readonly number[]>();

/** Symbols whose course is not given: how their day ends is known only by running it. */
function movers(scenario: Scenario): readonly number[] {
  const there = moversOf.get(scenario);
  if (there) return there;
  const list = scenario.symbols.flatMap((plan, i) => (plan.given === null ? [i] : []));
  moversOf.set(scenario, list);
  return list;
}

/** From now on ordinary companies stand still, unless the trader has to do with them. Nobody looks until {@link catchUp}. */
export function standStill(m: Market): void {
  m.coarse = true;
  for (const [i, f] of m.floors) if (!f.touched && !f.kept) m.floors.delete(i);
}

/** From now on only these symbols go on; of the others nothing more is known today. For who looks at a few and keeps nothing. */
export function leaveOut(m: Market, others: (i: number) => boolean): void {
  for (let i = 0; i < m.sketches.count; i++) if (others(i)) m.sketches.nextAt[i] = Number.POSITIVE_INFINITY;
}

/**
 * Brings symbols that stand still up to now: those with numbers from `from` on, so many. Where it has come
 * to the last one, the market is whole again.
 */
export function catchUp(m: Market, from = 0, count: number = m.sketches.count): void {
  if (!m.coarse) return;
  const clock = Math.min(m.now - m.dayStart, AFTER_CLOSE);
  const to = Math.min(m.sketches.count, from + count);
  for (let i = from; i < to; i++)
    if (!m.floors.has(i) && (m.sketches.nextAt[i] as number) <= clock) runOne(m, i, clock);
  if (to < m.sketches.count) return;
  m.coarse = false;
  m.bulkAt = clock;
  m.stops.sort((a, b) => a.at - b.at || a.i - b.i);
}

function runOne(m: Market, i: number, end: number): void {
  const s = m.sketches;
  const plan = planOf(m, i);
  while ((s.nextAt[i] as number) <= end) {
    const status = s.status[i] as number;
    stepSketch(s, i, plan, m.frame, scratch);
    if (scratch.qty > 0)
      takeIn(
        m,
        i,
        m.dayStart + scratch.at,
        scratch.price,
        scratch.qty,
        scratch.condition === CONDITION.closing,
      );
    noteStatus(m, i, status, scratch.at);
  }
  show(s, i, plan, scratch.at, m.frame.hours);
  quoteOnBoard(m, i);
}

function takeIn(m: Market, i: number, at: number, price: number, qty: number, closing: boolean): void {
  boardTrade(m.board, i, at, price, qty, m.frame.hours.close);
  if (closing) m.board.close[i] = price;
  const clock = clockOf(at);
  const regular = clock >= REGULAR_OPEN && clock < m.frame.hours.close;
  if (regular && m.board.restricted[i] !== 2 && restrictsShorts(price, planOf(m, i).instrument.priorClose))
    m.board.restricted[i] = 2;
}

function noteStatus(m: Market, i: number, before: number, at: number): void {
  const now = m.sketches.status[i] as number;
  m.board.status[i] = now;
  m.board.until[i] = now >= STATUS.pause ? (m.sketches.until[i] as number) : 0;
  if (now >= STATUS.pause === before >= STATUS.pause) return;
  const stopped = now >= STATUS.pause;
  if (stopped) m.board.halts[i] = (m.board.halts[i] as number) + 1;
  m.stops.push({ i, at: m.dayStart + at, stopped });
}

function quoteOnBoard(m: Market, i: number): void {
  const { board: b, sketches: s } = m;
  b.bid[i] = s.bid[i] as number;
  b.ask[i] = s.ask[i] as number;
  b.bidSize[i] = s.bidSize[i] as number;
  b.askSize[i] = s.askSize[i] as number;
}

export function bookOnBoard(m: Market, f: Floor): void {
  if (onlyCrowd(f)) return quoteOnBoard(m, f.i);
  const { board: b } = m;
  b.bid[f.i] = bestBid(f.book) ?? 0;
  b.ask[f.i] = bestAsk(f.book) ?? 0;
  b.bidSize[f.i] = bidSize(f.book);
  b.askSize[f.i] = askSize(f.book);
}

export const planOf = (m: Market, i: number) => m.scenario.symbols[i] as Scenario['symbols'][number];

const contexts = new WeakMap<Floor, FloorContext & { now: number }>();

export function contextOf(m: Market, f: Floor): FloorContext {
  const there = contexts.get(f);
  if (there) {
    there.now = m.now;
    return there;
  }
  const { i } = f;
  const made = {
    sketches: m.sketches,
    plan: planOf(m, i),
    day: m.frame,
    dayStart: m.dayStart,
    now: m.now,
    reports: m.reports,
    restricted: () => m.board.restricted[i] !== 0,
    onPrint(p: Print) {
      m.printed = i;
      takeIn(m, i, p.at, p.price, p.qty, p.condition === 'closing auction');
    },
  };
  contexts.set(f, made);
  return made;
}

/**
 * One symbol's planned day alone, from 04:00 to a time of day, with every print handed over: what
 * its tape shows, whoever looks at it and whenever. The trader's own effect on it is not in it.
 */
export function runAlone(
  scenario: Scenario,
  i: number,
  end: number,
  each: (h: Readonly<Happening>) => void,
  frame?: DayFrame,
): Sketches {
  const plan = scenario.symbols[i] as Scenario['symbols'][number];
  const day = frame ?? frameOf(scenario);
  const alone = createSketches([plan], day);
  const h = newHappening();
  while ((alone.nextAt[0] as number) <= end) {
    stepSketch(alone, 0, plan, day, h);
    if (h.qty > 0) each(h);
  }
  return alone;
}

/** A print as the tape shows it. */
export const printOf = (symbol: string, dayStart: number, h: Readonly<Happening>): Print => ({
  at: dayStart + h.at,
  symbol,
  price: h.price as Price,
  qty: h.qty,
  aggressor: h.side === 1 ? 'buy' : h.side === -1 ? 'sell' : 'none',
  venue: venueName(h.venue),
  condition: conditionName(h.condition, h.qty),
});

/** The full book of a symbol; made now, with the whole of its day so far, when nobody has looked yet. */
export function floorOf(m: Market, symbol: string): Floor {
  const i = numberOf(m, symbol);
  const there = m.floors.get(i);
  if (there) {
    // Most recently used last.
    m.floors.delete(i);
    m.floors.set(i, there);
    return there;
  }
  // Where the last step left off inside a longer stretch, others may lag behind the clock.
  const clock = m.now - m.dayStart;
  if ((m.sketches.nextAt[i] as number) <= clock && m.bulkAt < clock) runOne(m, i, clock);
  const tape = createTape(symbol, m.frame.hours.close);
  const upTo = (m.sketches.nextAt[i] as number) - 1;
  runAlone(
    m.scenario,
    i,
    Math.min(upTo, clock),
    (h) => record(tape, printOf(symbol, m.dayStart, h)),
    m.frame,
  );
  const f = createFloor(i, planOf(m, i), tape, m.scenario.seed);
  show(m.sketches, i, planOf(m, i), clock, m.frame.hours);
  flickers(m, f, clock);
  quoteOnBoard(m, i);
  m.floors.set(i, f);
  const untouched = [...m.floors.values()].filter((x) => !x.touched && !x.kept && x !== f);
  for (const old of untouched.slice(0, Math.max(0, untouched.length - UNTOUCHED_KEPT)))
    m.floors.delete(old.i);
  return f;
}

/** The exchange's day is over: nothing that rests survives the night. */
export function endDay(m: Market): void {
  for (const f of m.floors.values())
    for (const id of [...f.orders.keys()]) out(f, contextOf(m, f), id, 'the day has ended');
}

/** The board has a symbol's quote at its last print: whoever looks brings it to now. */
export function freshen(m: Market, i: number): void {
  const f = m.floors.get(i);
  if ((f && !onlyCrowd(f)) || (m.sketches.nextAt[i] as number) <= m.now - m.dayStart) return;
  show(m.sketches, i, planOf(m, i), m.now - m.dayStart, m.frame.hours);
  quoteOnBoard(m, i);
}

/** Keeps the full book of a symbol for the rest of the day, so that each of its trades and quotes is told one by one. */
export function keepFloor(m: Market, symbol: string): void {
  const f = floorOf(m, symbol);
  if (f.kept) return;
  f.kept = true;
  flickers(m, f, m.now - m.dayStart);
}

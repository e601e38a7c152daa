import type { Listing } from '../market/index.ts';
import { newsDates, newsMove, usualVolatility } from '../options/index.ts';
import { at, MINUTE, PRE_OPEN, PRICE_SCALE, REGULAR_OPEN, toDollars } from '../units/index.ts';
import { priorOf } from './carry.ts';
import { CAST } from './cast.ts';
import { between, drawCourse, evenStep, surge } from './courses.ts';
import { type Draft, INDEX_SYMBOL, type Role } from './day-draft.ts';
import { headline } from './headlines.ts';
import { sigmaOf } from './impact.ts';
import { impliedCourse } from './implied-days.ts';
import type { Jump, Phase, SymbolPlan } from './plan.ts';
import { normal, type Random, uniform } from './random.ts';
import { type Company, listed as listing } from './universe.ts';
import { drawGiven, usualPhases, weightedSeconds } from './usual.ts';

/** The same plan with its parts in one order: loops over plans that are alike in memory run nearly twice as fast. */
export const alike = (p: SymbolPlan): SymbolPlan => ({
  instrument: p.instrument,
  overnight: p.overnight,
  stood: p.stood,
  spread: p.spread,
  least: p.least,
  beta: p.beta,
  vol: p.vol,
  rate: p.rate,
  lot: p.lot,
  depth: p.depth,
  cross: p.cross,
  close: p.close,
  phases: p.phases,
  jumps: p.jumps,
  halts: p.halts,
  rushes: p.rushes,
  busy: p.busy,
  given: p.given,
  restricted: p.restricted,
  bars: p.bars,
});

/** A gap on news: up a little more often than down, and down so much further that on average it is none. */
export function drawGap(r: Random): number {
  const u = uniform(r);
  return uniform(r) < 0.55 ? 0.04 + 0.5 * u * u * u : -(0.05 + 0.45 * u * u);
}

/** A gap that everybody sees, up as often and as far as down. */
export function drawLarge(r: Random): number {
  const u = uniform(r);
  return u < 0.5 ? 0.22 + 0.4 * u : -(0.2 + 0.48 * (u - 0.5));
}

export const small = (c: Company): boolean =>
  c.dollars > 0.7 && c.dollars < 40 && c.floatM < 90 && c.tier === 2;

export function planOf(d: Draft, c: Company, i: number): SymbolPlan {
  const { r, carry } = d;
  const before = carry?.closes[i] ?? 0;
  const usual = c.dollars * (1 + 0.06 * normal(r));
  const known = CAST.some((k) => k.symbol === c.symbol);
  const close = before > 0 ? toDollars(before) : known ? c.dollars : Math.max(0.05, usual);
  const plan = usualPlan(d, c, close);
  if (carry && before > 0) {
    plan.stood = carry.stood[i] as number;
    Object.assign(plan, priorOf(plan.instrument, carry, i));
  }
  const own = () => ({ ...d, r: d.stream(`${c.symbol} role`) });
  const role = d.roles.get(c.symbol);
  if (role) return movingPlan(own(), c, plan, role);
  if (d.surges.has(c.symbol)) return surgingPlan(own(), c, plan);
  if (plan.instrument.options && newsDates(c.symbol, d.date, 0).length > 0)
    return reportingPlan({ ...d, r: d.stream(`${c.symbol} report`) }, c, plan);
  const busy = carry?.busy[i] ?? 0;
  return busy > 1.5 ? dayAfter(plan, 1 + 0.35 * (busy - 1)) : plan;
}

/** Companies of the invented market trade this many prints a day at most; the shares are in the prints. */
const MOST_PRINTS = { usual: 2_600, mover: 48_000, index: 24_000 };

/** Range of a usual day of market and sector together, as a fraction. */
const TIDE_RANGE = 0.013;

function usualPlan(d: Draft, c: Company, close: number): SymbolPlan {
  const { r, hours, spec } = d;
  const phases = usualPhases(hours);
  const index = c.symbol === INDEX_SYMBOL;
  const volume = c.averageVolume * spec.volume * (index ? 1 : 0.75 + 0.4 * uniform(r));
  const mean = close < 1 ? 500 : close < 2 ? 320 : c.tier === 1 ? 130 : 230;
  const prints = Math.max(8, Math.min(index ? MOST_PRINTS.index : MOST_PRINTS.usual, volume / mean));
  const instrument = index
    ? { ...listing(c, close, r, d.date), kind: 'index stand-in' as const }
    : listing(c, close, r, d.date);
  const follows = index ? 1 : c.tier === 1 ? 0.7 + 0.6 * uniform(r) : 0.5 + 0.8 * uniform(r);
  const { vol, gap, beta } = index
    ? { vol: 0.00001, gap: 0.003, beta: 1 }
    : ownCourse(d, c, instrument, follows, close);
  const least = index ? 0.00004 : close < 1 ? 0.0025 + 0.006 * uniform(r) : close < 2 ? 0.0008 : 0.00006;
  const rate = (1.1 * prints) / weightedSeconds(phases, hours.end);
  const spread = 1 + 0.25 * Math.max(0, Math.sqrt(Math.sqrt(60 / c.floatM)) - 1);
  return {
    instrument,
    overnight: gap * normal(r),
    stood: instrument.priorClose,
    spread,
    least,
    beta,
    vol,
    rate,
    lot: (volume * 1.06) / prints,
    depth: depthOf((volume * 1.06) / prints, instrument.priorClose, Math.max(least, sigmaOf(vol, rate))),
    cross: volume * 0.016,
    close: volume * 0.085,
    phases,
    jumps: [],
    halts: [],
    rushes: null,
    busy: 1,
    given: index ? null : drawGiven(r, phases, vol, hours),
    restricted: false,
    bars: null,
  };
}

/** How a company moves, by its range or as its options say: `vol` of its own a minute, one deviation overnight, and how much of the market's moves it follows. */
function ownCourse(d: Draft, c: Company, x: Listing, beta: number, close: number) {
  const swing = TIDE_RANGE * beta;
  const own = Math.max(0.5 * c.range, Math.sqrt(Math.max(0, c.range * c.range - swing * swing)));
  const vol = (own / 1.75 / 20) * (0.8 + 0.4 * uniform(d.r)) * (close < 1 ? 1.35 : 1);
  const said = d.toldOf.has(c.symbol) ? null : impliedCourse(x, d, { beta, mood: d.mood }, small(c));
  return said ?? { vol, gap: 0.35 * c.range, beta };
}

/** Mean shares at a best price: a few prints, and long queues where half a spread could be less than half a tick. */
function depthOf(lot: number, price: number, half: number): number {
  const tick = price < PRICE_SCALE ? 1 : 100;
  const queue = tick / Math.max(1, 2 * half * price);
  return lot * 3.2 * Math.max(1, Math.min(6, queue * queue));
}

/** The day after a mover's: still several times as busy as usual. */
function dayAfter(plan: SymbolPlan, busy: number): SymbolPlan {
  const wider = Math.sqrt(Math.sqrt(busy));
  const { instrument } = plan;
  return {
    ...plan,
    ...paced(plan, plan.phases, plan.rate * busy, plan.vol * wider, plan.lot),
    instrument: {
      ...instrument,
      options: instrument.options && { ...instrument.options, heat: wider * wider - 1 },
    },
    busy,
    given: plan.given && { ...plan.given, ends: Math.max(-0.7, plan.given.ends * wider) },
  };
}

/** What of a plan follows from how much and how far it trades. */
function paced(plan: SymbolPlan, phases: readonly Phase[], rate: number, vol: number, lot: number) {
  return {
    phases,
    rate,
    vol,
    lot,
    depth: depthOf(lot, plan.instrument.priorClose, Math.max(plan.least, sigmaOf(vol, rate))),
  };
}

/** A company with news before the open. */
function movingPlan(d: Draft, c: Company, plan: SymbolPlan, role: Role): SymbolPlan {
  const { r, hours } = d;
  const overnight = role.lesson === 'overnight gap' || uniform(r) < 0.3;
  const when = overnight ? PRE_OPEN : at(5, 30) + Math.floor(uniform(r) * 205 * MINUTE);
  const far = Math.abs(role.gap);
  const float = role.lesson === 'pauses' ? between(r, 1.4, 4.5) : c.floatM;
  const scarce = Math.max(0.7, Math.min(2, Math.sqrt(20 / float)));
  const busy = role.gap === 0 ? 1.5 : (2 + 55 * far * between(r, 0.5, 1.4)) * Math.sqrt(scarce);
  const volume = c.averageVolume * busy * d.spec.volume;
  const course = drawCourse(r, when, hours, role.course);
  const deviation = Math.min(
    0.26,
    Math.max((c.range / 1.6) * 1.5, 0.035 + 0.36 * far) * between(r, 0.75, 1.3) * scarce,
  );
  // Where a tick is much, queues are long and prints are large.
  const tick = plan.stood < PRICE_SCALE ? 1 : 100;
  const steps = (deviation * plan.stood) / (0.35 * tick);
  const prints = Math.max(
    900,
    Math.min(
      MOST_PRINTS.mover,
      volume / (plan.stood < PRICE_SCALE ? 500 : 170),
      Math.max(3_000, steps * steps),
    ),
  );
  const jumps: Jump[] = overnight || role.gap === 0 ? [] : [{ at: when, by: role.gap }];
  const halts: SymbolPlan['halts'][number][] = [];
  if (role.gap !== 0 && uniform(r) < 0.85)
    told(d, c, overnight ? at(4, 1) + Math.floor(uniform(r) * 90 * MINUTE) : when, role.gap);
  if (course.news) {
    jumps.push(course.news);
    told(d, c, course.news.at, course.news.by);
  }
  if (role.lesson === 'halt') halts.push(newsHalt(d, c));
  if (role.lesson === 'pauses' && course.rushes)
    course.rushes = {
      ...course.rushes,
      from: REGULAR_OPEN + Math.floor(between(r, 2, 8) * MINUTE),
      until: at(11, 15),
      untilPaused: true,
      perHour: 14,
      up: uniform(r) < 0.5 ? 0.85 : 0.2,
      tilt: 0.24,
      // Bands are twice as wide below three dollars.
      trades: plan.stood < 3 * PRICE_SCALE ? 560 : 380,
    };
  const next = {
    ...plan,
    instrument:
      float === c.floatM
        ? plan.instrument
        : {
            ...plan.instrument,
            float: Math.round(float * 1e6),
            sharesOutstanding: Math.round(float * 2.1e6),
          },
    overnight: overnight && role.gap !== 0 ? (1 + plan.overnight) * (1 + role.gap) - 1 : plan.overnight,
    cross: volume * 0.02,
    close: volume * 0.05,
    jumps: jumps.sort((a, b) => a.at - b.at),
    halts,
    rushes: course.rushes,
    given: null,
  };
  const rate = (1.25 * prints) / weightedSeconds(course.phases, hours.end);
  return { ...next, ...paced(plan, course.phases, rate, deviation / 20.4, (volume * 1.08) / prints) };
}

/** A company of which something comes in mid-session. */
function surgingPlan(d: Draft, c: Company, plan: SymbolPlan): SymbolPlan {
  const { r, hours } = d;
  const when = at(9, 40) + Math.floor(uniform(r) * (hours.close - at(10, 10)));
  const by = evenStep(r, between(r, 0.06, 0.3), between(r, 0.06, 0.3));
  told(d, c, when, by);
  const phases = surge(plan.phases, when, between(r, 6, 20), hours.end);
  return {
    ...plan,
    ...paced(plan, phases, plan.rate, Math.max(plan.vol, Math.abs(by) / 60), plan.lot),
    jumps: [{ at: when, by }],
    given: null,
  };
}

/** A company that reports today, as everybody knew: what its options were priced for comes, up as likely as down. */
function reportingPlan(d: Draft, c: Company, plan: SymbolPlan): SymbolPlan {
  const { r, hours } = d;
  const when = at(6) + Math.floor(uniform(r) * 110 * MINUTE);
  const usual = usualVolatility(plan.instrument.options as NonNullable<Listing['options']>);
  const by = Math.max(-0.7, newsMove(usual) * Math.max(-3, Math.min(3, normal(r))));
  d.news.push({
    at: Math.floor(when + between(r, 300, 2_800)),
    symbol: c.symbol,
    kind: 'earnings',
    headline: `${c.name} earns ${by > 0 ? 'more' : 'less'} in the quarter than was expected`,
  });
  const phases = surge(plan.phases, when, between(r, 2, 5), hours.end, 1.1);
  return {
    ...plan,
    ...paced(plan, phases, plan.rate, plan.vol, plan.lot),
    jumps: [{ at: when, by }],
    given: null,
  };
}

/** The news comes out a moment after those who knew first have traded. */
function told(d: Draft, c: Company, when: number, by: number): void {
  d.news.push({
    at: Math.floor(when + between(d.r, 300, 2_800)),
    symbol: c.symbol,
    ...headline(d.r, c.name, by),
  });
}

function newsHalt(d: Draft, c: Company): SymbolPlan['halts'][number] {
  const { r } = d;
  const from = at(10, 5) + Math.floor(uniform(r) * 85) * MINUTE;
  const until = from + Math.floor(between(r, 10, 20)) * MINUTE;
  const gap = evenStep(r, between(r, 0.12, 0.35), between(r, 0.1, 0.3));
  d.news.push({
    at: from,
    symbol: c.symbol,
    kind: 'halt',
    headline: `${c.name}: trading halted, news pending`,
  });
  told(d, c, until - Math.floor(between(r, 2, 6)) * MINUTE, gap);
  return { at: from, until, reason: 'news pending', gap };
}

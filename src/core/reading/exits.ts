import { isOption, multiplierOfSymbol } from '../instruments/index.ts';
import type { Exit, PlaceTree, RangeTree, Statement, TreeIn, TreeOf } from '../language/index.ts';
import { ONE } from '../language/index.ts';
import type { SymbolView } from '../market/index.ts';
import { type After, allot, type ExitPlan, meanRisk, type Place, type StopPlace } from '../orders/index.ts';
import {
  MINUTE,
  type Money,
  money,
  type Part,
  type Price,
  REGULAR_CLOSE,
  roundToTick,
  type Side,
  sideOf,
  signOf,
  unreachable,
} from '../units/index.ts';
import {
  literal,
  midnightOfTimes,
  type Named,
  problemOf,
  Refused,
  type RunContext,
  refuse,
} from './moment.ts';
import { lengthOf, limitPrice, type Measures, namedOf, priceIn } from './prices.ts';
import { closeNow } from './pricing.ts';

/** Where exits are measured from: the price that an entry is expected at, or the average of what is held. */
export interface Basis {
  side: Side;
  from: Price;
  /** On held shares the sides are those of bid and ask; before a fill, of the entry's price. */
  held: boolean;
  view: SymbolView;
  c: RunContext;
}

/** Exits with every number resolved, what they risk a share, and the names in them. */
export interface Resolved {
  plan: ExitPlan;
  perShare: number | null;
  /** What each stop loses a share, and for which part. */
  losses: readonly { part: Part | null; units: number }[];
  named: Named[];
  /** The same exits at the prices that the expected entry gives them, for the say-back. */
  shown: Exit[];
}

type StopTree = TreeOf<'stop exit'>;
type Stop = ReturnType<typeof stopOf>;
type TargetTree = TreeOf<'target exit'>;

/**
 * Turns written exits into a plan. A bare distance goes in the sensible direction, so one plan serves
 * long and short. `withExit` gives the whole sentence with another exit in place of one, for fixes.
 */
export function resolveExits(
  exits: readonly Exit[],
  b: Basis,
  extended: boolean,
  withExit: WithExit,
): Resolved {
  const named: Named[] = [];
  const stops = new Map(
    exits.flatMap((e) => (e.kind === 'stop exit' ? [[e, stopOf(e, b, named, withExit)] as const] : [])),
  );
  // What is held has an R of its own, which no exit changes; without one the first stop on the losing side sets it.
  const losses = [...stops.values()].map((s) => ({ part: s.part, units: Math.max(0, s.away) }));
  const mean = losses.some((x) => x.units > 0) ? meanRisk(losses) : null;
  const perShare = (b.held ? b.view.trade?.riskPerShare : null) ?? mean;
  const m: Measures = { view: b.view, c: b.c, r: perShare, usual: 'stop' };
  const plan: Growing = { stops: [], targets: [], breakeven: null, trail: null, extended };
  // Each is resolved once; what is shown is what was resolved.
  const shown = exits.map((e): Exit => {
    switch (e.kind) {
      case 'stop exit': {
        const { place, part, on, room, extended: alone } = stops.get(e) as Stop;
        plan.stops.push({
          place,
          part,
          on,
          ...(room === null ? {} : { room }),
          ...(alone ? { extended: alone } : {}),
        });
        return { ...e, place: shownPlace(place, b, -1, perShare) };
      }
      case 'target exit': {
        const place = targetOf(e, b, m, named, withExit);
        plan.targets.push({ place, part: e.part });
        return { ...e, place: shownPlace(place, b, 1, perShare) };
      }
      case 'breakeven':
        plan.breakeven = { plusCosts: e.plusCosts, after: afterOf(e, e.after, b, m, withExit) };
        return e;
      case 'trail':
        plan.trail = {
          reach: reachOf(e, b, m, withExit),
          after: e.after && afterOf(e, e.after, b, m, withExit),
        };
        return e;
      case 'out by':
        plan.outBy = outOf(e, b, withExit);
        return e;
      default:
        return unreachable(e);
    }
  });
  return { plan, perShare, losses, named, shown };
}

/** A plan while its exits are added. */
type Growing = {
  -readonly [K in keyof ExitPlan]: K extends 'stops' | 'targets' ? ExitPlan[K][number][] : ExitPlan[K];
};
type WithExit = (old: Exit, instead: Exit) => Statement | null;

/** Where an exit of a plan stands, at the price that the expected entry gives it: `way` +1 is the side of profit. */
function shownPlace(place: Place, b: Basis, way: 1 | -1, perShare: number | null): PlaceTree {
  if (place.kind === 'at') return { kind: 'at', price: literal(place.price) };
  const units = place.kind === 'R' ? place.r * (perShare ?? 0) : place.units;
  const price = b.from + signOf(b.side) * way * units;
  return { kind: 'at', price: literal(roundToTick(Math.max(1, price), 'nearest', b.view.ticks)) };
}

/** The time that the shares are to be out by. */
function outOf(e: TreeOf<'out by'>, b: Basis, withExit: WithExit): number {
  const outBy = midnightOfTimes(b.c) + e.time * MINUTE;
  const later = midnightOfTimes(b.c) + USUAL_OUT > b.c.now;
  const instead = later ? withExit(e, { ...e, time: USUAL_OUT / MINUTE }) : null;
  if (outBy <= b.c.now) refuse({ code: 'time over', until: outBy, now: b.c.now }, instead);
  if (e.time * MINUTE >= b.c.hours.end)
    refuse({ code: 'after the day', time: outBy, end: b.c.hours.end }, instead);
  return outBy;
}

/** What stands without a stop from the start under a plan, or without one; empty where all of it is covered. `kept`: what no stop of the plan covers keeps the one that it has. */
export function bareText(
  plan: ExitPlan | null,
  qty: number,
  v: Pick<SymbolView, 'symbol' | 'candle'>,
  kept = false,
): string[] {
  const covered = allot(
    (plan?.stops ?? []).map((s) => s.part),
    qty,
  ).reduce((a, b) => a + b, 0);
  const trails = plan?.stops.length === 0 && plan.trail !== null;
  const reach = plan?.trail?.reach;
  const unknown = reach?.kind === 'candle' && v.candle(reach.minutes, 0) === null;
  const bare = kept || (trails && plan.trail?.after === null && !unknown) ? 0 : qty - covered;
  // What an option can lose without one is known, and said as its risk.
  if (bare === 0 || isOption(v.symbol)) return [];
  return [`No stop: ${bare} ${v.symbol} will stand without one${trails ? ' until the trail begins' : ''}.`];
}

/** Five minutes before the close: what is offered where a time to be out by cannot be. */
const USUAL_OUT = REGULAR_CLOSE - 5 * MINUTE;

/** The exits of a plan by themselves, without an order around them: for a picture of it. */
export function resolvePlan(
  exits: readonly Exit[],
  b: Basis,
): { ok: true; resolved: Resolved } | { ok: false; problem: string } {
  try {
    return { ok: true, resolved: resolveExits(exits, b, false, () => null) };
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    return { ok: false, problem: problemOf(e).text };
  }
}

/** Price of one side of a range: `way` +1 its high, −1 its low. */
function edgeOf(r: RangeTree, way: 1 | -1, v: SymbolView): number {
  const which = way === 1 ? 'high' : 'low';
  const name =
    r.kind === 'candle range'
      ? `${r.minutes}m ${which}`
      : r.kind === 'opening range'
        ? `opening range ${r.minutes}m ${which}`
        : `${r.of} ${which}`;
  return rangeEdge(r, which, v) ?? refuse({ code: 'unknown price', text: name, symbol: v.symbol });
}
function rangeEdge(r: RangeTree, which: 'high' | 'low', v: SymbolView): number | null {
  switch (r.kind) {
    case 'candle range':
      return v.candle(r.minutes, 0)?.[which] ?? null;
    case 'opening range':
      return v.openingRange(r.minutes)?.[which] ?? null;
    case 'day range':
      if (r.of === 'day') return which === 'high' ? v.dayHigh : v.dayLow;
      return which === 'high' ? v.premarketHigh : v.premarketLow;
    default:
      return unreachable(r);
  }
}

/** Beyond the far side of a range: `way` +1 above its high, −1 below its low. Not rounded. */
export function beyondRange(r: RangeTree, by: TreeIn<'distance'>, way: 1 | -1, m: Measures): number {
  const edge = edgeOf(r, way, m.view);
  return edge + way * lengthOf(by, edge, m);
}

/** Dollars of so many parts of the price that they are measured from might be meant as a price. */
const DOUBTFUL = 1 / 4;
const isDoubtful = (o: TreeIn<'gain'> | TreeIn<'distance'>, b: Basis): o is TreeOf<'dollars'> =>
  o.kind === 'dollars' && o.units >= DOUBTFUL * b.from;
const alternatives = (list: readonly (Statement | null)[]): Statement[] => list.filter((s) => s !== null);

/** A place as a price, or as a distance from the average that is to come. `way` +1 is the side of profit. */
function placeOf<E extends StopTree | TargetTree>(
  e: E,
  b: Basis,
  way: 1 | -1,
  { named, ...m }: Measures & { named: Named[] },
  withExit: WithExit,
): { units: number } | { price: number } {
  const p = e.place;
  switch (p.kind) {
    case 'away':
      if (!p.sure && isDoubtful(p.by, b))
        refuse(
          { code: 'at or away', units: p.by.units, from: b.from },
          alternatives([
            withExit(e, { ...e, place: { kind: 'at', price: { kind: 'number', price: p.by.units } } }),
            withExit(e, { ...e, place: { ...p, sure: true } }),
          ]),
        );
      return { units: lengthOf(p.by, b.from, m) };
    case 'at': {
      const price = priceIn(p.price, m);
      named.push(...namedOf(p.price, roundToTick(Math.max(1, price), 'nearest', b.view.ticks)));
      return { price };
    }
    case 'beyond':
      return { price: beyondRange(p.range, p.by, (signOf(b.side) * way) as 1 | -1, m) };
    default:
      return unreachable(p);
  }
}

function stopOf(e: StopTree, b: Basis, named: Named[], withExit: WithExit) {
  const sign = signOf(b.side);
  const m: Measures = {
    view: b.view,
    c: b.c,
    r: b.held ? (b.view.trade?.riskPerShare ?? null) : null,
    usual: 'stop',
  };
  const at = placeOf(e, b, -1, { ...m, named }, withExit);
  const on = e.on ?? 'last';
  const extended = e.extended || undefined;
  const room = e.room ? Math.round(lengthOf(e.room.by, b.from, { ...m, usual: 'reach' })) : null;
  const usual = withExit(e, { ...e, place: { kind: 'away', by: { kind: 'usual' }, sure: false } });
  if ('units' in at) {
    const units = Math.round(at.units);
    if (units <= 0 || units >= b.from) refuse({ code: 'no room', away: units, from: b.from }, usual);
    const near = roundToTick(Math.max(1, b.from - sign * units), 'nearest', b.view.ticks);
    if (sign * (b.from - near) <= 0)
      refuse({ code: 'exit side', what: 'stop', price: near, from: b.from, above: sign === -1 }, usual);
    return {
      place: { kind: 'distance', units } satisfies StopPlace,
      part: e.part,
      on,
      room,
      extended,
      away: units,
    } as const;
  }
  const price = roundToTick(Math.max(1, at.price), sign === 1 ? 'down' : 'up', b.view.ticks);
  const seen = b.held
    ? ((sign === 1 ? b.view.quote.bid : b.view.quote.ask) ?? b.view.last ?? b.from)
    : b.from;
  if (sign * (seen - price) <= 0)
    refuse({ code: 'exit side', what: 'stop', price, from: seen, above: sign === -1 }, usual);
  return {
    place: { kind: 'at', price } satisfies StopPlace,
    part: e.part,
    on,
    room,
    extended,
    away: sign * (b.from - price),
  } as const;
}

/** A gain downwards ends at zero. */
function reaches(units: number, b: Basis): void {
  if (signOf(b.side) === -1 && units >= b.from) refuse({ code: 'no room', away: units, from: b.from });
}

function targetOf(e: TargetTree, b: Basis, m: Measures, named: Named[], withExit: WithExit): Place {
  const sign = signOf(b.side);
  if (e.place.kind === 'away' && e.place.by.kind === 'R') {
    // R that nothing measures is refused here, too.
    reaches(lengthOf(e.place.by, b.from, m), b);
    return { kind: 'R', r: e.place.by.r / ONE };
  }
  const at = placeOf(e, b, 1, { ...m, named }, withExit);
  if ('units' in at) {
    reaches(at.units, b);
    return { kind: 'distance', units: Math.round(at.units) };
  }
  const price = limitPrice(at.price, sideOf(-sign as 1 | -1), b.view.ticks);
  const mirrored = Math.max(1, Math.abs(price - b.from));
  const instead = withExit(e, {
    ...e,
    place: { kind: 'away', by: { kind: 'cents', units: mirrored }, sure: false },
  });
  if (!b.held) {
    if (sign * (price - b.from) <= 0)
      refuse({ code: 'exit side', what: 'target', price, from: b.from, above: sign === 1 }, instead);
    return { kind: 'at', price };
  }
  const quote = sign === 1 ? b.view.quote.bid : b.view.quote.ask;
  if (quote !== null && sign * (price - quote) <= 0)
    refuse({ code: 'at once', price, quote }, closeNow(b.view.symbol, e.part, b.c));
  return { kind: 'at', price };
}

function afterOf<E extends TreeOf<'breakeven'> | TreeOf<'trail'>>(
  e: E,
  g: TreeIn<'gain'>,
  b: Basis,
  m: Measures,
  withExit: WithExit,
): After {
  if (g.kind === 'after target') return { kind: 'target', index: g.number - 1 };
  if (g.kind === 'in all') return { kind: 'in all', money: money(g.money) };
  const by = g.kind === 'a share' ? g.by : g;
  if (isDoubtful(g, b))
    refuse(
      { code: 'a share or in all', units: g.units, from: b.from },
      alternatives([
        withExit(e, { ...e, after: { kind: 'a share', by: g } }),
        withExit(e, { ...e, after: { kind: 'in all', money: g.units } }),
      ]),
    );
  const units = lengthOf(by, b.from, m);
  return by.kind === 'R' ? { kind: 'R', r: by.r / ONE } : { kind: 'distance', units: Math.round(units) };
}

function reachOf(
  e: TreeOf<'trail'>,
  b: Basis,
  m: Measures,
  withExit: WithExit,
): NonNullable<ExitPlan['trail']>['reach'] {
  const { reach } = e;
  if (reach.kind === 'beyond candles')
    return {
      kind: 'candle',
      minutes: reach.range.minutes,
      beyond: Math.round(lengthOf(reach.by, b.from, m)),
    };
  const { by } = reach;
  const away = lengthOf(by, b.from, m);
  if (!reach.sure && isDoubtful(by, b))
    refuse(
      { code: 'at or away', units: by.units, from: b.from },
      alternatives([withExit(e, { ...e, reach: { ...reach, sure: true } })]),
    );
  if (away >= b.from) refuse({ code: 'no room', away, from: b.from });
  if (by.kind === 'percent') return { kind: 'percent', percent: by.percent / ONE };
  if (by.kind === 'atr')
    return { kind: 'atr', times: by.atrs / ONE, atr: lengthOf({ ...by, atrs: ONE }, b.from, m) };
  return { kind: 'distance', units: Math.max(1, Math.round(lengthOf(by, b.from, m))) };
}

/** What a target makes a share, in price units. */
export const rewardUnits = (place: Place, b: Basis, perShare: number | null): number =>
  place.kind === 'at'
    ? signOf(b.side) * (place.price - b.from)
    : place.kind === 'distance'
      ? place.units
      : place.r * (perShare ?? 0);

/** What the targets make, all of them, before costs; null without any. */
export function rewardOf({ plan, perShare }: Resolved, b: Basis, qty: number): Money | null {
  if (plan.targets.length === 0) return null;
  const shares = allot(
    plan.targets.map((t) => t.part),
    qty,
  );
  return money(
    Math.round(
      plan.targets.reduce((a, t, i) => a + (shares[i] as number) * rewardUnits(t.place, b, perShare), 0) *
        multiplierOfSymbol(b.view.symbol),
    ),
  );
}

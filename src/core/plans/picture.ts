// A plan as numbers at an example entry: where each exit stands, and what it is worth.
import { multiplierOfSymbol } from '../instruments/index.ts';
import { type Exit, printTree } from '../language/index.ts';
import type { SymbolView } from '../market/index.ts';
import { allot, type ExitPlan, type Gain, gainUnits } from '../orders/index.ts';
import { bothWays, type RunContext, resolvePlan, type Trading } from '../reading/index.ts';
import {
  formatTime,
  MINUTE,
  type Money,
  money,
  type Price,
  roundToTick,
  type Side,
  signOf,
} from '../units/index.ts';

/** One exit of a plan at an example entry. */
export interface PictureExit {
  /** Which of the plan's lines it is. */
  line: number;
  kind: 'stop' | 'target' | 'breakeven' | 'trail' | 'reach';
  price: Price;
  /** Gain a share there in price units; negative for a loss. */
  gain: number;
  /** In multiples of what the stops lose a share; null without a stop. */
  r: number | null;
  /** From where its distance runs, as a gain a share: the entry, but for a trail the gain from which it follows. */
  base: number;
  /** Shares that go there; 0 for what only moves a stop. */
  shares: number;
  /** Result of the trade, after all costs, when this and every target before it fills and the rest goes at the stop as it stands then. */
  net: Money;
  /** Whether its distance can be changed by hand. */
  movable: boolean;
}

export interface PlanPicture {
  side: Side;
  entry: Price;
  qty: number;
  /** What 1R is for a share, in price units; null without a stop. */
  perShare: number | null;
  exits: PictureExit[];
  /** What is lost when every stop fills at its price, after costs; null without a stop. */
  worst: Money | null;
  /** What is made when every target fills, the rest of the shares at the entry, after costs. */
  best: Money;
  /** Mean gain of the targets by shares over the risk, before costs; null without both. */
  rewardToRisk: number | null;
  /** Both ways: the entry, each target as an order of its own, and one for what no target takes. */
  costs: Money;
  /** What moves by itself, in words. */
  rules: string[];
}

/** An entry that a plan's exits are pictured for. */
export interface PlanEntry {
  side: Side;
  entry: Price;
  qty: number;
}

/** The numbers of a plan for an entry of so many shares at a price. Refused as an order with it would be. */
export function pictureOf(
  exits: readonly Exit[],
  of: PlanEntry,
  view: SymbolView,
  c: RunContext,
): { ok: true; picture: PlanPicture } | { ok: false; problem: string } {
  const { side, entry, qty } = of;
  const read = resolvePlan(exits, { side, from: entry, held: false, view, c });
  if (!read.ok) return read;
  const { plan, perShare } = read.resolved;
  const sums = sumsOf(plan, perShare, of, view, c);
  const { shares, resting, costs } = sums;
  const targetGain = plan.targets.reduce((a, t, i) => a + sums.gainOf(t.place) * (shares[i] ?? 0), 0);
  const all = shares.reduce((a, b) => a + b, 0);
  const worst = plan.stops.length === 0 ? null : sums.lossOf(qty) - costs(stopped(plan, sums, of));
  const whole = costs([...resting, taken(qty - all, entry)]);
  const lines = [
    ...stopLines(plan, sums, worst ?? 0),
    ...targetLines(plan, sums, of),
    ...ruleLines(plan, sums, of),
  ];
  return {
    ok: true,
    picture: {
      side,
      entry,
      qty,
      perShare,
      exits: lines.map((l) => exitOf(l, exits, sums)),
      worst: worst === null ? null : money(Math.round(worst)),
      best: money(Math.round(targetGain - whole)),
      rewardToRisk: perShare === null || all === 0 ? null : targetGain / qty / perShare,
      costs: whole,
      rules: rulesOf(plan, exits, c),
    },
  };
}

type Place = ExitPlan['targets'][number]['place'] | ExitPlan['stops'][number]['place'];

/** What the lines of a picture are worked out with. */
interface Sums {
  perShare: number | null;
  /** The price at a gain a share, and the gain at a place of the plan or from which a rule starts. */
  at(gain: number): Price;
  gainOf(p: Place): number;
  gainFrom(after: Gain): number;
  lossAt(p: Place): number;
  /** What so many shares lose at their stops, before costs. */
  lossOf(shares: number): number;
  /** Costs of the way in and of some ways out. */
  costs(outs: readonly Trading[]): Money;
  /** Shares of each target and of each stop. */
  shares: readonly number[];
  stopShares: readonly number[];
  /** The targets as orders that rest. */
  resting: readonly Trading[];
}

function sumsOf(
  plan: ExitPlan,
  perShare: number | null,
  { side, entry, qty }: PlanEntry,
  view: SymbolView,
  c: RunContext,
): Sums {
  const sign = signOf(side);
  const at = (gain: number): Price =>
    roundToTick(Math.max(1, entry + sign * gain), sign === 1 ? 'down' : 'up');
  const gainOf = placing(entry, sign, perShare);
  const lossAt = (p: Place) => (p.kind === 'distance' ? -p.units : gainOf(p));
  const parted = (list: readonly { part: Parameters<typeof allot>[0][number] }[]) =>
    allot(
      list.map((x) => x.part),
      qty,
    );
  const [shares, stopShares] = [parted(plan.targets), parted(plan.stops)];
  return {
    perShare,
    at,
    gainOf,
    gainFrom: (after) => gainUnits(after, perShare, qty, multiplierOfSymbol(view.symbol)),
    lossAt,
    lossOf: (n) => plan.stops.reduce((a, s, i) => a + lossAt(s.place) * Math.min(stopShares[i] ?? 0, n), 0),
    costs: (outs) => bothWays(view.symbol, side, { shares: qty, price: entry, rests: false }, outs, c),
    shares,
    stopShares,
    resting: plan.targets.map((t, i) => ({
      shares: shares[i] ?? 0,
      price: at(gainOf(t.place)),
      rests: true,
    })),
  };
}

const taken = (shares: number, price: number): Trading => ({ shares, price, rests: false });

/** All shares at their stops, an order each; what has none at the entry. */
function stopped(plan: ExitPlan, { stopShares, at, lossAt }: Sums, { qty, entry }: PlanEntry): Trading[] {
  let rest = qty;
  const orders = plan.stops.map((s, i) => {
    const shares = Math.min(stopShares[i] ?? 0, rest);
    rest -= shares;
    return taken(shares, at(lossAt(s.place)));
  });
  return [...orders, taken(rest, entry)];
}

/** One line of a picture before it has its place: the `nth` exit of a kind in the plan's text. */
interface Line {
  kind: PictureExit['kind'];
  exit: Exit['kind'];
  nth: number;
  gain: number;
  shares: number;
  net: number;
  base?: number;
}

function exitOf(l: Line, exits: readonly Exit[], { perShare, at }: Sums): PictureExit {
  const line = exits.flatMap((e, k) => (e.kind === l.exit ? [k] : []))[l.nth] ?? 0;
  return {
    line,
    kind: l.kind,
    price: at(l.gain),
    gain: l.gain,
    r: perShare === null ? null : l.gain / perShare,
    base: l.base ?? 0,
    shares: l.shares,
    net: money(Math.round(l.net)),
    movable: l.exit === 'breakeven' || l.exit === 'trail' || isMovable(exits[line]),
  };
}

const stopLines = (plan: ExitPlan, { lossAt, stopShares }: Sums, worst: number): Line[] =>
  plan.stops.map((s, nth) => ({
    kind: 'stop',
    exit: 'stop exit',
    nth,
    gain: lossAt(s.place),
    shares: stopShares[nth] ?? 0,
    net: worst,
  }));

function targetLines(plan: ExitPlan, sums: Sums, { qty }: PlanEntry): Line[] {
  let made = 0;
  let left = qty;
  return plan.targets.map((t, nth) => {
    const gain = sums.gainOf(t.place);
    const shares = sums.shares[nth] ?? 0;
    made += gain * shares;
    left -= shares;
    const floor = floorAfter(plan, nth, sums.perShare, sums.gainFrom);
    const outs = [...sums.resting.slice(0, nth + 1), taken(left, sums.at(floor))];
    return {
      kind: 'target',
      exit: 'target exit',
      nth,
      gain,
      shares,
      net: made + floor * left - sums.costs(outs),
    };
  });
}

/** Where breakeven and a trail begin, and how far the trail stays behind. */
function ruleLines(
  { breakeven, trail, targets }: ExitPlan,
  sums: Sums,
  { side, entry, qty }: PlanEntry,
): Line[] {
  const out: Line[] = [];
  const moves = { nth: 0, shares: 0, net: 0 };
  if (breakeven && breakeven.after.kind !== 'target') {
    const net = breakeven.plusCosts ? 0 : -sums.costs([taken(qty, entry)]);
    out.push({ ...moves, kind: 'breakeven', exit: 'breakeven', gain: sums.gainFrom(breakeven.after), net });
  }
  if (!trail) return out;
  const { after, reach } = trail;
  const from = after && after.kind !== 'target' ? sums.gainFrom(after) : null;
  if (from !== null) out.push({ ...moves, kind: 'trail', exit: 'trail', gain: from });
  const target = after?.kind === 'target' ? targets[after.index]?.place : null;
  const base = target ? sums.gainOf(target) : (from ?? 0);
  const behind = unitsOf(reach, entry + signOf(side) * base);
  if (behind !== null) out.push({ ...moves, kind: 'reach', exit: 'trail', gain: base - behind, base });
  return out;
}

/** How far a trail stays behind a price; null where candles say it. */
function unitsOf(reach: NonNullable<ExitPlan['trail']>['reach'], price: number): number | null {
  switch (reach.kind) {
    case 'distance':
      return reach.units;
    case 'percent':
      return (price * reach.percent) / 100;
    case 'atr':
      return reach.times * reach.atr;
    case 'candle':
      return null;
  }
}

/** Gain a share at a place of a plan. */
const placing =
  (entry: number, sign: 1 | -1, perShare: number | null) =>
  (p: ExitPlan['targets'][number]['place'] | ExitPlan['stops'][number]['place']): number => {
    if (p.kind === 'R') return p.r * (perShare ?? 0);
    return p.kind === 'at' ? sign * (p.price - entry) : p.units;
  };

/** What a share that is left makes at its stop once a target has filled: nothing where breakeven has come, else the loss. */
function floorAfter(
  plan: ExitPlan,
  target: number,
  perShare: number | null,
  gainFrom: (after: Gain) => number,
): number {
  const after = plan.breakeven?.after;
  if (!after) return -(perShare ?? 0);
  if (after.kind === 'target') return after.index <= target ? 0 : -(perShare ?? 0);
  const trigger = gainFrom(after);
  const place = plan.targets[target]?.place;
  const gain = place?.kind === 'R' ? place.r * (perShare ?? 0) : place?.kind === 'distance' ? place.units : 0;
  return trigger <= gain ? 0 : -(perShare ?? 0);
}

/** Whether an exit stands at a distance that a hand can change. */
const isMovable = (e: Exit | undefined): boolean =>
  (e?.kind === 'stop exit' || e?.kind === 'target exit') && e.place.kind === 'away';

function rulesOf(plan: ExitPlan, exits: readonly Exit[], c: RunContext): string[] {
  const out = exits.filter((e) => e.kind === 'breakeven' || e.kind === 'trail').map((e) => printTree(e));
  if (plan.outBy !== undefined)
    out.push(
      `out by ${formatTime(plan.outBy - c.dayStart, 'minutes')}, ${Math.max(0, Math.round((plan.outBy - c.now) / MINUTE))} minutes from now`,
    );
  return out;
}

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

/** The numbers of a plan for an entry of so many shares at a price. Refused as an order with it would be. */
export function pictureOf(
  exits: readonly Exit[],
  side: Side,
  entry: Price,
  qty: number,
  view: SymbolView,
  c: RunContext,
): { ok: true; picture: PlanPicture } | { ok: false; problem: string } {
  const read = resolvePlan(exits, { side, from: entry, held: false, view, c });
  if (!read.ok) return read;
  const { plan, perShare } = read.resolved;
  const sign = signOf(side);
  const at = (gain: number): Price =>
    roundToTick(Math.max(1, entry + sign * gain), sign === 1 ? 'down' : 'up');
  const gainOf = placing(entry, sign, perShare);
  const gainFrom = (after: Gain) => gainUnits(after, perShare, qty, multiplierOfSymbol(view.symbol));
  const lossAt = (p: ExitPlan['stops'][number]['place']) => (p.kind === 'at' ? gainOf(p) : -p.units);
  const costs = (outs: readonly Trading[]) =>
    bothWays(view.symbol, side, { shares: qty, price: entry, rests: false }, outs, c);
  const shares = allot(
    plan.targets.map((t) => t.part),
    qty,
  );
  const stopShares = allot(
    plan.stops.map((s) => s.part),
    qty,
  );
  const lines = (kind: Exit['kind']) => exits.flatMap((e, k) => (e.kind === kind ? [k] : []));
  const out: PictureExit[] = [];
  const add = (
    line: number,
    kind: PictureExit['kind'],
    gain: number,
    n: number,
    net: number,
    movable: boolean,
    base = 0,
  ) =>
    out.push({
      line,
      kind,
      price: at(gain),
      gain,
      r: perShare === null ? null : gain / perShare,
      base,
      shares: n,
      net: money(Math.round(net)),
      movable,
    });
  const lossOf = (n: number) =>
    plan.stops.reduce((a, s, i) => a + lossAt(s.place) * Math.min(stopShares[i] ?? 0, n), 0);
  const taken = (shares: number, price: number): Trading => ({ shares, price, rests: false });
  /** So many of the shares at their stops, an order each. */
  const stopped = (n: number): Trading[] => {
    let rest = n;
    const orders = plan.stops.map((s, i) => {
      const shares = Math.min(stopShares[i] ?? 0, rest);
      rest -= shares;
      return taken(shares, at(lossAt(s.place)));
    });
    return [...orders, taken(rest, entry)];
  };
  const resting = plan.targets.map((t, i) => ({
    shares: shares[i] ?? 0,
    price: at(gainOf(t.place)),
    rests: true,
  }));
  const worst = plan.stops.length === 0 ? null : lossOf(qty) - costs(stopped(qty));
  plan.stops.forEach((s, i) => {
    const line = lines('stop exit')[i] ?? 0;
    add(line, 'stop', lossAt(s.place), stopShares[i] ?? 0, worst ?? 0, isMovable(exits[line]));
  });
  let made = 0;
  let left = qty;
  plan.targets.forEach((t, i) => {
    const line = lines('target exit')[i] ?? 0;
    const gain = gainOf(t.place);
    made += gain * (shares[i] ?? 0);
    left -= shares[i] ?? 0;
    add(
      line,
      'target',
      gain,
      shares[i] ?? 0,
      made +
        floorAfter(plan, i, perShare, gainFrom) * left -
        costs([...resting.slice(0, i + 1), taken(left, at(floorAfter(plan, i, perShare, gainFrom)))]),
      isMovable(exits[line]),
    );
  });
  const { breakeven, trail } = plan;
  if (breakeven && breakeven.after.kind !== 'target') {
    const line = lines('breakeven')[0] ?? 0;
    const rest = breakeven.plusCosts ? 0 : -costs([taken(qty, entry)]);
    add(line, 'breakeven', gainFrom(breakeven.after), 0, rest, true);
  }
  if (trail?.after && trail.after.kind !== 'target')
    add(lines('trail')[0] ?? 0, 'trail', gainFrom(trail.after), 0, 0, true);
  if (trail) {
    const { after } = trail;
    const target = after?.kind === 'target' ? plan.targets[after.index]?.place : null;
    const base = target ? gainOf(target) : after && after.kind !== 'target' ? gainFrom(after) : 0;
    const reach = unitsOf(trail.reach, entry + sign * base);
    if (reach !== null) add(lines('trail')[0] ?? 0, 'reach', base - reach, 0, 0, true, base);
  }
  const targetGain = plan.targets.reduce((a, t, i) => a + gainOf(t.place) * (shares[i] ?? 0), 0);
  const all = shares.reduce((a, b) => a + b, 0);
  return {
    ok: true,
    picture: {
      side,
      entry,
      qty,
      perShare,
      exits: out,
      worst: worst === null ? null : money(Math.round(worst)),
      best: money(Math.round(targetGain - costs([...resting, taken(qty - all, entry)]))),
      rewardToRisk: perShare === null || all === 0 ? null : targetGain / qty / perShare,
      costs: costs([...resting, taken(qty - all, entry)]),
      rules: rulesOf(plan, exits, c),
    },
  };
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

// What a plan would have done on a day's bars.
import type { Bar } from '../market/index.ts';
import { allot, type ExitPlan, gainUnits } from '../orders/index.ts';
import { type Trail, trailLevel, trailOn } from '../triggers/index.ts';
import type { Side } from '../units/index.ts';
import { signOf } from '../units/index.ts';

/** One thing that happened. */
export interface BarStep {
  at: number;
  what: 'stop' | 'target' | 'breakeven' | 'out by' | 'still open';
  price: number;
  shares: number;
}

export interface PlanOnBars {
  steps: BarStep[];
  /** Result in R before costs, open shares at the last close. */
  r: number;
  /** Result in R at the end of each bar. */
  curve: { at: number; r: number }[];
}

/** A plan under way on bars. */
interface Run {
  plan: ExitPlan;
  sign: 1 | -1;
  entry: number;
  perShare: number;
  qty: number;
  targets: { price: number; shares: number; done: boolean }[];
  stop: number;
  left: number;
  /** Price units × shares. */
  made: number;
  breakeven: boolean;
  trail: Trail | null;
  steps: BarStep[];
}

/**
 * Plays a plan on bars from an entry on. Within a bar the stop is taken to come first, a gap through it
 * fills at the bar's open, and what moves the stop counts from the next bar on: what is said is rather
 * too little than too much. `bars` begin with the one after the entry.
 */
export function planOnBars(
  plan: ExitPlan,
  { side, entry, perShare, qty }: { side: Side; entry: number; perShare: number; qty: number },
  bars: readonly Bar[],
): PlanOnBars {
  const sign = signOf(side);
  const parts = allot(
    plan.targets.map((x) => x.part),
    qty,
  );
  const run: Run = {
    plan,
    sign,
    entry,
    perShare,
    qty,
    targets: [],
    stop: entry - sign * perShare,
    left: qty,
    made: 0,
    breakeven: false,
    trail: null,
    steps: [],
  };
  run.targets = plan.targets.map((t, i) => ({
    price: entry + sign * unitsOf(run, t.place),
    shares: parts[i] as number,
    done: false,
  }));
  const worth = (close: number) => (run.made + sign * (close - entry) * run.left) / (perShare * qty);
  const curve: PlanOnBars['curve'] = [];
  for (const bar of bars) {
    fills(run, bar);
    curve.push({ at: bar.start, r: worth(bar.close) });
    if (run.left === 0) break;
    moves(run, bar);
  }
  const last = bars[bars.length - 1];
  if (run.left > 0 && last)
    run.steps.push({ at: last.start, what: 'still open', price: last.close, shares: run.left });
  return { steps: run.steps, r: last ? worth(last.close) : 0, curve };
}

function unitsOf(run: Run, p: ExitPlan['targets'][number]['place']): number {
  if (p.kind === 'R') return p.r * run.perShare;
  return p.kind === 'at' ? run.sign * (p.price - run.entry) : p.units;
}

const reached = (run: Run, gain: number, bar: Bar): boolean =>
  run.sign * ((run.sign === 1 ? bar.high : bar.low) - run.entry) >= gain;

function out(run: Run, at: number, what: BarStep['what'], price: number, shares: number): void {
  if (shares <= 0) return;
  run.steps.push({ at, what, price, shares });
  run.made += run.sign * (price - run.entry) * shares;
  run.left -= shares;
}

/** What fills within a bar: the time that is up, the stop, then the targets. */
function fills(run: Run, bar: Bar): void {
  const { plan, sign } = run;
  const worst = sign === 1 ? bar.low : bar.high;
  if (plan.outBy !== undefined && bar.start >= plan.outBy) out(run, bar.start, 'out by', bar.open, run.left);
  else if (sign * (worst - run.stop) <= 0)
    out(run, bar.start, 'stop', sign * (bar.open - run.stop) < 0 ? bar.open : run.stop, run.left);
  for (const t of run.targets) {
    if (t.done || run.left === 0 || !reached(run, sign * (t.price - run.entry), bar)) continue;
    t.done = true;
    out(run, bar.start, 'target', t.price, Math.min(run.left, t.shares));
  }
}

/** What a finished bar does to the stop: breakeven, then the trail; only ever tighter. */
function moves(run: Run, bar: Bar): void {
  const { plan, sign, entry } = run;
  const due = (after: NonNullable<ExitPlan['breakeven']>['after']): boolean =>
    after.kind === 'target'
      ? (run.targets[after.index]?.done ?? false)
      : reached(run, gainUnits(after, run.perShare, run.qty, 1), bar);
  if (plan.breakeven && !run.breakeven && due(plan.breakeven.after)) {
    run.breakeven = true;
    if (sign * (entry - run.stop) > 0) {
      run.stop = entry;
      run.steps.push({ at: bar.start, what: 'breakeven', price: entry, shares: 0 });
    }
  }
  if (!plan.trail || (run.trail === null && plan.trail.after !== null && !due(plan.trail.after))) return;
  run.trail = trailOn(
    run.trail ?? { reach: plan.trail.reach, mark: null },
    sign,
    sign === 1 ? bar.high : bar.low,
  );
  const level = trailLevel(run.trail, sign, () => bar);
  if (level !== null && sign * (level - run.stop) > 0 && sign * (bar.close - level) > 0) run.stop = level;
}

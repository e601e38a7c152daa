// What the Plans view shows of a plan: its numbers long and short, and what it would have done today.

import type { Exit } from '../../core/language/index.ts';
import { type Bar, barsOf, type SymbolView } from '../../core/market/index.ts';
import { type PlanOnBars, type PlanPicture, pictureOf, planOnBars } from '../../core/plans/index.ts';
import { exitsOf, type RunContext, resolvePlan } from '../../core/reading/index.ts';
import { clockOf, MINUTE, type Price, roundToTick, type Side } from '../../core/units/index.ts';
import type { Engine } from '../../session/engine.ts';
import { runContext } from '../../session/moment.ts';

/** One side of a plan. */
export interface PlanSide {
  picture: PlanPicture | null;
  problem: string | null;
  /** From the chosen minute on; null where the day has no bar then. */
  today: (PlanOnBars & { from: number; entry: number }) | null;
}
export interface PlanSeen {
  symbol: string;
  price: number;
  atr: number | null;
  long: PlanSide;
  short: PlanSide;
}

/** Shares of an example where the plan has no stop that would size it. */
const EXAMPLE = 100;

/**
 * A plan in the focus. `price` and `qty` are those of the example: the last price, and the shares that
 * risk 1R, where they are not given. `from` is the minute of the day at which it would have been entered.
 */
export function planSeen(
  e: Engine,
  symbol: string,
  text: string,
  over: { price: number | null; qty: number | null; from: number },
): PlanSeen {
  const c = runContext(e, symbol, null);
  const view = c.view(symbol);
  if (!view) throw new Error(`“${symbol}” does not trade today.`);
  const price = roundToTick(over.price ?? view.last ?? view.instrument.priorClose);
  const bars = barsOf(e.market.tape(symbol), 1).filter((b) => b.start < c.now - (c.now % MINUTE));
  const side = (way: Side): PlanSide =>
    sideOf(exitsOf(text), { side: way, entry: price, qty: over.qty, from: over.from }, bars, view, c);
  return {
    symbol,
    price,
    atr: view.instrument.atr > 0 ? view.instrument.atr : null,
    long: side('buy'),
    short: side('sell'),
  };
}

/** The example: where it would have been entered, from which minute of the day on; `qty` null: what risks 1R. */
interface Example {
  side: Side;
  entry: Price;
  qty: number | null;
  from: number;
}

function sideOf(
  exits: readonly Exit[],
  { side, entry, qty: given, from }: Example,
  bars: readonly Bar[],
  view: SymbolView,
  c: RunContext,
): PlanSide {
  if (exits.length === 0)
    return { picture: null, problem: 'Write its exits first: stop usual, target 1R for half …', today: null };
  const sized = resolvePlan(exits, { side, from: entry, held: false, view, c });
  if (!sized.ok) return { picture: null, problem: sized.problem, today: null };
  const unit = c.broker.accounts[c.account]?.rules.riskUnit ?? 0;
  const { perShare } = sized.resolved;
  const qty = given ?? (perShare ? Math.max(1, Math.floor(unit / perShare)) : EXAMPLE);
  const seen = pictureOf(exits, { side, entry, qty }, view, c);
  if (!seen.ok) return { picture: null, problem: seen.problem, today: null };
  const since = bars.filter((b) => clockOf(b.start) >= from * MINUTE);
  return { picture: seen.picture, problem: null, today: today(exits, { side, qty }, since, view, c) };
}

/** What it would have done from the first of some bars on. */
function today(
  exits: readonly Exit[],
  { side, qty }: { side: Side; qty: number },
  [bar, ...after]: readonly Bar[],
  view: SymbolView,
  c: RunContext,
): PlanSide['today'] {
  if (!bar) return null;
  const entry = roundToTick(bar.close);
  const read = resolvePlan(exits, { side, from: entry, held: false, view, c });
  if (!read.ok || !read.resolved.perShare) return null;
  const { plan, perShare } = read.resolved;
  return { from: bar.start, entry, ...planOnBars(plan, { side, entry, perShare, qty }, after) };
}

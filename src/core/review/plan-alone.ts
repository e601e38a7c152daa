// What the planned exits of an imported trade would have made, left alone, by the minute candles of its day.
import { totalOf } from '../account/index.ts';
import { multiplierOfSymbol } from '../instruments/index.ts';
import { afterExit } from './after-exit.ts';
import type { Aftermath } from './aftermath.ts';
import type { Minute } from './excursion.ts';
import { type Execution, type Exits, noExits, type TradeRecord } from './record.ts';

/** An exit within a cent of its planned price, or beyond it, is the plan's own. */
const NEAR = 100;

/**
 * What is known of an imported trade of one day. Up to its first exit by hand everything stays as it was; from there what was open goes on alone, to its
 * stop, its target or the regular close: a candle that opens beyond one of them ends it at its open, and in one that has both the stop comes first. Exits
 * of the plan cost for a share what the trade's own exits did. `left.plan` is null where no planned exit is said.
 */
export function planAlone(t: TradeRecord, minutes: readonly Minute[], close: number): Aftermath | null {
  if (!t.closed || t.closed.date !== t.opened.date) return null;
  const sign = t.direction === 'long' ? 1 : -1;
  const multiplier = multiplierOfSymbol(t.symbol);
  const entering = sign === 1 ? 'buy' : 'sell';
  const exits = t.executions.filter((x) => x.side !== entering);
  const hand = exits.find((x) => !isPlanned(x, t.exits ?? noExits, sign));
  const ended = { at: t.closed.at, price: t.averageExit ?? 0, size: t.shares * multiplier, sign } as const;
  const told = { ref: t.ref, net: t.net, after: afterExit(ended, minutes, close) };
  const { stop, target } = t.exits ?? noExits;
  if (!hand || (stop === null && target === null))
    return { ...told, left: hand ? { at: hand.at, by: 'closed', plan: null } : null };
  const before = t.executions.slice(0, t.executions.indexOf(hand));
  const open = before.reduce((a, x) => a + (x.side === entering ? x.qty : -x.qty), 0);
  const end = endOf({ stop, target }, sign, minutes, hand.at, close);
  if (!end) return { ...told, left: { at: hand.at, by: 'closed', plan: null } };
  const cash = before.reduce((a, x) => a + (x.side === 'buy' ? -1 : 1) * x.qty * x.price, 0);
  const exitCosts = exits.reduce((a, x) => a + totalOf(x.costs), 0) / t.shares;
  const costs = before.reduce((a, x) => a + totalOf(x.costs), 0) + exitCosts * open;
  const net = (cash + sign * open * end.price) * multiplier - costs;
  return { ...told, left: { at: hand.at, by: 'closed', plan: { net, open: end.open } } };
}

function isPlanned(x: Execution, { stop, target }: Exits, sign: 1 | -1): boolean {
  return (
    (stop !== null && sign * (x.price - stop) <= NEAR) ||
    (target !== null && sign * (x.price - target) >= -NEAR)
  );
}

/** Where a position ends by itself, from a time on; null where no candle is known after it. */
function endOf(
  { stop, target }: Exits,
  sign: 1 | -1,
  minutes: readonly Minute[],
  from: number,
  close: number,
): { price: number; open: boolean } | null {
  const stopped = (price: number) => stop !== null && sign * (price - stop) <= 0;
  const reached = (price: number) => target !== null && sign * (price - target) >= 0;
  let last: number | null = null;
  for (const m of minutes) {
    if (m.start < from || m.start >= close) continue;
    if (stopped(m.open) || reached(m.open)) return { price: m.open, open: false };
    if (stopped(sign === 1 ? m.low : m.high)) return { price: stop as number, open: false };
    if (reached(sign === 1 ? m.high : m.low)) return { price: target as number, open: false };
    last = m.close;
  }
  return last === null ? null : { price: last, open: true };
}

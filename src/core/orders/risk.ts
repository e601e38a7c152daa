// R of a trade: what its entries risked. One place for it, so that all that shows it shows the same.
import { isOption, mostToLose } from '../instruments/index.ts';
import { type Money, money, type OrderId, type Part, type Price, shelf } from '../units/index.ts';
import { current, scopeOf } from './changes.ts';
import type { Leg, Scope } from './exit-plan.ts';
import { allot, exitPrice, legPrice } from './exits.ts';
import { isLive, type Order, openOf, protects } from './order.ts';
import type { HoldingStep } from './step.ts';
import type { Lot, Trade } from './trade.ts';

/**
 * What stops lose together, in price units × shares: each its distance for its part of so many shares; a part without
 * a stop counts nothing. `units` at or below zero is a stop on the side of profit, which risks nothing.
 */
export const lossOfStops = (
  stops: readonly { part: Part | null; units: number }[],
  shares: number,
): number => {
  const parts = allot(
    stops.map((s) => s.part),
    shares,
  );
  return stops.reduce((a, s, k) => a + (parts[k] as number) * Math.max(0, s.units), 0);
};

/** What 1R of a trade is for a share, in price units; null where nothing says what was risked. */
export const riskPerShare = (t: Trade, multiplier: number): number | null =>
  t.risk === null || t.entered === 0 ? null : t.risk / (t.entered * multiplier);

/**
 * Works out the trade's R anew: for each entry order its filled shares times the distance from its average fill to its
 * stop, as that stands until the order has ended; then it is settled, and no later move changes it. Adds add. A trail
 * counts where it starts. Where no entry brought a stop, the first one that is put on the losing side sets it.
 */
export function measureRisk(w: HoldingStep, t: Trade): void {
  const lots: Record<number, Lot> = {};
  for (const id in t.lots) {
    const lot = t.lots[id] as Lot;
    lots[id] = lot.settled ? lot : measured(w, t, lot, id as unknown as OrderId);
  }
  const entered = Object.values(lots).reduce((a, x) => a + (x.risk ?? 0), 0);
  const later = t.laterRisk ?? (entered > 0 ? 0 : lossOfLater(w, t));
  const units = entered + later;
  const risk: Money | null = units > 0 ? money(Math.round(units * w.multiplier)) : null;
  const same = t.risk === risk && t.laterRisk === (later > 0 ? later : undefined);
  if (same && Object.keys(lots).every((id) => lots[Number(id)] === t.lots[Number(id)])) return;
  const { laterRisk: _, ...others } = t;
  w.putTrade({ ...others, lots, risk, ...(later > 0 ? { laterRisk: later } : {}) });
}

function measured(w: HoldingStep, t: Trade, lot: Lot, id: OrderId): Lot {
  const o = current(w, Number(id) as OrderId) ?? shelf.taken(w.step.past.orders, Number(id));
  const settled = !o || !isLive(o);
  const average = lot.notional / lot.qty;
  const scope = o && scopeIn(w, o, t);
  const loss = scope ? lossOf(scope, o, average, lot.qty) : 0;
  const option =
    loss === 0 && !scope && isOption(t.symbol) ? mostToLose(t.symbol, t.sign, average) * lot.qty : 0;
  // A stop that has gone to the side of profit while the entry still filled: what its shares risked stays what it was.
  const before = lot.risk === null ? 0 : (lot.risk / lot.measured) * lot.qty;
  const risk = loss > 0 ? loss : Number.isFinite(option) && option > 0 ? option : before;
  const next = { ...lot, risk: risk > 0 ? risk : null, measured: lot.qty, settled };
  return next.risk === lot.risk && next.measured === lot.measured && settled === lot.settled ? lot : next;
}

/** The scope that the shares of an entry came under. */
const scopeIn = (w: HoldingStep, o: Order, t: Trade): Scope | undefined =>
  scopeOf(w, o.scopeId) ?? w.scopes.find((s) => s.tradeId === t.id && s.over.kind === 'all');

/** What the stops of a scope lose of so many shares bought at an average. An entry's own are measured where they were placed, those it joined where they stand. */
function lossOf(s: Scope, o: Order, average: number, shares: number): number {
  const own = s.over.kind === 'entry' && s.over.orderId === o.id;
  const stops = s.legs.flatMap((leg, i) => {
    if (leg.kind !== 'stop') return [];
    const at = leg.dropped ? null : own ? placedAt(s, leg, average) : legPrice(s, i);
    return [{ part: leg.part, units: at === null ? 0 : s.sign * (average - at) }];
  });
  return lossOfStops(stops, shares);
}

/** Where a stop was placed by its plan or by hand; one that only a rule places, where that began. */
function placedAt(s: Scope, leg: Leg, average: number): Price | null {
  if (leg.byHand != null) return leg.byHand;
  return leg.place === null ? (leg.began ?? leg.moved) : exitPrice(s, leg.place, average, -1);
}

/** What the first stops on the losing side lose, of a trade that came without any. */
const lossOfLater = (w: HoldingStep, t: Trade): number => lossAtStops(t, w.orders);

/**
 * What the open shares of a trade lose at its stops, in price units × shares; `to` has the prices of orders that are to move. Of two stops for the same
 * shares the nearer one goes first, and takes them.
 */
export function lossAtStops(
  t: Trade,
  orders: readonly Order[],
  to: ReadonlyMap<number, Price> = new Map(),
): number {
  const average = t.entryNotional / t.entered;
  let left = t.entered - t.exited;
  let loss = 0;
  const stops = orders
    .filter((o) => o.tradeId === t.id && protects(o) && isLive(o) && o.stop !== null)
    .map((o) => ({ open: openOf(o), at: to.get(o.id) ?? (o.stop as Price) }))
    .sort((a, b) => t.sign * (b.at - a.at));
  for (const { open, at } of stops) {
    const shares = Math.min(left, open);
    left -= shares;
    loss += shares * Math.max(0, t.sign * (average - at));
  }
  return loss;
}

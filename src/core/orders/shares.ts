// Shares that go into a position and out of it: which trade, which scope and which leg they belong to.
import { type Costs, NO_COSTS, plus } from '../account/index.ts';
import { money, type Part, type Price, type Sign, shelf, type TradeId } from '../units/index.ts';
import { changeLeg, current, newTrade, nthOf, sayOf } from './changes.ts';
import { type Leg, openOfScope, type Scope } from './exit-plan.ts';
import { allot, bareOfScope, stopPriceOf, weightsOf } from './exits.ts';
import { isAtWork, type Order } from './order.ts';
import type { BrokerStep, HoldingStep } from './step.ts';
import { type Lot, positionOf, type Trade } from './trade.ts';

/** An execution as far as it goes to one trade: of which order, at what price, how many shares and what they cost. */
export interface Booked {
  order: Order;
  price: Price;
  qty: number;
  costs: Costs;
}

/** Shares that go out of the position: of the leg that sold them, or by hand. */
export function bookOut(w: HoldingStep, t: Trade, { order: o, price, qty, costs }: Booked): void {
  w.putTrade({
    ...t,
    exited: t.exited + qty,
    exitNotional: t.exitNotional + price * qty,
    costs: plus(t.costs, costs),
    // What it was closed at is a price that closing could have had.
    best: further(t, t.best, price, 1),
    worst: further(t, t.worst, price, -1),
  });
  w.closedBy = { closedBy: o.role, nth: nthOf(w, o) };
  const s = w.scopes.find((x) => x.id === o.scopeId && x.tradeId === t.id);
  const own = s && o.leg !== null ? Math.min(qty, Math.max(0, openOfScope(s))) : 0;
  if (s && o.leg !== null && own > 0) {
    const filled = (s.legs[o.leg]?.filled ?? 0) + own;
    const after = changeLeg(w, s, o.leg, { filled });
    if (o.role === 'target') afterTarget(w, after, o.leg);
  }
  if (own < qty) outByHand(w, t.id, qty - own);
}

/** The further of two prices for a trade (`way` 1), or against it. */
const further = (t: Trade, known: Price | null, price: Price, way: 1 | -1): Price =>
  known === null || t.sign * way * (price - known) > 0 ? price : known;

/** A close by hand uses up shares without exits first, then those of the newest scope; shares of a triggered stop last. */
function outByHand(w: HoldingStep, tradeId: TradeId, qty: number): void {
  const t = w.trades.find((x) => x.id === tradeId);
  if (!t) return;
  const scopes = w.scopes.filter((s) => s.tradeId === tradeId);
  const covered = scopes.reduce((a, s) => a + openOfScope(s), 0);
  // The position has gone down already: what was uncovered before it did.
  let rest = qty - Math.max(0, positionOf(t) + qty - covered);
  for (const s of scopes) {
    const part = Math.min(Math.max(0, rest), bareOfScope(s));
    if (part > 0) w.putScope({ ...s, out: s.out + part });
    rest -= part;
  }
  for (const { id } of byTurn(w, scopes)) {
    const s = w.scopes.find((x) => x.id === id) as Scope;
    const part = Math.min(Math.max(0, rest), openOfScope(s));
    if (part > 0) w.putScope({ ...s, out: s.out + part });
    rest -= part;
  }
}

/** Scopes in the order in which closes by hand use them up: those without a stop first, then the newest, those whose stop has triggered last. */
export function byTurn(w: { orders: readonly Order[] }, scopes: readonly Scope[]): Scope[] {
  const rank = (s: Scope) => {
    if (stopPriceOf(s) === null) return 0;
    return w.orders.some((o) => o.scopeId === s.id && o.role === 'stop' && isAtWork(o)) ? 2 : 1;
  };
  const ranks = new Map(scopes.map((s) => [s.id, rank(s)]));
  return [...scopes].sort((a, b) => (ranks.get(a.id) ?? 0) - (ranks.get(b.id) ?? 0) || b.id - a.id);
}

/** Shares that come into the position, under the scope of their entry, or under the one that covers all. `sentence`: of a trade that begins with them. */
export function bookIn(w: HoldingStep, sign: Sign, booked: Booked, sentence?: string): Trade {
  const { order: o, price, qty, costs } = booked;
  const open = w.trades.find((t) => t.status === 'open' && t.sign === sign);
  const waiting = w.trades.find((t) => t.id === o.tradeId && t.status === 'pending' && t.sign === sign);
  const first = open ?? waiting ?? newTrade(w, sign, sentence ?? sentenceOf(w.step, o));
  if (o.role !== 'entry') sayOf(w.step, first, { exec: 'OrderStatus', kind: 'turned', shares: qty });
  const come = w.putTrade({
    ...first,
    status: 'open',
    entered: first.entered + qty,
    entryNotional: first.entryNotional + price * qty,
    costs: plus(first.costs, costs),
    openedAt: first.openedAt ?? w.step.context.now,
    best: first.best ?? price,
    worst: first.worst ?? price,
    lots: { ...first.lots, [o.id]: withShares(first.lots[o.id], qty, price * qty) },
  });
  const t = chargeLocates(w, come);
  const now = current(w, o.id);
  if (now && now.tradeId !== t.id && o.role === 'entry') w.putOrder({ ...now, tradeId: t.id });
  const s = o.role === 'entry' ? scopeFor(w, o, t) : undefined;
  if (!s) return t;
  const basis = { qty: s.basis.qty + qty, notional: s.basis.notional + price * qty };
  w.putScope(withRisk({ ...s, basis }));
  return t;
}

/** What lenders took for shares of a symbol belongs to the trade that sells them short, also where it was paid before. */
export function chargeLocates(w: HoldingStep, t: Trade): Trade {
  const a = w.step.accounts[t.account] as BrokerStep['accounts'][string];
  const fee = a.locates.reduce((sum, l) => sum + (l.symbol === t.symbol ? (l.fee ?? 0) : 0), 0);
  if (t.sign === 1 || fee === 0) return t;
  w.step.accounts[t.account] = {
    ...a,
    locates: a.locates.map((l) => (l.symbol === t.symbol ? { ...l, fee: money(0) } : l)),
    closed: { ...a.closed, costs: money(a.closed.costs - fee) },
  };
  return w.putTrade({ ...t, costs: plus(t.costs, { ...NO_COSTS, borrow: money(fee) }) });
}

const withShares = (lot: Lot | undefined, qty: number, notional: number): Lot => ({
  qty: (lot?.qty ?? 0) + qty,
  notional: (lot?.notional ?? 0) + notional,
  risk: lot?.risk ?? null,
  measured: lot?.measured ?? 1,
  settled: false,
});

/** The distance to the stops, their mean by shares, is what 1R means for a share of the scope. */
function withRisk(s: Scope): Scope {
  if (s.basis.qty === 0 || s.over.kind !== 'entry') return s;
  return { ...s, riskPerShare: meanLoss(s, s.basis.notional / s.basis.qty) };
}

/** The mean distance from an average to the stops of a scope as they were planned, by shares; null where none lies on the losing side. */
export function meanLoss(s: Scope, average: number): number | null {
  const away = (p: Leg['place']) =>
    p?.kind === 'distance' ? p.units : p?.kind === 'at' ? Math.max(0, s.sign * (average - p.price)) : 0;
  const stops = s.legs.flatMap((l) =>
    l.kind === 'stop' && l.place !== null && l.place.kind !== 'R'
      ? [{ part: l.part, units: away(l.place) }]
      : [],
  );
  const mean = stops.length === 0 ? 0 : meanRisk(stops);
  return mean > 0 ? mean : null;
}

/** Mean distance of stops by the shares that each covers; what no stop covers counts for nothing. */
export function meanRisk(stops: readonly { part: Part | null; units: number }[]): number {
  const weights = weightsOf(stops.map((s) => s.part));
  const covered = weights.reduce((a, b) => a + b, 0);
  return stops.reduce((a, x, i) => a + x.units * (weights[i] as number), 0) / covered;
}

const sentenceOf = (d: BrokerStep, o: Order): string => shelf.taken(d.past.trades, o.tradeId)?.sentence ?? '';

/** The scope that an entry's shares come under. One that belonged to a trade that is over begins anew for the new one. */
function scopeFor(w: HoldingStep, o: Order, t: Trade): Scope | undefined {
  if (o.scopeId === null) return w.scopes.find((s) => s.tradeId === t.id && s.over.kind === 'all');
  const living = w.scopes.find((s) => s.id === o.scopeId);
  if (living && living.tradeId === t.id) return living;
  const old = living ?? shelf.taken(w.step.past.scopes, o.scopeId);
  if (!old) return undefined;
  if (living && living.basis.qty === 0) return w.putScope({ ...living, tradeId: t.id });
  const fresh = w.putScope({
    ...old,
    id: w.step.next.scope++,
    tradeId: t.id,
    basis: { qty: 0, notional: 0 },
    out: 0,
    breakevenState: 'waits',
    legs: old.legs.map((l) => ({ ...l, filled: 0, moved: null })),
    trail: old.trail && { ...old.trail, on: false, state: { ...old.trail.state, mark: null } },
  });
  const now = current(w, o.id);
  if (now) w.putOrder({ ...now, scopeId: fresh.id });
  return fresh;
}

/** What waits for a target (breakeven, a trail) is due once all of that target has filled. */
function afterTarget(w: HoldingStep, s: Scope, index: number): void {
  const targets = s.legs.flatMap((l, i) => (l.kind === 'target' ? [i] : []));
  const nth = targets.indexOf(index);
  const parts = targets.map((i) => s.legs[i]?.part ?? null);
  if ((s.legs[index]?.filled ?? 0) < (allot(parts, s.basis.qty)[nth] as number)) return;
  const waitsFor = (after: { kind: string; index?: number } | null | undefined) =>
    after?.kind === 'target' && after.index === nth;
  let next = s;
  if (s.breakevenState === 'waits' && waitsFor(s.breakeven?.after)) next = { ...next, breakevenState: 'due' };
  if (s.trail && !s.trail.on && waitsFor(s.trail.after)) next = { ...next, trail: { ...s.trail, on: true } };
  if (next !== s) w.putScope(next);
}

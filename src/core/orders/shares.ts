// Shares that go into a position and out of it: which trade, which scope and which leg they belong to.
import { type Costs, NO_COSTS, plus } from '../account/index.ts';
import { money, type Part, type Price, type Sign, shelf, type TradeId } from '../units/index.ts';
import { changeLeg, current, newTrade, nthOf, putOrder, putScope, putTrade, sayOf } from './changes.ts';
import type { Draft, Work } from './draft.ts';
import { allot, bareOfScope, stopPriceOf, weightsOf } from './exits.ts';
import {
  isAtWork,
  type Leg,
  type Lot,
  type Order,
  openOfScope,
  positionOf,
  type Scope,
  type Trade,
} from './types.ts';

/** What is booked of an execution. */
type Executed = { price: Price; qty: number };

/** Shares that go out of the position: of the leg that sold them, or by hand. */
export function bookOut(
  d: Draft,
  w: Work,
  t: Trade,
  o: Order,
  r: Executed,
  qty: number,
  charged: Costs,
): void {
  putTrade(d, w, {
    ...t,
    exited: t.exited + qty,
    exitNotional: t.exitNotional + r.price * qty,
    costs: plus(t.costs, charged),
    // What it was closed at is a price that closing could have had.
    best: further(t, t.best, r.price, 1),
    worst: further(t, t.worst, r.price, -1),
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
function outByHand(w: Work, tradeId: TradeId, qty: number): void {
  const t = w.trades.find((x) => x.id === tradeId);
  if (!t) return;
  const scopes = w.scopes.filter((s) => s.tradeId === tradeId);
  const covered = scopes.reduce((a, s) => a + openOfScope(s), 0);
  // The position has gone down already: what was uncovered before it did.
  let rest = qty - Math.max(0, positionOf(t) + qty - covered);
  for (const s of scopes) {
    const part = Math.min(Math.max(0, rest), bareOfScope(s));
    if (part > 0) putScope(w, { ...s, out: s.out + part });
    rest -= part;
  }
  for (const { id } of byTurn(w, scopes)) {
    const s = w.scopes.find((x) => x.id === id) as Scope;
    const part = Math.min(Math.max(0, rest), openOfScope(s));
    if (part > 0) putScope(w, { ...s, out: s.out + part });
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

/** Shares that come into the position, under the scope of their entry, or under the one that covers all. */
export function bookIn(
  d: Draft,
  w: Work,
  o: Order,
  sign: Sign,
  r: Executed,
  qty: number,
  charged: Costs,
  sentence = sentenceOf(d, o),
): Trade {
  const open = w.trades.find((t) => t.status === 'open' && t.sign === sign);
  const waiting = w.trades.find((t) => t.id === o.tradeId && t.status === 'pending' && t.sign === sign);
  const first = open ?? waiting ?? newTrade(d, w, sign, sentence);
  if (o.role !== 'entry') sayOf(d, first, { exec: 'OrderStatus', kind: 'turned', shares: qty });
  const come = putTrade(d, w, {
    ...first,
    status: 'open',
    entered: first.entered + qty,
    entryNotional: first.entryNotional + r.price * qty,
    costs: plus(first.costs, charged),
    openedAt: first.openedAt ?? d.context.now,
    best: first.best ?? r.price,
    worst: first.worst ?? r.price,
    lots: { ...first.lots, [o.id]: withShares(first.lots[o.id], qty, r.price * qty) },
  });
  const t = chargeLocates(d, w, come);
  const now = current(w, o.id);
  if (now && now.tradeId !== t.id && o.role === 'entry') putOrder(d, w, { ...now, tradeId: t.id });
  const s = o.role === 'entry' ? scopeFor(d, w, o, t) : undefined;
  if (!s) return t;
  const basis = { qty: s.basis.qty + qty, notional: s.basis.notional + r.price * qty };
  putScope(w, withRisk({ ...s, basis }));
  return t;
}

/** What lenders took for shares of a symbol belongs to the trade that sells them short, also where it was paid before. */
export function chargeLocates(d: Draft, w: Work, t: Trade): Trade {
  const a = d.accounts[t.account] as Draft['accounts'][string];
  const fee = a.locates.reduce((sum, l) => sum + (l.symbol === t.symbol ? (l.fee ?? 0) : 0), 0);
  if (t.sign === 1 || fee === 0) return t;
  d.accounts[t.account] = {
    ...a,
    locates: a.locates.map((l) => (l.symbol === t.symbol ? { ...l, fee: money(0) } : l)),
    closed: { ...a.closed, costs: money(a.closed.costs - fee) },
  };
  return putTrade(d, w, { ...t, costs: plus(t.costs, { ...NO_COSTS, borrow: money(fee) }) });
}

const withShares = (lot: Lot | undefined, qty: number, notional: number): Lot => ({
  qty: (lot?.qty ?? 0) + qty,
  notional: (lot?.notional ?? 0) + notional,
  risk: lot?.risk ?? null,
  measured: lot?.measured ?? 1,
  settled: false,
});

/** The distance to the stops, their mean by shares, is what 1R means for a share of the scope. */
export function withRisk(s: Scope): Scope {
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

const sentenceOf = (d: Draft, o: Order): string => shelf.taken(d.past.trades, o.tradeId)?.sentence ?? '';

/** The scope that an entry's shares come under. One that belonged to a trade that is over begins anew for the new one. */
function scopeFor(d: Draft, w: Work, o: Order, t: Trade): Scope | undefined {
  if (o.scopeId === null) return w.scopes.find((s) => s.tradeId === t.id && s.over.kind === 'all');
  const living = w.scopes.find((s) => s.id === o.scopeId);
  if (living && living.tradeId === t.id) return living;
  const old = living ?? shelf.taken(d.past.scopes, o.scopeId);
  if (!old) return undefined;
  if (living && living.basis.qty === 0) return putScope(w, { ...living, tradeId: t.id });
  const fresh = putScope(w, {
    ...old,
    id: d.next.scope++,
    tradeId: t.id,
    basis: { qty: 0, notional: 0 },
    out: 0,
    breakevenState: 'waits',
    legs: old.legs.map((l) => ({ ...l, filled: 0, moved: null })),
    trail: old.trail && { ...old.trail, on: false, state: { ...old.trail.state, mark: null } },
  });
  const now = current(w, o.id);
  if (now) putOrder(d, w, { ...now, scopeId: fresh.id });
  return fresh;
}

/** What waits for a target (breakeven, a trail) is due once all of that target has filled. */
function afterTarget(w: Work, s: Scope, index: number): void {
  const targets = s.legs.flatMap((l, i) => (l.kind === 'target' ? [i] : []));
  const nth = targets.indexOf(index);
  const parts = targets.map((i) => s.legs[i]?.part ?? null);
  if ((s.legs[index]?.filled ?? 0) < (allot(parts, s.basis.qty)[nth] as number)) return;
  const waitsFor = (after: { kind: string; index?: number } | null | undefined) =>
    after?.kind === 'target' && after.index === nth;
  let next = s;
  if (s.breakevenState === 'waits' && waitsFor(s.breakeven?.after)) next = { ...next, breakevenState: 'due' };
  if (s.trail && !s.trail.on && waitsFor(s.trail.after)) next = { ...next, trail: { ...s.trail, on: true } };
  if (next !== s) putScope(w, next);
}

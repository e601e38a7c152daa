// Reports of the exchange, booked one after another; what follows from them is decided once, when all are booked.

import { type Costs, costsFor, minus, NO_COSTS, plus, post, tableOn, totalOf } from '../account/index.ts';
import { contractsIn } from '../instruments/index.ts';
import {
  dayOf,
  money,
  type OrderId,
  type Part,
  type Sign,
  shelf,
  signOf,
  type TradeId,
  unreachable,
  type WireId,
} from '../units/index.ts';
import type { VenueReport, WireTerms } from '../venue/index.ts';
import {
  changeLeg,
  current,
  end,
  left,
  newTrade,
  notOut,
  putOrder,
  putScope,
  putTrade,
  resize,
  say,
  sayOf,
  sayWorking,
  takeOut,
} from './changes.ts';
import { accountIds } from './desk.ts';
import { type Draft, type Work, workOn } from './draft.ts';
import { allot, bareOfScope, stopPriceOf, weightsOf } from './exits.ts';
import {
  type Fill,
  isStaying,
  type Leg,
  type Lot,
  type Order,
  openOfScope,
  positionOf,
  type Scope,
  type Trade,
  type Why,
  type Wire,
} from './types.ts';

/**
 * The exchange's number of an order's n-th wire: odd, never used again, and it says which order it
 * belongs to, so that a report that comes late still finds it.
 */
export const wireId = (orderId: OrderId, nth: number): WireId => ((orderId * WIRES + nth) * 2 + 1) as WireId;
/** The id of the order that a wire’s number belongs to. */
export const orderOfWire = (id: WireId): OrderId => Math.floor((id - 1) / 2 / WIRES) as OrderId;
const WIRES = 2 ** 20;

/** Books one report of the exchange; what follows from it is decided in the flush. */
export function book(d: Draft, r: VenueReport): void {
  switch (r.kind) {
    case 'line':
      if (d.linked !== r.up) sayOf(d, null, { exec: 'OrderStatus', kind: 'line', up: r.up });
      d.linked = r.up;
      return;
    case 'list':
      compare(d, r.orders);
      return;
    case 'fill':
      bookFill(d, r);
      return;
    default: {
      const at = find(d, r.symbol, r.id);
      if (at) answered(d, at.w, at.o, at.wire, r);
    }
  }
}

/** The living order whose present wire this is. */
function find(d: Draft, symbol: string, id: WireId): { w: Work; o: Order; wire: Wire } | null {
  for (const account of accountIds(d.accounts)) {
    const w = workOn(d, account, symbol);
    const o = current(w, orderOfWire(id));
    if (o?.phase.k === 'working' && o.phase.wire?.id === id) return { w, o, wire: o.phase.wire };
  }
  return null;
}

const withWire = (d: Draft, w: Work, o: Order, wire: Wire | null): Order =>
  o.phase.k === 'working' ? putOrder(d, w, { ...o, phase: { ...o.phase, wire } }) : o;

type Answered = Exclude<VenueReport, { kind: 'line' | 'list' | 'fill' }>;

function answered(d: Draft, w: Work, o: Order, wire: Wire, r: Answered): void {
  const { pending } = wire;
  switch (r.kind) {
    case 'new': {
      const acked = pending?.to ?? wire.acked;
      const calm = o.bounced.at === d.context.now ? o.bounced : { times: 0, at: o.bounced.at };
      const next = withWire(
        d,
        w,
        { ...o, bounced: calm },
        { ...wire, acked, pending: pending?.kind === 'cancel' ? { ...pending, to: null } : null },
      );
      sayWorking(d, w, next);
      return;
    }
    case 'replaced':
      return replaced(d, w, o, wire, r);
    case 'refused': {
      if (pending?.kind !== r.request) return;
      const tooLate = r.why === 'too late';
      const next = withWire(d, w, o, {
        ...wire,
        pending: null,
        stuck: wire.stuck || (r.request === 'replace' && !tooLate),
      });
      const asked = bounce(d, w, next);
      say(d, w, asked, { exec: 'OrderStatus', kind: 'request refused', request: r.request, why: r.why });
      // What was asked for more than the exchange had, and that has filled meanwhile, is done.
      if (wire.acked !== null && wire.filled >= wire.acked.qty) letGo(d, w, asked);
      return;
    }
    case 'rejected':
      thrownOut(d, w, o, { exchange: r.why }, true);
      return;
    case 'out':
      if (o.phase.k === 'working' && o.phase.leaving !== null)
        left(d, w, withWire(d, w, o, null), o.phase.leaving);
      else if (pending?.kind === 'cancel') withWire(d, w, o, null);
      else thrownOut(d, w, o, { exchange: r.why }, false);
      return;
    default:
      unreachable(r);
  }
}

/** The exchange has changed an order as it was asked. */
function replaced(d: Draft, w: Work, o: Order, wire: Wire, r: Extract<Answered, { kind: 'replaced' }>): void {
  const { acked: before, pending } = wire;
  const acked = { qty: r.qty, limit: r.limit };
  const goesOn = pending?.kind === 'cancel' ? { ...pending, to: null } : null;
  const next = withWire(d, w, o, { ...wire, acked, pending: goesOn });
  if (before && before.qty !== acked.qty) {
    const [from, to] = [before.qty - wire.filled, acked.qty - wire.filled];
    say(d, w, next, { exec: 'Replaced', kind: 'resized', from, to });
  }
  if (before && before.limit !== acked.limit && before.limit !== null && acked.limit !== null) {
    const why = pending?.why ?? 'you';
    say(d, w, next, { exec: 'Replaced', kind: 'moved', from: before.limit, to: acked.limit, why });
  }
  if (acked.qty <= wire.filled) letGo(d, w, next);
}

/** The wire is finished, with all its shares filled: the order is, or goes where it was going, or waits to be sent for the rest. */
function letGo(d: Draft, w: Work, o: Order): void {
  const bare = withWire(d, w, o, null);
  if (bare.filled >= bare.qty)
    putOrder(d, w, { ...bare, phase: { k: 'ended', status: 'Filled', why: null } });
  else if (o.phase.k === 'working' && o.phase.leaving !== null) left(d, w, bare, o.phase.leaving);
}

/** Counts what the exchange does unasked, so that a rude one is not asked for ever within one moment. */
function bounce(d: Draft, w: Work, o: Order): Order {
  return putOrder(d, w, { ...o, bounced: { at: d.context.now, times: o.bounced.times + 1 } });
}

/**
 * The exchange rejects an order, or throws it out unasked. Entries and closes of the trader end and
 * say so. Exits stay: their shares are still there; they are sent again, but a target that was
 * rejected three times is given up.
 */
function thrownOut(d: Draft, w: Work, o: Order, why: Why, rejected: boolean): void {
  const text = typeof why === 'object' && 'exchange' in why ? why.exchange : '';
  const loose = withWire(d, w, o, null);
  if (o.phase.k === 'working' && o.phase.leaving !== null) return left(d, w, loose, o.phase.leaving);
  if (o.role === 'entry' || o.role === 'close') {
    notOut(d, w, loose, rejected ? 'session' : 'quote');
    const t = w.trades.find((x) => x.id === o.tradeId && x.status === 'open');
    if (o.flat && t && positionOf(t) > 0)
      sayOf(d, t, { exec: 'OrderStatus', kind: 'left over', shares: positionOf(t) });
    if (rejected) {
      const ended = putOrder(d, w, { ...loose, phase: { k: 'ended', status: 'Rejected', why } });
      say(d, w, ended, { exec: 'Rejected', kind: 'rejected', why, bare: 0 });
    } else end(d, w, loose, 'Canceled', why);
    return;
  }
  const again = bounce(d, w, loose);
  say(d, w, again, { exec: 'Canceled', kind: 'thrown out', why: text });
  const s = w.scopes.find((x) => x.id === o.scopeId);
  if (rejected && o.role === 'target' && again.bounced.times >= TRIES && s && o.leg !== null) {
    changeLeg(w, s, o.leg, { dropped: true });
    putOrder(d, w, { ...again, phase: { k: 'ended', status: 'Rejected', why } });
    say(d, w, again, { exec: 'Rejected', kind: 'rejected', why, bare: 0 });
  }
}
/** How often something is tried at the exchange within one moment. */
export const TRIES = 3;

/** After the line was away: what the exchange works against what we believe. Its missed executions have been booked before. */
function compare(d: Draft, orders: readonly ({ id: WireId; symbol: string } & WireTerms)[]): void {
  const there = new Map(orders.map((x) => [x.id, x]));
  for (const key in d.before.holdings) {
    const h = d.before.holdings[key];
    if (h) workOn(d, h.account, h.symbol);
  }
  for (const w of d.work.values())
    for (const o of w.orders.slice()) {
      const wire = o.phase.k === 'working' ? o.phase.wire : null;
      if (!wire) continue;
      const theirs = there.get(wire.id);
      there.delete(wire.id);
      if (theirs)
        withWire(d, w, o, { ...wire, acked: { qty: theirs.qty, limit: theirs.limit }, pending: null });
      else if (wire.acked === null) neverArrived(d, w, o);
      else
        answered(d, w, o, wire, {
          kind: 'out',
          id: wire.id,
          symbol: o.symbol,
          at: d.context.now,
          why: 'gone when the line stood again',
        });
    }
  // What works there and is nobody's here is taken out.
  for (const { id, symbol } of there.values()) d.effects.venue.push({ kind: 'cancel', id, symbol });
}

function neverArrived(d: Draft, w: Work, o: Order): void {
  const loose = withWire(d, w, o, null);
  if (o.phase.k === 'working' && o.phase.leaving !== null) left(d, w, loose, o.phase.leaving);
  else if (o.role === 'entry' || (o.role === 'close' && !o.flat)) {
    const ended = putOrder(d, w, {
      ...loose,
      phase: { k: 'ended', status: 'Rejected', why: 'never arrived' },
    });
    say(d, w, ended, { exec: 'Rejected', kind: 'rejected', why: 'never arrived', bare: 0 });
  }
}

export type FillReport = Extract<VenueReport, { kind: 'fill' }>;

/**
 * An execution. It is booked whatever the order has become meanwhile: what the exchange has done is
 * done. Where it reaches beyond the position (an execution that came after its order was said to be
 * gone), the rest opens a trade the other way, so that nothing is hidden from the trader.
 */
function bookFill(d: Draft, r: FillReport): void {
  const id = orderOfWire(r.id);
  const past = shelf.taken(d.past.orders, id);
  for (const account of accountIds(d.accounts)) {
    const w = workOn(d, account, r.symbol);
    const o = current(w, id) ?? (past?.account === account && past.symbol === r.symbol ? past : undefined);
    if (o) return fillOrder(d, w, o, r);
  }
}

function fillOrder(d: Draft, w: Work, o: Order, r: FillReport): void {
  const account = d.accounts[o.account] as Draft['accounts'][string];
  const filled = o.filled + r.qty;
  const notional = o.notional + r.price * r.qty;
  const added = o.added + (r.liquidity === 'added' ? r.qty : 0);
  const fees = tableOn(account.fees, d.context.date);
  const costs = costsFor(fees, {
    side: o.side,
    shares: filled,
    notional: notional * w.multiplier,
    added,
    contracts: filled * contractsIn(o.symbol),
  });
  const charged = minus(costs, o.costs);
  let next: Order = { ...o, filled, notional, costs, added, qty: Math.max(o.qty, filled) };
  if (next.phase.k === 'working' && next.phase.wire?.id === r.id) {
    const wire = { ...next.phase.wire, filled: next.phase.wire.filled + r.qty };
    next = { ...next, phase: { ...next.phase, wire } };
  }
  w.changed = true;
  if (current(w, o.id)) putOrder(d, w, next);
  else d.past.orders = shelf.put(d.past.orders, next);

  const cash = money(-signOf(o.side) * r.price * r.qty * w.multiplier);
  let ledger = post(account.ledger, {
    at: d.context.now,
    settles: dayOf(d.context.now) + 1,
    cash,
    why: 'trade',
    orderId: o.id,
  });
  if (totalOf(charged) !== 0)
    ledger = post(ledger, {
      at: d.context.now,
      settles: dayOf(d.context.now) + 1,
      cash: money(-totalOf(charged)),
      why: 'costs',
      orderId: o.id,
    });
  d.accounts[o.account] = { ...account, ledger };

  const sign = signOf(o.side);
  const open = w.trades.find((t) => t.status === 'open');
  const out = open && open.sign !== sign ? Math.min(r.qty, positionOf(open)) : 0;
  let tradeId = o.tradeId;
  if (open && out > 0) {
    tradeId = open.id;
    bookOut(d, w, open, o, r, out, charged);
    record(d, o, open.id, r, out, charged);
  }
  if (out < r.qty) {
    const own = out > 0 ? NO_COSTS : charged;
    const t = bookIn(d, w, o, sign, r, r.qty - out, own);
    tradeId = t.id;
    record(d, o, t.id, r, r.qty - out, own);
    // A flatten came before: what its cancel was too late for goes out as well.
    if (
      next.phase.k === 'working' &&
      next.phase.leaving?.to === 'ended' &&
      next.phase.leaving.why === 'flatten'
    )
      takeOut(d, w, t, r.qty - out);
  }
  const after = current(w, o.id) ?? next;
  say(
    d,
    w,
    { ...after, tradeId },
    {
      exec: 'Trade',
      kind: 'fill',
      price: r.price,
      qty: r.qty,
      better: r.better,
      venue: r.venue,
      liquidity: r.liquidity,
    },
  );
  if (o.pair) shrinkPair(d, o, r.qty);
  const wire = after.phase.k === 'working' ? after.phase.wire : null;
  if (wire?.id === r.id && wire.filled >= Math.max(wire.acked?.qty ?? 0, wire.pending?.to?.qty ?? 0))
    letGo(d, w, after);
}

/** What has filled of an order is taken from the one that it is joined with, in proportion: of equal sizes as many shares. */
function shrinkPair(d: Draft, { account, symbol, side, pair, qty, filled }: Order, shares: number): void {
  if (!pair) return;
  const w = workOn(d, pair.account, pair.symbol);
  const other = current(w, pair.id);
  if (!other || !isStaying(other)) return;
  const before = Math.max(1, qty - filled);
  const left = Math.floor(((other.qty - other.filled) * Math.max(0, before - shares)) / before);
  w.changed = true;
  // What is of the other side in the same symbol would work against what has filled.
  const against = account === pair.account && symbol === pair.symbol && other.side !== side;
  if (left === 0 || against) end(d, w, other, 'Canceled', 'pair');
  else resize(d, w, other, left);
}

export function record(d: Draft, o: Order, tradeId: TradeId, r: FillReport, qty: number, costs: Costs): void {
  const fill: Fill = {
    id: d.next.fill++,
    orderId: o.id,
    tradeId,
    account: o.account,
    symbol: o.symbol,
    side: o.side,
    role: o.role,
    at: d.context.now,
    price: r.price,
    qty,
    liquidity: r.liquidity,
    venue: r.venue,
    better: r.better,
    costs,
  };
  d.past.fills = shelf.put(d.past.fills, fill);
}

/** Shares that go out of the position: of the leg that sold them, or by hand. */
export function bookOut(
  d: Draft,
  w: Work,
  t: Trade,
  o: Order,
  r: FillReport,
  qty: number,
  charged: Costs,
): void {
  putTrade(d, w, {
    ...t,
    exited: t.exited + qty,
    exitNotional: t.exitNotional + r.price * qty,
    costs: plus(t.costs, charged),
  });
  const s = w.scopes.find((x) => x.id === o.scopeId && x.tradeId === t.id);
  const own = s && o.leg !== null ? Math.min(qty, Math.max(0, openOfScope(s))) : 0;
  if (s && o.leg !== null && own > 0) {
    const filled = (s.legs[o.leg]?.filled ?? 0) + own;
    const after = changeLeg(w, s, o.leg, { filled });
    if (o.role === 'target') afterTarget(w, after, o.leg);
  }
  if (own < qty) outByHand(w, t.id, qty - own);
}

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
    return w.orders.some((o) => o.scopeId === s.id && o.role === 'stop' && o.phase.k === 'working') ? 2 : 1;
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
  r: FillReport,
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

// What the trader asks for.
import { post } from '../account/index.ts';
import {
  money,
  type OrderId,
  type Price,
  type Sign,
  shelf,
  sideOf,
  signOf,
  unreachable,
} from '../units/index.ts';
import { admit } from './admit.ts';
import { heldByCloses } from './admit-checks.ts';
import { giving, keepingStop, stopGiven } from './bare.ts';
import {
  activate,
  addOrder,
  callBack,
  changeLeg,
  current,
  end,
  newTrade,
  reprice,
  resize,
  say,
  sayOf,
  scopeOf,
  takeOut,
} from './changes.ts';
import { liveOrder } from './desk.ts';
import type { ExitPlan, Leg, Scope } from './exit-plan.ts';
import { coversAll, newestScope } from './exits.ts';
import { remembering } from './guards.ts';
import type { Intent, NewIntent } from './intent.ts';
import { isAtWork, isStaying, type Order, priceOf, protects } from './order.ts';
import { askForFills } from './reconcile.ts';
import { riskPerShare } from './risk.ts';
import { chargeLocates, meanLoss } from './shares.ts';
import { split } from './split.ts';
import { type BrokerStep, type HoldingStep, workOn } from './step.ts';
import { positionOf, type Trade } from './trade.ts';

/** Obeys an intent of the trader, or refuses it. */
export function obey(d: BrokerStep, intent: Intent): void {
  d.effects.refused = admit(d.before, intent, d.context);
  if (d.effects.refused) return;
  switch (intent.kind) {
    case 'entry':
    case 'close':
      sendNew(d, intent);
      return;
    case 'pair':
      return join(d, sendNew(d, intent.of[0]), sendNew(d, intent.of[1]));
    case 'attach':
      return attach(workOn(d, intent.account, intent.symbol), intent);
    case 'move':
      return move(d, intent.orderId, intent.to);
    case 'retype':
      return retype(d, intent);
    case 'resize':
      return size(d, intent.orderId, intent.qty);
    case 'cancel':
      return cancel(d, intent.what);
    case 'locate':
      return locate(d, intent);
    case 'put back':
      return putBack(d, intent.orderId);
    case 'flatten':
      return flatten(workOn(d, intent.account, intent.symbol), intent.limit);
    default:
      unreachable(intent);
  }
}

const sendNew = (d: BrokerStep, e: NewIntent): Order => {
  if (e.kind === 'close' && e.apart !== undefined) split(d, e.account, e.apart, e.qty);
  const w = workOn(d, e.account, e.symbol);
  if (e.kind === 'entry')
    d.accounts[e.account] = remembering(
      d.accounts[e.account] as BrokerStep['accounts'][string],
      e,
      d.context.now,
    );
  return e.kind === 'entry' ? enter(w, e) : close(w, e);
};

/** Shares that a lender sets aside for the day; the fee is paid at once, whether they are used or not. */
function locate(d: BrokerStep, { account, symbol, shares }: Extract<Intent, { kind: 'locate' }>): void {
  const a = d.accounts[account] as BrokerStep['accounts'][string];
  const fee = money(Math.round(d.context.locate(symbol).perShare * shares));
  d.accounts[account] = {
    ...a,
    locates: [...a.locates, { symbol, shares, fee }],
    closed: { ...a.closed, costs: money(a.closed.costs + fee) },
    ledger: post(a.ledger, {
      at: d.context.now,
      settles: a.day.day + 1,
      cash: money(-fee),
      why: 'locate',
      orderId: null,
    }),
  };
  sayOf(d, null, { exec: 'OrderStatus', kind: 'located', shares, fee }, { account, symbol });
  const w = workOn(d, account, symbol);
  const short = w.trades.find((t) => t.status === 'open' && t.sign === -1);
  if (short) chargeLocates(w, short);
}

/** Two orders know each other from now on. */
function join(d: BrokerStep, ...[a, b]: readonly [Order, Order]): void {
  for (const [one, other] of [
    [a, b],
    [b, a],
  ] as const) {
    const w = workOn(d, one.account, one.symbol);
    const o = current(w, one.id);
    if (o) w.putOrder({ ...o, pair: { id: other.id, account: other.account, symbol: other.symbol } });
  }
}

const worked = (e: NewIntent): { works?: Order['works'] & object } =>
  e.works && e.limit !== null ? { works: { ...e.works, from: e.limit, since: null } } : {};

function enter(w: HoldingStep, e: Extract<Intent, { kind: 'entry' }>): Order {
  const sign = signOf(e.side);
  const trade = w.trades.find((t) => t.sign === sign) ?? newTrade(w, sign, e.sentence);
  const orderId = w.step.next.order;
  const scope = e.plan && w.putScope(newScope(w, trade, e.plan, { kind: 'entry', orderId }));
  const joined = e.joins && !scope ? newestScope(w, trade) : null;
  const {
    kind: _kind,
    plan: _plan,
    sentence: _sentence,
    joins: _joins,
    works: _works,
    byItself: _by,
    ...terms
  } = e;
  return addOrder(w, {
    ...terms,
    ...worked(e),
    on: e.on ?? 'last',
    tradeId: trade.id,
    role: 'entry',
    scopeId: (scope ?? joined)?.id ?? null,
    leg: null,
  });
}

function newScope(w: HoldingStep, trade: Trade, plan: ExitPlan, over: Scope['over']): Scope {
  const blank = { extended: plan.extended, filled: 0, moved: null, dropped: false };
  const stops: Leg[] = plan.stops.map((s) => ({
    kind: 'stop',
    ...s,
    ...blank,
    extended: plan.extended || s.extended === true,
  }));
  const unplaced: Leg = { kind: 'stop', place: null, part: null, on: 'last', ...blank };
  // A stop that only the breakeven rule or the trail will place.
  if (stops.length === 0 && (plan.breakeven || plan.trail)) stops.push(unplaced);
  // The part that no stop is for: it is bare from the start, and goes first where shares are closed by hand.
  else if (stops.length > 0 && !coversAll(stops.map((s) => s.part)))
    stops.push({ ...unplaced, dropped: true });
  return {
    id: w.step.next.scope++,
    tradeId: trade.id,
    account: w.account,
    symbol: w.symbol,
    ...(w.ticks === undefined ? {} : { ticks: w.ticks }),
    sign: trade.sign,
    over,
    basis: { qty: 0, notional: 0 },
    out: 0,
    legs: [...stops, ...plan.targets.map((t): Leg => ({ kind: 'target', ...t, on: 'last', ...blank }))],
    breakeven: plan.breakeven,
    breakevenState: 'waits',
    trail: plan.trail && {
      after: plan.trail.after,
      on: false,
      state: { reach: plan.trail.reach, mark: null },
    },
    outBy: plan.outBy ?? null,
    riskPerShare: null,
  };
}

function close(w: HoldingStep, e: Extract<Intent, { kind: 'close' }>): Order {
  const t = openIn(w);
  const qty = Math.min(e.qty, positionOf(t) - heldByCloses(w.orders, e.stop !== null));
  const { kind: _kind, works: _works, byItself: _by, ...terms } = e;
  return addOrder(w, {
    ...terms,
    ...worked(e),
    qty,
    side: sideOf(-t.sign as Sign),
    on: e.on ?? 'last',
    tradeId: t.id,
    role: 'close',
    scopeId: null,
    leg: null,
  });
}

const openIn = (w: HoldingStep): Trade => w.trades.find((x) => x.status === 'open') as Trade;

/** Exits for what is held: the shares that no scope covers first, then those of other scopes, the newest first. Distances run from the position's average. */
function attach(w: HoldingStep, e: Extract<Intent, { kind: 'attach' }>): void {
  const t = openIn(w);
  const wanted = e.over === 'all' ? positionOf(t) : Math.min(e.over.shares, positionOf(t));
  const from = giving(w, t, e.over === 'all' ? 'all' : wanted);
  const plan = keepingStop(e.plan, wanted, stopGiven(from));
  for (const { scope, shares } of from) w.putScope({ ...scope, out: scope.out + shares });
  const fresh = newScope(w, t, plan, e.over === 'all' ? { kind: 'all' } : { kind: 'part' });
  const basis = { qty: wanted, notional: (t.entryNotional / t.entered) * wanted };
  const measure = riskPerShare(t, w.multiplier) ?? meanLoss(fresh, t.entryNotional / t.entered);
  w.putScope({ ...fresh, basis, riskPerShare: measure });
}

function move(d: BrokerStep, id: OrderId, to: Price): void {
  const found = liveOrder(d.before, id) as Order;
  const w = workOn(d, found.account, found.symbol);
  const before = current(w, id) as Order;
  const s = scopeOf(w, before.scopeId);
  const places = before.role === 'target' || !isAtWork(before);
  // Also one that is moved to where it stands is placed there, and follows the average no more.
  if (s && before.leg !== null && places && s.legs[before.leg]?.moved !== to) {
    d.moved.set(`${s.id} ${before.leg}`, 'you');
    changeLeg(w, s, before.leg, { moved: to, byHand: to });
  }
  if (priceOf(before) === to) return;
  // A price by hand ends the working of it.
  const { works: _works, ...o } = before;
  d.moved.set(`order ${id}`, 'you');
  reprice(w, w.putOrder(o), to, 'you');
}

/** Gives an order of the trader another kind: it never works as the old one and as the new one at once. */
function retype(
  d: BrokerStep,
  { orderId, kind: _kind, works, ...terms }: Extract<Intent, { kind: 'retype' }>,
): void {
  const found = liveOrder(d.before, orderId) as Order;
  const w = workOn(d, found.account, found.symbol);
  const { works: _works, ...o } = current(w, orderId) as Order;
  const next: Order = {
    ...o,
    ...terms,
    // A stop keeps the sessions of the one that it takes the place of.
    extended: terms.extended || (protects(o) && terms.stop !== null && o.extended),
    ...(works && terms.limit !== null ? { works: { ...works, from: terms.limit, since: null } } : {}),
  };
  const { type, limit, stop, route, timeInForce } = next;
  say(w, next, { exec: 'Replaced', kind: 'retyped', type, limit, stop, route, timeInForce });
  if (!callBack(w, next, { to: 'asleep' })) activate(w, w.putOrder({ ...next, phase: { k: 'asleep' } }));
}

/** Gives an order of the trader another size: the total, with what has filled. */
function size(d: BrokerStep, id: OrderId, qty: number): void {
  const found = liveOrder(d.before, id) as Order;
  const w = workOn(d, found.account, found.symbol);
  const o = current(w, id) as Order;
  if (o.qty !== qty) resize(w, o, qty - o.filled);
}

/** A stop or a target that the trader has taken away stands again where it stood, for the shares that it was for. */
function putBack(d: BrokerStep, id: OrderId): void {
  const o = shelf.taken(d.past.orders, id) as Order;
  const w = workOn(d, o.account, o.symbol);
  const s = scopeOf(w, o.scopeId);
  if (s && o.leg !== null) {
    changeLeg(w, s, o.leg, { dropped: false });
    return;
  }
  const { side, type, limit, stop, on, extended, timeInForce, route, postOnly, until, symbol } = o;
  const t = openIn(w);
  addOrder(w, {
    account: o.account,
    symbol,
    side,
    type,
    limit,
    stop,
    on,
    extended,
    timeInForce,
    route,
    postOnly,
    until,
    qty: Math.min(o.qty - o.filled, positionOf(t)),
    tradeId: t.id,
    role: 'close',
    scopeId: null,
    leg: null,
  });
}

/** Takes one order back; an exit with what else of it is at work. */
function cancelOne(d: BrokerStep, id: OrderId): void {
  const o = liveOrder(d.before, id) as Order;
  const w = workOn(d, o.account, o.symbol);
  const now = current(w, id);
  if (!now || !isStaying(now)) return;
  const s = scopeOf(w, now.scopeId);
  if (s && now.leg !== null) changeLeg(w, s, now.leg, { dropped: true });
  const same = (x: Order) =>
    x.id === id || (now.leg !== null && x.scopeId === now.scopeId && x.leg === now.leg);
  for (const x of w.orders) if (same(x) && isStaying(x)) end(w, x, 'Canceled', 'you');
}

function cancel(d: BrokerStep, what: Extract<Intent, { kind: 'cancel' }>['what']): void {
  if (what.kind === 'orders') {
    for (const id of what.ids) cancelOne(d, id);
    return;
  }
  const symbols =
    what.kind === 'symbol'
      ? [what.symbol]
      : Object.values(d.before.holdings).flatMap((h) => (h.account === what.account ? [h.symbol] : []));
  for (const symbol of symbols) {
    const w = workOn(d, what.account, symbol);
    // Exits that wait for shares to come free go too: a cancel must not bring them forth. Stops may be kept.
    const goes = (kind: Leg['kind']) => !what.keepStops || kind === 'target';
    for (const s of w.scopes)
      w.putScope({ ...s, legs: s.legs.map((l) => (goes(l.kind) ? { ...l, dropped: true } : l)) });
    for (const o of w.orders)
      if (isStaying(o) && !(what.keepStops && protects(o))) end(w, o, 'Canceled', 'you');
  }
}

/**
 * Out of a symbol. Neither exits nor stops by hand are dropped: they give way to the close, and are there again
 * for whatever it leaves. In regular hours the close goes at market, otherwise within `limit`.
 */
function flatten(w: HoldingStep, limit: Price | null): void {
  const held = w.trades.some((x) => x.status === 'open');
  for (const o of w.orders)
    if ((o.role === 'entry' || o.role === 'close') && isStaying(o) && !(held && protects(o)))
      end(w, o, 'Canceled', 'flatten');
  askForFills(w, true);
  const t = w.trades.find((x) => x.status === 'open');
  if (t) takeOut(w, t, positionOf(t), limit);
}

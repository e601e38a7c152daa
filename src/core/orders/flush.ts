// One flush a step: what is wanted of each order is worked out once, then at most one command an order is sent, cuts before growth.
import { totalOf } from '../account/index.ts';
import { money, type Price, roundToTick } from '../units/index.ts';
import {
  addOrder,
  callBack,
  current,
  end,
  left,
  newTrade,
  reprice,
  resize,
  sayOf,
  scopeOf,
} from './changes.ts';
import { type Leg, openOfScope, type Scope } from './exit-plan.ts';
import { wantedExits } from './exits.ts';
import { isAtWork, isStaying, leavingOf, type Order, openOf, protects, wireOf } from './order.ts';
import type { Why } from './refusal.ts';
import { measureRisk } from './risk.ts';
import { exitSide, runRules } from './rules.ts';
import { command, type Served, wentOf } from './send-orders.ts';
import { runClock, wake } from './sessions.ts';
import { byTurn } from './shares.ts';
import type { BrokerStep, HoldingStep } from './step.ts';
import { positionOf, type Trade } from './trade.ts';

/** Decides what is wanted of each order of a holding, once, and sends it. */
export function flush(w: HoldingStep): void {
  const held = w.trades.find((t) => t.status === 'open');
  if (held) measureRisk(w, held);
  closeFinished(w);
  runRules(w);
  runClock(w);
  const open = w.trades.find((t) => t.status === 'open');
  turn(w, open ?? null);
  const served = open ? shape(w, open) : new Map<number, number>();
  if (open) measureRisk(w, w.trades.find((t) => t.id === open.id) ?? open);
  if (w.step.linked) command(w, open ? positionOf(open) : 0, served);
  tidy(w);
}

/** Ends trades that are flat: their exits go, the rest of their entries goes, an untouched entry waits on in a trade of its own. */
function closeFinished(w: HoldingStep): void {
  const t = w.trades.find((x) => x.status === 'open' && positionOf(x) === 0);
  if (!t) return;
  const untouched: Order[] = [];
  for (const o of w.orders.filter((x) => x.tradeId === t.id && isStaying(x))) {
    if (o.role === 'entry' && o.filled === 0) untouched.push(o);
    else end(w, o, 'Canceled', o.role === 'entry' ? 'entry rest' : (w.closedBy ?? 'position closed'));
  }
  const gross = t.sign * (t.exitNotional - t.entryNotional) * w.multiplier;
  w.putTrade({ ...t, status: 'closed', closedAt: w.step.context.now });
  const account = w.step.accounts[t.account] as BrokerStep['accounts'][string];
  const closed = {
    gross: money(account.closed.gross + gross),
    costs: money(account.closed.costs + totalOf(t.costs)),
  };
  w.step.accounts[t.account] = { ...account, closed };
  sayOf(w.step, t, {
    exec: 'OrderStatus',
    kind: 'trade over',
    gross,
    costs: totalOf(t.costs),
    risk: t.risk,
    averageExit: t.exitNotional / t.exited,
  });
  if (untouched.length === 0) return;
  const waiting =
    w.trades.find((x) => x.status === 'pending' && x.sign === t.sign) ?? newTrade(w, t.sign, t.sentence);
  for (const o of untouched) {
    w.putOrder({ ...o, tradeId: waiting.id });
    const s = scopeOf(w, o.scopeId);
    if (s) w.putScope({ ...s, tradeId: waiting.id });
  }
}

/** An entry that turns the position goes once it is flat; where the flatten came to nothing it ends. */
function turn(w: HoldingStep, open: Trade | null): void {
  for (const o of w.orders) {
    if (!o.afterFlat || !isStaying(o)) continue;
    if (!open) {
      // What the other side still has there may fill until its cancel is answered.
      if (!w.orders.some((x) => x.id !== o.id && isTied(x, o)))
        wake(w, w.putOrder({ ...o, afterFlat: false }));
    } else if (!w.orders.some((x) => x.flat && isStaying(x))) end(w, o, 'Canceled', 'not flat');
  }
}

/** Whether an order still has something at the exchange that is of the old side, or on its way out. */
const isTied = (x: Order, turning: Order): boolean =>
  wireOf(x) !== null && (leavingOf(x) !== null || (x.role === 'entry' && x.side !== turning.side));

/** Takes off the desk what nothing alive needs any more. */
function tidy(w: HoldingStep): void {
  for (const t of w.trades)
    if (t.status === 'pending' && !w.orders.some((o) => o.tradeId === t.id))
      w.putTrade({ ...t, status: 'canceled' });
  for (const s of w.scopes) {
    const needed =
      w.trades.some((t) => t.id === s.tradeId && t.status === 'open' && openOfScope(s) > 0) ||
      w.orders.some((o) => o.scopeId === s.id);
    if (needed) continue;
    w.dropScope(s);
  }
}

/** At work, and to stay there. */
const goes = (o: Order): boolean =>
  o.phase.k === 'working' || (o.phase.k === 'leaving' && o.phase.to.to === 'work');

/** Gives each exit of the position the shares and the price that it should have now, whatever the exchange still works. */
function shape(w: HoldingStep, t: Trade): Served {
  const scopes = w.scopes.filter((s) => s.tradeId === t.id);
  const exits = () => w.orders.filter((o) => o.tradeId === t.id && o.role !== 'entry');
  const served = serve(w, t, scopes);

  const closes = exits()
    .filter((o) => o.role === 'close' && goes(o))
    .reduce((a, o) => a + openOf(o), 0);
  let toReserve = Math.max(0, closes - (positionOf(t) - scopes.reduce((a, s) => a + openOfScope(s), 0)));
  for (const s of byTurn(w, scopes)) {
    const going = exits().filter((o) => o.scopeId === s.id && o.role === 'stop' && goes(o));
    const gone = s.legs.map((_, i) => going.filter((o) => o.leg === i).reduce((a, o) => a + openOf(o), 0));
    const reserved = Math.min(toReserve, Math.max(0, openOfScope(s) - gone.reduce((a, b) => a + b, 0)));
    toReserve -= reserved;
    const wanted = wantedExits(s, reserved, gone);
    s.legs.forEach((leg, i) => {
      const waits = exits().filter(
        (o) => o.scopeId === s.id && o.leg === i && isStaying(o) && (leg.kind === 'target' || !goes(o)),
      );
      align(w, s, i, waits, wanted[i] ?? { open: 0, price: null });
    });
  }
  // A stop of the trader's own that waits covers at most what is held; what it would close is settled when it triggers.
  for (const o of exits())
    if (o.role === 'close' && o.phase.k !== 'working' && o.stop !== null && openOf(o) > positionOf(t))
      resize(w, o, positionOf(t));
  return served;
}

/**
 * Serves those that are at work with the shares of the position: what closes all first, then whatever
 * went last, stops before closes where both went at once. A close that gets none ends; a triggered
 * stop that gets none waits again, so that its shares are covered if the close comes to nothing. A stop by hand
 * keeps the shares that no other stop stands behind, also while a close has them at the exchange.
 * @returns of such stops what they may have at the exchange.
 */
function serve(w: HoldingStep, t: Trade, scopes: readonly Scope[]): Served {
  const served = new Map<number, number>();
  const line = w.orders
    .filter((o) => o.tradeId === t.id && (o.role === 'close' || o.role === 'stop') && goes(o))
    .sort(
      (a, b) =>
        Number(b.flat) - Number(a.flat) ||
        wentOf(b) - wentOf(a) ||
        Number(a.role === 'close') - Number(b.role === 'close') ||
        a.id - b.id,
    );
  let free = positionOf(t);
  const room = new Map(scopes.map((s) => [s.id, openOfScope(s)]));
  for (const o of line) {
    const mine = o.scopeId === null ? free : Math.min(free, room.get(o.scopeId) ?? 0);
    const shares = Math.min(openOf(o), mine);
    free -= shares;
    if (o.scopeId !== null) room.set(o.scopeId, (room.get(o.scopeId) ?? 0) - shares);
    if (shares === openOf(o)) continue;
    const keeps = o.role === 'close' && protects(o) ? Math.max(shares, needed(w, t, o)) : shares;
    if (keeps > shares && shares > 0) served.set(o.id, shares);
    giveWay(w, o, shares, keeps, line.some((x) => x.role === 'stop') ? 'stop triggered' : 'no shares');
  }
  return served;
}

/** An order at work that gets fewer shares than it is for: it goes on for those that it keeps, waits again where it gets none now, or ends. */
function giveWay(w: HoldingStep, o: Order, shares: number, keeps: number, why: Why): void {
  if (keeps > 0) {
    resize(w, o, keeps);
    if (shares === 0) rearm(w, current(w, o.id) ?? o);
  } else if (o.role === 'close') end(w, o, 'Canceled', why);
  else rearm(w, o);
}

/** Shares of a position that a stop stands behind and no other one does. */
function needed(w: HoldingStep, t: Trade, o: Order): number {
  const others = w.orders
    .filter((x) => x.tradeId === t.id && x.id !== o.id && protects(x) && isStaying(x))
    .reduce((a, x) => a + openOf(x), 0);
  return Math.min(openOf(o), Math.max(0, positionOf(t) - others));
}

function rearm(w: HoldingStep, o: Order): void {
  if (isAtWork(o) && !callBack(w, o, { to: 'armed' })) left(w, o, { to: 'armed' });
}

/** Makes the orders of one leg that are not in the market yet what they should be: one order, of so many shares, at that price. */
function align(
  w: HoldingStep,
  s: Scope,
  index: number,
  waits: readonly Order[],
  { open, price }: { open: number; price: Price | null },
): void {
  const leg = s.legs[index] as Leg;
  const [o, ...others] = waits;
  for (const x of others) end(w, x, 'Canceled', 'no shares');
  if (open === 0 || price === null) {
    const triggered =
      leg.kind === 'target' && w.orders.some((x) => x.scopeId === s.id && x.role === 'stop' && goes(x));
    if (o) end(w, o, 'Canceled', triggered ? 'stop triggered' : 'no shares');
    return;
  }
  const why = w.step.moved.get(`${s.id} ${index}`) ?? 'average';
  if (o) {
    const sized = resize(w, o, open);
    if (leavingOf(sized) === null) reprice(w, sized, price, why);
    return;
  }
  addOrder(w, {
    account: s.account,
    symbol: s.symbol,
    side: exitSide(s),
    type: leg.kind === 'target' ? 'Limit' : leg.room === undefined ? 'Stop' : 'StopLimit',
    qty: open,
    limit: leg.kind === 'target' ? price : beyondStop(s, leg, price),
    stop: leg.kind === 'stop' ? price : null,
    on: leg.on,
    extended: leg.extended,
    timeInForce: 'GoodTillCancel',
    route: 'lit',
    postOnly: false,
    until: null,
    tradeId: s.tradeId,
    role: leg.kind,
    scopeId: s.id,
    leg: index,
  });
}

/** Where the limit of a stop exit stands: so far beyond its price. */
const beyondStop = (s: Scope, leg: Leg, price: Price): Price | null =>
  leg.room === undefined
    ? null
    : roundToTick(Math.max(1, price - s.sign * leg.room), s.sign === 1 ? 'up' : 'down', s.ticks);

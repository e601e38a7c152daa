// One flush a step: what is wanted of each order is worked out once, then at most one command an order is sent, cuts before growth.
import { totalOf } from '../account/index.ts';
import { money, type Price, roundToTick } from '../units/index.ts';
import type { WireTerms } from '../venue/index.ts';
import { TRIES, withWire } from './answers.ts';
import {
  addOrder,
  callBack,
  collar,
  current,
  end,
  left,
  newTrade,
  notOut,
  opposite,
  reprice,
  resize,
  say,
  sayOf,
  scopeOf,
  worksIn,
} from './changes.ts';
import { wantedExits } from './exits.ts';
import { partnerOf } from './pairs.ts';
import { askForFills } from './reconcile.ts';
import { measureRisk } from './risk.ts';
import { exitSide, runRules } from './rules.ts';
import { runClock, wake } from './sessions.ts';
import { byTurn } from './shares.ts';
import type { BrokerStep, HoldingStep } from './step.ts';
import {
  isAtWork,
  isStaying,
  type Leg,
  leavingOf,
  type Order,
  openOf,
  openOfScope,
  positionOf,
  protects,
  type Scope,
  type Trade,
  type Why,
  type Wire,
  wireOf,
  workingLimit,
  worstOf,
} from './types.ts';
import { wireId } from './wire-ids.ts';

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

/** Shares that an order may have at the exchange now, where they are fewer than it is for. */
type Served = ReadonlyMap<number, number>;

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

const wentOf = (o: Order): number => (isAtWork(o) ? o.phase.went : 0);

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

/** Sends what has to be sent. The exits that may still fill, unconfirmed cancels included, never exceed the position. */
function command(w: HoldingStep, position: number, served: Served): void {
  const wanted = (o: Order): number => served.get(o.id) ?? openOf(o);
  let budget = position;
  /** What has filled and has not been told: it is nobody else's, but for a stop, which waits for nothing. */
  let unknown = 0;
  const entries: Order[] = [];
  const exits: Order[] = [];
  // What is sent for one order changes no other, so the list as it was will do.
  for (const o of w.orders) {
    const wire = wireOf(o);
    if (o.role !== 'entry') {
      if (o.phase.k === 'owed') unknown += worstOf(wire);
      else budget -= worstOf(wire);
    }
    if (o.phase.k === 'leaving') cancel(w, o, o.phase.wire);
    else if (o.phase.k !== 'working') continue;
    else if (wire === null) {
      if (openOf(o) > 0) (o.role === 'entry' ? entries : exits).push(o);
    } else if (wire.pending === null && shrink(w, o, wire, wanted(o))) exits.push(o);
  }
  for (const o of entries) if (mayGo(w, o)) send(w, o, openOf(o));
  for (const o of exits.sort(firstServed)) {
    const free = protects(o) ? budget : budget - unknown;
    budget -= grow(w, o, wanted(o), Math.max(0, free));
  }
  askForFills(w, false);
}

/**
 * Whether one of two that are joined may go. Of opposite ones the exchange never has both; of others the second goes
 * once the first is acknowledged: what fills at once of the one is then known.
 */
const mayGo = (w: HoldingStep, o: Order): boolean =>
  !wireOf(opposite(w, o) ?? o) && wireOf(partnerOf(w.step, o) ?? o)?.pending?.kind !== 'new';

/** Changes an order that is to be smaller, or to have another price. @returns whether it is to grow instead, once what shrinks has been asked for. */
function shrink(w: HoldingStep, o: Order, wire: Wire, open: number): boolean {
  const now = wire.acked as WireTerms;
  if (wire.filled + open === now.qty && (workingLimit(o) ?? now.limit) === now.limit) return false;
  const wanted = wantedTerms(o, wire, open);
  if (wanted.qty > now.qty) return true;
  replace(w, o, wire, wanted);
  return false;
}

/** Sends an exit, or makes it larger, as far as the budget goes. @returns the shares that it took of it. */
function grow(w: HoldingStep, o: Order, open: number, budget: number): number {
  const wire = wireOf(o);
  const shares = Math.min(open - worstOf(wire), budget);
  if (!wire) return shares > 0 && send(w, o, shares) ? shares : 0;
  const { limit } = wantedTerms(o, wire, open);
  const asked = { qty: (wire.acked?.qty ?? 0) + shares, limit };
  return (shares > 0 || limit !== wire.acked?.limit) && replace(w, o, wire, asked) ? shares : 0;
}

/** Stops and closes before targets; of them what went last first. */
const firstServed = (a: Order, b: Order): number => {
  const rank = (o: Order) => (o.flat ? 0 : o.role === 'target' ? 2 : 1);
  return rank(a) - rank(b) || wentOf(b) - wentOf(a) || a.id - b.id;
};

const wantedTerms = (o: Order, wire: Wire, open: number): WireTerms => ({
  qty: wire.filled + open,
  limit: workingLimit(o) ?? wire.acked?.limit ?? null,
});

/** Whether the exchange may be asked again about an order now; one that keeps throwing it out is asked again as time passes. */
const mayTry = (d: BrokerStep, o: Order): boolean =>
  o.bounced.at !== d.context.now || o.bounced.times < TRIES;

function cancel(w: HoldingStep, o: Order, wire: Wire): void {
  if (wire.pending?.kind === 'cancel' || !mayTry(w.step, o)) return;
  const to = wire.pending?.to ?? null;
  withWire(w, o, { ...wire, pending: { kind: 'cancel', to, since: w.step.context.now, why: null } });
  w.step.effects.venue.push({ kind: 'cancel', account: o.account, id: wire.id, symbol: o.symbol });
}

function replace(w: HoldingStep, o: Order, wire: Wire, to: WireTerms): boolean {
  if (!mayTry(w.step, o)) return false;
  const why: Why =
    w.step.moved.get(`${o.scopeId} ${o.leg}`) ?? w.step.moved.get(`order ${o.id}`) ?? 'average';
  withWire(w, o, { ...wire, pending: { kind: 'replace', to, since: w.step.context.now, why } });
  w.step.effects.venue.push({ kind: 'replace', account: o.account, id: wire.id, symbol: o.symbol, ...to });
  return true;
}

function send(w: HoldingStep, o: Order, shares: number): boolean {
  if (o.phase.k !== 'working' || !mayTry(w.step, o) || !worksIn(o, w.step.context.session)) return false;
  const auction = o.timeInForce === 'AtTheOpening' || o.timeInForce === 'AtTheClose';
  const unpriced = auction || o.route === 'mid';
  const own = workingLimit(o);
  const limit =
    unpriced || own !== null
      ? own
      : collar(o.side, w.step.context.quote(o.symbol), w.step.context.last(o.symbol), w.ticks);
  if (limit === null && !unpriced) {
    if (o.role === 'entry' || o.role === 'close') {
      notOut(w, o, 'quote');
      const ended = w.putOrder({
        ...o,
        phase: { k: 'ended', status: 'Rejected', why: { exchange: 'no price to trade at' } },
      });
      say(w, ended, {
        exec: 'Rejected',
        kind: 'rejected',
        why: { exchange: 'no price to trade at' },
        bare: 0,
      });
    }
    return false;
  }
  const wires = o.wires + 1;
  const id = wireId(o.id, wires);
  const to: WireTerms = { qty: shares, limit };
  const wire: Wire = {
    id,
    acked: null,
    pending: { kind: 'new', to, since: w.step.context.now, why: null },
    filled: 0,
  };
  w.putOrder({ ...o, wires, phase: { ...o.phase, wire } });
  w.step.effects.venue.push({
    kind: 'new',
    account: o.account,
    id,
    symbol: o.symbol,
    side: o.side,
    life:
      o.timeInForce === 'FillOrKill'
        ? 'fok'
        : o.timeInForce === 'ImmediateOrCancel'
          ? 'ioc'
          : o.type === 'Market' && !auction
            ? 'take'
            : 'day',
    route: o.timeInForce === 'AtTheOpening' ? 'open' : o.timeInForce === 'AtTheClose' ? 'close' : o.route,
    postOnly: o.postOnly,
    short: o.role === 'entry' && o.side === 'sell',
    ...to,
  });
  return true;
}

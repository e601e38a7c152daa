import type { WireTerms } from '../venue/index.ts';
import { TRIES, withWire } from './answers.ts';
import { collar, notOut, opposite, say, worksIn } from './changes.ts';
import { isAtWork, type Order, openOf, protects, type Wire, wireOf, workingLimit, worstOf } from './order.ts';
import { partnerOf } from './pairs.ts';
import { askForFills } from './reconcile.ts';
import type { Why } from './refusal.ts';
import type { BrokerStep, HoldingStep } from './step.ts';
import { wireId } from './wire-ids.ts';

/** Shares that an order may have at the exchange now, where they are fewer than it is for. */
export type Served = ReadonlyMap<number, number>;

export const wentOf = (o: Order): number => (isAtWork(o) ? o.phase.went : 0);

/** Sends what has to be sent. The exits that may still fill, unconfirmed cancels included, never exceed the position. */
export function command(w: HoldingStep, position: number, served: Served): void {
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

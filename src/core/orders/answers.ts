// What the exchange answers of an order, and what it does with it unasked.
import { unreachable } from '../units/index.ts';
import type { VenueReport } from '../venue/index.ts';
import { callBack, changeLeg, end, left, notOut, say, sayOf, sayWorking } from './changes.ts';
import { isAtWork, type Leaving, leavingOf, type Order, type ThrownOut, type Wire } from './order.ts';
import { tellPartner } from './pairs.ts';
import type { Why } from './refusal.ts';
import type { HoldingStep } from './step.ts';
import { positionOf } from './trade.ts';
import { heard, heardOf } from './wire-runs.ts';

/** An order with its wire as it is now. */
export const withWire = (w: HoldingStep, o: Order, wire: Wire): Order =>
  isAtWork(o) ? w.putOrder({ ...o, phase: { ...o.phase, wire } } as Order) : o;

/** An order at work that has nothing at the exchange any more. */
const loose = (w: HoldingStep, o: Order): Order =>
  isAtWork(o)
    ? w.putOrder({ ...o, phase: { k: 'working', wire: null, went: o.phase.went, at: o.phase.at } })
    : o;

type Answered = Exclude<VenueReport, { kind: 'line' | 'list' | 'fill' | 'executions' }>;

/** Books what the exchange answers of an order's present wire, or says of it unasked. */
export function answered(w: HoldingStep, o: Order, wire: Wire, r: Answered): void {
  // It has ended there: whatever else is said of it came late.
  if (o.phase.k === 'owed') return;
  tellPartner(w.step, o);
  const { pending } = wire;
  switch (r.kind) {
    case 'new': {
      const acked = pending?.to ?? wire.acked;
      const calm = o.bounced.at === w.step.context.now ? o.bounced : { times: 0, at: o.bounced.at };
      const goesOn = pending?.kind === 'cancel' ? { ...pending, to: null } : null;
      const next = withWire(w, { ...o, bounced: calm }, { ...wire, acked, pending: goesOn });
      sayWorking(w, next);
      return;
    }
    case 'replaced':
      return replaced(w, o, wire, r);
    case 'refused':
      return refused(w, o, wire, r);
    case 'rejected': {
      const to = leavingOf(o);
      if (to) finish(w, o, to);
      else thrownOut(w, loose(w, o), { exchange: r.why }, true);
      return;
    }
    case 'out':
      return ended(w, o, heardOf(wire, r.cumQty, w.step.context.now), r.why);
    default:
      unreachable(r);
  }
}

/** The exchange does not do what it was asked. What it will not change is taken out, and sent anew as it is to be. */
function refused(w: HoldingStep, o: Order, wire: Wire, r: Extract<Answered, { kind: 'refused' }>): void {
  if (wire.pending?.kind !== r.request) return;
  const free = bounce(w, withWire(w, o, { ...wire, pending: null }));
  const fixed = r.request === 'replace' && r.why !== 'too late' && leavingOf(free) === null;
  const asked = (fixed && callBack(w, free, { to: 'work' })) || free;
  say(w, asked, { exec: 'OrderStatus', kind: 'request refused', request: r.request, why: r.why });
  // What was asked for more than the exchange had, and that has filled meanwhile, is done.
  if (wire.acked !== null && wire.filled >= wire.acked.qty) letGo(w, asked);
}

/** It has ended at the exchange. Where more has filled of it than has been told, its shares stay spoken for until that is known. */
function ended(w: HoldingStep, o: Order, wire: Wire, why: string): void {
  const to = leavingOf(o) ?? { to: 'thrown out', why };
  if (!wire.owes || !isAtWork(o)) return finish(w, o, to);
  const acked = { qty: heard(wire), limit: wire.acked?.limit ?? null };
  const { went, at } = o.phase;
  w.putOrder({ ...o, phase: { k: 'owed', wire: { ...wire, acked, pending: null }, to, went, at } });
}

/** The exchange has let go of an order, and all its fills are known. */
export function finish(w: HoldingStep, o: Order, to: Leaving | ThrownOut): void {
  const free = loose(w, o);
  if (to.to !== 'thrown out') left(w, free, to);
  else thrownOut(w, free, { exchange: to.why }, false);
}

/** The exchange has changed an order as it was asked. */
function replaced(w: HoldingStep, o: Order, wire: Wire, r: Extract<Answered, { kind: 'replaced' }>): void {
  const { acked: before, pending } = wire;
  const acked = { qty: r.qty, limit: r.limit };
  const goesOn = pending?.kind === 'cancel' ? { ...pending, to: null } : null;
  const next = withWire(w, o, { ...wire, acked, pending: goesOn });
  if (before && before.qty !== acked.qty) {
    const [from, to] = [before.qty - wire.filled, acked.qty - wire.filled];
    say(w, next, { exec: 'Replaced', kind: 'resized', from, to });
  }
  if (before && before.limit !== acked.limit && before.limit !== null && acked.limit !== null) {
    const why = pending?.why ?? 'you';
    say(w, next, { exec: 'Replaced', kind: 'moved', from: before.limit, to: acked.limit, why });
  }
  if (acked.qty <= wire.filled) letGo(w, next);
}

/** The wire is finished, with all its shares filled: the order is, or goes where it was going, or waits to be sent for the rest. */
export function letGo(w: HoldingStep, o: Order): void {
  const to = leavingOf(o);
  const free = loose(w, o);
  if (free.filled >= free.qty) w.putOrder({ ...free, phase: { k: 'ended', status: 'Filled', why: null } });
  else if (to) finish(w, free, to);
}

/** Counts what the exchange does unasked, so that a rude one is not asked for ever within one moment. */
function bounce(w: HoldingStep, o: Order): Order {
  return w.putOrder({ ...o, bounced: { at: w.step.context.now, times: o.bounced.times + 1 } });
}

/**
 * The exchange rejects an order, or throws it out unasked. Entries and closes of the trader end and
 * say so. Exits stay: their shares are still there; they are sent again, but a target that was
 * rejected three times is given up.
 */
function thrownOut(
  w: HoldingStep,
  o: Order,
  why: Extract<Why, { exchange: string }>,
  rejected: boolean,
): void {
  if (o.role === 'entry' || o.role === 'close') {
    notOut(w, o, rejected ? 'session' : 'quote');
    const t = w.trades.find((x) => x.id === o.tradeId && x.status === 'open');
    if (o.flat && t && positionOf(t) > 0)
      sayOf(w.step, t, { exec: 'OrderStatus', kind: 'left over', shares: positionOf(t) });
    if (rejected) {
      const over = w.putOrder({ ...o, phase: { k: 'ended', status: 'Rejected', why } });
      say(w, over, { exec: 'Rejected', kind: 'rejected', why, bare: 0 });
    } else end(w, o, 'Canceled', why);
    return;
  }
  const again = bounce(w, o);
  say(w, again, { exec: 'Canceled', kind: 'thrown out', why: why.exchange });
  const s = w.scopes.find((x) => x.id === o.scopeId);
  if (rejected && o.role === 'target' && again.bounced.times >= TRIES && s && o.leg !== null) {
    changeLeg(w, s, o.leg, { dropped: true });
    w.putOrder({ ...again, phase: { k: 'ended', status: 'Rejected', why } });
    say(w, again, { exec: 'Rejected', kind: 'rejected', why, bare: 0 });
  }
}
/** How often something is tried at the exchange within one moment. */
export const TRIES = 3;

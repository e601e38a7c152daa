// What the exchange answers of an order, and what it does with it unasked.
import { unreachable } from '../units/index.ts';
import type { VenueReport } from '../venue/index.ts';
import { callBack, changeLeg, end, left, notOut, putOrder, say, sayOf, sayWorking } from './changes.ts';
import type { Draft, Work } from './draft.ts';
import { tellPartner } from './pairs.ts';
import {
  isAtWork,
  type Leaving,
  leavingOf,
  type Order,
  positionOf,
  type ThrownOut,
  type Why,
  type Wire,
} from './types.ts';
import { heard, heardOf } from './wire-runs.ts';

/** An order with its wire as it is now. */
export const withWire = (d: Draft, w: Work, o: Order, wire: Wire): Order =>
  isAtWork(o) ? putOrder(d, w, { ...o, phase: { ...o.phase, wire } } as Order) : o;

/** An order at work that has nothing at the exchange any more. */
const loose = (d: Draft, w: Work, o: Order): Order =>
  isAtWork(o)
    ? putOrder(d, w, { ...o, phase: { k: 'working', wire: null, went: o.phase.went, at: o.phase.at } })
    : o;

type Answered = Exclude<VenueReport, { kind: 'line' | 'list' | 'fill' | 'executions' }>;

/** Books what the exchange answers of an order's present wire, or says of it unasked. */
export function answered(d: Draft, w: Work, o: Order, wire: Wire, r: Answered): void {
  // It has ended there: whatever else is said of it came late.
  if (o.phase.k === 'owed') return;
  tellPartner(d, o);
  const { pending } = wire;
  switch (r.kind) {
    case 'new': {
      const acked = pending?.to ?? wire.acked;
      const calm = o.bounced.at === d.context.now ? o.bounced : { times: 0, at: o.bounced.at };
      const goesOn = pending?.kind === 'cancel' ? { ...pending, to: null } : null;
      const next = withWire(d, w, { ...o, bounced: calm }, { ...wire, acked, pending: goesOn });
      sayWorking(d, w, next);
      return;
    }
    case 'replaced':
      return replaced(d, w, o, wire, r);
    case 'refused':
      return refused(d, w, o, wire, r);
    case 'rejected': {
      const to = leavingOf(o);
      if (to) finish(d, w, o, to);
      else thrownOut(d, w, loose(d, w, o), { exchange: r.why }, true);
      return;
    }
    case 'out':
      return ended(d, w, o, heardOf(wire, r.cumQty, d.context.now), r.why);
    default:
      unreachable(r);
  }
}

/** The exchange does not do what it was asked. What it will not change is taken out, and sent anew as it is to be. */
function refused(d: Draft, w: Work, o: Order, wire: Wire, r: Extract<Answered, { kind: 'refused' }>): void {
  if (wire.pending?.kind !== r.request) return;
  const free = bounce(d, w, withWire(d, w, o, { ...wire, pending: null }));
  const fixed = r.request === 'replace' && r.why !== 'too late' && leavingOf(free) === null;
  const asked = (fixed && callBack(d, w, free, { to: 'work' })) || free;
  say(d, w, asked, { exec: 'OrderStatus', kind: 'request refused', request: r.request, why: r.why });
  // What was asked for more than the exchange had, and that has filled meanwhile, is done.
  if (wire.acked !== null && wire.filled >= wire.acked.qty) letGo(d, w, asked);
}

/** It has ended at the exchange. Where more has filled of it than has been told, its shares stay spoken for until that is known. */
function ended(d: Draft, w: Work, o: Order, wire: Wire, why: string): void {
  const to = leavingOf(o) ?? { to: 'thrown out', why };
  if (!wire.owes || !isAtWork(o)) return finish(d, w, o, to);
  const acked = { qty: heard(wire), limit: wire.acked?.limit ?? null };
  const { went, at } = o.phase;
  putOrder(d, w, { ...o, phase: { k: 'owed', wire: { ...wire, acked, pending: null }, to, went, at } });
}

/** The exchange has let go of an order, and all its fills are known. */
export function finish(d: Draft, w: Work, o: Order, to: Leaving | ThrownOut): void {
  const free = loose(d, w, o);
  if (to.to !== 'thrown out') left(d, w, free, to);
  else thrownOut(d, w, free, { exchange: to.why }, false);
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
export function letGo(d: Draft, w: Work, o: Order): void {
  const to = leavingOf(o);
  const free = loose(d, w, o);
  if (free.filled >= free.qty)
    putOrder(d, w, { ...free, phase: { k: 'ended', status: 'Filled', why: null } });
  else if (to) finish(d, w, free, to);
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
function thrownOut(
  d: Draft,
  w: Work,
  o: Order,
  why: Extract<Why, { exchange: string }>,
  rejected: boolean,
): void {
  if (o.role === 'entry' || o.role === 'close') {
    notOut(d, w, o, rejected ? 'session' : 'quote');
    const t = w.trades.find((x) => x.id === o.tradeId && x.status === 'open');
    if (o.flat && t && positionOf(t) > 0)
      sayOf(d, t, { exec: 'OrderStatus', kind: 'left over', shares: positionOf(t) });
    if (rejected) {
      const over = putOrder(d, w, { ...o, phase: { k: 'ended', status: 'Rejected', why } });
      say(d, w, over, { exec: 'Rejected', kind: 'rejected', why, bare: 0 });
    } else end(d, w, o, 'Canceled', why);
    return;
  }
  const again = bounce(d, w, o);
  say(d, w, again, { exec: 'Canceled', kind: 'thrown out', why: why.exchange });
  const s = w.scopes.find((x) => x.id === o.scopeId);
  if (rejected && o.role === 'target' && again.bounced.times >= TRIES && s && o.leg !== null) {
    changeLeg(w, s, o.leg, { dropped: true });
    putOrder(d, w, { ...again, phase: { k: 'ended', status: 'Rejected', why } });
    say(d, w, again, { exec: 'Rejected', kind: 'rejected', why, bare: 0 });
  }
}
/** How often something is tried at the exchange within one moment. */
export const TRIES = 3;

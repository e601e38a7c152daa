// What the exchange says that it works and has filled, against what we believe.
import type { Execution, VenueReport } from '../venue/index.ts';
import { answered, finish, withWire } from './answers.ts';
import { current, say } from './changes.ts';
import { bookFill } from './fills.ts';
import { leavingOf, type Order, type Wire, wireOf } from './order.ts';
import { type BrokerStep, type HoldingStep, workOn } from './step.ts';
import { orderOfWire } from './wire-ids.ts';
import { heard, heardOf, owed } from './wire-runs.ts';

type Listed = Extract<VenueReport, { kind: 'list' }>['orders'];

/** After the line was away: what the exchange works against what we believe. Its missed executions have been booked before. */
export function compare(d: BrokerStep, orders: Listed): void {
  const there = new Map(orders.map((x) => [x.id, x]));
  const { now } = d.context;
  for (const key in d.before.holdings) {
    const h = d.before.holdings[key];
    if (h) workOn(d, h.account, h.symbol);
  }
  for (const w of d.holdings.values())
    for (const o of w.orders) {
      const wire = wireOf(o);
      if (!wire) continue;
      const theirs = there.get(wire.id);
      there.delete(wire.id);
      if (theirs) {
        const { qty, limit, cumQty } = theirs;
        withWire(w, o, unasked({ ...heardOf(wire, cumQty, now), acked: { qty, limit }, pending: null }, now));
      } else if (o.phase.k === 'owed') withWire(w, o, unasked(wire, now));
      else if (wire.acked === null) neverArrived(w, o);
      else
        answered(w, o, wire, {
          kind: 'out',
          account: o.account,
          id: wire.id,
          symbol: o.symbol,
          at: now,
          cumQty: heard(wire),
          why: 'gone when the line stood again',
        });
    }
  // What works there and is nobody's here is taken out.
  for (const { account, id, symbol } of there.values())
    d.effects.venue.push({ kind: 'cancel', account, id, symbol });
}

/** What was asked while the line was away is asked again. */
const unasked = (wire: Wire, now: number): Wire =>
  wire.owes ? { ...wire, owes: { ...wire.owes, since: now, asked: null } } : wire;

function neverArrived(w: HoldingStep, o: Order): void {
  const to = leavingOf(o);
  if (to || (o.role !== 'entry' && (o.role !== 'close' || o.flat))) return finish(w, o, to ?? { to: 'work' });
  const ended = w.putOrder({ ...o, phase: { k: 'ended', status: 'Rejected', why: 'never arrived' } });
  say(w, ended, { exec: 'Rejected', kind: 'rejected', why: 'never arrived', bare: 0 });
}

/** How long, in ms, fills that the exchange has counted may take before it is asked for them. */
const PATIENCE = 2_000;

/** When an order's missing fills are to be asked for; null where nothing is missing, or that has been done. */
export function askAt(o: Order): number | null {
  const owes = wireOf(o)?.owes;
  return owes && owes.asked === null ? owes.since + PATIENCE : null;
}

/** Asks the exchange for the fills that it has counted and not told of: those that have been missing for two seconds, or `all`. */
export function askForFills(w: HoldingStep, all: boolean): void {
  const { now } = w.step.context;
  for (const o of w.orders) {
    const at = askAt(o);
    const wire = wireOf(o);
    if (at === null || !wire?.owes || !w.step.linked || (!all && at > now)) continue;
    const asked = withWire(w, o, { ...wire, owes: { ...wire.owes, asked: now } });
    say(w, asked, { exec: 'OrderStatus', kind: 'fills asked for', shares: owed(wire) });
    w.step.effects.venue.push({ kind: 'executions', account: o.account, id: wire.id, symbol: o.symbol });
  }
}

/** The exchange has told all that it executed of an order: what was missing is booked, and there is no more of it. */
export function toldAll(
  d: BrokerStep,
  { account, id, symbol, of }: Extract<VenueReport, { kind: 'executions' }>,
): void {
  for (const x of of)
    bookFill(d, { kind: 'fill', account, id, symbol, ...(x as Execution & { cumQty: number }) });
  const w = workOn(d, account, symbol);
  const o = current(w, orderOfWire(id));
  const wire = o && wireOf(o);
  if (!o || wire?.id !== id || !wire.owes) return;
  say(w, o, { exec: 'OrderStatus', kind: 'no such fills', shares: owed(wire) });
  const { owes: _, ...all } = wire;
  const now = withWire(w, o, all);
  if (now.phase.k === 'owed') finish(w, now, now.phase.to);
}

// Reports of the exchange, booked one after another; what follows from them is decided once, when all are booked.
import type { VenueReport } from '../venue/index.ts';
import { answered } from './answers.ts';
import { current, sayOf } from './changes.ts';
import { bookFill } from './fills.ts';
import { wireOf } from './order.ts';
import { compare, toldAll } from './reconcile.ts';
import { type BrokerStep, workOn } from './step.ts';
import { orderOfWire } from './wire-ids.ts';

/** Books one report of the exchange; what follows from it is decided in the flush. */
export function book(d: BrokerStep, r: VenueReport): void {
  switch (r.kind) {
    case 'line':
      if (d.linked !== r.up) sayOf(d, null, { exec: 'OrderStatus', kind: 'line', up: r.up });
      d.linked = r.up;
      return;
    case 'list':
      return compare(d, r.orders);
    case 'fill':
      return bookFill(d, r);
    case 'executions':
      return toldAll(d, r);
    default: {
      const w = workOn(d, r.account, r.symbol);
      const o = current(w, orderOfWire(r.id));
      const wire = o && wireOf(o);
      if (o && wire?.id === r.id) answered(w, o, wire, r);
    }
  }
}

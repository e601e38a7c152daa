// The names are checked against the FIX 4.4 data dictionary in fix-names.test.ts. Source of the transitions: FIX 4.4, Volume 4, Appendix D (Order State Change Matrices), from memory: what has ended stays ended, nothing that has filled is New again,
// and what is asked of an order is pending until it is answered.
import fc from 'fast-check';
import type { OrdStatus } from '@/core/orders';
import { history, play } from '../model/histories.ts';

const AFTER: Readonly<Record<OrdStatus | 'start', readonly OrdStatus[]>> = {
  start: [
    'PendingNew',
    'New',
    'Suspended',
    'Rejected',
    'PendingCancel',
    'Canceled',
    'Expired',
    'PartiallyFilled',
    'Filled',
  ],
  PendingNew: [
    'PendingNew',
    'New',
    'PartiallyFilled',
    'Filled',
    'Rejected',
    'Canceled',
    'Expired',
    'Suspended',
    'PendingCancel',
    'PendingReplace',
  ],
  New: [
    'New',
    'PartiallyFilled',
    'Filled',
    'Canceled',
    'Expired',
    'Suspended',
    'Rejected',
    'PendingCancel',
    'PendingReplace',
    'PendingNew',
  ],
  PartiallyFilled: [
    'PartiallyFilled',
    'Filled',
    'Canceled',
    'Expired',
    'Suspended',
    'Rejected',
    'PendingCancel',
    'PendingReplace',
    'PendingNew',
  ],
  PendingCancel: [
    'PendingCancel',
    'PartiallyFilled',
    'Filled',
    'Canceled',
    'Expired',
    'New',
    'Suspended',
    'PendingNew',
    'PendingReplace',
    'Rejected',
  ],
  PendingReplace: [
    'PendingReplace',
    'New',
    'PartiallyFilled',
    'Filled',
    'Canceled',
    'Expired',
    'PendingCancel',
    'Suspended',
    'PendingNew',
    'Rejected',
  ],
  Suspended: [
    'Suspended',
    'New',
    'PartiallyFilled',
    'PendingNew',
    'Canceled',
    'Expired',
    'Rejected',
    'PendingCancel',
    'Filled',
  ],
  // An execution that comes late is booked whatever its order has become.
  Filled: ['Filled'],
  Canceled: [],
  Expired: [],
  Rejected: [],
};

test('every transition of an order, whatever trader, exchange and line do, is one that FIX knows', () => {
  const seen = new Set<string>();
  fc.assert(
    fc.property(history, (h) => {
      const last = new Map<number, OrdStatus>();
      play(h, (events) => {
        for (const e of events) {
          if (e.orderId === null || e.status === null) continue;
          const from = last.get(e.orderId) ?? 'start';
          const late =
            e.kind === 'fill' && (from === 'Canceled' || from === 'Expired' || from === 'Rejected');
          if (!late) expect([from, AFTER[from].includes(e.status), e.status]).toEqual([from, true, e.status]);
          seen.add(`${from} ${e.status}`);
          last.set(e.orderId, e.status);
        }
      });
    }),
    { numRuns: process.env.FEW_RUNS ? 100 : 800 },
  );
  // Enough of them have been there for this to say something.
  expect(seen.size).toBeGreaterThan(30);
});

// What the bounds of sessions do to orders: day orders end, GTC orders and exits sleep and wake.
import { settleBy } from '../account/index.ts';
import { dayOf } from '../units/index.ts';
import { admitOrder } from './admit.ts';
import { activate, end, fallAsleep, putOrder, say, worksIn } from './changes.ts';
import { type Draft, type Work, workOn } from './draft.ts';
import { isStaying, type Order, type Why } from './types.ts';

/** The session has changed. Exits live as long as the shares they protect, whatever the life of their entry. */
export function onSession(d: Draft): void {
  for (const id in d.accounts) {
    const a = d.accounts[id] as Draft['accounts'][string];
    const ledger = settleBy(a.ledger, dayOf(d.context.now));
    if (ledger !== a.ledger) d.accounts[id] = { ...a, ledger };
  }
  for (const key in d.before.holdings) {
    const h = d.before.holdings[key];
    if (!h) continue;
    const w = workOn(d, h.account, h.symbol);
    w.changed = true;
    for (const o of h.orders) if (isStaying(o)) turn(d, w, o);
  }
}

function turn(d: Draft, w: Work, o: Order): void {
  const { session } = d.context;
  const leaving = o.phase.k === 'working' && o.phase.leaving !== null;
  if (worksIn(o, session)) {
    if (o.phase.k === 'asleep') wake(d, w, o);
    return;
  }
  // Exits are good till they are canceled.
  const lasts = o.timeInForce === 'GoodTillCancel';
  if (!lasts && session === 'closed') end(d, w, o, 'Expired', 'day over');
  else if (!lasts && session === 'after hours') end(d, w, o, 'Expired', 'session over');
  else if (o.phase.k !== 'asleep' && !leaving) fallAsleep(d, w, o);
}

/** An entry that wakes is asked about once more: prices and power may not be what they were. */
function wake(d: Draft, w: Work, o: Order): void {
  const refused = o.role === 'entry' && o.stop === null ? admitOrder(d, o) : null;
  if (!refused) {
    activate(d, w, o);
    return;
  }
  const why: Why = { guard: refused };
  const ended = putOrder(d, w, { ...o, phase: { k: 'ended', status: 'Rejected', why } });
  say(d, w, ended, { exec: 'Rejected', kind: 'rejected', why, bare: 0 });
}

import type { OrderEvent } from '../core/orders/index.ts';
import { REGULAR_OPEN, sessionAt } from '../core/units/index.ts';
import { type Engine, feed } from './circuit.ts';
import { expiring, step } from './happenings.ts';
import type { LogEntry } from './log.ts';
import { follow, write } from './log-entries.ts';

/** @returns whether it came to `until`: false when `enough` ended it before, or something changed what is due. */
export function runOn(
  e: Engine,
  until: number,
  enough: (entries: readonly LogEntry[]) => boolean,
  out: LogEntry[],
): boolean {
  const { dayStart, hours } = e.market;
  const bounds = [REGULAR_OPEN, hours.close, hours.end].map((b) => dayStart + b);
  const last = Math.min(until, dayStart + hours.end);
  for (;;) {
    const from = e.market.now();
    const bound = bounds.find((b) => b > from) ?? Number.POSITIVE_INFINITY;
    if (!step(e, Math.min(last, bound - 1), enough, out)) return false;
    if (last < bound) return true;
    // A due deed exactly at the bound happens after the session has changed.
    e.state = { ...e.state, session: sessionAt(bound, hours) };
    const events: OrderEvent[] = [];
    feed(e, { kind: 'session' }, events, bound);
    const over = bound === dayStart + hours.close ? expiring(e) : [];
    if (over.length > 0) feed(e, { kind: 'expiry', of: over }, events, bound);
    if (events.length > 0) out.push(write(e, null, events, {}, bound));
    follow(e, [], out);
    if (!step(e, bound, () => false, out)) return false;
    // Another session, and with it what is due next.
    if (last > bound) return false;
  }
}

// What an order takes from others at once, so that it is said before it goes.
import { holdingOf, type Intent, isStaying, type Order, openOf, priceOf } from '../orders/index.ts';
import { formatPrice } from '../units/index.ts';
import type { RunContext } from './moment.ts';

/** Exits and closes of a symbol that lose shares in the step that an intent is obeyed in, each in words. */
export function takesOff(intent: Intent, symbol: string, c: RunContext): string[] {
  const after = c.would(intent);
  const of = (b: typeof after) => holdingOf(b, c.account, symbol).orders.filter(isStaying);
  const now = new Map(of(after).map((o) => [o.id, openOf(o)]));
  return of(c.broker).flatMap((o) => {
    const left = now.get(o.id) ?? 0;
    return o.role === 'entry' || left >= openOf(o) ? [] : [lost(o, left)];
  });
}

function lost(o: Order, left: number): string {
  const price = priceOf(o);
  const at = price === null ? '' : ` at ${formatPrice(price)}`;
  return `${o.role} ${openOf(o)}${at}${left > 0 ? ` (${left} stay)` : ''}`;
}

/** The same as a sentence; none where it takes nothing. */
export function takenText(intent: Intent, symbol: string, c: RunContext): string[] {
  const gone = takesOff(intent, symbol, c);
  return gone.length > 0 ? [`Takes the shares of ${gone.join(', ')}.`] : [];
}

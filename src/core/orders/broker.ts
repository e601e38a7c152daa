import { unreachable } from '../units/index.ts';
import { book } from './booking.ts';
import {
  accountIds,
  type Broker,
  type BrokerContext,
  type BrokerInput,
  type Effects,
  holdingOf,
} from './desk.ts';
import { type Draft, draftOf, finished, workOn } from './draft.ts';
import { flush } from './flush.ts';
import { obey } from './intents.ts';
import { isQuiet, onPrice } from './rules.ts';
import { onClock, onSession } from './sessions.ts';
import { isHeldBack } from './types.ts';

/**
 * The broker's one step: `(state, input) → [state, effects]`. All that came in is booked first, then
 * what is wanted of each order is worked out once, and at most one command an order goes to the
 * exchange. Venue commands are to be carried out in their order; what they report comes back as one
 * input. A step that changes nothing returns the same state.
 */
export function stepBroker(before: Broker, input: BrokerInput, context: BrokerContext): [Broker, Effects] {
  if (input.kind === 'price' && quiet(before, input.symbol, context))
    return [before, { events: [], venue: [], refused: null }];
  const d = draftOf(before, context);
  switch (input.kind) {
    case 'intent':
      obey(d, input.intent);
      break;
    case 'reports':
      for (const r of input.reports) book(d, r);
      // The line stands again: everything that was held may go.
      if (d.linked !== before.linked || input.reports.some((r) => r.kind === 'list')) touchAll(d);
      break;
    case 'price':
      onPrice(d, input.symbol);
      break;
    case 'session':
      onSession(d);
      break;
    case 'clock':
      onClock(d);
      break;
    case 'risk unit': {
      const account = d.accounts[input.account] as Draft['accounts'][string];
      d.accounts[input.account] = { ...account, rules: { ...account.rules, riskUnit: input.units } };
      break;
    }
    default:
      unreachable(input);
  }
  if (d.effects.refused) return [before, d.effects];
  for (const w of d.work.values()) if (w.changed || w.orders.some(isHeldBack)) flush(d, w);
  return [finished(d), d.effects];
}

function quiet(b: Broker, symbol: string, context: BrokerContext): boolean {
  for (const account of accountIds(b.accounts))
    if (!isQuiet(holdingOf(b, account, symbol), context)) return false;
  return true;
}

function touchAll(d: Draft): void {
  for (const key in d.before.holdings) {
    const h = d.before.holdings[key];
    if (h) workOn(d, h.account, h.symbol).changed = true;
  }
}

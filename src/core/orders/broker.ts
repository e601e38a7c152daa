import { type Account, openAccount, tightened } from '../account/index.ts';
import { type AccountId, type Money, money, unreachable } from '../units/index.ts';
import { end, sayOf } from './changes.ts';
import {
  accountIds,
  accountNow,
  type Broker,
  type BrokerContext,
  type BrokerInput,
  type Effects,
  holdingKey,
  holdingOf,
} from './desk.ts';
import { expire } from './expiry.ts';
import { flush } from './flush.ts';
import { obey } from './intents.ts';
import { isHeldBack, isStaying } from './order.ts';
import { book } from './reports.ts';
import { isQuiet, onPrice } from './rules.ts';
import { onSession } from './sessions.ts';
import { type BrokerStep, brokerNow, decideAll, finished, stepFrom, workOn } from './step.ts';

/**
 * The broker's one step: `(state, input) → [state, effects]`. All that came in is booked first, then
 * what is wanted of each order is worked out once, and at most one command an order goes to the
 * exchange. Venue commands are to be carried out in their order; what they report comes back as one
 * input. A step that changes nothing returns the same state.
 */
export function stepBroker(before: Broker, input: BrokerInput, context: BrokerContext): [Broker, Effects] {
  const locks = input.kind === 'price' ? lossOf(before, input.symbol, context) : [];
  if (input.kind === 'price' && locks.length === 0 && quiet(before, input.symbol, context))
    return [before, { events: [], venue: [], refused: null }];
  const d = stepFrom(before, context);
  switch (input.kind) {
    case 'intent':
      obey(d, input.intent);
      break;
    case 'reports':
      for (const r of input.reports) book(d, r);
      // A loss counts with the execution that makes it, not with the next price.
      for (const symbol of new Set(input.reports.flatMap((r) => (r.kind === 'fill' ? [r.symbol] : []))))
        for (const x of lossOf(brokerNow(d), symbol, context)) lock(d, x.account, x.loss);
      // The line stands again: everything that was held may go.
      if (d.linked !== before.linked || input.reports.some((r) => r.kind === 'list')) decideAll(d);
      break;
    case 'price':
      for (const x of locks) lock(d, x.account, x.loss);
      onPrice(d, input.symbol);
      break;
    case 'session':
      onSession(d);
      break;
    case 'expiry':
      expire(d, input.of);
      break;
    case 'clock':
      decideAll(d);
      break;
    case 'risk unit': {
      const account = d.accounts[input.account] as BrokerStep['accounts'][string];
      d.accounts[input.account] = {
        ...account,
        rules: { ...account.rules, riskUnit: input.units },
        next: account.next && { ...account.next, riskUnit: input.units },
      };
      break;
    }
    case 'lock':
      if (d.accounts[input.account] && !d.accounts[input.account]?.locked) lock(d, input.account, input.loss);
      break;
    case 'account': {
      d.accounts[input.id] = changedAccount(d.accounts[input.id], input);
      break;
    }
    default:
      unreachable(input);
  }
  if (d.effects.refused) return [before, d.effects];
  for (const w of d.holdings.values()) if (w.decides || w.orders.some(isHeldBack)) flush(w);
  return [finished(d), d.effects];
}

/** Accounts that hold a symbol and whose day has lost as much as it may, by now. */
function lossOf(b: Broker, symbol: string, context: BrokerContext): { account: AccountId; loss: Money }[] {
  return accountIds(b.accounts).flatMap((account) => {
    const a = b.accounts[account] as Account;
    const most = a.rules.guards.dailyLoss;
    if (most === null || a.locked || b.holdings[holdingKey(account, symbol)] === undefined) return [];
    const { today } = accountNow(b, account, context.last);
    return today <= -most ? [{ account, loss: money(-today) }] : [];
  });
}

/** No new risk for the rest of the day: what works to open some ends, and says so. */
function lock(d: BrokerStep, account: AccountId, loss: Money): void {
  const a = d.accounts[account] as Account;
  const most = a.rules.guards.dailyLoss ?? money(0);
  d.accounts[account] = { ...a, locked: { day: a.day.day, at: d.context.now, loss } };
  sayOf(d, null, { exec: 'OrderStatus', kind: 'locked', loss, most }, { account });
  for (const h of Object.values(d.before.holdings)) {
    if (h.account !== account) continue;
    const w = workOn(d, account, h.symbol);
    for (const o of h.orders)
      if (o.role === 'entry' && isStaying(o))
        end(w, o, 'Canceled', { guard: { code: 'locked', loss, most } });
  }
}

/** A new account, or one with other rules and fees. What loosens a guard waits for the next day; the starting cash stays. */
function changedAccount(
  a: Account | undefined,
  { id, rules, fees }: Extract<BrokerInput, { kind: 'account' }>,
): Account {
  if (!a) return openAccount({ id, rules, fees });
  const { now, loosens } = tightened(a.rules.guards, rules.guards);
  const fixed = { ...rules, startCash: a.rules.startCash, kind: a.rules.kind };
  return { ...a, fees, rules: { ...fixed, guards: now }, next: loosens ? fixed : null };
}

function quiet(b: Broker, symbol: string, context: BrokerContext): boolean {
  for (const account of accountIds(b.accounts))
    if (!isQuiet(holdingOf(b, account, symbol), context)) return false;
  return true;
}

// The guards at the broker's door: asked when an intent comes in, and again when an order is moved, wakes or fires.
import { multipleOf } from '../account/index.ts';
import { instrumentOf, legsOf, multiplierOfSymbol, nameOf } from '../instruments/index.ts';
import type { AccountId, OrderId, Side } from '../units/index.ts';
import { admitMove, admitResize, admitRetype } from './admit-changes.ts';
import {
  against,
  collared,
  type Entry,
  heldByCloses,
  hours,
  lives,
  mayEnter,
  numbers,
  optionTerms,
  short,
  stopSide,
  tooLate,
  works,
} from './admit-checks.ts';
import { baredShares, isCovered } from './bare.ts';
import { baredBy } from './cover.ts';
import {
  accountNow,
  type Broker,
  type BrokerContext,
  holdingOf,
  liveOrder,
  openTrade,
  orderOf,
} from './desk.ts';
import { openOfScope } from './exit-plan.ts';
import { powerOfBoth, tooFast } from './guards.ts';
import type { Intent, NewIntent } from './intent.ts';
import { isStaying, type Order, openOf, wireOf, worstOf } from './order.ts';
import type { Refusal } from './refusal.ts';
import type { BrokerStep } from './step.ts';
import { positionOf } from './trade.ts';

/** Why an intent may not be obeyed now, with the value seen and what would pass; null when it may. */
export function admit(b: Broker, intent: Intent, c: BrokerContext): Refusal | null {
  return allowed(b, intent, c) ?? leavesBare(b, intent);
}

/** Taking the last stop of shares away needs a yes that named them. */
function leavesBare(b: Broker, intent: Intent): Refusal | null {
  const bares = baredShares(b, intent);
  return bares.length === 0 || ('bare' in intent && isCovered(bares, intent.bare))
    ? null
    : { code: 'bares', bares };
}

function allowed(b: Broker, intent: Intent, c: BrokerContext): Refusal | null {
  switch (intent.kind) {
    case 'pair':
      return admitPair(b, intent.of, c);
    case 'entry':
      return admitEntry(b, intent, c);
    case 'close':
      return admitClose(b, intent, c);
    case 'attach': {
      const t = openTrade(holdingOf(b, intent.account, intent.symbol));
      if (!t) return { code: 'nothing to close', symbol: intent.symbol, position: 0, held: 0 };
      return standsBehind(b, intent, positionOf(t), c);
    }
    case 'move':
      return admitMove(b, intent.orderId, intent.to, c);
    case 'retype':
      return admitRetype(b, intent, c);
    case 'resize':
      return admitResize(b, intent.orderId, intent.qty, c);
    case 'locate':
      return admitLocate(b, intent, c);
    case 'cancel': {
      const gone =
        intent.what.kind === 'orders' ? intent.what.ids.find((id) => !liveOrder(b, id)) : undefined;
      return gone === undefined ? null : tooLate(b, gone);
    }
    case 'put back':
      return admitBack(b, intent.orderId);
    case 'flatten': {
      const h = holdingOf(b, intent.account, intent.symbol);
      return h.orders.some(isStaying) || openTrade(h)
        ? null
        : { code: 'nothing to close', symbol: intent.symbol, position: 0, held: 0 };
    }
  }
}

/** Each alone; and of opposite sides in one symbol at least one waits as a stop, so that the exchange never has both. */
function admitPair(b: Broker, [one, two]: readonly [NewIntent, NewIntent], c: BrokerContext): Refusal | null {
  const both = admit(b, one, c) ?? admit(b, two, c);
  if (both || one.kind !== 'entry' || two.kind !== 'entry') return both;
  const against = one.symbol === two.symbol && one.account === two.account && one.side !== two.side;
  return against && one.stop === null && two.stop === null
    ? { code: 'pair against', symbol: one.symbol }
    : powerOfBoth(b, one, two, c);
}

/** A lender has only so many, and asks nothing for what is easy to borrow. */
function admitLocate(
  b: Broker,
  { account, symbol, shares }: Extract<Intent, { kind: 'locate' }>,
  c: BrokerContext,
): Refusal | null {
  const { borrow } = c.listing(symbol);
  if (borrow !== 'hard') return { code: 'no locate needed', symbol, borrow };
  const a = b.accounts[account] as Broker['accounts'][string];
  if (a.rules.kind === 'cash') return { code: 'no shorts', account: a.rules.name };
  const taken = a.locates.filter((l) => l.symbol === symbol).reduce((sum, l) => sum + l.shares, 0);
  const { available } = c.locate(symbol);
  return shares > available - taken
    ? { code: 'locate size', symbol, wants: shares, available: Math.max(0, available - taken) }
    : null;
}

/** What was taken away by hand, of shares that are still held. */
function admitBack(b: Broker, id: OrderId): Refusal | null {
  const o = orderOf(b, id);
  const no: Refusal = { code: 'nothing to put back', orderId: id };
  if (o?.phase.k !== 'ended' || o.phase.why !== 'you') return no;
  const h = holdingOf(b, o.account, o.symbol);
  const t = openTrade(h);
  if (t?.id !== o.tradeId) return no;
  if (o.role === 'close' && o.stop !== null) return null;
  const s = h.scopes.find((x) => x.id === o.scopeId);
  return s && o.leg !== null && s.legs[o.leg]?.dropped && openOfScope(s) > 0 ? null : no;
}

function admitEntry(b: Broker, e: Entry, c: BrokerContext): Refusal | null {
  const turns = e.afterFlat && openTrade(holdingOf(b, e.account, e.symbol)) !== undefined;
  const asked =
    numbers(e, c) ??
    optionTerms(e) ??
    lives(e, c) ??
    works(b, e, c) ??
    (turns ? null : against(b, e)) ??
    hours(e, e.extended, c) ??
    stopSide(e, c);
  // What turns a position is asked about power when it goes: the shares that it sells first give it back.
  return (
    asked ??
    tooFast(b, e, c) ??
    (turns ? (short(b, e, c, null) ?? collared(b, e, c)) : mayEnter(b, e, c, null))
  );
}

/** A living entry asked about once more. */
export function admitOrder(d: BrokerStep, o: Order): Refusal | null {
  const b: Broker = { ...d.before, accounts: d.accounts };
  return mayEnter(b, { ...o, qty: openOf(o), stop: null }, d.context, o.id);
}

function admitClose(b: Broker, e: Extract<Intent, { kind: 'close' }>, c: BrokerContext): Refusal | null {
  const { account, symbol } = e;
  if (e.apart !== undefined)
    return comesApart(b, e, e.apart) ?? closeTerms(b, { ...e, side: legSide(b, e, e.apart) }, c);
  const h = holdingOf(b, account, symbol);
  const t = openTrade(h);
  const held = heldByCloses(h.orders, e.stop !== null);
  if (!t || positionOf(t) - held < 1)
    return { code: 'nothing to close', symbol, position: t ? positionOf(t) : 0, held };
  return (
    closeTerms(b, { ...e, side: t.sign === -1 ? 'buy' : 'sell' }, c) ??
    standsBehind(b, e, Math.min(e.qty, positionOf(t)), c)
  );
}

/** What is asked of a closing order apart from what it closes. */
function closeTerms(
  b: Broker,
  asked: Extract<Intent, { kind: 'close' }> & { side: Side },
  c: BrokerContext,
): Refusal | null {
  return (
    numbers(asked, c) ??
    optionTerms(asked) ??
    lives(asked, c) ??
    works(b, asked, c) ??
    hours(asked, asked.extended, c) ??
    stopSide(asked, c) ??
    collared(b, asked, c)
  );
}

/** The side that closes a leg of a vertical that is held. */
function legSide(b: Broker, e: { account: AccountId; symbol: string }, vertical: string): Side {
  const t = openTrade(holdingOf(b, e.account, vertical));
  const leg = legsOf(vertical).find((l) => nameOf(l.contract) === e.symbol);
  return (t?.sign ?? 1) * (leg?.sign ?? 1) === 1 ? 'sell' : 'buy';
}

/** Whether so many of a vertical may come apart now. */
function comesApart(b: Broker, e: { account: AccountId; qty: number }, symbol: string): Refusal | null {
  const h = holdingOf(b, e.account, symbol);
  const t = openTrade(h);
  const held = heldByCloses(h.orders, false);
  const free = t ? positionOf(t) - held : 0;
  const is = instrumentOf(symbol).kind === 'vertical' && e.qty >= 1 && e.qty <= free;
  if (!t || !is) return { code: 'nothing to close', symbol, position: t ? positionOf(t) : 0, held };
  const position = positionOf(t);
  const out = h.orders.reduce((a, o) => a + (o.role === 'entry' ? 0 : worstOf(wireOf(o))), 0);
  return out > position - e.qty ? { code: 'exits hold', symbol, position, held: out } : null;
}

/** Calls may not be left without anything behind them, and puts only where their strikes can be set aside. */
function standsBehind(
  b: Broker,
  e: { account: AccountId; symbol: string },
  qty: number,
  c: BrokerContext,
): Refusal | null {
  const bared =
    openTrade(holdingOf(b, e.account, e.symbol))?.sign === 1 ? baredBy(b, e.account, e.symbol, qty) : [];
  if (bared.length === 0) return null;
  const a = b.accounts[e.account] as Broker['accounts'][string];
  const have = accountNow(b, e.account, c.last).buyingPower;
  const needs = bared.some((x) => x.right === 'call')
    ? Number.POSITIVE_INFINITY
    : bared.reduce((sum, x) => sum + x.contracts * x.strike * multiplierOfSymbol(x.symbol), 0) *
      multipleOf(a);
  return needs <= have ? null : { code: 'stands behind', symbol: e.symbol, bared, needs, have };
}

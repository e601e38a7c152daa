// The guards at the broker's door: asked when an intent comes in, and again when an order is moved, wakes or fires.

import { approvalOf, multipleOf } from '../account/index.ts';
import { instrumentOf, isOption, legsOf, multiplierOfSymbol, nameOf } from '../instruments/index.ts';
import {
  type AccountId,
  type OrderId,
  onTick,
  type Price,
  roundToTick,
  type Side,
  signOf,
} from '../units/index.ts';
import { lowestShortPrice } from '../venue/index.ts';
import { baredShares, isCovered } from './bare.ts';
import { collar, worksIn } from './changes.ts';
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
import { type Asked, guarded, powerOfBoth, tooFast, unlocated } from './guards.ts';
import type { BrokerStep } from './step.ts';
import {
  type Intent,
  isAtWork,
  isLive,
  isStaying,
  type NewIntent,
  type Order,
  openOf,
  openOfScope,
  positionOf,
  priceOf,
  type Refusal,
  statusOf,
  wireOf,
  worstOf,
} from './types.ts';

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

const tooLate = (b: Broker, id: OrderId): Refusal => {
  const o = orderOf(b, id);
  return { code: 'too late', orderId: id, status: o ? statusOf(o) : null };
};

type Entry = Extract<Intent, { kind: 'entry' }>;
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

/** What is asked of a new entry, and again of one that is moved, wakes or fires. `own` is the order itself, which counts once. */
function mayEnter(b: Broker, e: Asked, c: BrokerContext, own: number | null): Refusal | null {
  return short(b, e, c, own) ?? collared(b, e, c) ?? guarded(b, e, c, own);
}

/** A living entry asked about once more. */
export function admitOrder(d: BrokerStep, o: Order): Refusal | null {
  const b: Broker = { ...d.before, accounts: d.accounts };
  return mayEnter(b, { ...o, qty: openOf(o), stop: null }, d.context, o.id);
}

const lives = (e: Pick<Entry, 'until'>, c: BrokerContext): Refusal | null =>
  e.until !== null && e.until <= c.now ? { code: 'time over', until: e.until, now: c.now } : null;

function numbers(
  e: Pick<Entry, 'symbol' | 'qty' | 'limit' | 'stop' | 'side'>,
  c: BrokerContext,
): Refusal | null {
  if (!Number.isSafeInteger(e.qty) || e.qty < 1) return { code: 'quantity', qty: e.qty };
  for (const p of [e.limit, e.stop]) {
    const off = p === null ? null : offTick(p, e.symbol, c);
    if (off) return off;
  }
  if (e.limit !== null && e.stop !== null && signOf(e.side) * (e.limit - e.stop) < 0)
    return { code: 'limit side', side: e.side, stop: e.stop, limit: e.limit };
  return null;
}

function offTick(p: Price, symbol: string, c: BrokerContext): Refusal | null {
  const { ticks } = c.listing(symbol);
  if (onTick(p, ticks)) return null;
  const to = (how: 'down' | 'up') => roundToTick(Math.max(1, p), how, ticks);
  return { code: 'off tick', price: p, down: to('down'), up: to('up') };
}

/** Options trade in the regular session, lit; a stop without a limit would be a market order into a wide spread (common practice). */
function optionTerms(
  e: Pick<Entry, 'symbol' | 'stop' | 'limit' | 'extended' | 'timeInForce' | 'route'>,
): Refusal | null {
  if (!isOption(e.symbol)) return null;
  const { symbol } = e;
  if (e.stop !== null && e.limit === null) return { code: 'option terms', symbol, what: 'stop' };
  if (e.extended) return { code: 'option terms', symbol, what: 'extended' };
  if (e.timeInForce === 'AtTheOpening' || e.timeInForce === 'AtTheClose')
    return { code: 'option terms', symbol, what: 'auction' };
  return e.route === 'lit' ? null : { code: 'option terms', symbol, what: 'midpoint' };
}

/** What an account may do with options, by its approval. */
function approved(b: Broker, e: Asked): Refusal | null {
  const { rules } = b.accounts[e.account] as Broker['accounts'][string];
  const has = approvalOf(rules);
  const i = instrumentOf(e.symbol);
  const uncovered = i.kind === 'option' && i.right === 'call' && e.side === 'sell';
  const needs = uncovered ? 'uncovered calls' : i.kind === 'vertical' ? 'spreads' : 'long';
  const may = needs === 'long' ? has !== 'none' : needs === has;
  return may ? null : { code: 'options approval', symbol: e.symbol, account: rules.name, has, needs };
}

/** What works its price goes toward the other side, and no further than any limit may. */
function works(b: Broker, e: NewIntent & { side: Side }, c: BrokerContext): Refusal | null {
  if (!e.works || e.limit === null) return null;
  const { to } = e.works;
  if (signOf(e.side) * (to - e.limit) < 0)
    return { code: 'works backwards', side: e.side, from: e.limit, to };
  return numbers({ ...e, limit: to }, c) ?? collared(b, { ...e, limit: to }, c);
}

/** Nothing may work against a position, or against an entry that waits: both could fill. */
function against(b: Broker, e: Entry): Refusal | null {
  const h = holdingOf(b, e.account, e.symbol);
  const t = openTrade(h);
  if (t && t.sign !== signOf(e.side))
    return {
      code: 'entry against',
      symbol: e.symbol,
      side: e.side,
      held: t.sign * positionOf(t),
      orderId: null,
    };
  const other = h.orders.find((o) => o.role === 'entry' && o.side !== e.side && isLive(o));
  return other ? { code: 'entry against', symbol: e.symbol, side: e.side, held: 0, orderId: other.id } : null;
}

function hours(
  e: Pick<Entry, 'type' | 'side' | 'timeInForce' | 'stop'>,
  extended: boolean,
  c: BrokerContext,
): Refusal | null {
  const now = e.type === 'Market' && e.timeInForce !== 'AtTheOpening' && e.timeInForce !== 'AtTheClose';
  return now && extended && c.session !== 'regular' && c.session !== 'closed'
    ? { code: 'market hours', session: c.session, side: e.side }
    : null;
}

/** A stop waits on the far side of the market: at it or beyond, it would go at once. */
function stopSide(e: Pick<Entry, 'symbol' | 'side' | 'stop' | 'on'>, c: BrokerContext): Refusal | null {
  const last = !e.on || e.on === 'last' ? c.last(e.symbol) : c.quote(e.symbol)[e.on];
  if (e.stop === null || last === null || signOf(e.side) * (e.stop - last) > 0) return null;
  return { code: 'stop side', side: e.side, symbol: e.symbol, stop: e.stop, last };
}

/** Short sales need shares to borrow, and under the restriction a price above the bid (Regulation SHO, Rules 203 and 201). */
function short(b: Broker, e: Asked, c: BrokerContext, own: number | null): Refusal | null {
  if (isOption(e.symbol)) return approved(b, e);
  if (e.side !== 'sell') return null;
  const { rules } = b.accounts[e.account] as Broker['accounts'][string];
  if (rules.kind === 'cash') return { code: 'no shorts', account: rules.name };
  const { borrow, restricted } = c.listing(e.symbol);
  if (borrow === 'none') return { code: 'no borrow', symbol: e.symbol };
  const locate = borrow === 'hard' ? unlocated(b, e, c, own) : null;
  if (locate) return locate;
  const { bid } = c.quote(e.symbol);
  if (!restricted || bid === null || e.stop !== null) return null;
  const direct = e.type === 'Market' || (e.limit !== null && e.limit <= bid);
  return direct ? { code: 'restricted', symbol: e.symbol, bid, least: lowestShortPrice(bid) } : null;
}

/** Guard against fat fingers: a limit may reach only so far through the quote; that of a stop only so far beyond its stop. */
function collared(
  b: Broker,
  e: Pick<Asked, 'account' | 'symbol' | 'side' | 'limit' | 'stop'>,
  c: BrokerContext,
): Refusal | null {
  const { limit, side, stop } = e;
  const quote = c.quote(e.symbol);
  const last = c.last(e.symbol);
  const from = stop ?? (side === 'buy' ? quote.ask : quote.bid) ?? last;
  if (limit === null || from === null) return null;
  const { collarPercent } = (b.accounts[e.account] as Broker['accounts'][string]).rules.guards;
  const beyond = ((limit - from) / from) * signOf(side) * 100;
  const most = collar(
    side,
    stop === null ? quote : { ...quote, bid: stop, ask: stop },
    last,
    c.listing(e.symbol).ticks,
  ) as Price;
  // The wider of the two: ten percent of a price of a few cents is less than ten ticks.
  if (beyond <= collarPercent || signOf(side) * (limit - most) <= 0) return null;
  return { code: 'collar', limit, side, from, percent: beyond, most, mostPercent: collarPercent };
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

/** Shares that closing orders of the trader hold already. A stop that waits holds none: what it would close may be offered meanwhile. */
export const heldByCloses = (orders: readonly Order[], forStop: boolean): number =>
  forStop
    ? 0
    : orders
        .filter((o) => o.role === 'close' && isStaying(o) && !(o.stop !== null && !isAtWork(o)))
        .reduce((a, o) => a + openOf(o), 0);

/** As a new one of its kind would be asked, with its own shares and power free. */
function admitRetype(b: Broker, e: Extract<Intent, { kind: 'retype' }>, c: BrokerContext): Refusal | null {
  const o = liveOrder(b, e.orderId);
  if (!o || !isStaying(o)) return tooLate(b, e.orderId);
  if (o.role !== 'entry' && o.role !== 'close') return { code: 'plan size', orderId: e.orderId };
  if (e.qty <= o.filled) return { code: 'nothing left', orderId: o.id, qty: e.qty, filled: o.filled };
  const joined = o.pair?.symbol === o.symbol && o.pair.account === o.account;
  const other = joined && o.pair ? liveOrder(b, o.pair.id) : undefined;
  if (other && other.side !== o.side && other.stop === null && e.stop === null)
    return { code: 'pair against', symbol: o.symbol };
  const asked = { ...o, ...e, qty: e.qty - o.filled };
  const plain =
    numbers(asked, c) ??
    optionTerms(asked) ??
    lives(e, c) ??
    hours(asked, e.extended, c) ??
    stopSide(asked, c);
  if (plain) return plain;
  if (o.role === 'entry') return mayEnter(b, asked, c, o.id);
  return collared(b, asked, c) ?? admitResize(b, o.id, e.qty, c);
}

function admitResize(b: Broker, id: OrderId, qty: number, c: BrokerContext): Refusal | null {
  const o = liveOrder(b, id);
  if (!o || !isStaying(o)) return tooLate(b, id);
  if (o.role !== 'entry' && o.role !== 'close') return { code: 'plan size', orderId: id };
  if (!Number.isSafeInteger(qty) || qty < 1) return { code: 'quantity', qty };
  if (qty <= o.filled) return { code: 'nothing left', orderId: id, qty, filled: o.filled };
  if (o.role === 'entry')
    return qty > o.qty ? mayEnter(b, { ...o, qty: qty - o.filled, stop: null }, c, o.id) : null;
  const h = holdingOf(b, o.account, o.symbol);
  const t = openTrade(h);
  const others = heldByCloses(
    h.orders.filter((x) => x.id !== id),
    o.stop !== null,
  );
  const most = (t ? positionOf(t) : 0) - others;
  return qty - o.filled > most
    ? { code: 'nothing to close', symbol: o.symbol, position: t ? positionOf(t) : 0, held: others }
    : null;
}

function admitMove(b: Broker, id: OrderId, to: Price, c: BrokerContext): Refusal | null {
  const o = liveOrder(b, id);
  if (!o || !isStaying(o)) return tooLate(b, id);
  const off = offTick(to, o.symbol, c);
  if (off) return off;
  if (priceOf(o) === to) return null;
  const waits = o.stop !== null && !isAtWork(o);
  const moved = waits
    ? { ...o, stop: to, limit: o.limit === null ? null : ((o.limit + to - (o.stop as Price)) as Price) }
    : { ...o, limit: to, stop: null };
  if (waits) {
    const wrong = worksIn(o, c.session) ? stopSide(moved, c) : null;
    if (wrong) return wrong;
  } else {
    const far = collared(b, moved, c);
    if (far) return far;
  }
  return o.role === 'entry' ? mayEnter(b, { ...moved, qty: openOf(o) }, c, o.id) : null;
}

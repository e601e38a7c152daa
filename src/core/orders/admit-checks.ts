import { approvalOf } from '../account/index.ts';
import { instrumentOf, isOption } from '../instruments/index.ts';
import { type OrderId, onTick, type Price, roundToTick, type Side, signOf } from '../units/index.ts';
import { lowestShortPrice } from '../venue/index.ts';
import { collar } from './changes.ts';
import { type Broker, type BrokerContext, holdingOf, openTrade, orderOf } from './desk.ts';
import { type Asked, guarded, unlocated } from './guards.ts';
import type { Intent, NewIntent } from './intent.ts';
import { isAtWork, isLive, isStaying, type Order, openOf, statusOf } from './order.ts';
import type { Refusal } from './refusal.ts';
import { positionOf } from './trade.ts';

export const tooLate = (b: Broker, id: OrderId): Refusal => {
  const o = orderOf(b, id);
  return { code: 'too late', orderId: id, status: o ? statusOf(o) : null };
};

export type Entry = Extract<Intent, { kind: 'entry' }>;

/** What is asked of a new entry, and again of one that is moved, wakes or fires. `own` is the order itself, which counts once. */
export function mayEnter(b: Broker, e: Asked, c: BrokerContext, own: number | null): Refusal | null {
  return short(b, e, c, own) ?? collared(b, e, c) ?? guarded(b, e, c, own);
}

export const lives = (e: Pick<Entry, 'until'>, c: BrokerContext): Refusal | null =>
  e.until !== null && e.until <= c.now ? { code: 'time over', until: e.until, now: c.now } : null;

export function numbers(
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

export function offTick(p: Price, symbol: string, c: BrokerContext): Refusal | null {
  const { ticks } = c.listing(symbol);
  if (onTick(p, ticks)) return null;
  const to = (how: 'down' | 'up') => roundToTick(Math.max(1, p), how, ticks);
  return { code: 'off tick', price: p, down: to('down'), up: to('up') };
}

/** Options trade in the regular session, lit; a stop without a limit would be a market order into a wide spread (common practice). */
export function optionTerms(
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
export function works(b: Broker, e: NewIntent & { side: Side }, c: BrokerContext): Refusal | null {
  if (!e.works || e.limit === null) return null;
  const { to } = e.works;
  if (signOf(e.side) * (to - e.limit) < 0)
    return { code: 'works backwards', side: e.side, from: e.limit, to };
  return numbers({ ...e, limit: to }, c) ?? collared(b, { ...e, limit: to }, c);
}

/** Nothing may work against a position, or against an entry that waits: both could fill. */
export function against(b: Broker, e: Entry): Refusal | null {
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

export function hours(
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
export function stopSide(
  e: Pick<Entry, 'symbol' | 'side' | 'stop' | 'on'>,
  c: BrokerContext,
): Refusal | null {
  const last = !e.on || e.on === 'last' ? c.last(e.symbol) : c.quote(e.symbol)[e.on];
  if (e.stop === null || last === null || signOf(e.side) * (e.stop - last) > 0) return null;
  return { code: 'stop side', side: e.side, symbol: e.symbol, stop: e.stop, last };
}

/** Short sales need shares to borrow, and under the restriction a price above the bid (Regulation SHO, Rules 203 and 201). */
export function short(b: Broker, e: Asked, c: BrokerContext, own: number | null): Refusal | null {
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
export function collared(
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

/** Shares that closing orders of the trader hold already. A stop that waits holds none: what it would close may be offered meanwhile. */
export const heldByCloses = (orders: readonly Order[], forStop: boolean): number =>
  forStop
    ? 0
    : orders
        .filter((o) => o.role === 'close' && isStaying(o) && !(o.stop !== null && !isAtWork(o)))
        .reduce((a, o) => a + openOf(o), 0);

import { commissionFor } from '../account/index.ts';
import {
  collar,
  heldByCloses,
  holdingOf,
  type Intent,
  isLive,
  isStaying,
  liveOrders,
  type Order,
  openOf,
  orderOf,
  positionOf,
  priceOf,
  refusalText,
  statusOf,
} from '../orders/index.ts';
import { formatPrice, money, roundToTick, sideOf, signOf, unreachable } from '../units/index.ts';
import { readEntry } from './entry.ts';
import { accountOf, haltWarning, openTradeOf, priceOrder, type Reading, Refused, type RunContext, refuse, termsOf, value, viewOf } from './moment.ts';
import { distanceValue, limitPrice, literal, type SymbolView } from './prices.ts';
import { printStatement } from './print.ts';
import type { Statement } from './tree.ts';

/**
 * Reads one statement against this moment: what it would do, or why not. Key, button, peek,
 * say-back and tests all use this function; sending comes after.
 */
export function readStatement(s: Statement, c: RunContext): Reading {
  const reading: Reading = {
    intents: [],
    alert: null,
    problems: [],
    warnings: [],
    sayBack: printStatement(s),
    facts: null,
    symbol: null,
    addsRisk: false,
    staged: 'staged' in s && s.staged,
  };
  try {
    switch (s.kind) {
      case 'entry':
        readEntry(s, c, reading);
        break;
      case 'close':
        readClose(s, c, reading);
        break;
      case 'move stop':
        readMoveStop(s, c, reading);
        break;
      case 'move order':
        readMoveOrder(s, c, reading);
        break;
      case 'cancel':
        readCancel(s, c, reading);
        break;
      case 'flatten':
        readFlatten(s, c, reading);
        break;
      case 'alert':
        readAlert(s, c, reading);
        break;
      default:
        unreachable(s);
    }
    for (const intent of reading.intents) {
      const no = c.admit(intent);
      if (no) refuse(no.code, refusalText(no));
    }
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    reading.problems.push(e.problem);
    reading.intents = [];
  }
  return reading;
}

function readClose(s: Extract<Statement, { kind: 'close' }>, c: RunContext, out: Reading): void {
  const v = viewOf(s.symbol, c);
  out.symbol = v.symbol;
  const trade = openTradeOf(c, v.symbol) ?? refuse('nothing to close', `No position in ${v.symbol} to close.`);
  const wrong = (s.verb === 'sell' && trade.sign === -1) || (s.verb === 'cover' && trade.sign === 1);
  if (wrong)
    refuse('wrong way', `You are ${trade.sign === 1 ? 'long' : 'short'} ${v.symbol}: ${s.verb === 'sell' ? 'cover' : 'sell'} closes it, ${s.verb} would not.`);
  const side = sideOf(trade.sign === 1 ? -1 : 1);
  const waits = s.pricing.kind === 'stop';
  const held = heldByCloses(holdingOf(c.broker, c.account, v.symbol).orders, waits);
  const free = positionOf(trade) - held;
  const asked =
    s.size.kind === 'shares'
      ? s.size.shares
      : s.size.kind === 'part'
        ? s.size.part.kind === 'all'
          ? positionOf(trade)
          : Math.max(1, Math.floor((positionOf(trade) * s.size.part.num) / s.size.part.den))
        : 0;
  const qty = Math.min(asked, free);
  if (qty < 1) refuse('nothing to close', refusalText({ code: 'nothing to close', symbol: v.symbol, position: positionOf(trade), held }));
  if (asked > free) out.warnings.push(`Reduce-only: ${qty} shares, because that is all there is to close.`);
  const priced = priceOrder(s.pricing, side, v, c, true);
  out.facts = {
    side,
    qty,
    price: priced.expected,
    stop: null,
    cost: money(priced.expected * qty),
    risk: null,
    r: null,
    reward: null,
    commission: commissionFor(accountOf(c).fees, qty, priced.expected * qty),
  };
  const auction = s.pricing.kind === 'auction';
  const extended = !auction && s.pricing.kind !== 'mid' && (s.extended || c.session !== 'regular');
  out.warnings.push(...haltWarning(v));
  if (waits && s.life === 'day') out.warnings.push(`A day order: it ends with its session and leaves ${qty} ${v.symbol} without it; add “gtc” to keep it.`);
  out.sayBack = printStatement({ ...s, size: { kind: 'shares', shares: qty }, symbol: v.symbol, pricing: priced.shown, extended });
  out.intents.push({
    kind: 'close',
    account: c.account,
    symbol: v.symbol,
    type: priced.type,
    qty,
    limit: priced.limit,
    stop: priced.stop,
    extended,
    ...termsOf(s.pricing, s),
  });
}

function readAlert(s: Extract<Statement, { kind: 'alert' }>, c: RunContext, out: Reading): void {
  if (s.any) {
    if (s.on.kind !== 'price') out.alert = { symbol: null, on: s.on };
    return;
  }
  const v = viewOf(s.symbol, c);
  out.symbol = v.symbol;
  if (s.on.kind === 'price') {
    const price = roundToTick(value(s.on.price, v));
    if (v.last === null) refuse('unknown price', `${v.symbol} has not traded today, so there is no side from which it could reach ${formatPrice(price)}.`);
    if (price === v.last) refuse('at last', `${v.symbol} stands at ${formatPrice(price)} now. Set the alert above or below it: alert at last + 10c.`);
    out.alert = { symbol: v.symbol, on: { kind: 'price', price, way: price > (v.last as number) ? 'up' : 'down' } };
    out.sayBack = printStatement({ ...s, symbol: v.symbol, on: { kind: 'price', price: literal(price) } });
    return;
  }
  out.alert = { symbol: v.symbol, on: s.on };
  out.sayBack = printStatement({ ...s, symbol: v.symbol });
  if (s.on.kind === 'rule' && c.passes(v.symbol, s.on.rule))
    out.warnings.push(`This is true of ${v.symbol} already: the alert comes when it turns true again.`);
}

const waitsForStop = (o: Order): boolean => o.stop !== null && o.phase.k !== 'working';

function readMoveStop(s: Extract<Statement, { kind: 'move stop' }>, c: RunContext, out: Reading): void {
  const v = viewOf(s.symbol, c);
  out.symbol = v.symbol;
  const exits = holdingOf(c.broker, c.account, v.symbol).orders.filter((o) => o.role === 'stop' || (o.role === 'close' && o.stop !== null));
  const stops = exits.filter(waitsForStop);
  if (stops.length === 0)
    refuse(
      'no stop',
      exits.length > 0 ? `The stop in ${v.symbol} has triggered and is at work: flatten takes the rest out.` : `There is no stop in ${v.symbol} to move.`,
    );
  const wanted = value(s.to, v);
  const to = stopPrice(stops[0] as Order, wanted);
  for (const o of stops) if (stopPrice(o, wanted) !== o.stop) out.intents.push(moveTo(o, wanted, v));
  out.sayBack = `${printStatement({ ...s, symbol: v.symbol, to: literal(to) })}${out.intents.length === 0 ? ' (there already)' : ''}`;
}

function readMoveOrder(s: Extract<Statement, { kind: 'move order' }>, c: RunContext, out: Reading): void {
  const o = findOrder(s.order, c);
  const v = viewOf(o.symbol, c);
  out.symbol = v.symbol;
  const now = priceOf(o) ?? refuse('no such order', `Order ${o.id} goes at market; it has no price to move.`);
  const to =
    s.by.kind === 'to' ? value(s.by.price, v) : now + (s.by.kind === 'up' ? 1 : -1) * (distanceValue(s.by.by, now, v.trade?.riskPerShare ?? null) ?? 0);
  const intent = moveTo(o, to, v);
  if (intent.to !== now) out.intents.push(intent);
  out.sayBack = `${printStatement({ kind: 'move order', order: o.id, by: { kind: 'to', price: literal(intent.to) } })}${intent.to === now ? ' (there already)' : ''}`;
}

const stopPrice = (o: Order, raw: number) => roundToTick(Math.max(1, raw), o.side === 'buy' ? 'up' : 'down');

/** A stop may not be moved to where it would go at once. */
function moveTo(o: Order, raw: number, v: SymbolView): Extract<Intent, { kind: 'move' }> {
  if (!waitsForStop(o)) return { kind: 'move', orderId: o.id, to: limitPrice(raw, o.side) };
  const to = stopPrice(o, raw);
  if (v.last !== null && signOf(o.side) * (to - v.last) <= 0)
    refuse('stop side', refusalText({ code: 'stop side', side: o.side, symbol: v.symbol, stop: to, last: v.last }));
  return { kind: 'move', orderId: o.id, to };
}

function findOrder(which: number | 'last', c: RunContext): Order {
  if (which === 'last') {
    const own = liveOrders(c.broker).filter((o) => (o.role === 'entry' || o.role === 'close') && isStaying(o));
    return own[own.length - 1] ?? refuse('no such order', 'No entry or closing order is working.');
  }
  const o = orderOf(c.broker, which) ?? refuse('no such order', `There is no order ${which}.`);
  return isLive(o) && isStaying(o) ? o : refuse('too late', refusalText({ code: 'too late', orderId: which, status: statusOf(o) }));
}

function readCancel(s: Extract<Statement, { kind: 'cancel' }>, c: RunContext, out: Reading): void {
  const mine = liveOrders(c.broker).filter((o) => o.account === c.account && isStaying(o));
  let chosen: Order[];
  switch (s.what.kind) {
    case 'order':
      chosen = [findOrder(s.what.order, c)];
      out.intents.push({ kind: 'cancel', what: { kind: 'orders', ids: chosen.map((o) => o.id) } });
      break;
    case 'symbol': {
      const { symbol } = viewOf(s.what.symbol, c);
      out.symbol = symbol;
      chosen = mine.filter((o) => o.symbol === symbol);
      out.intents.push({ kind: 'cancel', what: { kind: 'symbol', account: c.account, symbol } });
      break;
    }
    case 'everything':
      chosen = mine;
      out.intents.push({ kind: 'cancel', what: { kind: 'everything', account: c.account } });
      break;
    default:
      return unreachable(s.what);
  }
  if (chosen.length === 0) refuse('no such order', `No working order${out.symbol ? ` in ${out.symbol}` : ''} to cancel.`);
  const stops = chosen.filter((o) => o.role === 'stop');
  if (stops.length > 0) out.warnings.push(`Leaves ${stops.reduce((a, o) => a + openOf(o), 0)} ${stops[0]?.symbol} without a stop.`);
  out.sayBack = `${printStatement(s)} (${chosen.length === 1 ? `order ${chosen[0]?.id}` : `${chosen.length} orders`})`;
}

function readFlatten(s: Extract<Statement, { kind: 'flatten' }>, c: RunContext, out: Reading): void {
  const symbols = s.everything
    ? Object.values(c.broker.holdings).flatMap((h) => (h.account === c.account && (openTradeOf(c, h.symbol) || h.orders.some(isStaying)) ? [h.symbol] : []))
    : [viewOf(s.symbol, c).symbol];
  const parts: string[] = [];
  for (const symbol of symbols) {
    const trade = openTradeOf(c, symbol);
    if (!trade && !holdingOf(c.broker, c.account, symbol).orders.some(isStaying)) continue;
    const v = viewOf(symbol, c);
    const side = sideOf(trade?.sign === 1 ? -1 : 1);
    const regular = c.session === 'regular';
    const limit = regular || !trade ? null : (collar(side, v.quote, v.last) ?? refuse('unknown price', `${symbol} has no price to flatten at.`));
    out.intents.push({ kind: 'flatten', account: c.account, symbol, limit });
    if (!trade) continue;
    parts.push(`${side} ${positionOf(trade)} ${symbol} ${regular ? 'at market' : `at ${formatPrice(limit ?? 0)} or better`}`);
    out.warnings.push(...haltWarning(v));
  }
  out.symbol = s.everything ? null : (symbols[0] ?? null);
  if (out.intents.length === 0)
    refuse('nothing to close', s.everything ? 'Nothing is open and nothing is working.' : `Nothing is open or working in ${symbols[0]}.`);
  out.sayBack = parts.length > 0 ? `${printStatement(s)} (${parts.join('; ')})` : `${printStatement(s)} (cancels what waits)`;
}

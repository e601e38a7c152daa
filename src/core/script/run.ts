import { commissionFor } from '../account/index.ts';
import { collar, type Intent, isLive, liveOrders, type Order, openOf, PLAIN_TERMS, positionOf } from '../orders/index.ts';
import { formatPrice, money, type Price, roundToTick, sideOf, signOf, unreachable } from '../units/index.ts';
import { readEntry } from './entry.ts';
import { checkCollar, haltWarning, openTradeOf, priceOrder, type Reading, Refused, type RunContext, refuse, termsOf, value, viewOf } from './moment.ts';
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
  const trade = openTradeOf(c.broker, v.symbol) ?? refuse('nothing to close', `No position in ${v.symbol} to close.`);
  const wrong = (s.verb === 'sell' && trade.sign === -1) || (s.verb === 'cover' && trade.sign === 1);
  if (wrong)
    refuse('wrong way', `You are ${trade.sign === 1 ? 'long' : 'short'} ${v.symbol}: ${s.verb === 'sell' ? 'cover' : 'sell'} closes it, ${s.verb} would not.`);
  const side = sideOf(trade.sign === 1 ? -1 : 1);
  const held = liveOrders(c.broker)
    .filter((o) => o.tradeId === trade.id && o.role === 'close')
    .reduce((a, o) => a + openOf(o), 0);
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
  if (qty < 1) refuse('nothing to close', `All ${positionOf(trade)} ${v.symbol} are already in closing orders. Cancel one of them first: cancel last.`);
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
    commission: commissionFor(c.fees, qty, priced.expected * qty),
  };
  const auction = s.pricing.kind === 'auction';
  const extended = !auction && s.pricing.kind !== 'mid' && (s.extended || c.session !== 'regular');
  out.warnings.push(...haltWarning(v));
  out.sayBack = printStatement({ ...s, size: { kind: 'shares', shares: qty }, symbol: v.symbol, pricing: priced.shown, extended });
  out.intents.push({
    kind: 'close',
    symbol: v.symbol,
    side,
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

function readMoveStop(s: Extract<Statement, { kind: 'move stop' }>, c: RunContext, out: Reading): void {
  const v = viewOf(s.symbol, c);
  out.symbol = v.symbol;
  const stops = liveOrders(c.broker).filter((o) => o.symbol === v.symbol && o.role === 'stop');
  if (stops.length === 0) refuse('no stop', `There is no stop in ${v.symbol} to move.`);
  const to = value(s.to, v);
  for (const o of stops) out.intents.push(moveTo(o, to, v));
  const first = out.intents[0];
  if (first?.kind === 'move') out.sayBack = printStatement({ ...s, symbol: v.symbol, to: literal(first.to) });
}

function readMoveOrder(s: Extract<Statement, { kind: 'move order' }>, c: RunContext, out: Reading): void {
  const o = findOrder(s.order, c);
  const v = viewOf(o.symbol, c);
  out.symbol = v.symbol;
  const now = (o.stop !== null && o.venueId === null ? o.stop : o.limit) ?? refuse('no such order', `Order ${o.id} goes at market; it has no price to move.`);
  const to =
    s.by.kind === 'to' ? value(s.by.price, v) : now + (s.by.kind === 'up' ? 1 : -1) * (distanceValue(s.by.by, now, v.trade?.riskPerShare ?? null) ?? 0);
  const intent = moveTo(o, to, v);
  checkMovedLimit(o, intent.to, v, c);
  out.intents.push(intent);
  out.sayBack = printStatement({ kind: 'move order', order: o.id, by: { kind: 'to', price: literal(intent.to) } });
}

function checkMovedLimit(o: Order, to: Price, v: SymbolView, c: RunContext): void {
  if (o.stop === null || o.venueId !== null) checkCollar(to, o.side, v, c);
}

/** A stop may not be moved to where it would go at once. */
function moveTo(o: Order, raw: number, v: SymbolView): Extract<Intent, { kind: 'move' }> {
  const waits = o.stop !== null && o.venueId === null;
  if (!waits) return { kind: 'move', orderId: o.id, to: limitPrice(raw, o.side) };
  const to = roundToTick(raw, o.side === 'buy' ? 'up' : 'down');
  if (v.last !== null && signOf(o.side) * (to - v.last) <= 0) {
    refuse(
      'stop side',
      `A ${o.side} stop at ${formatPrice(to)} would go at once: ${v.symbol} last traded at ${formatPrice(v.last)}. Put it ${o.side === 'buy' ? 'above' : 'below'} that, or use flatten.`,
    );
  }
  return { kind: 'move', orderId: o.id, to };
}

function findOrder(which: number | 'last', c: RunContext): Order {
  if (which === 'last') {
    const own = liveOrders(c.broker).filter((o) => o.role === 'entry' || o.role === 'close');
    return own[own.length - 1] ?? refuse('no such order', 'No entry or closing order is working.');
  }
  const o = c.broker.orders[which];
  if (!o) return refuse('no such order', `There is no order ${which}.`);
  return isLive(o) ? o : refuse('no such order', `Too late: order ${which} is ${o.status === 'Filled' ? 'filled' : o.status.toLowerCase()} already.`);
}

function readCancel(s: Extract<Statement, { kind: 'cancel' }>, c: RunContext, out: Reading): void {
  let chosen: Order[];
  switch (s.what.kind) {
    case 'order':
      chosen = [findOrder(s.what.order, c)];
      break;
    case 'symbol': {
      const v = viewOf(s.what.symbol, c);
      out.symbol = v.symbol;
      chosen = liveOrders(c.broker).filter((o) => o.symbol === v.symbol);
      break;
    }
    case 'everything':
      chosen = liveOrders(c.broker);
      break;
    default:
      return unreachable(s.what);
  }
  if (chosen.length === 0) refuse('no such order', `No working order${out.symbol ? ` in ${out.symbol}` : ''} to cancel.`);
  const stops = chosen.filter((o) => o.role === 'stop');
  if (stops.length > 0) out.warnings.push(`Leaves ${stops.reduce((a, o) => a + openOf(o), 0)} ${stops[0]?.symbol} without a stop.`);
  out.intents.push({ kind: 'cancel', orderIds: chosen.map((o) => o.id) });
  out.sayBack = `${printStatement(s)} (${chosen.length === 1 ? `order ${chosen[0]?.id}` : `${chosen.length} orders`})`;
}

function readFlatten(s: Extract<Statement, { kind: 'flatten' }>, c: RunContext, out: Reading): void {
  const symbols = s.everything
    ? Object.values(c.broker.trades)
        .filter((t) => t.status === 'open')
        .map((t) => t.symbol)
    : [viewOf(s.symbol, c).symbol];
  const parts: string[] = [];
  for (const symbol of symbols) {
    const trade = openTradeOf(c.broker, symbol);
    const withdrawn = liveOrders(c.broker).filter((o) => o.symbol === symbol && (o.role === 'entry' || o.role === 'close'));
    if (withdrawn.length > 0) out.intents.push({ kind: 'cancel', orderIds: withdrawn.map((o) => o.id) });
    if (!trade) continue;
    const v = viewOf(symbol, c);
    const side = sideOf(trade.sign === 1 ? -1 : 1);
    const regular = c.session === 'regular';
    const limit = regular ? null : (collar(side, v.quote, v.last) ?? refuse('unknown price', `${symbol} has no price to flatten at.`));
    out.intents.push({
      kind: 'close',
      symbol,
      side,
      type: regular ? 'Market' : 'Limit',
      qty: positionOf(trade),
      limit,
      stop: null,
      extended: !regular,
      ...PLAIN_TERMS,
    });
    parts.push(`${side} ${positionOf(trade)} ${symbol} ${regular ? 'at market' : `at ${formatPrice(limit ?? 0)} or better`}`);
  }
  out.symbol = s.everything ? null : (symbols[0] ?? null);
  if (out.intents.length === 0)
    refuse('nothing to close', s.everything ? 'Nothing is open and nothing is working.' : `Nothing is open or working in ${symbols[0]}.`);
  out.sayBack = parts.length > 0 ? `${printStatement(s)} (${parts.join('; ')})` : `${printStatement(s)} (cancels what waits)`;
}

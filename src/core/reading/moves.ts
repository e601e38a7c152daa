import {
  instrumentNamed,
  type OffsetTree,
  type PricingTree,
  printTree,
  type Statement,
  type TreeIn,
  type TreeOf,
} from '../language/index.ts';
import type { SymbolView } from '../market/index.ts';
import { holdingOf, type Intent, isAtWork, type Order, priceOf, protects } from '../orders/index.ts';
import { formatPrice, type Price, roundToTick, signOf, unreachable } from '../units/index.ts';
import { readClose } from './closes.ts';
import { netted, readEntry } from './entries.ts';
import { beyondRange } from './exits.ts';
import { askFarMoves } from './far.ts';
import { askFarther } from './farther.ts';
import { viewOf } from './instruments.ts';
import {
  emptyReading,
  literal,
  openTradeOf,
  type Reading,
  type RunContext,
  refuse,
  type Staged,
} from './moment.ts';
import { entriesAndCloses, nameOf, newestOf, orderByNumber } from './orders-of.ts';
import { atLimit, lengthOf, limitPrice, measuresOf, namedOf, priceIn } from './prices.ts';
import { has, priceOrder, termsOf } from './pricing.ts';
import { closingShares, sharesFor } from './sizes.ts';

const waits = (o: Order): boolean => o.stop !== null && !isAtWork(o);
const stopPrice = (o: Order, raw: number, v: SymbolView): Price =>
  roundToTick(Math.max(1, raw), o.side === 'buy' ? 'up' : 'down', v.ticks);

/** Moves the stops of a position that wait. */
export function readMoveStop(s: TreeOf<'move stop'>, c: RunContext, out: Reading): void {
  const v = viewOf(s.instrument, c);
  out.symbol = v.symbol;
  const all = holdingOf(c.broker, c.account, v.symbol).orders.filter(protects);
  const stops = all.filter(waits);
  if (stops.length === 0) refuse({ code: 'no stop', symbol: v.symbol, triggered: all.length > 0 });
  const said: string[] = [];
  const moves: { order: Order; to: Price }[] = [];
  for (const o of stops) {
    const raw = stopTo(s.how, o, v, c);
    const intent = moveTo(o, raw, v);
    moves.push({ order: o, to: intent.to });
    if (intent.to !== o.stop) out.deeds.push({ kind: 'intent', intent });
    said.push(`order ${o.id} ${formatPrice(o.stop as Price)} → ${formatPrice(intent.to)}`);
  }
  askFarther(moves, v.symbol, c, out);
  const first = stops[0] as Order;
  const to = stopPrice(first, stopTo(s.how, first, v, c), v);
  if (s.how.kind === 'stop to') out.named.push(...namedOf(s.how.price, to));
  out.sayBack = printTree({
    ...s,
    instrument: instrumentNamed(v.symbol),
    how: { kind: 'stop to', price: literal(to) },
  });
  out.about = out.deeds.length === 0 ? 'there already' : said.join(', ');
}

/** Where a stop shall stand, not rounded. `by` brings it closer to the market. */
function stopTo(how: TreeIn<'stop move'>, o: Order, v: SymbolView, c: RunContext): number {
  const m = measuresOf(v, c, 'stop');
  const now = o.stop as Price;
  const closer = -signOf(o.side);
  switch (how.kind) {
    case 'stop to':
      return priceIn(how.price, m);
    case 'stop by':
      return now + closer * lengthOf(how.by, now, m);
    case 'stop way':
      return now + (how.way === 'up' ? 1 : -1) * lengthOf(how.by, now, m);
    case 'stop beyond':
      return beyondRange(how.range, how.by, -closer as 1 | -1, m);
    default:
      return unreachable(how);
  }
}

/** A stop may not be moved to where it would go at once. */
function moveTo(o: Order, raw: number, v: SymbolView): Extract<Intent, { kind: 'move' }> {
  if (!waits(o)) return { kind: 'move', orderId: o.id, to: limitPrice(raw, o.side, v.ticks) };
  const to = stopPrice(o, raw, v);
  const seen = o.on === 'last' ? v.last : v.quote[o.on];
  if (seen !== null && signOf(o.side) * (to - seen) <= 0)
    refuse({ code: 'stop side', side: o.side, symbol: v.symbol, stop: to, last: seen });
  return { kind: 'move', orderId: o.id, to };
}

/** Moves one order to a price, by a distance, or to another size. */
export function readMoveOrder(s: TreeOf<'move order'>, c: RunContext, out: Reading): void {
  const found =
    s.order.kind === 'last order'
      ? newestOf(s.order.instrument, c)
      : { order: orderByNumber(s.order.number, c) };
  if ('staged' in found) return nudge(found.staged, s.how, c, out);
  const o = found.order;
  const v = viewOf(o.symbol, c);
  out.symbol = v.symbol;
  if (s.how.kind === 'order size') return resizeTo(o, sizeAfter(s.how, o.qty), out);
  const now = priceOf(o) ?? refuse({ code: 'unpriced order', orderId: o.id });
  const m = measuresOf(v, c);
  const raw =
    s.how.kind === 'order to'
      ? priceIn(s.how.price, m)
      : now + (s.how.way === 'up' ? 1 : -1) * lengthOf(s.how.by, now, m);
  move(o, raw, now, v, out);
  const moves = [{ order: o, to: moveTo(o, raw, v).to }];
  askFarther(moves, v.symbol, c, out);
  askFarMoves(moves, s.how.kind === 'order to' ? s.how.price : null, v, c, out);
  if (s.how.kind === 'order to')
    out.named.push(...namedOf(s.how.price, roundToTick(Math.max(1, raw), 'nearest', v.ticks)));
  out.sayBack = printTree({
    kind: 'move order',
    order: { kind: 'numbered order', number: o.id },
    how: { kind: 'order to', price: literal(moveTo(o, raw, v).to) },
  });
}

function move(o: Order, raw: number, now: Price, v: SymbolView, out: Reading): void {
  const intent = moveTo(o, raw, v);
  if (intent.to !== now) out.deeds.push({ kind: 'intent', intent });
  out.about += `${out.about === '' ? '' : '; '}${nameOf(o)}${intent.to === now ? ', there already' : ` → ${formatPrice(intent.to)}`}`;
}

const sizeAfter = (how: TreeOf<'order size'>, now: number): number =>
  how.way === 'to' ? how.shares : now + (how.way === 'up' ? 1 : -1) * how.shares;

function resizeTo(o: Order, qty: number, out: Reading): void {
  out.addsRisk = o.role === 'entry' && qty > o.qty;
  if (qty !== o.qty) out.deeds.push({ kind: 'intent', intent: { kind: 'resize', orderId: o.id, qty } });
  out.sayBack = printTree({
    kind: 'move order',
    order: { kind: 'numbered order', number: o.id },
    how: { kind: 'order size', way: 'to', shares: Math.max(1, qty) },
  });
  out.about = `${nameOf(o)}, ${o.qty} → ${qty} in all`;
}

/** Changes what is staged: its price, or its size. */
function nudge(x: Staged, how: TreeIn<'order move'>, c: RunContext, out: Reading): void {
  const s = x.statement;
  let next: Staged['statement'];
  if (how.kind === 'order size') {
    const now = resolvedSize(x, c);
    const shares = sizeAfter(how, now);
    if (shares < 1) refuse({ code: 'quantity', qty: shares });
    next = { ...s, size: { kind: 'shares', shares } } as Staged['statement'];
  } else {
    const pricing =
      how.kind === 'order to' ? pricedAt(s.pricing, how.price) : shifted(s.pricing, how.way, how.by);
    if (!pricing)
      return refuse({
        code: 'no such order',
        which: 'What is staged goes at market; it has no price to move',
        symbol: x.symbol,
      });
    next = { ...s, pricing } as Staged['statement'];
  }
  out.symbol = x.symbol;
  out.deeds.push({ kind: 'restage', id: x.id, statement: next });
  out.sayBack = printTree({ ...next, staged: true });
  out.about = `staged for ${x.symbol}`;
}

/** Shares that a staged order would be for now. */
function resolvedSize(x: Staged, c: RunContext): number {
  const reading = emptyReading(x.statement);
  if (x.statement.kind === 'close') readClose(x.statement, c, reading);
  else readEntry(x.statement, c, reading);
  return reading.facts?.qty ?? 1;
}

function pricedAt(p: PricingTree | null, price: TreeOf<'order to'>['price']): PricingTree | null {
  if (p?.kind === 'stop order') return { ...p, trigger: price };
  if (p?.kind === 'sweep' || p?.kind === 'limit') return { ...p, price };
  return p === null || p.kind === 'through' ? atLimit(price) : null;
}

/** A price further up or down; one that follows a reference goes on following it. */
function shifted(p: PricingTree | null, way: 'up' | 'down', by: OffsetTree): PricingTree | null {
  const shift = { kind: way === 'up' ? 'plus' : 'minus', by } as const;
  const moved = (price: TreeOf<'order to'>['price']): TreeOf<'order to'>['price'] =>
    price.kind === 'sum'
      ? { ...price, shifts: [...price.shifts, shift] }
      : { kind: 'sum', base: price, shifts: [shift] };
  if (p?.kind === 'stop order') return { ...p, trigger: moved(p.trigger) };
  return p?.kind === 'limit' || p?.kind === 'sweep' ? { ...p, price: moved(p.price) } : null;
}

/** Moves all entries, or all targets, of a symbol: by a distance, or to a price. */
export function readMoveAll(s: TreeOf<'move all' | 'move all to'>, c: RunContext, out: Reading): void {
  const v = viewOf(s.instrument, c);
  out.symbol = v.symbol;
  const orders =
    s.which === 'entries'
      ? entriesAndCloses(v.symbol, c).filter((o) => o.role === 'entry')
      : holdingOf(c.broker, c.account, v.symbol).orders.filter((o) => o.role === 'target');
  const staged =
    s.which === 'entries'
      ? c.staged.filter((x) => x.symbol === v.symbol && x.statement.kind !== 'close')
      : [];
  const m = measuresOf(v, c);
  const from = (now: Price): number =>
    s.kind === 'move all to' ? priceIn(s.price, m) : now + (s.way === 'up' ? 1 : -1) * lengthOf(s.by, now, m);
  if (s.kind === 'move all to')
    out.named.push(...namedOf(s.price, roundToTick(Math.max(1, priceIn(s.price, m)), 'nearest', v.ticks)));
  const moves: { order: Order; to: Price }[] = [];
  for (const o of orders) {
    const now = priceOf(o);
    if (now === null) continue;
    move(o, from(now), now, v, out);
    moves.push({ order: o, to: moveTo(o, from(now), v).to });
  }
  askFarMoves(moves, s.kind === 'move all to' ? s.price : null, v, c, out);
  for (const x of staged) {
    const { pricing: p } = x.statement;
    const pricing = s.kind === 'move all to' ? pricedAt(p, s.price) : shifted(p, s.way, s.by);
    if (pricing) out.deeds.push({ kind: 'restage', id: x.id, statement: { ...x.statement, pricing } });
  }
  out.sayBack = printTree({ ...s, instrument: instrumentNamed(v.symbol) });
  if (out.deeds.length === 0 && orders.length === 0)
    refuse({ code: 'no such order', which: `No ${s.which} to move`, symbol: v.symbol });
}

type ReplaceTree = TreeOf<'replace last'> | TreeOf<'replace order'>;

/** Gives an order another price, size, kind, life or route: the size is the total, with what has filled. */
export function readReplace(s: ReplaceTree, c: RunContext, out: Reading): void {
  const found = s.kind === 'replace last' ? newestOf(s.instrument, c) : { order: orderByNumber(s.number, c) };
  if ('staged' in found) {
    const { staged } = found;
    const { size, pricing, life } = s.order;
    const next = { ...staged.statement, size, pricing, life } as Staged['statement'];
    out.symbol = staged.symbol;
    out.deeds.push({ kind: 'restage', id: staged.id, statement: next });
    out.sayBack = printTree({ ...next, staged: true });
    out.about = `staged for ${staged.symbol}`;
    return;
  }
  const o = found.order;
  const v = viewOf(o.symbol, c);
  out.symbol = v.symbol;
  checkVerb(s, o);
  const { pricing, life } = s.order;
  const priced = priceOrder(pricing, o.side, v, c, standIn(s, v.symbol));
  const qty = replacementShares(s, o, priced.expected, v, c);
  out.addsRisk = o.role === 'entry' && qty > o.qty;
  out.named.push(...priced.named);
  const named = s.kind === 'replace last' ? { instrument: instrumentNamed(v.symbol) } : {};
  out.sayBack = printTree({
    ...s,
    ...named,
    order: {
      ...s.order,
      size: { kind: 'shares', shares: qty },
      pricing: netted(priced.shown, o.side, v.symbol),
    },
  });
  const terms = termsOf(pricing, life, c);
  const extended = o.role === 'close' ? o.extended : has(life, 'extended hours');
  if (isAnotherKind(o, { ...terms, type: priced.type, extended, works: priced.works !== undefined }, life)) {
    out.about = `${nameOf(o)}: called back first, then sent anew with its exits`;
    out.deeds.push({
      kind: 'intent',
      intent: {
        kind: 'retype',
        orderId: o.id,
        type: priced.type,
        qty,
        limit: priced.limit,
        stop: priced.stop,
        on: priced.on,
        extended: life.length === 0 ? o.extended : extended,
        ...(priced.works ? { works: priced.works } : {}),
        ...(life.length === 0 && terms.route === o.route
          ? { timeInForce: o.timeInForce, route: o.route, postOnly: o.postOnly, until: o.until }
          : terms),
      },
    });
    return;
  }
  const to = waits(o) ? priced.stop : priced.limit;
  if (qty !== o.qty) out.deeds.push({ kind: 'intent', intent: { kind: 'resize', orderId: o.id, qty } });
  if (to !== null && to !== priceOf(o)) out.deeds.push({ kind: 'intent', intent: moveTo(o, to, v) });
  out.about =
    out.deeds.length === 0 ? `${nameOf(o)}, the same already` : `${nameOf(o)}, ${o.qty} → ${qty} in all`;
}

/** A replacement keeps the side of its order, and exits follow their shares. */
function checkVerb(s: ReplaceTree, o: Order): void {
  if (o.role !== 'entry' && o.role !== 'close') refuse({ code: 'plan size', orderId: o.id });
  const verbs =
    o.role === 'close'
      ? ['close', o.side === 'buy' ? 'cover' : 'sell']
      : ['add', o.side === 'buy' ? 'buy' : 'short'];
  if (!verbs.includes(s.order.verb))
    refuse(
      { code: 'other side', orderId: o.id, side: o.side },
      { ...s, order: { ...s.order, verb: verbs[1] as 'buy' } },
    );
}

/** A sentence that stands for the replacement while its price is worked out. */
const standIn = (s: ReplaceTree, symbol: string) =>
  ({
    kind: 'enter',
    staged: false,
    verb: 'buy',
    size: { kind: 'shares', shares: 1 },
    instrument: instrumentNamed(symbol),
    pricing: s.order.pricing,
    life: s.order.life,
    plan: null,
    exits: [],
    chain: [],
  }) as const;

/** Whether a replacement asks for more than another price and size: another kind, life or route. Without a word about its life that stays. */
function isAnotherKind(
  o: Order,
  to: Pick<Order, 'type' | 'route' | 'timeInForce' | 'postOnly' | 'until' | 'extended'> & { works: boolean },
  life: TreeOf<'replacement'>['life'],
): boolean {
  if (to.type !== o.type || to.route !== o.route || to.works || o.works !== undefined) return true;
  if (o.stop !== null && !waits(o)) return true;
  if (life.length === 0) return false;
  return (
    to.timeInForce !== o.timeInForce ||
    to.postOnly !== o.postOnly ||
    to.until !== o.until ||
    to.extended !== o.extended
  );
}

function replacementShares(s: ReplaceTree, o: Order, at: Price, v: SymbolView, c: RunContext): number {
  const held = openTradeOf(c, v.symbol);
  const position = held ? held.entered - held.exited : 0;
  const { size } = s.order;
  if (o.role === 'close' || size.kind === 'part')
    return closingShares(
      size.kind === 'power' ? { kind: 'part', part: { kind: 'all' } } : (size as TreeIn<'close size'>),
      position,
      at,
      c,
      v.symbol,
    );
  return sharesFor(size, {
    symbol: v.symbol,
    side: o.side,
    at,
    unlimited: o.limit === null,
    perShare: v.trade?.riskPerShare ?? null,
    held: position,
    c,
    withSize: (fresh) => ({ ...s, order: { ...s.order, size: fresh } }) as Statement,
    lastOf: (x) => c.view(x)?.last ?? null,
  });
}

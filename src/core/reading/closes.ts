import { isOption, multiplierOfSymbol, rootOf } from '../instruments/index.ts';
import {
  instrumentNamed,
  type LifeTree,
  type PricingTree,
  printTree,
  type TreeOf,
} from '../language/index.ts';
import type { SymbolView } from '../market/index.ts';
import {
  collar,
  heldByCloses,
  holdingOf,
  type Intent,
  isStaying,
  openTrade,
  positionOf,
} from '../orders/index.ts';
import { formatPrice, money, type Side, sideOf, signOf } from '../units/index.ts';
import { readTrailing } from './attach.ts';
import { costsOf } from './costs.ts';
import { chain, checkNet, netted, stage, unstage } from './entries.ts';
import { farPast, isOfQuote } from './far.ts';
import { viewOf } from './instruments.ts';
import { checkAlone, legHeld } from './legs.ts';
import { accountOf, openTradeOf, type Reading, type RunContext, refuse } from './moment.ts';
import {
  haltWarning,
  has,
  type Priced,
  priceOrder,
  restWarning,
  THROUGH,
  termsOf,
  withExtended,
  worksText,
} from './pricing.ts';
import type { Question } from './questions.ts';
import { closingShares } from './sizes.ts';
import { takenText } from './takes-off.ts';
import { unwait } from './waits.ts';

/** Sell, cover or close: reduce-only, capped at what no closing order holds yet. */
export function readClose(s: TreeOf<'close'>, c: RunContext, out: Reading): void {
  const v = viewOf(s.instrument, c);
  out.symbol = v.symbol;
  const leg = openTradeOf(c, v.symbol) ? null : legHeld(v.symbol, c);
  const trade =
    leg?.trade ??
    openTradeOf(c, v.symbol) ??
    refuse({ code: 'no position', symbol: v.symbol, verb: 'close' });
  const right = trade.sign === 1 ? 'sell' : 'cover';
  if (s.verb !== 'close' && s.verb !== right)
    refuse(
      { code: 'wrong way', symbol: v.symbol, held: trade.sign === 1 ? 'long' : 'short', verb: s.verb, right },
      { ...s, verb: right },
    );
  const side = sideOf(-trade.sign as 1 | -1);
  const pricing = s.pricing ?? THROUGH;
  if (pricing.kind === 'trailing') return readTrailing(s, pricing, c, out);
  const waits = pricing.kind === 'stop order';
  const position = positionOf(trade);
  const held = heldByCloses(
    holdingOf(c.broker, c.account, leg?.vertical ?? v.symbol).orders,
    leg ? false : waits,
  );
  const free = position - held;
  checkNet(pricing, side, v.symbol, s);
  const priced = priceOrder(pricing, side, v, c, s);
  const asked = closingShares(
    s.size,
    s.size.kind === 'part' ? Math.max(0, free) : position,
    priced.expected,
    c,
    v.symbol,
  );
  const qty = Math.min(asked, free);
  if (qty < 1) refuse({ code: 'nothing to close', symbol: v.symbol, position, held });
  checkAlone(s, v.symbol, { leg, qty }, c, out);
  if (asked > free) out.warnings.push(`Reduce-only: ${qty} shares, because that is all there is to close.`);
  out.facts = factsOfClose(qty, priced, side, v, c);
  out.named.push(...priced.named);
  const extended =
    pricing.kind !== 'auction' &&
    pricing.kind !== 'hidden mid' &&
    !isOption(v.symbol) &&
    (has(s.life, 'extended hours') || c.session !== 'regular');
  out.warnings.push(...haltWarning(v), ...(s.verb === 'close' ? restWarning(priced, side, v) : []));
  if (waits && !lasts(s.life))
    out.warnings.push(
      `A day order: it ends with its session and leaves ${qty} ${v.symbol} without it; add “gtc” to keep it.`,
    );
  out.sayBack = printTree({
    ...s,
    size: { kind: 'shares', shares: qty },
    instrument: instrumentNamed(v.symbol),
    pricing: netted(priced.shown, side, v.symbol),
    life: extended ? withExtended(s.life) : s.life,
  });
  out.about = worksText(priced, c);
  const intent: Intent = {
    kind: 'close',
    account: c.account,
    symbol: v.symbol,
    type: priced.type,
    qty,
    limit: priced.limit,
    stop: priced.stop,
    ...(priced.on === 'last' ? {} : { on: priced.on }),
    extended,
    ...(priced.works ? { works: priced.works } : {}),
    ...(leg ? { apart: leg.vertical } : {}),
    ...termsOf(pricing, s.life, c),
  };
  if (qty < position) out.warnings.push(...takenText(intent, v.symbol, c));
  out.asks.push(...farThrough(s, pricing, { ...priced, side }, v, c));
  if (s.staged) return stage(s, instrumentNamed(v.symbol), c, out);
  out.deeds.push({ kind: 'intent', intent });
  chain(s.chain, v.symbol, c, out);
}

/**
 * A closing limit that is not written from the quote and would take far more than usual through it: it may have been meant as a stop. What goes by
 * itself asks nobody, and what is staged asks once it is sent.
 */
function farThrough(
  s: TreeOf<'close'>,
  p: PricingTree,
  { type, limit, works, side }: Priced & { side: Side },
  v: SymbolView,
  c: RunContext,
): Question[] {
  const written = p.kind === 'limit' || p.kind === 'sweep' ? p.price : p.kind === 'working' ? p.to : null;
  if (written === null || isOfQuote(written) || type !== 'Limit' || c.byItself || s.staged) return [];
  const most = works?.to ?? limit;
  const quote = most === null ? null : farPast(most, side, v, c);
  if (most === null || quote === null) return [];
  const stop: PricingTree = {
    kind: 'stop order',
    way: side === 'buy' ? 'above' : 'below',
    trigger: written,
    room: null,
    on: null,
  };
  // No stop of an option waits at the exchange without a limit.
  const instead = isOption(v.symbol) ? [] : [printTree({ ...s, pricing: stop })];
  return [{ kind: 'far through', symbol: v.symbol, side, limit: most, at: quote, instead }];
}

/** What a close of so many shares brings and costs. */
function factsOfClose(
  qty: number,
  priced: Priced,
  side: Side,
  v: SymbolView,
  c: RunContext,
): NonNullable<Reading['facts']> {
  const out = { shares: qty, price: priced.expected, rests: restsBeyondLast(priced, side, v) };
  return {
    side,
    qty,
    price: priced.expected,
    stop: null,
    cost: money(priced.expected * qty * multiplierOfSymbol(v.symbol)),
    risk: null,
    units: null,
    reward: null,
    costs: costsOf(v.symbol, side, out, c),
    targets: [],
  };
}

/** Whether a close waits in the book: by the last price, since the quote may be another one after the lines before it. */
const restsBeyondLast = (p: Priced, side: Side, v: SymbolView): boolean =>
  p.type === 'Limit' && p.limit !== null && v.last !== null && signOf(side) * (p.limit - v.last) < 0;

const lasts = (life: readonly LifeTree[]): boolean => has(life, 'gtc') || has(life, 'until date');

/** Out of one symbol, or of all: entries, closes and staged orders end, exits give way, all shares go. */
export function readFlatten(
  s: TreeOf<'flatten'> | TreeOf<'flatten everything'>,
  c: RunContext,
  out: Reading,
): void {
  const one = s.kind === 'flatten' ? viewOf(s.instrument, c).symbol : null;
  const everywhere = s.kind === 'flatten everything' && s.everywhere;
  const parts = (everywhere ? Object.values(c.broker.accounts) : [accountOf(c)]).flatMap(({ id, rules }) => {
    const mine = flattenIn(one, id === c.account ? c : c.in(id), out);
    return everywhere && mine.length > 0 ? [`${rules.name}: ${mine.join('; ')}`] : mine;
  });
  out.symbol = one;
  if (s.kind === 'flatten')
    out.sayBack = printTree({ ...s, instrument: one === null ? null : instrumentNamed(one) });
  out.about =
    parts.length > 0 ? parts.join('; ') : `nothing is open or working${one === null ? '' : ` in ${one}`}`;
}

/** Flattens a symbol, or every one, in the account of a moment. @returns what that does, in words. */
function flattenIn(one: string | null, c: RunContext, out: Reading): string[] {
  const held = Object.values(c.broker.holdings).flatMap((h) => (h.account === c.account ? [h.symbol] : []));
  const dropped = unstage(one, c, out);
  const waited = unwait(one, c, out);
  // What is short first, and shares last: they may stand behind a call that is short.
  const ofIt = one === null || isOption(one) ? [] : held.filter((s) => isOption(s) && rootOf(s) === one);
  const all = [...new Set(one === null ? held : [...ofIt, one])].sort((a, b) => rankOf(a, c) - rankOf(b, c));
  const parts = all.flatMap((symbol) => flattenOne(symbol, c, out));
  if (dropped > 0) parts.push(`drops ${dropped} staged`);
  if (waited > 0) parts.push(`drops ${waited} waiting`);
  return parts;
}

/** When something is flattened: options that are short, other options and verticals, shares. */
const rankOf = (symbol: string, c: RunContext): number =>
  isOption(symbol) ? (openTradeOf(c, symbol)?.sign === -1 ? 0 : 1) : 2;

/** @returns what flattening a symbol does, in words; nothing where nothing is there. */
function flattenOne(symbol: string, c: RunContext, out: Reading): string[] {
  const h = holdingOf(c.broker, c.account, symbol);
  const trade = openTrade(h);
  const waiting = h.orders.filter(isStaying).length;
  if (!trade && waiting === 0) return [];
  const v = viewOf(symbol, c);
  const side = sideOf(trade?.sign === 1 ? -1 : 1);
  // Options wait for the session, and go at market then.
  const sleeps = isOption(symbol) && c.session !== 'regular';
  const regular = c.session === 'regular' || sleeps;
  const limit =
    regular || !trade
      ? null
      : (collar(side, v.quote, v.last, v.ticks) ?? refuse({ code: 'unknown price', text: 'last', symbol }));
  out.deeds.push({ kind: 'intent', intent: { kind: 'flatten', account: c.account, symbol, limit } });
  if (!trade) return [`cancels ${waiting} ${waiting === 1 ? 'order' : 'orders'} in ${symbol}`];
  out.warnings.push(...haltWarning(v));
  return [
    `${side} ${positionOf(trade)} ${symbol} ${sleeps ? 'at the open: options trade from 09:30 to 16:00' : regular ? 'at market' : `at ${formatPrice(limit ?? 0)} or better`}`,
  ];
}

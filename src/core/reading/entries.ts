import { approvalOf } from '../account/index.ts';
import { instrumentOf, isOption, mostToLose } from '../instruments/index.ts';
import {
  type Exit,
  type InstrumentTree,
  instrumentName,
  instrumentNamed,
  nearestName,
  type PriceTree,
  type PricingTree,
  printTree,
  type Statement,
  type TreeOf,
} from '../language/index.ts';
import type { SymbolView } from '../market/index.ts';
import { holdingOf, newestScope, positionOf, stopPriceOf, type Trade } from '../orders/index.ts';
import { clockOf, MINUTE, type Price, type Side, sideOf, signOf } from '../units/index.ts';
import { type Basis, bareText, resolveExits } from './exits.ts';
import { factsOf, outlookFor } from './facts.ts';
import { meantBy, viewOf, withRoot } from './instruments.ts';
import { accountOf, openTradeOf, type Reading, type RunContext, refuse } from './moment.ts';
import { atLimit } from './prices.ts';
import {
  haltWarning,
  has,
  mustWake,
  priceOrder,
  rests,
  shortWarnings,
  THROUGH,
  termsOf,
  withExtended,
  worksText,
} from './pricing.ts';
import type { Question } from './questions.ts';
import { sharesFor } from './sizes.ts';
import { numbersOf } from './waits.ts';
import { beforeItGoes } from './warnings.ts';

type EntryTree = TreeOf<'enter'> | TreeOf<'add'>;

/** The exits of a plan by its name. */
export function planOf(name: string, c: RunContext, withPlan: (name: string) => Statement): readonly Exit[] {
  const have = Object.keys(c.plans);
  const nearest = nearestName(name, have);
  const found =
    c.plans[name] ?? refuse({ code: 'no plan', name, nearest, have }, withPlan(nearest ?? c.planFor.long));
  return found.exits;
}

/** A plan may have hours, outside of which no entry takes it. */
function checkHours(name: string, c: RunContext): void {
  const hours = c.plans[name]?.hours ?? null;
  const now = Math.floor(clockOf(c.now) / MINUTE);
  if (hours && (now < hours.from || now >= hours.to))
    refuse({ code: 'plan hours', name, from: hours.from * MINUTE, to: hours.to * MINUTE, now: c.now });
}

/** The side that a sentence enters on: an addition goes the way of the position. */
function sideOfEntry(s: EntryTree, v: SymbolView, c: RunContext): Side {
  if (s.kind === 'enter') return s.verb === 'buy' ? 'buy' : 'sell';
  const t = openTradeOf(c, v.symbol) ?? refuse({ code: 'no position', symbol: v.symbol, verb: 'add to' });
  return sideOf(t.sign);
}

/** An entry with one of its exits changed. */
const withExitOf =
  (s: EntryTree) =>
  (old: Exit, instead: Exit): Statement => ({
    ...s,
    plan: null,
    exits: s.exits.map((e) => (e === old ? instead : e)),
  });

/** Buy, short or add: an order with the exits that belong to its shares. */
export function readEntry(s: EntryTree, c: RunContext, out: Reading): void {
  const meant = meantBy(s.instrument ?? instrumentNamed(c.focus ?? refuse({ code: 'no focus' })), c, false);
  const v = viewOf(meant.name, c);
  // Who buys a vertical by its cheaper strike sells it by its dearer one.
  const side = turned(sideOfEntry(s, v, c), meant.turned);
  const held = openTradeOf(c, v.symbol);
  out.symbol = v.symbol;
  out.addsRisk = true;
  checkCovered(v.symbol, side, c);
  const pricing = s.pricing ?? THROUGH;
  checkNet(pricing, side, v.symbol, s);
  const priced = priceOrder(pricing, side, v, c, s);
  const extended = has(s.life, 'extended hours');
  const basis: Basis = { side, from: priced.expected, held: false, view: v, c };
  const exits = exitsFor(s, c);
  const resolved =
    exits.length === 0 ? null : resolveExits(exits, basis, extended, withExitOf({ ...s, exits }));
  const joins = resolved === null && held !== undefined && held.sign === signOf(side);
  const stopped = resolved?.perShare ?? (joins && held ? toStopOf(held, priced.expected, c) : null);
  const perShare = stopped ?? atStake(v.symbol, side, priced.expected);
  const qty = sharesFor(s.size, {
    symbol: v.symbol,
    side,
    at: priced.expected,
    unlimited: priced.limit === null,
    perShare,
    held: held ? positionOf(held) : 0,
    c,
    withSize: (size) => ({ ...s, size }),
    lastOf: (symbol) => c.view(symbol)?.last ?? null,
  });
  out.facts = {
    ...factsOf(basis, { qty, resolved, perShare, inQueue: rests(priced, side, v) }, c),
    ...outlookFor(basis, qty),
  };
  out.named.push(...priced.named, ...(resolved?.named ?? []));
  out.sayBack = printTree({
    ...s,
    size: { kind: 'shares', shares: qty },
    instrument: meant.shown,
    pricing: netted(priced.shown, side, v.symbol),
    exits: resolved?.shown ?? [],
    plan: null,
  });
  out.about = [s.plan === null ? '' : `plan “${s.plan}”`, worksText(priced, c)].filter(Boolean).join(', ');
  out.warnings.push(...(side === 'sell' ? shortWarnings(v) : []), ...haltWarning(v));
  const asks = sleeping(s, pricing, v.symbol, c);
  out.asks.push(...asks);
  out.warnings.push(
    ...beforeItGoes({
      priced,
      exits,
      taken: meant.taken,
      resolved,
      facts: out.facts,
      life: s.life,
      extended,
      auction: pricing.kind === 'auction',
      asked: asks.length > 0,
      v,
      c,
    }),
  );
  if (!(joins && (v.trade?.stop ?? null) !== null))
    out.warnings.push(...bareText(resolved?.plan ?? null, qty, v));
  const terms = termsOf(pricing, s.life, c);
  mustWake(s, terms.until ?? null, c);
  if (s.staged) return stage(s, withRoot(s.instrument ?? instrumentNamed(v.symbol), c.focus), c, out);
  out.deeds.push({
    kind: 'intent',
    intent: {
      kind: 'entry',
      account: c.account,
      symbol: v.symbol,
      side,
      type: priced.type,
      qty,
      limit: priced.limit,
      stop: priced.stop,
      ...(priced.on === 'last' ? {} : { on: priced.on }),
      extended,
      plan: resolved?.plan ?? null,
      ...(joins ? { joins } : {}),
      ...(priced.works ? { works: priced.works } : {}),
      ...terms,
      sentence: printTree(s),
    },
  });
  chain(s.chain, v.symbol, c, out);
}

/**
 * An entry that could work now and is not said to: it would sleep until the session opens. A stop sleeps as a matter of course, an auction has its
 * time; what is staged asks once it is sent, and what goes by itself asks nobody.
 */
function sleeping(s: EntryTree, p: PricingTree, symbol: string, c: RunContext): Question[] {
  const open = c.session === 'regular';
  const waits = has(s.life, 'at next open');
  if (open && waits)
    refuse({ code: 'open already' }, { ...s, life: s.life.filter((l) => l.kind !== 'at next open') });
  if (open || waits || has(s.life, 'extended hours') || s.staged || c.byItself) return [];
  if (p.kind === 'stop order' || p.kind === 'auction') return [];
  const instead = [
    ...(isOption(symbol) ? [] : [printTree({ ...s, life: withExtended(s.life) })]),
    printTree({ ...s, life: [{ kind: 'at next open' }, ...s.life] }),
  ];
  return [{ kind: 'sleeps', symbol, session: c.session, instead }];
}

/** What goes as the order just read fills. Its symbols and names are looked at now, its numbers when it goes. */
export function chain(then: TreeOf<'enter'>['chain'], symbol: string, c: RunContext, out: Reading): void {
  for (const x of then) {
    const orders = x.orders.map((order) => {
      const own = order.instrument === null ? instrumentNamed(symbol) : withRoot(order.instrument, c.focus);
      viewOf(own, c);
      return { order: { ...order, instrument: own }, of: instrumentName(own) };
    });
    const [first] = orders;
    const at = { kind: 'chain', nth: 0, account: c.account } as const;
    if (x.kind === 'once filled')
      for (const { order, of } of orders) out.deeds.push({ ...at, symbol: of, order });
    else if (first) {
      out.named.push(...numbersOf(x.condition, first.of, c));
      const { condition, until } = x;
      out.deeds.push({
        ...at,
        symbol: first.of,
        order: { kind: 'when', newly: false, condition, until, actions: orders.map((o) => o.order) },
      });
    }
  }
}

/** Keeps an order for a second press; nothing is sent. */
export function stage(
  s: EntryTree | TreeOf<'close'>,
  instrument: InstrumentTree,
  c: RunContext,
  out: Reading,
): void {
  out.addsRisk = false;
  const statement = { ...s, instrument, staged: false };
  out.deeds.push({ kind: 'stage', account: c.account, symbol: instrumentName(instrument), statement });
}

/** The exits that a sentence brings: its own, or those of its plan, where that has its hours. */
function exitsFor(s: EntryTree, c: RunContext): readonly Exit[] {
  if (s.plan === null) return s.exits;
  const exits = planOf(s.plan, c, (plan) => ({ ...s, plan }));
  checkHours(s.plan, c);
  return exits;
}

/** How far it is from a price to the stop that shares come under that join a position; null without one, or where it stands at a gain. */
function toStopOf(t: Trade, from: number, c: RunContext): number | null {
  const scope = newestScope(holdingOf(c.broker, c.account, t.symbol), t);
  const stop = scope && stopPriceOf(scope);
  const away = stop == null ? 0 : t.sign * (from - stop);
  return away > 0 ? away : null;
}

const turned = (side: Side, really: boolean): Side => (really ? (side === 'buy' ? 'sell' : 'buy') : side);
/** An option without a stop risks what it can lose. */
const atStake = (symbol: string, side: Side, at: Price): number | null =>
  isOption(symbol) ? mostToLose(symbol, signOf(side), at) : null;

/** What could lose without end is sold by nobody here. */
function checkCovered(symbol: string, side: Side, c: RunContext): void {
  if (!isOption(symbol) || Number.isFinite(mostToLose(symbol, signOf(side), 0))) return;
  const { rules } = accountOf(c);
  refuse({
    code: 'options approval',
    symbol,
    account: rules.name,
    has: approvalOf(rules),
    needs: 'uncovered calls',
  });
}

/**
 * A net price says which way the money goes, and only one way can be: what the legs cannot earn is refused of anything, and never turned into the
 * other. A vertical that is opened has to say it.
 */
export function checkNet(p: PricingTree, side: Side, symbol: string, s: EntryTree | TreeOf<'close'>): void {
  const net = side === 'buy' ? 'debit' : 'credit';
  const wrong = p.kind === 'limit' && (net === 'debit' ? p.credit : p.debit);
  if (wrong) refuse({ code: 'net price', symbol, net, said: true });
  if (instrumentOf(symbol).kind !== 'vertical' || s.kind === 'close') return;
  if (p.kind === 'limit' && (p.credit || p.debit)) return;
  const price = p.kind === 'limit' ? p.price : MID;
  refuse({ code: 'net price', symbol, net, said: false }, { ...s, pricing: atLimit(price, net) });
}
const MID: PriceTree = { kind: 'midpoint' };

/** A price of a vertical with the word for its way. */
export const netted = (p: PricingTree, side: Side, symbol: string): PricingTree =>
  p.kind === 'limit' && instrumentOf(symbol).kind === 'vertical'
    ? atLimit(p.price, side === 'buy' ? 'debit' : 'credit')
    : p;

/** Drops what is staged of a symbol. @returns how many. */
export function unstage(
  symbol: string | null,
  c: RunContext,
  out: Reading,
  which: (x: RunContext['staged'][number]) => boolean = () => true,
): number {
  const ids = c.staged.filter((x) => (symbol === null || x.symbol === symbol) && which(x)).map((x) => x.id);
  if (ids.length > 0) out.deeds.push({ kind: 'unstage', ids });
  return ids.length;
}

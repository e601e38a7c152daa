import { approvalOf } from '../account/index.ts';
import {
  instrumentOf,
  isOption,
  legsOf,
  mostToLose,
  multiplierOfSymbol,
  rootOf,
} from '../instruments/index.ts';
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
import { fairGreeks, outlookOf, YEAR_DAYS } from '../options/index.ts';
import {
  accountNow,
  allot,
  collar,
  holdingOf,
  type Intent,
  lossOfStops,
  needOf,
  newestScope,
  PLAIN_TERMS,
  positionOf,
  stopPriceOf,
  type Trade,
} from '../orders/index.ts';
import {
  clockOf,
  MINUTE,
  type Money,
  money,
  type Price,
  roundToTick,
  type Side,
  sideOf,
  signOf,
} from '../units/index.ts';
import { bothWays, costsOf, type Trading } from './costs.ts';
import { type Basis, bareText, type Resolved, resolveExits, rewardOf, rewardUnits } from './exits.ts';
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
import { numbersOf, unwait } from './waits.ts';
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
  const withExit = (old: Exit, instead: Exit): Statement => ({
    ...s,
    plan: null,
    exits: exits.map((e) => (e === old ? instead : e)),
  });
  const resolved = exits.length === 0 ? null : resolveExits(exits, basis, extended, withExit);
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
    ...factsOf(qty, basis, resolved, perShare, rests(priced, side, v), c),
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

function factsOf(
  qty: number,
  b: Basis,
  resolved: Resolved | null,
  perShare: number | null,
  inQueue: boolean,
  c: RunContext,
): NonNullable<Reading['facts']> {
  const each = multiplierOfSymbol(b.view.symbol);
  const entry = { shares: qty, price: b.from, rests: inQueue };
  const outs = outsOf(resolved, b, qty);
  const cost = money(b.from * qty * each);
  // A part without a stop risks nothing that is known; what a whole order risks is what the trade's R will be.
  const stops = resolved?.losses ?? [];
  const loss = stops.length > 0 ? lossOfStops(stops, qty) : perShare === null ? null : perShare * qty;
  const place = resolved?.plan.stops[0]?.place ?? null;
  const stop =
    place &&
    (place.kind === 'at'
      ? place.price
      : roundToTick(Math.max(1, b.from - signOf(b.side) * place.units), 'nearest', b.view.ticks));
  return {
    side: b.side,
    qty,
    price: b.from,
    stop,
    cost,
    risk: loss === null ? null : money(Math.round(loss * each)),
    units: loss === null ? null : (loss * each) / accountOf(c).rules.riskUnit,
    reward: resolved && rewardOf(resolved, b, qty),
    costs: bothWays(b.view.symbol, b.side, entry, [...outs.targets, ...outs.rest], c),
    targets: targetsOf(outs.targets, entry, b),
    power: powerOf(b, qty, c),
  };
}

/** What may come of an option or a vertical, for all of it. */
function outlookFor(b: Basis, qty: number): Pick<NonNullable<Reading['facts']>, 'outlook'> {
  const { symbol } = b.view;
  const m = isOption(symbol) ? b.c.chain(rootOf(symbol)) : null;
  const sign = signOf(b.side);
  const o = m && outlookOf(symbol, sign, b.from, m);
  if (!m || !o) return {};
  const all = (perShare: number): Money => money(Math.round(perShare * qty * multiplierOfSymbol(symbol)));
  const theta = legsOf(symbol).reduce((a, l) => a + l.sign * fairGreeks(l.contract, m).theta, 0);
  return {
    outlook: {
      most: o.most === null ? null : all(o.most),
      least: o.least === null ? null : all(o.least),
      even: o.even,
      profit: o.profit,
      half: o.half,
      perDay: all((sign * theta) / YEAR_DAYS),
    },
  };
}

/** The targets of a plan as orders that rest, and one more for the shares that no target takes. */
function outsOf(resolved: Resolved | null, b: Basis, qty: number): { targets: Trading[]; rest: Trading[] } {
  const places = resolved?.plan.targets ?? [];
  const parts = allot(
    places.map((t) => t.part),
    qty,
  );
  const targets = places.map(({ place }, i) => {
    const gain = rewardUnits(place, b, resolved?.perShare ?? null);
    const price = roundToTick(Math.max(1, b.from + signOf(b.side) * gain), 'nearest', b.view.ticks);
    return { shares: parts[i] as number, price, rests: true };
  });
  const left = qty - targets.reduce((a, t) => a + t.shares, 0);
  return { targets, rest: left > 0 ? [{ shares: left, price: b.from, rests: false }] : [] };
}

/** Each target with its price and shares, and what it makes after its own order and its part of the entry's costs. */
function targetsOf(
  targets: readonly Trading[],
  entry: Trading,
  b: Basis,
): NonNullable<Reading['facts']>['targets'] {
  const { symbol } = b.view;
  const out = b.side === 'buy' ? 'sell' : 'buy';
  const paid = costsOf(symbol, b.side, entry, b.c);
  return targets.map(({ price, shares, rests }) => {
    const gain = signOf(b.side) * (price - b.from) * shares * multiplierOfSymbol(symbol);
    const costs = costsOf(symbol, out, { price, shares, rests }, b.c) + (paid * shares) / entry.shares;
    return { price: price as Price, shares, net: money(Math.round(gain - costs)) };
  });
}

function powerOf(b: Basis, qty: number, c: RunContext): { used: Money; left: Money } {
  const used = needOf(
    accountOf(c),
    { symbol: b.view.symbol, side: b.side, limit: b.from, stop: null },
    qty,
    null,
  );
  const have = accountNow(c.broker, c.account, (s) => c.view(s)?.last ?? null).buyingPower;
  return { used: money(Math.round(used)), left: money(Math.round(have - used)) };
}

/** Turns the position: out at once, and as many shares the other way once it is flat. */
export function readReverse(s: TreeOf<'reverse'>, c: RunContext, out: Reading): void {
  const v = viewOf(s.instrument, c);
  const t = openTradeOf(c, v.symbol) ?? refuse({ code: 'no position', symbol: v.symbol, verb: 'reverse' });
  out.symbol = v.symbol;
  out.addsRisk = true;
  const side = sideOf(-t.sign as 1 | -1);
  const regular = c.session === 'regular';
  const limit = regular
    ? null
    : (collar(side, v.quote, v.last, v.ticks) ??
      refuse({ code: 'unknown price', text: 'last', symbol: v.symbol }));
  const expected = ((side === 'buy' ? v.quote.ask : v.quote.bid) ??
    v.last ??
    refuse({ code: 'unknown price', text: 'last', symbol: v.symbol })) as Price;
  const qty = positionOf(t);
  const basis: Basis = { side, from: expected, held: false, view: v, c };
  const name = s.plan ?? (s.exits.length > 0 ? null : side === 'buy' ? c.planFor.long : c.planFor.short);
  const exits = name === null ? s.exits : planOf(name, c, (plan) => ({ ...s, plan }));
  const resolved = resolveExits(exits, basis, !regular, (old, instead) => ({
    ...s,
    plan: null,
    exits: exits.map((e) => (e === old ? instead : e)),
  }));
  out.facts = factsOf(qty, basis, resolved, resolved.perShare, false, c);
  out.sayBack = printTree({ ...s, instrument: instrumentNamed(v.symbol), plan: null, exits: resolved.shown });
  out.about = `${side} ${qty} to close, then ${qty} to ${side === 'sell' ? 'go short' : 'go long'}${regular ? ' at market' : ''}${name === null ? '' : `, plan “${name}”`}`;
  out.warnings.push(...(side === 'sell' ? shortWarnings(v) : []), ...haltWarning(v));
  const entry: Intent = {
    ...PLAIN_TERMS,
    kind: 'entry',
    account: c.account,
    symbol: v.symbol,
    side,
    type: regular ? 'Market' : 'Limit',
    qty,
    limit,
    stop: null,
    extended: !regular,
    plan: resolved.plan,
    afterFlat: true,
    sentence: printTree(s),
  };
  unstage(v.symbol, c, out);
  unwait(v.symbol, c, out);
  out.deeds.push(
    { kind: 'intent', intent: { kind: 'flatten', account: c.account, symbol: v.symbol, limit } },
    { kind: 'intent', intent: entry },
  );
}

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

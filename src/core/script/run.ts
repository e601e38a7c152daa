import { type AccountRules, type AccountView, commissionFor, type FeeTable } from '../account/index.ts';
import {
  allot,
  type Broker,
  collar,
  type ExitPlan,
  type Intent,
  isLive,
  liveOrders,
  type Order,
  type OrderType,
  openOf,
  positionOf,
  type Trade,
} from '../orders/index.ts';
import {
  formatMoney,
  formatPrice,
  type Money,
  money,
  moneyFromDollars,
  type Price,
  roundToTick,
  type SessionKind,
  type Side,
  sideOf,
  signOf,
  unreachable,
} from '../units/index.ts';
import { described, distanceValue, limitPrice, literal, priceValue, type SymbolView } from './prices.ts';
import { printPrice, printStatement } from './print.ts';
import type { Exit, Pricing, Statement } from './tree.ts';

/** Everything a script may look at. Running is a pure function of (tree, this). */
export interface RunContext {
  now: number;
  session: SessionKind;
  focus: string | null;
  view(symbol: string): SymbolView | null;
  broker: Broker;
  rules: AccountRules;
  account: AccountView;
  fees: FeeTable;
}

/** Why a sentence cannot go now: the rule, the value seen and what would pass, in one sentence. */
export interface RunProblem {
  code:
    | 'no focus'
    | 'unknown symbol'
    | 'unknown price'
    | 'nothing to close'
    | 'wrong way'
    | 'stop side'
    | 'limit side'
    | 'size zero'
    | 'buying power'
    | 'most shares'
    | 'collar'
    | 'market hours'
    | 'no such order'
    | 'no stop'
    | 'opposite order';
  text: string;
}

/** The numbers behind a sentence, before it is sent. Money in 1/10,000 dollar. */
export interface OrderFacts {
  side: Side;
  qty: number;
  price: Price;
  stop: Price | null;
  cost: Money;
  risk: Money | null;
  r: number | null;
  /** Reward of the targets, whole plan, before costs. */
  reward: Money | null;
  commission: Money;
}

export interface Reading {
  intents: Intent[];
  problems: RunProblem[];
  warnings: string[];
  /** The sentence with today's numbers, in the script language. */
  sayBack: string;
  facts: OrderFacts | null;
  symbol: string | null;
  /** Opens or adds risk, so that a confirmation is due. */
  addsRisk: boolean;
  staged: boolean;
}

class Refused extends Error {
  constructor(readonly problem: RunProblem) {
    super(problem.text);
  }
}
const refuse = (code: RunProblem['code'], text: string): never => {
  throw new Refused({ code, text });
};

/**
 * Reads one statement against this moment: what it would do, or why not. Key, button, peek,
 * say-back and tests all use this function; sending comes after.
 */
export function readStatement(s: Statement, c: RunContext): Reading {
  const reading: Reading = {
    intents: [],
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

function viewOf(symbol: string | null, c: RunContext): SymbolView {
  const wanted = symbol ?? c.focus ?? refuse('no focus', 'No symbol is in focus. Choose one in the scan, or write “of SYMBOL”.');
  return c.view(wanted) ?? refuse('unknown symbol', `“${wanted}” does not trade today.`);
}

function value(e: Parameters<typeof priceValue>[0], v: SymbolView): number {
  return priceValue(e, v) ?? refuse('unknown price', `“${printPrice(e)}” has no value for ${v.symbol} now. Use a price that exists, such as last or a number.`);
}

const openTradeOf = (b: Broker, symbol: string): Trade | undefined => Object.values(b.trades).find((t) => t.symbol === symbol && t.status === 'open');

interface Priced {
  type: OrderType;
  limit: Price | null;
  stop: Price | null;
  /** What the order is expected to pay at worst, for size and cost. */
  expected: Price;
  shown: Pricing;
}

function priceOrder(p: Pricing, side: Side, v: SymbolView, c: RunContext, closing: boolean): Priced {
  switch (p.kind) {
    case 'market': {
      if (c.session !== 'regular') {
        const touch = side === 'buy' ? 'ask' : 'bid';
        refuse(
          'market hours',
          `Market orders work in the regular session (09:30–16:00); it is ${c.session} now. A marketable limit would do: at ${touch} ${side === 'buy' ? '+' : '-'} 3c extended.`,
        );
      }
      const expected = (side === 'buy' ? v.quote.ask : v.quote.bid) ?? v.last ?? refuse('unknown price', `${v.symbol} has neither a quote nor a trade yet.`);
      return { type: 'Market', limit: null, stop: null, expected, shown: p };
    }
    case 'limit': {
      const limit = limitPrice(value(p.price, v), side);
      checkCollar(limit, side, v, c);
      return { type: 'Limit', limit, stop: null, expected: limit, shown: { kind: 'limit', price: literal(limit) } };
    }
    case 'stop': {
      const wanted = side === 'buy' ? 'above' : 'below';
      const raw = value(p.trigger, v);
      if (p.way !== wanted) refuse('stop side', `A ${side} stop waits ${wanted} the market: write “${wanted} ${printPrice(p.trigger)}”.`);
      const stop = roundToTick(raw, side === 'buy' ? 'up' : 'down');
      if (v.last !== null && signOf(side) * (stop - v.last) <= 0) {
        refuse(
          'stop side',
          `The stop ${described(p.trigger, raw)} must be ${wanted} the last price ${formatPrice(v.last)}, or it would go at once.${closing ? '' : ` To enter now: at ${side === 'buy' ? 'ask + 3c' : 'bid - 3c'}.`}`,
        );
      }
      const limit = p.limit ? limitPrice(value(p.limit, v), side) : null;
      if (limit !== null && signOf(side) * (limit - stop) < 0) {
        refuse(
          'limit side',
          `The limit ${formatPrice(limit)} of a ${side} stop must be at ${formatPrice(stop)} or ${side === 'buy' ? 'above' : 'below'}; try ${wanted} ${formatPrice(stop)} limit ${formatPrice(stop + signOf(side) * 800)}.`,
        );
      }
      return {
        type: limit === null ? 'Stop' : 'StopLimit',
        limit,
        stop,
        expected: limit ?? stop,
        shown: { kind: 'stop', way: p.way, trigger: literal(stop), limit: limit === null ? null : literal(limit) },
      };
    }
    default:
      return unreachable(p);
  }
}

/** Guard against fat fingers: a limit may reach only so far through the quote. */
function checkCollar(limit: Price, side: Side, v: SymbolView, c: RunContext): void {
  const from = (side === 'buy' ? v.quote.ask : v.quote.bid) ?? v.last;
  if (from === null) return;
  const beyond = ((limit - from) / from) * signOf(side) * 100;
  if (beyond > c.rules.collarPercent) {
    const most = collar(side, v.quote, v.last);
    refuse(
      'collar',
      `Price collar: ${formatPrice(limit)} is ${beyond.toFixed(1)} % through the ${side === 'buy' ? 'ask' : 'bid'} ${formatPrice(from)}; at most ${c.rules.collarPercent} % passes, that is ${formatPrice(most ?? from)}.`,
    );
  }
}

type EntryStatement = Extract<Statement, { kind: 'entry' }>;

function readEntry(s: EntryStatement, c: RunContext, out: Reading): void {
  const v = viewOf(s.symbol, c);
  const side: Side = s.verb === 'buy' ? 'buy' : 'sell';
  out.symbol = v.symbol;
  out.addsRisk = true;
  const trade = openTradeOf(c.broker, v.symbol);
  if (trade && trade.sign !== signOf(side)) {
    const held = `${trade.sign === 1 ? 'long' : 'short'} ${positionOf(trade)} ${v.symbol}`;
    refuse('wrong way', `You are ${held}; ${s.verb} would work against it. To get out: ${trade.sign === 1 ? 'sell all at bid' : 'cover all at ask'}.`);
  }
  const against = liveOrders(c.broker).find((o) => o.symbol === v.symbol && o.role === 'entry' && o.side !== side);
  if (against) refuse('opposite order', `Order ${against.id} still waits to ${against.side} ${v.symbol}. Cancel it first: cancel order ${against.id}.`);
  const priced = priceOrder(s.pricing, side, v, c, false);
  const plan = s.exits.length === 0 ? null : resolvePlan(s.exits, priced.expected, side, s.extended, v);
  const perShare = plan?.stop ? (plan.stop.kind === 'distance' ? plan.stop.units : Math.abs(priced.expected - plan.stop.price)) : null;
  const qty = sharesFor(s, priced.expected, perShare, c);
  const stop = plan?.stop ? (plan.stop.kind === 'at' ? plan.stop.price : roundToTick(Math.max(1, priced.expected - signOf(side) * plan.stop.units))) : null;
  const cost = money(priced.expected * qty);
  out.facts = {
    side,
    qty,
    price: priced.expected,
    stop,
    cost,
    risk: perShare === null ? null : money(Math.round(perShare * qty)),
    r: perShare === null ? null : (perShare * qty) / c.rules.riskUnit,
    reward: rewardOf(plan, priced.expected, side, qty, perShare),
    commission: money(2 * commissionFor(c.fees, qty, cost)),
  };
  out.sayBack = printStatement({
    ...s,
    size: { kind: 'shares', shares: qty },
    symbol: v.symbol,
    pricing: priced.shown,
    exits: sayExits(s.exits, plan, priced.expected, side, perShare),
  });
  if (qty > c.rules.mostShares) refuse('most shares', `Guard on size: ${qty} shares; at most ${c.rules.mostShares} pass. Lower the size or widen the stop.`);
  if (cost > c.account.buyingPower) {
    refuse(
      'buying power',
      `Buying power: this needs ${formatMoney(cost)}, you have ${formatMoney(c.account.buyingPower)}; at most ${Math.floor(c.account.buyingPower / priced.expected)} shares pass.`,
    );
  }
  if (!s.extended && c.session !== 'regular') out.warnings.push(`Waits for the regular session at 09:30; add “extended” to work now (${c.session}).`);
  if (out.facts.reward !== null && out.facts.reward <= out.facts.commission)
    out.warnings.push(`Costs of ${formatMoney(out.facts.commission)} eat the planned gain of ${formatMoney(out.facts.reward)}.`);
  out.intents.push({
    kind: 'entry',
    symbol: v.symbol,
    side,
    type: priced.type,
    qty,
    limit: priced.limit,
    stop: priced.stop,
    extended: s.extended,
    plan,
    sentence: printStatement(s),
  });
}

function sharesFor(s: EntryStatement, at: Price, perShare: number | null, c: RunContext): number {
  const { size } = s;
  const tooSmall = (what: string): never => refuse('size zero', `${what} buys less than one share at ${formatPrice(at)}. Raise it.`);
  switch (size.kind) {
    case 'shares':
      return size.shares;
    case 'money':
      return Math.floor(moneyFromDollars(size.dollars) / at) || tooSmall(`$${size.dollars}`);
    case 'risk': {
      const risk = size.amount.kind === 'R' ? size.amount.r * c.rules.riskUnit : moneyFromDollars(size.amount.dollars);
      if (perShare === null || perShare <= 0) return refuse('no stop', 'A size by risk needs a stop: add “stop 30c”.');
      return Math.floor(risk / perShare) || tooSmall(`A risk of ${formatMoney(risk)} with a stop ${formatPrice(perShare)} away`);
    }
    case 'part':
      return refuse('size zero', 'A part of the position cannot be bought.');
    default:
      return unreachable(size);
  }
}

/** Turns written exits into a plan; percent is of the expected entry. */
function resolvePlan(exits: Exit[], expected: Price, side: Side, extended: boolean, v: SymbolView): ExitPlan {
  const sign = signOf(side);
  const plan: ExitPlan = { stop: null, targets: [], breakeven: null, extended };
  for (const e of exits) {
    switch (e.kind) {
      case 'stop': {
        if (e.place.kind === 'at') {
          const at = roundToTick(value(e.place.price, v), sign === 1 ? 'down' : 'up');
          if (sign * (expected - at) <= 0)
            refuse('stop side', `The stop ${formatPrice(at)} must be ${sign === 1 ? 'below' : 'above'} the entry at ${formatPrice(expected)}.`);
          plan.stop = { kind: 'at', price: at };
        } else {
          const units = distanceValue(e.place.by, expected, null) ?? 0;
          if (units <= 0 || units >= expected)
            refuse('stop side', `A stop ${formatPrice(units)} away from ${formatPrice(expected)} leaves no price to sell at. Use a smaller distance.`);
          plan.stop = { kind: 'distance', units };
        }
        break;
      }
      case 'target':
        if (e.place.kind === 'at')
          plan.targets.push({ place: { kind: 'at', price: limitPrice(value(e.place.price, v), sideOf(sign === 1 ? -1 : 1)) }, part: e.part });
        else if (e.place.by.unit === 'R') plan.targets.push({ place: { kind: 'R', r: e.place.by.value }, part: e.part });
        else plan.targets.push({ place: { kind: 'distance', units: distanceValue(e.place.by, expected, null) ?? 0 }, part: e.part });
        break;
      case 'breakeven':
        plan.breakeven = {
          plusCosts: e.plusCosts,
          after:
            e.after.kind === 'target'
              ? { kind: 'target', index: e.after.number - 1 }
              : e.after.by.unit === 'R'
                ? { kind: 'R', r: e.after.by.value }
                : { kind: 'distance', units: distanceValue(e.after.by, expected, null) ?? 0 },
        };
        break;
      default:
        unreachable(e);
    }
  }
  return plan;
}

function targetUnits(place: ExitPlan['targets'][number]['place'], expected: number, side: Side, perShare: number | null): number {
  if (place.kind === 'at') return signOf(side) * (place.price - expected);
  return place.kind === 'distance' ? place.units : place.r * (perShare ?? 0);
}

function rewardOf(plan: ExitPlan | null, expected: Price, side: Side, qty: number, perShare: number | null): Money | null {
  if (!plan || plan.targets.length === 0) return null;
  const shares = allot(
    plan.targets.map((t) => t.part),
    qty,
  );
  return money(Math.round(plan.targets.reduce((a, t, i) => a + (shares[i] as number) * targetUnits(t.place, expected, side, perShare), 0)));
}

/** The exits of the say-back: stops and targets at the prices that the expected entry gives them. */
function sayExits(exits: Exit[], plan: ExitPlan | null, expected: Price, side: Side, perShare: number | null): Exit[] {
  let target = 0;
  return exits.map((e) => {
    if (e.kind === 'breakeven' || !plan) return e;
    const units = e.kind === 'stop' ? -(perShare ?? 0) : targetUnits((plan.targets[target++] as ExitPlan['targets'][number]).place, expected, side, perShare);
    return { ...e, place: { kind: 'at', price: literal(roundToTick(Math.max(1, expected + signOf(side) * units))) } };
  });
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
  const extended = s.extended || c.session !== 'regular';
  out.sayBack = printStatement({ ...s, size: { kind: 'shares', shares: qty }, symbol: v.symbol, pricing: priced.shown, extended });
  out.intents.push({ kind: 'close', symbol: v.symbol, side, type: priced.type, qty, limit: priced.limit, stop: priced.stop, extended });
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
    out.intents.push({ kind: 'close', symbol, side, type: regular ? 'Market' : 'Limit', qty: positionOf(trade), limit, stop: null, extended: !regular });
    parts.push(`${side} ${positionOf(trade)} ${symbol} ${regular ? 'at market' : `at ${formatPrice(limit ?? 0)} or better`}`);
  }
  out.symbol = s.everything ? null : (symbols[0] ?? null);
  if (out.intents.length === 0)
    refuse('nothing to close', s.everything ? 'Nothing is open and nothing is working.' : `Nothing is open or working in ${symbols[0]}.`);
  out.sayBack = parts.length > 0 ? `${printStatement(s)} (${parts.join('; ')})` : `${printStatement(s)} (cancels what waits)`;
}

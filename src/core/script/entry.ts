import { commissionFor } from '../account/index.ts';
import { allot, type ExitPlan, liveOrders, positionOf } from '../orders/index.ts';
import {
  formatMoney,
  formatPrice,
  type Money,
  money,
  moneyFromDollars,
  type Price,
  roundToTick,
  type Side,
  sideOf,
  signOf,
  unreachable,
} from '../units/index.ts';
import { checkShort, haltWarning, openTradeOf, priceOrder, type Reading, type RunContext, refuse, termsOf, value, viewOf } from './moment.ts';
import { distanceValue, limitPrice, literal, type SymbolView } from './prices.ts';
import { printStatement } from './print.ts';
import type { Exit, Handling, Statement } from './tree.ts';

export type EntryStatement = Extract<Statement, { kind: 'entry' }>;

export function readEntry(s: EntryStatement, c: RunContext, out: Reading): void {
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
  if (against) refuse('entry against', `Order ${against.id} still waits to ${against.side} ${v.symbol}. Cancel it first: cancel order ${against.id}.`);
  const priced = priceOrder(s.pricing, side, v, c, false);
  const short = s.verb === 'short' ? checkShort(priced, v) : [];
  const plan = s.exits.length === 0 ? null : resolvePlan(s.exits, priced.expected, side, s, v);
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
  out.warnings.push(...short, ...haltWarning(v));
  if (!s.extended && c.session !== 'regular' && s.pricing.kind !== 'auction')
    out.warnings.push(`Waits for the regular session at 09:30; add “extended” to work now (${c.session}).`);
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
    ...termsOf(s.pricing, s),
    sentence: printStatement(s),
  });
}

export function sharesFor(s: EntryStatement, at: Price, perShare: number | null, c: RunContext): number {
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
export function resolvePlan(exits: Exit[], expected: Price, side: Side, s: Handling, v: SymbolView): ExitPlan {
  const sign = signOf(side);
  const plan: ExitPlan = { stop: null, targets: [], breakeven: null, extended: s.extended, timeInForce: s.life === 'gtc' ? 'GoodTillCancel' : 'Day' };
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

export function targetUnits(place: ExitPlan['targets'][number]['place'], expected: number, side: Side, perShare: number | null): number {
  if (place.kind === 'at') return signOf(side) * (place.price - expected);
  return place.kind === 'distance' ? place.units : place.r * (perShare ?? 0);
}

export function rewardOf(plan: ExitPlan | null, expected: Price, side: Side, qty: number, perShare: number | null): Money | null {
  if (!plan || plan.targets.length === 0) return null;
  const shares = allot(
    plan.targets.map((t) => t.part),
    qty,
  );
  return money(Math.round(plan.targets.reduce((a, t, i) => a + (shares[i] as number) * targetUnits(t.place, expected, side, perShare), 0)));
}

/** The exits of the say-back: stops and targets at the prices that the expected entry gives them. */
export function sayExits(exits: Exit[], plan: ExitPlan | null, expected: Price, side: Side, perShare: number | null): Exit[] {
  let target = 0;
  return exits.map((e) => {
    if (e.kind === 'breakeven' || !plan) return e;
    const units = e.kind === 'stop' ? -(perShare ?? 0) : targetUnits((plan.targets[target++] as ExitPlan['targets'][number]).place, expected, side, perShare);
    return { ...e, place: { kind: 'at', price: literal(roundToTick(Math.max(1, expected + signOf(side) * units))) } };
  });
}

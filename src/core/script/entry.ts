import { commissionFor } from '../account/index.ts';
import { allot, type ExitPlan } from '../orders/index.ts';
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
import { accountOf, haltWarning, priceOrder, type Reading, type RunContext, refuse, shortWarnings, termsOf, value, viewOf } from './moment.ts';
import { distanceValue, limitPrice, literal, type SymbolView } from './prices.ts';
import { printStatement } from './print.ts';
import type { Exit, Handling, Statement } from './tree.ts';

export type EntryStatement = Extract<Statement, { kind: 'entry' }>;

export function readEntry(s: EntryStatement, c: RunContext, out: Reading): void {
  const v = viewOf(s.symbol, c);
  const side: Side = s.verb === 'buy' ? 'buy' : 'sell';
  out.symbol = v.symbol;
  out.addsRisk = true;
  const priced = priceOrder(s.pricing, side, v, c, false);
  const short = s.verb === 'short' ? shortWarnings(v) : [];
  const plan = s.exits.length === 0 ? null : resolvePlan(s.exits, priced.expected, side, s, v);
  const place = plan?.stops[0]?.place ?? null;
  const perShare = place && (place.kind === 'distance' ? place.units : Math.abs(priced.expected - place.price));
  const qty = sharesFor(s, priced.expected, perShare, c);
  const stop = place && (place.kind === 'at' ? place.price : roundToTick(Math.max(1, priced.expected - signOf(side) * place.units)));
  const cost = money(priced.expected * qty);
  out.facts = {
    side,
    qty,
    price: priced.expected,
    stop,
    cost,
    risk: perShare === null ? null : money(Math.round(perShare * qty)),
    r: perShare === null ? null : (perShare * qty) / accountOf(c).rules.riskUnit,
    reward: rewardOf(plan, priced.expected, side, qty, perShare),
    commission: money(2 * commissionFor(accountOf(c).fees, qty, cost)),
  };
  out.sayBack = printStatement({
    ...s,
    size: { kind: 'shares', shares: qty },
    symbol: v.symbol,
    pricing: priced.shown,
    exits: sayExits(s.exits, plan, priced.expected, side, perShare),
  });
  out.warnings.push(...short, ...haltWarning(v));
  if (!s.extended && c.session !== 'regular' && s.pricing.kind !== 'auction')
    out.warnings.push(`Waits for the regular session at 09:30; add “extended” to work now (${c.session}).`);
  if (out.facts.reward !== null && out.facts.reward <= out.facts.commission)
    out.warnings.push(`Costs of ${formatMoney(out.facts.commission)} eat the planned gain of ${formatMoney(out.facts.reward)}.`);
  out.intents.push({
    kind: 'entry',
    account: c.account,
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
      const risk = size.amount.kind === 'R' ? size.amount.r * accountOf(c).rules.riskUnit : moneyFromDollars(size.amount.dollars);
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
  const stops: ExitPlan['stops'][number][] = [];
  const targets: ExitPlan['targets'][number][] = [];
  let breakeven: ExitPlan['breakeven'] = null;
  for (const e of exits) {
    switch (e.kind) {
      case 'stop': {
        if (e.place.kind === 'at') {
          const at = roundToTick(value(e.place.price, v), sign === 1 ? 'down' : 'up');
          if (sign * (expected - at) <= 0)
            refuse('stop side', `The stop ${formatPrice(at)} must be ${sign === 1 ? 'below' : 'above'} the entry at ${formatPrice(expected)}.`);
          stops.push({ place: { kind: 'at', price: at }, part: null, on: 'last' });
        } else {
          const units = distanceValue(e.place.by, expected, null) ?? 0;
          if (units <= 0 || units >= expected)
            refuse('stop side', `A stop ${formatPrice(units)} away from ${formatPrice(expected)} leaves no price to sell at. Use a smaller distance.`);
          stops.push({ place: { kind: 'distance', units }, part: null, on: 'last' });
        }
        break;
      }
      case 'target':
        if (e.place.kind === 'at') {
          const price = limitPrice(value(e.place.price, v), sideOf(sign === 1 ? -1 : 1));
          if (sign * (price - expected) <= 0)
            refuse(
              'target side',
              `The target ${formatPrice(price)} must be ${sign === 1 ? 'above' : 'below'} the entry at ${formatPrice(expected)}, or it would go at once at a loss. For an exit there, write a stop.`,
            );
          targets.push({ place: { kind: 'at', price }, part: e.part });
        } else if (e.place.by.unit === 'R') targets.push({ place: { kind: 'R', r: e.place.by.value }, part: e.part });
        else targets.push({ place: { kind: 'distance', units: distanceValue(e.place.by, expected, null) ?? 0 }, part: e.part });
        break;
      case 'breakeven':
        breakeven = {
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
  return { stops, targets, breakeven, trail: null, extended: s.extended };
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

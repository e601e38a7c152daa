// The guards of an account: what new risk may come in. Closing is never asked.
import type { Account, Guards } from '../account/index.ts';
import { isOption, mostToLose, multiplierOfSymbol } from '../instruments/index.ts';
import { money, type Price, type Side, signOf } from '../units/index.ts';
import { lossOf } from './cover.ts';
import {
  accountNow,
  type Broker,
  type BrokerContext,
  type Holding,
  holdingOf,
  mostPaid,
  needOf,
  openTrade,
  sharesWithin,
} from './desk.ts';
import { type ExitPlan, openOfScope, type Scope } from './exit-plan.ts';
import { legPrice, newestScope } from './exits.ts';
import type { NewIntent } from './intent.ts';
import { isStaying, type Order, openOf } from './order.ts';
import type { Refusal } from './refusal.ts';
import { meanRisk } from './shares.ts';
import { averageEntry, positionOf } from './trade.ts';

const SECOND = 1000;

/** An entry as the guards look at it. */
export type Asked = Pick<
  Extract<NewIntent, { kind: 'entry' }>,
  'account' | 'symbol' | 'side' | 'type' | 'qty' | 'limit' | 'stop' | 'timeInForce' | 'route'
> & { works?: { to: Price }; plan?: ExitPlan | null; joins?: boolean; byItself?: true };

const accountOf = (b: Broker, id: string): Account => b.accounts[id] as Account;
const guardsOf = (b: Broker, id: string): Guards => accountOf(b, id).rules.guards;
const expected = (e: Pick<Asked, 'side' | 'symbol'>, c: BrokerContext): number => {
  const q = c.quote(e.symbol);
  return (e.side === 'buy' ? q.ask : q.bid) ?? c.last(e.symbol) ?? 0;
};
const priceOfEntry = (e: Asked, c: BrokerContext): number =>
  e.works?.to ?? e.limit ?? e.stop ?? expected(e, c);

/** What the guards say to new risk; `own` is the order that asks, which counts once; null where they let it in. */
export function guarded(b: Broker, e: Asked, c: BrokerContext, own: number | null): Refusal | null {
  return (
    locked(b, e) ??
    blocked(b, e) ??
    shares(b, e, own) ??
    worth(b, e, c, own) ??
    risk(b, e, c, own) ??
    power(b, e, c, own)
  );
}

function locked(b: Broker, e: Asked): Refusal | null {
  const { locked: lock, rules } = accountOf(b, e.account);
  return lock && { code: 'locked', loss: lock.loss, most: rules.guards.dailyLoss ?? money(0) };
}

function blocked(b: Broker, e: Asked): Refusal | null {
  const way = e.side === 'buy' ? 'long' : 'short';
  const found = guardsOf(b, e.account).blocked.find(
    (x) => x.symbol === e.symbol && (x.side === 'both' || x.side === way),
  );
  return found ? { code: 'blocked', symbol: e.symbol, side: found.side } : null;
}

/** Shares of a symbol that are held on that side, and those that working entries may add. */
function heldWith(h: Holding, side: Side, own: number | null): number {
  const t = openTrade(h);
  const held = t && t.sign === signOf(side) ? positionOf(t) : 0;
  return entriesOf(h, own)
    .filter((o) => o.side === side)
    .reduce((a, o) => a + openOf(o), held);
}

/** Working entries but for the one that asks and the one that is joined with it; of two that are joined the dearer counts. */
const entriesOf = (h: Holding, own: number | null): Order[] =>
  h.orders.filter(
    (o) =>
      o.role === 'entry' &&
      isStaying(o) &&
      (own === null || (o.id !== own && o.pair?.id !== own)) &&
      !(o.pair && o.pair.id < o.id && h.orders.some((x) => x.id === o.pair?.id && isStaying(x))),
  );

function shares(b: Broker, e: Asked, own: number | null): Refusal | null {
  const most = guardsOf(b, e.account).mostShares;
  const each = multiplierOfSymbol(e.symbol);
  const held = heldWith(holdingOf(b, e.account, e.symbol), e.side, own) * each;
  return held + e.qty * each > most
    ? {
        code: 'most shares',
        qty: held + e.qty * each,
        most,
        room: Math.max(0, Math.floor((most - held) / each)),
      }
    : null;
}

function worth(b: Broker, e: Asked, c: BrokerContext, own: number | null): Refusal | null {
  const most = guardsOf(b, e.account).mostMoney;
  const price = priceOfEntry(e, c) * multiplierOfSymbol(e.symbol);
  if (most === null || price <= 0) return null;
  const held = heldWith(holdingOf(b, e.account, e.symbol), e.side, own);
  const would = (held + e.qty) * price;
  return would > most
    ? {
        code: 'most money',
        symbol: e.symbol,
        would: money(Math.round(would)),
        most,
        shares: Math.max(0, Math.floor(most / price) - held),
      }
    : null;
}

/** What a plan's stops lose a share from a price, their mean by shares; null without a stop. */
function riskOf(plan: ExitPlan | null | undefined, from: number): number | null {
  if (!plan || plan.stops.length === 0) return null;
  const away = plan.stops.map(({ place, part }) => ({
    part,
    units: place.kind === 'distance' ? place.units : Math.abs(from - place.price),
  }));
  return meanRisk(away);
}

/** What the stops of a scope lose a share from a price, their mean by shares, and nothing where they stand at a gain; null without a stop. */
function lossFrom(s: Scope, from: number): number | null {
  const stops = s.legs.flatMap((l, i) => {
    if (l.kind !== 'stop' || l.dropped) return [];
    const price = legPrice(s, i);
    if (price !== null) return [{ part: l.part, units: Math.max(0, s.sign * (from - price)) }];
    if (l.place === null || l.place.kind === 'R') return [];
    const units = l.place.kind === 'distance' ? l.place.units : Math.max(0, s.sign * (from - l.place.price));
    return [{ part: l.part, units }];
  });
  return stops.length === 0 ? null : meanRisk(stops);
}

/** What an option, held or to be entered, can lose where no stop says less. */
function bareOption(b: Broker, h: Holding, own: number | null, c: BrokerContext): number {
  const t = openTrade(h);
  const held =
    t && !h.scopes.some((s) => s.tradeId === t.id)
      ? lossOf(b, h.account, h.symbol, t.sign, averageEntry(t) ?? 0) * positionOf(t)
      : 0;
  return entriesOf(h, own)
    .filter((o) => o.scopeId === null)
    .reduce(
      (a, o) => a + mostToLose(h.symbol, signOf(o.side), o.limit ?? c.last(h.symbol) ?? 0) * openOf(o),
      held,
    );
}

/** What all stops of an account together would lose where they stand, and options without one at most: of what is held, from its average, and of working entries. */
export function openRisk(b: Broker, account: string, c: BrokerContext, own: number | null = null): number {
  let all = 0;
  for (const h of Object.values(b.holdings)) {
    if (h.account !== account) continue;
    let sum = 0;
    const t = openTrade(h);
    for (const s of h.scopes)
      if (s.tradeId === t?.id && s.basis.qty > 0)
        sum += (lossFrom(s, s.basis.notional / s.basis.qty) ?? 0) * openOfScope(s);
    for (const o of entriesOf(h, own)) {
      const s = h.scopes.find((x) => x.id === o.scopeId);
      if (s) sum += (lossFrom(s, o.limit ?? o.stop ?? c.last(h.symbol) ?? 0) ?? 0) * openOf(o);
    }
    if (isOption(h.symbol)) sum += bareOption(b, h, own, c);
    all += sum * h.multiplier;
  }
  return Math.round(all);
}

function risk(b: Broker, e: Asked, c: BrokerContext, own: number | null): Refusal | null {
  const most = guardsOf(b, e.account).openRisk;
  if (most === null) return null;
  // One that is asked again carries its stops already.
  if (e.plan === undefined) return null;
  const from = priceOfEntry(e, c);
  const h = holdingOf(b, e.account, e.symbol);
  const t = openTrade(h);
  const joined = e.plan === null && e.joins && t ? newestScope(h, t) : null;
  const each = multiplierOfSymbol(e.symbol);
  const loss = joined ? lossFrom(joined, from) : riskOf(e.plan, from);
  // An option without a stop can lose what it can lose.
  const bare = loss === null && isOption(e.symbol) ? mostToLose(e.symbol, signOf(e.side), from) : loss;
  const perShare = bare === null ? null : bare * each;
  const open = openRisk(b, e.account, c, own);
  const would = money(Math.round(open + (perShare ?? 0) * e.qty));
  if (perShare !== null && would <= most) return null;
  const room = perShare === null ? 0 : Math.max(0, Math.floor((most - open) / Math.max(1, perShare)));
  return { code: 'open risk', symbol: e.symbol, would, most, perShare, shares: room };
}

/** Of two that are joined in a cash account both are paid for: it may not be overdrawn where both fill at the same time. */
export function powerOfBoth(b: Broker, one: Asked, two: Asked, c: BrokerContext): Refusal | null {
  const a = accountOf(b, one.account);
  if (a.rules.kind === 'margin' || one.account !== two.account) return null;
  return power(b, two, c, null, needOf(a, one, one.qty, expected(one, c) as Price));
}

function power(b: Broker, e: Asked, c: BrokerContext, own: number | null, besides = 0): Refusal | null {
  const a = accountOf(b, e.account);
  const have = accountNow(b, e.account, c.last, own).buyingPower - besides;
  const last = expected(e, c) as Price;
  const needs = needOf(a, e, e.qty, last);
  if (needs <= have) return null;
  const shares = sharesWithin(a, e, have, last, e.qty);
  return { code: 'buying power', needs, have, shares, at: mostPaid(a, e, last) };
}

/** How fast orders come: asked of a new one only, and never of what waited and goes by itself. */
export function tooFast(b: Broker, e: Asked, c: BrokerContext): Refusal | null {
  if (e.byItself) return null;
  const { recent, rules } = accountOf(b, e.account);
  const lately = recent.filter((x) => c.now - x.at < SECOND);
  const { ordersPerSecond, duplicates } = rules.guards;
  const same = duplicates ? lately.find((x) => x.what === nameOf(e)) : undefined;
  if (same) return { code: 'duplicate', symbol: e.symbol, ago: c.now - same.at };
  return lately.length >= ordersPerSecond ? { code: 'too many orders', most: ordersPerSecond } : null;
}

const nameOf = (e: Asked): string =>
  [e.symbol, e.side, e.type, e.qty, e.limit, e.stop, e.timeInForce, e.route].join(' ');

/** An account that remembers one more order, and forgets those of more than a second ago. */
export const remembering = (a: Account, e: Asked, now: number): Account => ({
  ...a,
  recent: [...a.recent.filter((x) => now - x.at < SECOND), { at: now, what: nameOf(e) }],
});

/** What a short sale needs of a lender: shares that are hard to borrow have to be located before. */
export function unlocated(b: Broker, e: Asked, c: BrokerContext, own: number | null): Refusal | null {
  const a = accountOf(b, e.account);
  const located = a.locates.filter((l) => l.symbol === e.symbol).reduce((sum, l) => sum + l.shares, 0);
  const wants = heldWith(holdingOf(b, e.account, e.symbol), 'sell', own) + e.qty;
  if (wants <= located) return null;
  return { code: 'needs locate', symbol: e.symbol, located, wants: wants - located, ...c.locate(e.symbol) };
}

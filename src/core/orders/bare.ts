// Shares and their stops: which stand behind one, what an intent would take from them, and what exits hand on to those that take their place.
import { type Broker, type Holding, liveOrder, openTrade } from './desk.ts';
import { type ExitPlan, type Leg, openOfScope, type Scope } from './exit-plan.ts';
import { allot, legPrice } from './exits.ts';
import type { Intent } from './intent.ts';
import { isStaying, leavingOf, type Order, openOf, protects } from './order.ts';
import { positionOf, type Trade } from './trade.ts';

/** Shares of a symbol that would stand without a stop. */
export interface Bares {
  symbol: string;
  shares: number;
}

/** Shares of the open position that a stop stands behind: one that waits, sleeps, or has triggered and is at work. */
export function coveredShares(h: Holding, without: (o: Order) => number = () => 0): number {
  const t = openTrade(h);
  if (!t) return 0;
  const covered = h.orders
    .filter((o) => o.tradeId === t.id && protects(o) && isStaying(o))
    .reduce((a, o) => a + Math.max(0, openOf(o) - without(o)), 0);
  return Math.min(positionOf(t), covered);
}

/** Shares of an order that does not watch now, or is on its way to sleep. */
export const asleepShares = (o: Order): number =>
  o.phase.k === 'asleep' || leavingOf(o)?.to === 'asleep' ? openOf(o) : 0;

/** What an intent would leave without the stop that it has, by symbol. What closes a position, or puts a stop in place of another, leaves nothing so. */
export function baredShares(b: Broker, intent: Intent): Bares[] {
  const less = takenFrom(b, intent);
  if (!less) return [];
  return Object.values(b.holdings).flatMap((h) => {
    const loses = (without: (o: Order) => number) =>
      coveredShares(h, without) - coveredShares(h, (o) => Math.max(without(o), less(o, h)));
    // A stop that sleeps takes the place of none that watches.
    const shares = Math.max(
      loses(() => 0),
      loses(asleepShares),
    );
    return shares > 0 ? [{ symbol: h.symbol, shares }] : [];
  });
}

/** The leg that an order is of; null for an order of none. */
const legKey = (o: Order | undefined): string | null =>
  o?.scopeId == null || o.leg === null ? null : `${o.scopeId} ${o.leg}`;

/** Shares that an intent takes from what an order protects; null where it takes none from any. */
function takenFrom(b: Broker, intent: Intent): ((o: Order, h: Holding) => number) | null {
  switch (intent.kind) {
    case 'cancel': {
      const { what } = intent;
      if (what.kind === 'orders') {
        // A stop of which a part has triggered is two orders of one leg: it goes as a whole.
        const legs = new Set(what.ids.flatMap((id) => legKey(liveOrder(b, id)) ?? []));
        return (o) => (what.ids.includes(o.id) || legs.has(legKey(o) ?? '') ? openOf(o) : 0);
      }
      if (what.keepStops) return null;
      const symbol = what.kind === 'symbol' ? what.symbol : null;
      return (o, h) =>
        h.account === what.account && (symbol === null || h.symbol === symbol) ? openOf(o) : 0;
    }
    case 'retype':
      return (o) =>
        o.id !== intent.orderId ? 0 : intent.stop === null ? openOf(o) : Math.max(0, o.qty - intent.qty);
    case 'resize':
      return (o) => (o.id === intent.orderId ? Math.max(0, o.qty - intent.qty) : 0);
    default:
      return null;
  }
}

/** Whether a yes that named some shares covers these: no symbol more than it named. */
export const isCovered = (asked: readonly Bares[], yes: readonly Bares[] | undefined): boolean =>
  asked.every((x) => yes?.some((y) => y.symbol === x.symbol && y.shares >= x.shares));

/** Scopes that give shares to exits that are put on: shares that no scope covers go first, then those of the newest. */
export function giving(
  h: Pick<Holding, 'scopes'>,
  t: Trade,
  over: 'all' | number,
): { scope: Scope; shares: number }[] {
  const scopes = h.scopes.filter((s) => s.tradeId === t.id && openOfScope(s) > 0);
  const position = positionOf(t);
  const bare = Math.max(0, position - scopes.reduce((a, s) => a + openOfScope(s), 0));
  let rest = (over === 'all' ? position : Math.min(over, position)) - bare;
  return scopes
    .sort((a, b) => b.id - a.id)
    .flatMap((scope) => {
      const shares = Math.min(Math.max(0, rest), openOfScope(scope));
      rest -= shares;
      return shares > 0 ? [{ scope, shares }] : [];
    });
}

/** The stop that shares have whose scopes give them away: the one nearest to the market; null without any. */
export function stopGiven(
  from: readonly { scope: Scope }[],
): { price: NonNullable<Leg['moved']>; leg: Leg; extended: boolean } | null {
  const stops = from.flatMap(({ scope: s }) =>
    s.legs.flatMap((leg, i) => {
      const price = legPrice(s, i);
      return leg.kind === 'stop' && !leg.dropped && price !== null ? [{ price, leg, sign: s.sign }] : [];
    }),
  );
  const [nearest] = stops.sort((a, b) => a.sign * (b.price - a.price));
  return nearest ? { ...nearest, extended: stops.some((x) => x.leg.extended) } : null;
}

/**
 * A plan for shares that have a stop: it covers all of them, with the stop that they have for those that it names
 * none for; and what takes the place of a stop works in the sessions in which that one did. So no share
 * stands without the stop that it had.
 */
export function keepingStop(plan: ExitPlan, shares: number, had: ReturnType<typeof stopGiven>): ExitPlan {
  if (!had) return plan;
  const covered = allot(
    plan.stops.map((s) => s.part),
    shares,
  ).reduce((a, b) => a + b, 0);
  const { leg, price } = had;
  const kept = {
    place: { kind: 'at', price },
    part: null,
    on: leg.on,
    ...(leg.room === undefined ? {} : { room: leg.room }),
  } as const;
  const stops = covered < shares ? [...plan.stops, kept] : plan.stops;
  return { ...plan, stops: had.extended ? stops.map((s) => ({ ...s, extended: true as const })) : stops };
}

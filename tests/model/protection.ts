import {
  asleepShares,
  type Broker,
  type BrokerInput,
  coveredShares,
  everything,
  type Fill,
  type Holding,
  holdingOf,
  isStaying,
  leavingOf,
  legPrice,
  type Order,
  type OrderEvent,
  openOf,
  openTrade,
  positionOf,
  protects,
  type Trade,
} from '../../src/core/orders/index.ts';
import { type SessionKind, sideOf } from '../../src/core/units/index.ts';
import { must, wholeOf } from './rules.ts';

/**
 * No share that had a stop is ever without one, except by a yes that named it, where its stop was for a day that is
 * over, or where the exchange has refused it, which is told. Shares that came without a stop never had one. And what
 * takes the place of a stop watches when that one did.
 */
export function staysProtected(
  before: Broker,
  after: Broker,
  events: readonly OrderEvent[],
  input: BrokerInput,
  session: SessionKind,
): void {
  const known = new Set(everything(before).fills.map((f) => f.id));
  const fresh = everything(after).fills.filter((f) => !known.has(f.id));
  const intent = input.kind === 'intent' ? input.intent : null;
  if (intent && 'bare' in intent && intent.bare) return;
  for (const h of Object.values(after.holdings)) {
    const t = openTrade(h);
    if (!t) continue;
    const was = holdingOf(before, h.account, h.symbol);
    const same = openTrade(was)?.id === t.id;
    const loose = positionOf(t) - coveredShares(h);
    const told = events.reduce((a, e) => a + endOf(e, h), 0) + expiring(was, h);
    const may =
      (same ? positionOf(openTrade(was) as Trade) - coveredShares(was) : 0) +
      fresh.reduce((a, f) => a + (f.tradeId === t.id && cameBare(f, t, after) ? f.qty : 0), 0) +
      told;
    must(
      loose <= may,
      `no share loses its stop in silence: of ${positionOf(t)} ${loose} stand bare, ${may} may`,
    );
    // A close by hand takes the shares of a stop that has triggered.
    if (!intent || !same || intent.kind === 'close' || intent.kind === 'flatten') continue;
    // One that is still on its way back watches only where it may work.
    const asleep = (o: Order): number =>
      leavingOf(o)?.to === 'armed' && session !== 'regular' && (session === 'closed' || !o.extended)
        ? openOf(o)
        : asleepShares(o);
    const awake = coveredShares(h, asleep);
    const kept = Math.min(coveredShares(was, asleep), positionOf(t)) - told;
    must(awake >= kept, `no stop is put to sleep by what takes its place: of ${kept} ${awake} watch`);
  }
}

/** Once its entries have ended, nothing that is done with its exits changes the R of a trade. */
export function keepsItsRisk(before: Broker, after: Broker): void {
  for (const h of Object.values(after.holdings)) {
    const [t, was] = [openTrade(h), openTrade(holdingOf(before, h.account, h.symbol))];
    const settled = (x: Trade) => Object.values(x.lots).every((lot) => lot.settled);
    if (!t || was?.id !== t.id || was.risk === null || !settled(was) || t.entered !== was.entered) continue;
    must(t.risk === was.risk, `the R of a trade stays what its entries risked: ${was.risk} became ${t.risk}`);
  }
}

/** Whether an execution brings shares that no stop of its order is for. */
function cameBare(f: Fill, t: Trade, b: Broker): boolean {
  const { orders, scopes } = everything(b);
  const s = scopes.find((x) => x.id === orders.find((o) => o.id === f.orderId)?.scopeId);
  const stops = s?.legs.flatMap((l, i) => (l.kind === 'stop' ? [{ l, at: legPrice(s, i) }] : [])) ?? [];
  const stopped =
    wholeOf(stops.map(({ l }) => l.part)) && stops.every(({ l, at }) => !l.dropped && at !== null);
  return f.side === sideOf(t.sign) && !stopped;
}

/** Shares of a stop that has ended for a reason that is told. */
function endOf(e: OrderEvent, h: Holding): number {
  if (e.account !== h.account || e.symbol !== h.symbol || (e.role !== 'stop' && e.role !== 'close')) return 0;
  const told =
    (e.kind === 'canceled' && (e.why === 'you' || (typeof e.why === 'object' && !('closedBy' in e.why)))) ||
    e.kind === 'expired' ||
    e.kind === 'rejected';
  return told ? Math.max(e.bare, e.open) : 0;
}

/** Shares of stops by hand whose day is over and that are on their way out. */
const expiring = (was: Holding, now: Holding): number =>
  was.orders.reduce((a, o) => {
    const next = now.orders.find((x) => x.id === o.id);
    const to = next ? leavingOf(next) : null;
    const ends = to?.to === 'ended' && to.status === 'Expired';
    return a + (protects(o) && isStaying(o) && ends ? openOf(o) : 0);
  }, 0);

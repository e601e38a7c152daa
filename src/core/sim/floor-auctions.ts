// Halts and auctions of a floor.
import type { PrintCondition } from '../market/index.ts';
import { MINUTE, mix, type Price, REGULAR_OPEN, roundToTick, type WireId } from '../units/index.ts';
import { type AuctionOrder, allotCross, cancel, crossOf, trimCrowd } from '../venue/index.ts';
import { CONDITION, copyOne, type Happening, newHappening, STATUS } from './columns.ts';
import { out, print, tell } from './executions.ts';
import type { AuctionView, Floor, FloorContext, Standing } from './floor-types.ts';
import { priceNow } from './impact.ts';
import { crowdOrders } from './opening-orders.ts';
import { stepSketch } from './sketch.ts';
import { enterLit } from './trader-orders.ts';

const AUCTION_FROM = { opening: 2 * MINUTE, closing: 10 * MINUTE };

export const CONDITIONS: readonly PrintCondition[] = [
  'regular',
  'opening auction',
  'closing auction',
  'reopening auction',
];

/** Trading has stopped: the crowd withdraws, the trader's orders wait for the reopening. */
export function halt(f: Floor, c: FloorContext): void {
  for (const p of [...f.bids, ...f.asks]) trimCrowd(f.book, p, Number.MAX_SAFE_INTEGER, true);
  f.bids = [];
  f.asks = [];
  f.best = [];
  for (const o of f.orders.values()) {
    if (o.where !== 'book') continue;
    cancel(f.book, o.place);
    o.where = 'auction';
  }
  lookAhead(f, c);
}

/** The crowd's orders for the auction that comes next. */
function lookAhead(f: Floor, c: FloorContext): void {
  const { sketches: s, plan } = c;
  const reference = (s.reference[f.i] as number) || f.tape.last || plan.instrument.priorClose;
  if ((s.status[f.i] as number) >= STATUS.pause) ofReopening(f, c, reference);
  else ofCross(f, c, s.stage[f.i] === 0 ? 'opening' : 'closing', reference);
}

/** Before the opening and the closing cross the crowd's orders lie around the price of now: what is to come, nobody knows. */
function ofCross(f: Floor, c: FloorContext, kind: 'opening' | 'closing', reference: number): void {
  const { sketches: s, day, plan } = c;
  const clock = c.now - c.dayStart;
  const at = kind === 'opening' ? REGULAR_OPEN : day.hours.close;
  const price = roundToTick(Math.max(1, priceNow(s, f.i, plan, clock)));
  if (f.arrivals?.at === at && f.arrivals.around === price) return;
  const seed = mix(f.key, at);
  const mean = kind === 'opening' ? plan.cross : plan.close;
  const qty = Math.max(100, Math.floor((mean * (0.6 + (seed % 80) / 100)) / 100) * 100);
  const orders = crowdOrders(price, qty, at - AUCTION_FROM[kind], at, seed);
  f.arrivals = { kind, at, reference, around: price, orders };
}

/** While trading is stopped nobody can act on where it reopens but in that auction: a run of the plan up to it tells. */
function ofReopening(f: Floor, c: FloorContext, reference: number): void {
  const { sketches: s, day, plan } = c;
  if (f.arrivals?.kind === 'reopening' && f.arrivals.at > c.now - c.dayStart) return;
  const copy = copyOne(s, f.i);
  const h = newHappening();
  while ((copy.nextAt[0] as number) < day.hours.end) {
    stepSketch(copy, 0, plan, day, h);
    if (h.condition === CONDITION.regular) continue;
    const from = s.movedAt[f.i] as number;
    const orders = crowdOrders(h.price, h.qty, from, h.at, mix(f.key, h.at));
    f.arrivals = { kind: 'reopening', at: h.at, reference, around: h.price, orders };
    return;
  }
}

/** Orders that are in the auction now: the crowd's that have come, and the trader's. */
function inAuction(f: Floor, kind: AuctionView['kind'], clock: number): AuctionOrder[] {
  const crowd = f.arrivals?.orders.filter((a) => a.arrives <= clock) ?? [];
  return [
    ...crowd,
    ...[...f.orders.values()]
      .filter((o) => takesPart(o, kind))
      .map((o) => ({ id: o.id, side: o.side, limit: o.limit, qty: o.open, seq: o.seq })),
  ];
}

const takesPart = (o: Standing, kind: AuctionView['kind']): boolean =>
  o.where === 'auction' &&
  (kind === 'reopening'
    ? o.route !== 'open' && o.route !== 'close'
    : o.route === (kind === 'opening' ? 'open' : 'close') || o.route === 'lit' || o.route === 'sweep');

/** The auction that is forming now, or null. */
export function auctionOf(f: Floor, c: FloorContext): AuctionView | null {
  const { sketches: s, day } = c;
  if (c.plan.bars) return null;
  const clock = c.now - c.dayStart;
  const stopped = (s.status[f.i] as number) >= STATUS.pause;
  const near =
    s.stage[f.i] === 0
      ? clock >= REGULAR_OPEN - AUCTION_FROM.opening
      : s.stage[f.i] === 1 && clock >= day.hours.close - AUCTION_FROM.closing;
  if (!stopped && !near) return null;
  lookAhead(f, c);
  const { arrivals } = f;
  if (!arrivals) return null;
  const cross = crossOf(inAuction(f, arrivals.kind, clock), arrivals.reference as Price);
  return {
    ...cross,
    kind: arrivals.kind,
    at: stopped ? (s.until[f.i] as number) : arrivals.at,
    reference: arrivals.reference,
  };
}

/** Holds the auction that is due on a floor. */
export function holdAuction(f: Floor, c: FloorContext, h: Happening): void {
  const kind =
    h.condition === CONDITION.opening
      ? 'opening'
      : h.condition === CONDITION.closing
        ? 'closing'
        : 'reopening';
  if (f.arrivals?.at !== h.at || f.arrivals.kind !== 'reopening') {
    const reference = f.arrivals?.reference ?? f.tape.last ?? c.plan.instrument.priorClose;
    f.arrivals = {
      kind,
      at: h.at,
      reference,
      around: h.price,
      orders: crowdOrders(h.price, h.qty, h.at - 1, h.at, mix(f.key, h.at)),
    };
  }
  const orders = inAuction(f, kind, h.at);
  const cross = crossOf(orders, (f.arrivals?.reference ?? h.price) as Price);
  if (cross.price !== null) {
    for (const { id, qty } of allotCross(orders, cross)) {
      // Crowd and trader share the auction's numbers; only the trader's are found here.
      const o = f.orders.get(id as WireId);
      if (o?.where !== 'auction') continue;
      o.open -= qty;
      tell(f, c, o, { price: cross.price, qty, liquidity: 'removed', venue: 'LIT', reference: o.limit });
    }
    print(f, c, {
      price: cross.price,
      qty: cross.paired,
      aggressor: 'none',
      venue: 'LIT',
      condition: CONDITIONS[h.condition] as PrintCondition,
    });
  }
  f.arrivals = null;
  for (const o of [...f.orders.values()]) {
    if (!takesPart(o, kind)) continue;
    if (o.route === 'open' || o.route === 'close') out(f, c, o.id, 'unfilled rest');
    else {
      o.where = 'book';
      enterLit(f, c, o);
    }
  }
}

import { type Print, type PrintCondition, type PrintVenue, record, type Tape } from '../market/index.ts';
import { MINUTE, type Price, REGULAR_OPEN, roundToTick, SECOND, type Side, tickSize } from '../units/index.ts';
import {
  type AuctionOrder,
  allotCross,
  available,
  type Book,
  bestAsk,
  bestBid,
  type Cross,
  cancel,
  createBook,
  crossOf,
  crowdAt,
  lowestShortPrice,
  type MatchSink,
  type Owner,
  reduce,
  submit,
  trimCrowd,
  type VenueOrder,
} from '../venue/index.ts';
import { type Arrival, crowdOrders } from './opening-orders.ts';
import type { SymbolPlan } from './plan.ts';
import { mix } from './random.ts';
import { CONDITION, copyOne, type DayFrame, type Happening, newHappening, PRINT_SHARE, type Sketches, STATUS, stepSketch, VENUE } from './sketch.ts';

/** What the trader's own orders hear from the exchange. `id` is the number the trader gave. */
export type TraderReport =
  | {
      kind: 'fill';
      id: number;
      symbol: string;
      at: number;
      price: Price;
      qty: number;
      left: number;
      liquidity: 'added' | 'removed';
      venue: PrintVenue;
      /** Price units a share better than the other side's quote (or the limit, if that was nearer). */
      better: number;
    }
  | { kind: 'out'; id: number; symbol: string; at: number; why: OutReason };
export type OutReason =
  | 'self trade'
  | 'unfilled rest'
  | 'too far'
  | 'would take liquidity, and was post only'
  | 'not all could fill at once'
  | 'trading is halted'
  | 'midpoint orders work in the regular session'
  | 'no auction is to come';

interface Standing extends VenueOrder {
  seq: number;
  open: number;
  where: 'book' | 'midpoint' | 'auction';
  /** Its id in the book, while it rests there. */
  place: number;
  /** Shares of others before it at the midpoint. */
  ahead: number;
}

/** The auction that is forming, as everyone sees it. Times as times of day. */
export interface AuctionView extends Cross {
  kind: 'opening' | 'closing' | 'reopening';
  at: number;
  reference: number;
}

/**
 * A full book of one symbol, grown around its plan. The crowd's resting shares at each price are a
 * function of the plan's quote, the price and the time, so that a book that is opened late is the
 * one that would have been there; the plan's trades are orders that meet this book. Without the
 * trader the trades are exactly the plan's. The trader's orders match, rest and queue among them,
 * thin the book out where they take, and push the price as their size would.
 */
export interface Floor {
  i: number;
  symbol: string;
  key: number;
  book: Book;
  tape: Tape;
  seq: number;
  orders: Map<number, Standing>;
  /** Ticks at which the crowd rests, by side. */
  bids: Price[];
  asks: Price[];
  /** Shares that the trader took at a price, and when: the crowd comes back to it only by and by. */
  taken: { price: number; side: Side; qty: number; at: number }[];
  /** Lasting effect of what the trader took, in price units; fades over minutes. */
  push: number;
  pushAt: number;
  arrivals: { kind: AuctionView['kind']; at: number; reference: number; orders: Arrival[] } | null;
  /** The trader has done something here: from then on the book is not only the plan's. */
  touched: boolean;
  /** Something of the trader's waits on its prices, so it is kept whether anyone looks or not. */
  kept: boolean;
  /** Best prices of the crowd as it was last brought to the plan. */
  best: number[];
}

/** What a floor needs of the market around it. */
export interface FloorContext {
  sketches: Sketches;
  plan: SymbolPlan;
  day: DayFrame;
  /** Session time of 00:00 of this day, and now. */
  dayStart: number;
  now: number;
  reports: TraderReport[];
  /** Whether shorts are restricted now. */
  restricted(): boolean;
  onPrint(print: Print): void;
}

const LEVELS = 22;
const FAR_LEVELS = 8;
const AUCTION_FROM = { opening: 2 * MINUTE, closing: 10 * MINUTE };
const PRINT_VENUES: readonly PrintVenue[] = ['LIT', 'MID', 'OFF'];
const CONDITIONS: readonly PrintCondition[] = ['regular', 'opening auction', 'closing auction', 'reopening auction'];

export function createFloor(i: number, plan: SymbolPlan, tape: Tape, seed: number): Floor {
  const { symbol } = plan.instrument;
  let key = seed | 0;
  for (let k = 0; k < symbol.length; k++) key = mix(key, symbol.charCodeAt(k)) | 0;
  return {
    i,
    symbol,
    key,
    book: createBook(roundToTick(tape.last ?? plan.instrument.priorClose)),
    tape,
    seq: 1_000_000,
    orders: new Map(),
    bids: [],
    asks: [],
    taken: [],
    push: 0,
    pushAt: 0,
    arrivals: null,
    touched: false,
    kept: false,
    best: [],
  };
}

/** Lets one happening of the plan act on the book. */
export function happen(f: Floor, c: FloorContext, h: Happening): void {
  if (h.condition !== CONDITION.regular) {
    holdAuction(f, c, h);
    settleBook(f, c);
    return;
  }
  grow(f, c, h.bid, h.ask, h.bidSize, h.askSize, f.touched);
  if (h.qty > 0) {
    const side: Side = h.side === 1 ? 'buy' : 'sell';
    if (h.venue === VENUE.off) print(f, c, h.price + shiftOf(f, c), h.qty, side, 'OFF', 'regular');
    else if (h.venue === VENUE.mid) crowdAtMidpoint(f, c, side, h.qty, h.price);
    else {
      // Some who take look at the midpoint first; there they meet nobody but the trader.
      const qty = mix(f.key, h.at) % 100 < 25 ? h.qty - crowdAtMidpoint(f, c, side, h.qty, null) : h.qty;
      const limit = roundToTick(Math.max(1, h.price + shiftOf(f, c)), side === 'buy' ? 'up' : 'down');
      if (qty > 0) match(f, c, side, null, null, (sink) => submit(f.book, side, limit, qty, 0, false, sink));
    }
  }
  settleBook(f, c);
}

/** Brings the crowd's resting shares to where the plan has them at its last happening. */
export function settleBook(f: Floor, c: FloorContext): void {
  const { sketches: s } = c;
  const { i } = f;
  if ((s.status[i] as number) >= STATUS.pause) halt(f, c);
  else grow(f, c, s.bid[i] as number, s.ask[i] as number, s.bidSize[i] as number, s.askSize[i] as number, f.touched);
}

/** Makes the levels behind the best prices, for somebody who looks; where the trader's orders are, they are there already. */
export function lookDeep(f: Floor, c: FloorContext): void {
  const { sketches: s } = c;
  const { i } = f;
  if (f.touched || (s.status[i] as number) >= STATUS.pause) return;
  grow(f, c, s.bid[i] as number, s.ask[i] as number, s.bidSize[i] as number, s.askSize[i] as number, true);
}

/** The plan's prices move by this many price units because of what the trader took. */
function shiftOf(f: Floor, c: FloorContext): number {
  if (f.push === 0) return 0;
  const now = f.push * ((10 * MINUTE) / (10 * MINUTE + c.now - f.pushAt));
  const tick = tickSize(roundToTick(Math.max(1, c.sketches.worth[f.i] as number)));
  return Math.trunc(now / tick) * tick;
}

/**
 * Brings the crowd to a quote of the plan. The plan's trades take only best prices, so the levels
 * behind them are made when somebody needs them: they are a function of the quote and of the half
 * second in which the plan last did something, and never depend on when they are looked at. Where
 * the trader's orders are, they are made at every happening.
 */
function grow(f: Floor, c: FloorContext, bid: number, ask: number, bidSize: number, askSize: number, deep: boolean): void {
  if (bid <= 0 || ask <= 0) return;
  const shift = shiftOf(f, c);
  const buy = roundToTick(Math.max(1, bid + shift), 'down');
  const sell = roundToTick(Math.max(2, ask + shift), 'up');
  if (f.best[0] !== buy || f.best[1] !== sell) {
    f.best = [buy, sell];
    f.bids = remember(f, trimTo(f, 'buy', buy), buy);
    f.asks = remember(f, trimTo(f, 'sell', sell), sell);
  }
  if (f.taken.length > 0) f.taken = f.taken.filter((t) => missing(t, c.now) > 0);
  setLevel(f, c, 'buy', buy, Math.max(0, bidSize - takenAt(f, 'buy', buy, c.now)));
  setLevel(f, c, 'sell', sell, Math.max(0, askSize - takenAt(f, 'sell', sell, c.now)));
  if (!deep) return;
  const spread = (sell - buy) / tickSize(buy);
  const clock = Math.floor((c.sketches.movedAt[f.i] as number) / 500) * 500;
  deepen(f, c, 'buy', buy, spread, clock);
  deepen(f, c, 'sell', sell, spread, clock);
}

/**
 * The prices at which the crowd may rest, so that they can be cleared later. Of many the far ones
 * are cleared now: whoever looks gets them anew.
 */
function remember(f: Floor, list: Price[], at: Price): Price[] {
  if (list.indexOf(at) < 0) list.push(at);
  if (list.length <= 64) return list;
  list.sort((a, b) => Math.abs(a - at) - Math.abs(b - at));
  for (const p of list.splice(16)) trimCrowd(f.book, p, Number.MAX_SAFE_INTEGER, true);
  return list;
}

/**
 * Nobody of the crowd bids above the plan's bid or offers below its offer.
 * @returns the prices that are left: a price that has changed sides must not be cleared for the old one.
 */
function trimTo(f: Floor, side: Side, best: Price): Price[] {
  const list = side === 'buy' ? f.bids : f.asks;
  let n = 0;
  for (const p of list) {
    if (side === 'buy' ? p > best : p < best) trimCrowd(f.book, p, Number.MAX_SAFE_INTEGER, true);
    else list[n++] = p;
  }
  list.length = n;
  return list;
}

/** The levels behind the best price: quoting interest near it, reverting interest further out and at round prices. */
function deepen(f: Floor, c: FloorContext, side: Side, best: Price, spread: number, clock: number): void {
  const { plan } = c;
  const tick = tickSize(best);
  const away = side === 'buy' ? -1 : 1;
  const density = Math.min(0.85, Math.max(0.18, 2.4 / Math.max(1, spread)));
  const wanted: Price[] = [best];
  const sign = side === 'buy' ? 0 : 1;
  const sparse = clock < REGULAR_OPEN || clock >= c.day.hours.close ? 0.5 : 1;
  const far = Math.max(5 * tick, Math.floor(best / 100 / (5 * tick)) * 5 * tick);
  for (let k = 1; k <= LEVELS + FAR_LEVELS; k++) {
    const raw = k <= LEVELS ? best + away * k * tick : Math.floor((best + away * LEVELS * tick) / far) * far + away * (k - LEVELS) * far;
    if (raw < tick || (side === 'buy' ? raw >= best : raw <= best)) continue;
    const at = roundToTick(raw);
    const base = mix(f.key + sign, at);
    const life = 5 * SECOND + (base % 20) * SECOND;
    const draw = mix(base, Math.floor((clock + (base % 8192)) / life));
    const round = at % 5000 === 0 ? 3 : at % 1000 === 0 ? 1.4 : 1;
    const chance = k > LEVELS ? 0.9 : density * (round > 1 ? 1.5 : 1) * (0.6 + 0.4 * sparse);
    let qty = 0;
    if ((draw & 1023) < chance * 1024) {
      const u = ((draw >>> 10) & 4095) / 4096;
      qty = 100 * (1 + Math.floor(plan.depth * sparse * round * (u / (1.08 - u)) * (1 + Math.min(2, k / 8))));
      if (u < 0.08) qty += 1 + (draw & 63);
    }
    qty = Math.max(0, qty - takenAt(f, side, at, c.now));
    setLevel(f, c, side, at, qty);
    if (qty > 0) wanted.push(at);
  }
  // A price that was an offer a moment ago may be a bid now: only this side's own prices are cleared.
  const list = side === 'buy' ? f.bids : f.asks;
  for (const p of list) if ((side === 'buy' ? p < best : p > best) && wanted.indexOf(p) < 0) trimCrowd(f.book, p, Number.MAX_SAFE_INTEGER, true);
  if (side === 'buy') f.bids = wanted;
  else f.asks = wanted;
}

function setLevel(f: Floor, c: FloorContext, side: Side, at: Price, wanted: number): void {
  const now = crowdAt(f.book, at);
  if (wanted < now) trimCrowd(f.book, at, now - wanted, (mix(f.key, c.now + at) & 1) === 0);
  else if (wanted > now) {
    match(f, c, side, null, null, (sink) => submit(f.book, side, at, wanted - now, 0, true, sink));
  }
}

/** What is still missing of shares taken a while ago: half is back after eight seconds. */
const missing = (t: { qty: number; at: number }, now: number): number => {
  const age = (now - t.at) / (8 * SECOND);
  return age > 15 ? 0 : Math.floor(t.qty / (1 + age * age));
};
const takenAt = (f: Floor, side: Side, price: number, now: number): number =>
  f.taken.reduce((a, t) => (t.price === price && t.side === side ? a + missing(t, now) : a), 0);

// --- matching: one print for each price that an aggressor takes

const alone = {
  price: 0,
  qty: 0,
  trade(_side: Side, price: Price, qty: number) {
    alone.price = price;
    alone.qty += qty;
  },
  selfTrade() {},
};

function match(f: Floor, c: FloorContext, aggressor: Side, taker: Standing | null, reference: Price | null, go: (sink: MatchSink) => number): number {
  // Among the crowd alone one price is taken at most, and nobody has to be told.
  if (!taker && f.orders.size === 0) {
    alone.price = 0;
    alone.qty = 0;
    const left = go(alone);
    if (alone.qty > 0) print(f, c, alone.price, alone.qty, aggressor, 'LIT', 'regular');
    return left;
  }
  let at = 0;
  let sum = 0;
  const flush = () => {
    if (sum > 0) print(f, c, at, sum, aggressor, 'LIT', 'regular');
    sum = 0;
  };
  const left = go({
    trade(_side, price, qty, maker, makerOwner: Owner, makerLeft) {
      if (price !== at) flush();
      at = price;
      sum += qty;
      const resting = makerOwner === 1 ? atPlace(f, maker) : undefined;
      if (resting) {
        resting.open = makerLeft;
        tell(f, c, resting, price, qty, 'added', 'LIT', resting.limit);
      }
      if (taker) {
        taker.open -= qty;
        f.taken.push({ price, side: aggressor === 'buy' ? 'sell' : 'buy', qty, at: c.now });
        tell(f, c, taker, price, qty, 'removed', 'LIT', reference);
      }
    },
    selfTrade(maker) {
      const own = atPlace(f, maker);
      if (own) out(f, c, own.id, 'self trade');
    },
  });
  flush();
  return left;
}

/** The trader's order behind an id of the book. */
function atPlace(f: Floor, place: number): Standing | undefined {
  for (const o of f.orders.values()) if (o.where === 'book' && o.place === place) return o;
  return undefined;
}

function print(f: Floor, c: FloorContext, price: number, qty: number, aggressor: Print['aggressor'], venue: PrintVenue, condition: PrintCondition): void {
  const p: Print = {
    at: c.now,
    symbol: f.symbol,
    price: price as Price,
    qty,
    aggressor,
    venue,
    condition: condition === 'regular' && qty < 100 ? 'odd lot' : condition,
  };
  record(f.tape, p);
  c.onPrint(p);
}

/** Tells the trader of an execution; `reference` is the price that it is measured against. */
function tell(
  f: Floor,
  c: FloorContext,
  o: Standing,
  price: Price,
  qty: number,
  liquidity: 'added' | 'removed',
  venue: PrintVenue,
  reference: Price | null,
): void {
  const nearer = reference === null ? price : o.limit === null ? reference : o.side === 'buy' ? Math.min(o.limit, reference) : Math.max(o.limit, reference);
  const better = Math.max(0, o.side === 'buy' ? nearer - price : price - nearer);
  c.reports.push({ kind: 'fill', id: o.id, symbol: f.symbol, at: c.now, price, qty, left: o.open, liquidity, venue, better });
  if (o.open === 0) f.orders.delete(o.id);
}

function out(f: Floor, c: FloorContext, id: number, why: OutReason): void {
  f.orders.delete(id);
  c.reports.push({ kind: 'out', id, symbol: f.symbol, at: c.now, why });
}

// --- the trader's orders

/** Takes an order of the trader. What comes of it goes to the reports. */
export function enter(f: Floor, c: FloorContext, order: VenueOrder): void {
  f.touched = true;
  settleBook(f, c);
  const o: Standing = { ...order, open: order.qty, seq: f.seq++, where: 'book', place: 0, ahead: 0 };
  f.orders.set(o.id, o);
  const { sketches: s, day } = c;
  const stage = s.stage[f.i];
  const replayed = c.plan.bars !== null;
  if (o.route === 'open' || o.route === 'close') {
    if (replayed || (o.route === 'open' ? stage !== 0 : stage === 2)) return out(f, c, o.id, 'no auction is to come');
    o.where = 'auction';
    return;
  }
  const clock = c.now - c.dayStart;
  if (o.route !== 'lit' && (clock < REGULAR_OPEN || clock >= day.hours.close)) {
    if (o.route === 'mid') return out(f, c, o.id, 'midpoint orders work in the regular session');
    o.route = 'lit';
  }
  if ((s.status[f.i] as number) >= STATUS.pause) {
    if (o.life !== 'day') return out(f, c, o.id, 'trading is halted');
    o.where = o.route === 'mid' ? 'midpoint' : 'auction';
    return;
  }
  if (o.route !== 'lit') takeMidpoint(f, c, o);
  if (o.open === 0) return;
  if (o.route === 'mid') {
    if (o.life !== 'day') return out(f, c, o.id, 'unfilled rest');
    o.where = 'midpoint';
    o.ahead = Math.max(0, (s.midpoint[f.i] as number) * (o.side === 'buy' ? 1 : -1));
    return;
  }
  enterLit(f, c, o);
}

function enterLit(f: Floor, c: FloorContext, o: Standing): void {
  const limit = allowed(f, c, o);
  const touch = o.side === 'buy' ? bestAsk(f.book) : bestBid(f.book);
  const marketable = touch !== null && (o.side === 'buy' ? limit >= touch : limit <= touch);
  if (o.postOnly && marketable) return out(f, c, o.id, 'would take liquidity, and was post only');
  if (o.life === 'fok' && available(f.book, o.side, limit, 1) < o.open) return out(f, c, o.id, 'not all could fill at once');
  const before = o.open;
  const left = match(f, c, o.side, o, touch, (sink) => submit(f.book, o.side, limit, o.open, 1, o.life === 'day', sink));
  o.place = f.book.placed;
  if (left < 0) return out(f, c, o.id, 'too far');
  if (before > left) impact(f, c, o.side, before - left);
  if (left > 0 && o.life !== 'day') out(f, c, o.id, 'unfilled rest');
}

/** No order trades beyond the price bands, and no short sale at or below the bid while shorts are restricted. */
function allowed(f: Floor, c: FloorContext, o: Standing): Price {
  let limit = o.limit as Price;
  const upper = c.sketches.upper[f.i] as Price;
  const lower = c.sketches.lower[f.i] as Price;
  if (upper > 0 && o.side === 'buy' && limit > upper) limit = upper;
  if (lower > 0 && o.side === 'sell' && limit < lower) limit = lower;
  const bid = bestBid(f.book);
  if (o.short && c.restricted() && bid !== null && limit <= bid) limit = lowestShortPrice(bid);
  return limit;
}

/**
 * The lasting effect of what was taken: about the change of a usual minute times the square root of
 * its share of a usual minute's volume (the square-root law of market impact; common practice).
 */
function impact(f: Floor, c: FloorContext, side: Side, qty: number): void {
  const { plan, sketches: s } = c;
  const phase = plan.phases[s.phase[f.i] as number];
  const perMinute = Math.max(plan.lot, plan.rate * (phase?.pace ?? 1) * 60 * PRINT_SHARE * plan.lot);
  const move = 0.4 * plan.vol * (phase?.vol ?? 1) * (s.worth[f.i] as number) * Math.sqrt(Math.min(25, qty / perMinute));
  const old = f.push * ((10 * MINUTE) / (10 * MINUTE + c.now - f.pushAt));
  f.push = old + (side === 'buy' ? move : -move);
  f.pushAt = c.now;
}

/** Takes an order out. @returns whether it was still there. */
export function leave(f: Floor, id: number): boolean {
  const o = f.orders.get(id);
  if (!o) return false;
  f.orders.delete(id);
  if (o.where === 'book') cancel(f.book, o.place);
  return true;
}

/** Lowers an order in place. @returns whether it could be done. */
export function shrink(f: Floor, id: number, qty: number): boolean {
  const o = f.orders.get(id);
  if (!o || qty <= 0 || qty >= o.open) return false;
  if (o.where === 'book' && !reduce(f.book, o.place, qty)) return false;
  o.open = qty;
  return true;
}

// --- the midpoint book

const middle = (f: Floor): Price | null => {
  const [bid, ask] = [bestBid(f.book), bestAsk(f.book)];
  return bid === null || ask === null ? null : (Math.floor((bid + ask) / 2) as Price);
};
const accepts = (o: Standing, mid: Price): boolean => o.limit === null || (o.side === 'buy' ? o.limit >= mid : o.limit <= mid);

/** The trader's order meets what the crowd has waiting unseen at the midpoint. */
function takeMidpoint(f: Floor, c: FloorContext, o: Standing): void {
  const mid = middle(f);
  if (mid === null || !accepts(o, mid)) return;
  const taken = takenAt(f, o.side, -1, c.now);
  const waiting = Math.max(0, (c.sketches.midpoint[f.i] as number) * (o.side === 'buy' ? -1 : 1) - taken);
  const qty = Math.min(o.open, waiting);
  if (qty <= 0 || (o.life === 'fok' && qty < o.open)) return;
  o.open -= qty;
  f.taken.push({ price: -1, side: o.side, qty, at: c.now });
  tell(f, c, o, mid, qty, 'removed', 'MID', o.side === 'buy' ? bestAsk(f.book) : bestBid(f.book));
  print(f, c, mid, qty, o.side, 'MID', 'regular');
}

/**
 * The crowd comes to the midpoint with `side`: it meets the trader's orders there in their turn,
 * and, where the plan says so (with the price it `planned`), its own. @returns the shares that the trader's orders took.
 */
function crowdAtMidpoint(f: Floor, c: FloorContext, side: Side, qty: number, planned: number | null): number {
  const mid = middle(f);
  if (mid === null) return 0;
  let left = qty;
  let mine = 0;
  for (const o of [...f.orders.values()].filter((x) => x.where === 'midpoint' && x.side !== side && accepts(x, mid)).sort((a, b) => a.seq - b.seq)) {
    const before = Math.min(left, o.ahead);
    o.ahead -= before;
    const fill = Math.min(left - before, o.open);
    if (fill <= 0) continue;
    left -= fill;
    mine += fill;
    o.open -= fill;
    tell(f, c, o, mid, fill, 'added', 'MID', o.side === 'buy' ? bestAsk(f.book) : bestBid(f.book));
  }
  if (planned !== null) print(f, c, mine > 0 ? mid : planned + shiftOf(f, c), qty, side, 'MID', 'regular');
  else if (mine > 0) print(f, c, mid, mine, side, 'MID', 'regular');
  return mine;
}

// --- halts and auctions

/** Trading has stopped: the crowd withdraws, the trader's orders wait for the reopening. */
function halt(f: Floor, c: FloorContext): void {
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

/** The crowd's orders for the auction that comes next, from a run of the plan up to it. */
function lookAhead(f: Floor, c: FloorContext): void {
  const { sketches: s, day, plan } = c;
  const clock = c.now - c.dayStart;
  const stopped = (s.status[f.i] as number) >= STATUS.pause;
  const kind = stopped ? 'reopening' : s.stage[f.i] === 0 ? 'opening' : 'closing';
  if (f.arrivals && f.arrivals.kind === kind && f.arrivals.at > clock) return;
  const copy = copyOne(s, f.i);
  const h = newHappening();
  const reference = (s.reference[f.i] as number) || f.tape.last || plan.instrument.priorClose;
  const wanted = kind === 'opening' ? CONDITION.opening : kind === 'closing' ? CONDITION.closing : 0;
  while ((copy.nextAt[0] as number) < day.hours.end) {
    stepSketch(copy, 0, plan, day, h);
    if (h.condition !== CONDITION.regular && (wanted === 0 || h.condition === wanted)) {
      const from = stopped ? (s.movedAt[f.i] as number) : h.at - AUCTION_FROM[kind === 'closing' ? 'closing' : 'opening'];
      f.arrivals = { kind, at: h.at, reference, orders: crowdOrders(h.price, h.qty, from, h.at, mix(f.key, h.at)) };
      return;
    }
  }
}

/** Orders that are in the auction now: the crowd's that have come, and the trader's. */
function inAuction(f: Floor, kind: AuctionView['kind'], clock: number): AuctionOrder[] {
  const crowd = f.arrivals?.orders.filter((a) => a.arrives <= clock) ?? [];
  return [
    ...crowd,
    ...[...f.orders.values()].filter((o) => takesPart(o, kind)).map((o) => ({ id: o.id, side: o.side, limit: o.limit, qty: o.open, seq: o.seq })),
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
  const near = s.stage[f.i] === 0 ? clock >= REGULAR_OPEN - AUCTION_FROM.opening : s.stage[f.i] === 1 && clock >= day.hours.close - AUCTION_FROM.closing;
  if (!stopped && !near) return null;
  lookAhead(f, c);
  const { arrivals } = f;
  if (!arrivals) return null;
  const cross = crossOf(inAuction(f, arrivals.kind, clock), arrivals.reference as Price);
  return { ...cross, kind: arrivals.kind, at: stopped ? (s.until[f.i] as number) : arrivals.at, reference: arrivals.reference };
}

function holdAuction(f: Floor, c: FloorContext, h: Happening): void {
  const kind = h.condition === CONDITION.opening ? 'opening' : h.condition === CONDITION.closing ? 'closing' : 'reopening';
  if (f.arrivals?.at !== h.at) {
    const reference = f.arrivals?.reference ?? f.tape.last ?? c.plan.instrument.priorClose;
    f.arrivals = { kind, at: h.at, reference, orders: crowdOrders(h.price, h.qty, h.at - 1, h.at, mix(f.key, h.at)) };
  }
  const orders = inAuction(f, kind, h.at);
  const cross = crossOf(orders, (f.arrivals?.reference ?? h.price) as Price);
  if (cross.price !== null) {
    for (const { id, qty } of allotCross(orders, cross)) {
      const o = f.orders.get(id);
      if (o?.where !== 'auction') continue;
      o.open -= qty;
      tell(f, c, o, cross.price, qty, 'removed', 'LIT', o.limit);
    }
    print(f, c, cross.price, cross.paired, 'none', 'LIT', CONDITIONS[h.condition] as PrintCondition);
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

export const venueName = (v: number): PrintVenue => PRINT_VENUES[v] as PrintVenue;
export const conditionName = (condition: number, qty: number): PrintCondition =>
  condition === CONDITION.regular && qty < 100 ? 'odd lot' : (CONDITIONS[condition] as PrintCondition);

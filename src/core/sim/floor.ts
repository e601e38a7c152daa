import type { PrintCondition, PrintVenue, Tape } from '../market/index.ts';
import { keyOf, mix, type Price, REGULAR_OPEN, roundToTick, type Side } from '../units/index.ts';
import { createBook, submit, type VenueOrder } from '../venue/index.ts';
import { CONDITION, type Happening, STATUS, VENUE } from './columns.ts';
import { grow } from './crowd.ts';
import { match, out, print } from './executions.ts';
import { CONDITIONS, halt, holdAuction } from './floor-auctions.ts';
import type { Floor, FloorContext, Standing } from './floor-types.ts';
import type { SymbolPlan } from './plan.ts';
import { requote, show } from './quote.ts';
import { crowdAtMidpoint, enterLit, takeMidpoint } from './trader-orders.ts';

/** A floor for a symbol: its full book, grown around the plan. */
export function createFloor(i: number, plan: SymbolPlan, tape: Tape, seed: number): Floor {
  const { symbol } = plan.instrument;
  return {
    i,
    symbol,
    key: keyOf(seed, symbol),
    book: createBook(roundToTick(tape.last ?? plan.instrument.priorClose)),
    tape,
    seq: 1_000_000,
    orders: new Map(),
    bids: [],
    asks: [],
    taken: [],
    flickerAt: 0,
    arrivals: null,
    touched: false,
    kept: false,
    best: [],
  };
}

const sideOf = (h: Happening): Side => (h.side === 1 ? 'buy' : 'sell');

/**
 * Nobody but the crowd is here, and nothing is missing of what the trader took: trades are the plan's and
 * best prices those of its quote, and the book is made only for who looks.
 */
export const onlyCrowd = (f: Floor): boolean => f.orders.size === 0 && f.taken.length === 0;

/** Lets one happening of the plan act on the book. */
export function happen(f: Floor, c: FloorContext, h: Happening): void {
  if (h.condition !== CONDITION.regular) {
    holdAuction(f, c, h);
    settleBook(f, c);
    return;
  }
  if (onlyCrowd(f)) {
    if (h.qty > 0)
      print(f, c, {
        price: h.price,
        qty: h.qty,
        aggressor: sideOf(h),
        venue: venueName(h.venue),
        condition: 'regular',
      });
    return;
  }
  grow(f, c, h);
  if (h.qty > 0) {
    const side = sideOf(h);
    if (h.venue === VENUE.off)
      print(f, c, { price: h.price, qty: h.qty, aggressor: side, venue: 'OFF', condition: 'regular' });
    else if (h.venue === VENUE.mid) crowdAtMidpoint(f, c, side, h.qty, h.price);
    else {
      // Some who take look at the midpoint first; there they meet nobody but the trader.
      const qty = mix(f.key, h.at) % 100 < 25 ? h.qty - crowdAtMidpoint(f, c, side, h.qty, null) : h.qty;
      const limit = h.price as Price;
      if (qty > 0)
        match(f, c, { aggressor: side, taker: null, reference: null }, (sink) =>
          submit(f.book, { side, limit, qty, owner: 0, rest: false }, sink),
        );
    }
  }
  settleBook(f, c);
}

/** Brings the crowd's resting shares to where the plan has them at its last happening. */
export function settleBook(f: Floor, c: FloorContext): void {
  if (!onlyCrowd(f)) toPlan(f, c);
}

function toPlan(f: Floor, c: FloorContext): void {
  const { sketches: s } = c;
  const { i } = f;
  if ((s.status[i] as number) >= STATUS.pause) halt(f, c);
  else
    grow(f, c, {
      bid: s.bid[i] as number,
      ask: s.ask[i] as number,
      bidSize: s.bidSize[i] as number,
      askSize: s.askSize[i] as number,
    });
}

/** Makers answer what the trader took: they quote around the price as it is now. */
export function answer(f: Floor, c: FloorContext): void {
  const { sketches: s, plan } = c;
  if (plan.bars || (s.status[f.i] as number) >= STATUS.pause) return;
  const clock = c.now - c.dayStart;
  requote(s, f.i, plan, clock);
  show(s, f.i, plan, clock, c.day.hours);
  settleBook(f, c);
}

/** The book for somebody who looks; where the trader is in it, it is there already. */
export function look(f: Floor, c: FloorContext): void {
  if (onlyCrowd(f)) toPlan(f, c);
}

/**
 * The trader comes to this floor. Where only the crowd has been, the book is made anew: how its shares
 * lie in it must not depend on when it was looked at.
 */
function touch(f: Floor, c: FloorContext): void {
  f.touched = true;
  if (onlyCrowd(f)) {
    f.book = createBook(roundToTick(f.tape.last ?? c.plan.instrument.priorClose));
    f.bids = [];
    f.asks = [];
    f.best = [];
    f.arrivals = null;
  }
  toPlan(f, c);
}

/** Takes an order of the trader. What comes of it goes to the reports. */
// biome-ignore lint/complexity/noExcessiveCognitiveComplexity: a hot path of the exchange
export function enter(f: Floor, c: FloorContext, order: VenueOrder): void {
  touch(f, c);
  const o: Standing = { ...order, open: order.qty, seq: f.seq++, where: 'book', place: 0, ahead: 0 };
  f.orders.set(o.id, o);
  const { sketches: s, day } = c;
  const stage = s.stage[f.i];
  const replayed = c.plan.bars !== null;
  if (o.route === 'open' || o.route === 'close') {
    if (replayed || (o.route === 'open' ? stage !== 0 : stage === 2))
      return out(f, c, o.id, 'no auction is to come');
    o.where = 'auction';
    return;
  }
  const clock = c.now - c.dayStart;
  if (o.route !== 'lit' && (clock < REGULAR_OPEN || clock >= day.hours.close)) {
    if (o.route === 'mid') return out(f, c, o.id, 'midpoint orders work in the regular session');
    o.route = 'lit';
  }
  if ((s.status[f.i] as number) >= STATUS.pause) {
    if (o.life === 'ioc' || o.life === 'fok') return out(f, c, o.id, 'trading is halted');
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

const PRINT_VENUES: readonly PrintVenue[] = ['LIT', 'MID', 'OFF'];

/** A print’s venue by its number. */
export const venueName = (v: number): PrintVenue => PRINT_VENUES[v] as PrintVenue;

/** A print’s condition by its number. */
export const conditionName = (condition: number, qty: number): PrintCondition =>
  condition === CONDITION.regular && qty < 100 ? 'odd lot' : (CONDITIONS[condition] as PrintCondition);

import { mix, type Price, tickSize } from '../units/index.ts';
import { excite } from './arrivals.ts';
import { type Happening, type Sketches, STATUS, VENUE } from './columns.ts';
import { MEAN_NEWS, NEWS_OF } from './impact.ts';
import { reckon } from './limits.ts';
import type { Rushes, SymbolPlan } from './plan.ts';
import { requote, sizeAt } from './quote.ts';
import { uniform } from './random.ts';
import { expectedSide, rememberSide } from './sides.ts';
import { after, bounded, type DayFrame, MOST_SURE, stretch, tilted } from './sketch-frame.ts';

/** A rush may set in, or end in a flush, with any trade. */
function mayRush(s: Sketches, i: number, plan: SymbolPlan, r: Rushes, now: number, pace: number): void {
  const draw = uniform(s.random, i * 4);
  const on = s.rush[i] as number;
  if (on !== 0) {
    if (draw < 1 / r.trades) {
      s.rush[i] = 0;
      // What a rush brings is what it tilts beyond what the tape already expects: a flush takes back as much, and no more.
      const expected = expectedSide(s, i);
      const brings = bounded(expected + on, MOST_SURE) - expected;
      s.flush[i] = -Math.round((MEAN_NEWS * brings * r.trades) / 2);
    }
  } else if (now >= r.from && s.flush[i] === 0 && (now < r.until || (r.untilPaused && s.pauses[i] === 0))) {
    const chance = r.perHour / (3600 * Math.max(0.01, plan.rate * pace));
    if (draw < chance) s.rush[i] = draw < chance * r.up ? r.tilt : -r.tilt;
  }
}

export function trade(
  s: Sketches,
  i: number,
  plan: SymbolPlan,
  day: DayFrame,
  now: number,
  h: Happening,
): void {
  const o = i * 4;
  if (plan.rushes) mayRush(s, i, plan, plan.rushes, now, stretch(s, i, plan)?.pace ?? 0);
  // The same draws whatever the price is: the trader moves the price, not what happens by chance.
  const draw = uniform(s.random, o);
  const where = uniform(s.random, o);
  const lot = lotOf(s, i, plan);
  const flush = s.flush[i] as number;
  const expected = expectedSide(s, i);
  const chance = 0.5 * (1 + bounded(expected + tilted(s, i, plan, now), MOST_SURE));
  const side = flush !== 0 ? (flush > 0 ? 1 : -1) : draw < chance ? 1 : -1;
  const regular = s.stage[i] === 1;
  const venue =
    flush !== 0 || h.status !== STATUS.trading
      ? VENUE.lit
      : where < 0.09 && regular
        ? VENUE.mid
        : where < 0.32
          ? VENUE.off
          : VENUE.lit;
  if (flush !== 0) s.flush[i] = flush - side;
  print(s, i, h, side, venue, lot, (where - 0.09) / 0.23);
  const news = (s.sigma[i] as number) * (venue === VENUE.lit ? NEWS_OF.lit : NEWS_OF.hidden);
  // What follows the market's move by more of one side's trades is not left to follow it otherwise.
  if (flush === 0) s.pending[i] = (s.pending[i] as number) - news * after(s, i);
  tell(s, i, flush !== 0 ? 2 * side * news : news * (side - expected), side);
  rememberSide(s, i, side);
  excite(s, i);
  if (h.qty > 0) reckon(s, i, plan, { at: now, price: h.price }, day.hours);
  const size = side === 1 ? h.askSize : h.bidSize;
  requote(s, i, plan, now);
  if (h.qty > 0 && venue === VENUE.lit) eat(s, i, plan, h, size);
}

/** A print has told something: worth moves by it, and by what of the market's move goes the same way. */
export function tell(s: Sketches, i: number, by: number, side: number): void {
  const pending = s.pending[i] as number;
  const along = pending * side > 0 ? 0.5 * pending : 0;
  s.pending[i] = pending - along;
  s.own[i] = (s.own[i] as number) * (1 + by);
  s.worth[i] = Math.max(200, (s.worth[i] as number) * (1 + by) * (1 + along));
}

/** Shares of one print: round lots with a heavy tail, and odd lots. */
function lotOf(s: Sketches, i: number, plan: SymbolPlan): number {
  const o = i * 4;
  const odd = uniform(s.random, o) < 0.35;
  const u = uniform(s.random, o);
  if (odd) return 1 + Math.floor(u * u * 99);
  const extra = Math.max(0, plan.lot - 80) * 1.8;
  return 100 * (1 + Math.floor((Math.min(30, 1 / Math.sqrt(u) - 1) * extra) / 100));
}

/** What trades, where and at which price of the quote that stands. */
function print(
  s: Sketches,
  i: number,
  h: Happening,
  side: number,
  venue: number,
  lot: number,
  share: number,
): void {
  if (h.bid === 0) return;
  // At a band only who sells into it (or buys, at the lower one) finds somebody.
  if ((h.status === STATUS.limitUp && side === 1) || (h.status === STATUS.limitDown && side === -1)) return;
  h.side = side;
  h.venue = venue;
  if (venue === VENUE.mid) return meetAtMidpoint(s, i, side, lot, h);
  h.price = side === 1 ? h.ask : h.bid;
  if (venue === VENUE.off) {
    h.qty = lot;
    const room = h.ask - h.bid;
    const tick = tickSize(h.ask as Price);
    const better =
      room < 2 * tick
        ? share > 0.75
          ? Math.floor(room / 2)
          : 0
        : Math.floor((bounded(share - 0.4, 0.5) * room) / tick) * tick;
    if (better > 0) h.price -= side * better;
    return;
  }
  h.qty = Math.min(lot, side === 1 ? h.askSize : h.bidSize);
}

/** An order comes to the midpoint book: it meets what waits there unseen, or waits itself. */
function meetAtMidpoint(s: Sketches, i: number, side: number, lot: number, h: Happening): void {
  const waiting = (s.midpoint[i] as number) * -side;
  if (waiting > 0) {
    h.qty = Math.min(lot, waiting);
    h.price = Math.floor((h.bid + h.ask) / 2);
    s.midpoint[i] = (s.midpoint[i] as number) + side * h.qty;
  } else s.midpoint[i] = Math.max(-6000, Math.min(6000, (s.midpoint[i] as number) + side * lot));
}

/**
 * What a lit print leaves of the price that it took: where the makers give way it takes all that
 * was shown (unless that was far more), else the rest stays, or new shares come when none is left.
 */
function eat(s: Sketches, i: number, plan: SymbolPlan, h: Happening, shown: number): void {
  const { side } = h;
  const stays = side === 1 ? (s.high[i] as number) <= h.price : (s.low[i] as number) >= h.price;
  if (!stays) {
    if (shown <= 3 * h.qty) h.qty = shown;
    return;
  }
  if (s.flicker[i] === -1) return;
  const left = shown - h.qty;
  const size = left > 0 ? left : sizeAt(h.price, plan.depth, mix(s.key[i] as number, h.at + h.price));
  const makers = side === 1 ? (s.high[i] as number) : (s.low[i] as number);
  // Who stood a tick before the makers is gone when his shares are.
  if (side === 1) {
    if (left <= 0) s.ask[i] = makers;
    s.askSize[i] = size;
  } else {
    if (left <= 0) s.bid[i] = makers;
    s.bidSize[i] = size;
  }
}

// What happens when orders meet: one print for each price that an aggressor takes, and a word to the trader where it concerns him.
import { type Print, type PrintCondition, type PrintVenue, record } from '../market/index.ts';
import type { Price, Side, WireId } from '../units/index.ts';
import type { MatchSink, Owner } from '../venue/index.ts';
import type { Floor, FloorContext, OutReason, Standing } from './floor-types.ts';
import { press } from './impact.ts';

/** One execution as the tape tells it. */
interface Printed {
  price: number;
  qty: number;
  aggressor: Print['aggressor'];
  venue: PrintVenue;
  condition: PrintCondition;
}

/** One execution as the trader is told it; `reference` is the price that it is measured against. */
interface Told {
  price: Price;
  qty: number;
  liquidity: 'added' | 'removed';
  venue: PrintVenue;
  reference: Price | null;
}

const alone = {
  price: 0,
  qty: 0,
  trade(_side: Side, price: Price, qty: number) {
    alone.price = price;
    alone.qty += qty;
  },
  selfTrade() {},
};

import { remove } from './refill.ts';

/** Matches an order of the crowd or of the trader against a floor’s book. */
export function match(
  f: Floor,
  c: FloorContext,
  { aggressor, taker, reference }: { aggressor: Side; taker: Standing | null; reference: Price | null },
  go: (sink: MatchSink) => number,
): number {
  // Among the crowd alone one price is taken at most, and nobody has to be told.
  if (!taker && f.orders.size === 0) {
    alone.price = 0;
    alone.qty = 0;
    const left = go(alone);
    const { price, qty } = alone;
    if (qty > 0) print(f, c, { price, qty, aggressor, venue: 'LIT', condition: 'regular' });
    return left;
  }
  let at = 0;
  let sum = 0;
  const flush = () => {
    if (sum > 0) print(f, c, { price: at, qty: sum, aggressor, venue: 'LIT', condition: 'regular' });
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
        tell(f, c, resting, { price, qty, liquidity: 'added', venue: 'LIT', reference: resting.limit });
      }
      if (taker) {
        taker.open -= qty;
        remove(f, c, aggressor === 'buy' ? 'sell' : 'buy', price, qty);
        tell(f, c, taker, { price, qty, liquidity: 'removed', venue: 'LIT', reference });
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

/** Makes a print of an execution. */
export function print(f: Floor, c: FloorContext, { price, qty, aggressor, venue, condition }: Printed): void {
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

/** Tells the trader of an execution, which leaves its trace in the price. */
export function tell(
  f: Floor,
  c: FloorContext,
  o: Standing,
  { price, qty, liquidity, venue, reference }: Told,
): void {
  const nearer =
    reference === null
      ? price
      : o.limit === null
        ? reference
        : o.side === 'buy'
          ? Math.min(o.limit, reference)
          : Math.max(o.limit, reference);
  press(c.sketches, f.i, c.plan, o.side === 'buy' ? qty : -qty, c.now - c.dayStart);
  const better = Math.max(0, o.side === 'buy' ? nearer - price : price - nearer);
  c.reports.push({
    kind: 'fill',
    id: o.id,
    symbol: f.symbol,
    at: c.now,
    price,
    qty,
    liquidity,
    venue,
    better,
  });
  if (o.open === 0) f.orders.delete(o.id);
}

/** Reports that an order of the trader has ended. */
export function out(f: Floor, c: FloorContext, id: WireId, why: OutReason): void {
  f.orders.delete(id);
  c.reports.push({ kind: 'out', id, symbol: f.symbol, at: c.now, why });
}

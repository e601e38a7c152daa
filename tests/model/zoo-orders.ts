// Rules that need real orders: makers, pumps, splitters. Each has a market of its own.
import {
  carryOut,
  createMarket,
  keepFloor,
  type Market,
  quoteOf,
  type Scenario,
  stepMarket,
  workingOrders,
} from '@/core/sim';
import {
  MINUTE,
  onTick,
  type Price,
  roundToTick,
  SECOND,
  type Side,
  tickSize,
  type WireId,
} from '@/core/units';

/** A hand at the exchange that counts its money. Prices and money in 1/10,000 dollar. */
export interface Hand {
  m: Market;
  symbol: string;
  cash: number;
  shares: number;
  traded: number;
  costs: number;
  /** Signed mid moves after its resting fills, in half spreads. */
  fills: { at: number; side: Side; price: number; qty: number; liquidity: string }[];
  id: number;
}

const COMMISSION = 50;
const FEE = { removed: 30, added: -20 } as const;

export function createHand(scenario: Scenario, symbol: string, at: number): Hand {
  const m = createMarket(scenario);
  run(m, at);
  keepFloor(m, symbol);
  return { m, symbol, cash: 0, shares: 0, traded: 0, costs: 0, fills: [], id: 0 };
}
function run(m: Market, until: number): void {
  while (stepMarket(m, until) >= 0);
}
/** Time goes on; what has filled is booked. */
export function wait(h: Hand, ms: number): void {
  run(h.m, h.m.now + ms);
  hear(h);
}
function hear(h: Hand): void {
  for (const r of h.m.reports.splice(0)) {
    if (r.kind !== 'fill') continue;
    const side = sides.get(h)?.get(r.id) as Side;
    h.cash += (side === 'buy' ? -1 : 1) * r.price * r.qty;
    h.shares += side === 'buy' ? r.qty : -r.qty;
    h.traded += r.price * r.qty;
    h.costs += r.qty * (COMMISSION + FEE[r.liquidity]);
    h.fills.push({ at: r.at, side, price: r.price, qty: r.qty, liquidity: r.liquidity });
  }
}
const sides = new WeakMap<Hand, Map<number, Side>>();

/** Sends an order; `limit` null takes what is there, whatever it costs. */
export function send(
  h: Hand,
  side: Side,
  qty: number,
  limit: number | null,
  route: 'lit' | 'mid' = 'lit',
): number {
  const q = quoteOf(h.m, h.symbol);
  const far = side === 'buy' ? (q.ask ?? 0) * 1.5 : (q.bid ?? 0) * 0.5;
  const price = limit === null ? roundToTick(Math.max(1, far)) : limit;
  if (price <= 0 || !onTick(price as Price)) return 0;
  const id = ++h.id;
  const own = sides.get(h) ?? new Map<number, Side>();
  sides.set(h, own.set(id, side));
  carryOut(h.m, {
    kind: 'new',
    symbol: h.symbol,
    id: id as WireId,
    side,
    qty,
    limit: route === 'mid' ? null : (price as Price),
    life: limit === null && route === 'lit' ? 'ioc' : 'day',
    route,
    postOnly: false,
    short: false,
  });
  hear(h);
  return id;
}
export function cancelAll(h: Hand): void {
  for (const { id } of workingOrders(h.m)) carryOut(h.m, { kind: 'cancel', id, symbol: h.symbol });
  hear(h);
}
export const mid = (h: Hand): number => {
  const q = quoteOf(h.m, h.symbol);
  return q.bid && q.ask ? (q.bid + q.ask) / 2 : 0;
};
/** Everything out, at any price, however long trading is halted. */
export function flat(h: Hand): void {
  cancelAll(h);
  for (let tries = 0; h.shares !== 0 && tries < 400; tries++) {
    send(h, h.shares > 0 ? 'sell' : 'buy', Math.abs(h.shares), null);
    if (h.shares !== 0) wait(h, 10 * SECOND);
  }
}
/** What it has come to after costs, in basis points of half of what was traded. */
export const resultOf = (h: Hand): { by: number; gross: number; fills: number; dollars: number } => {
  const value = h.cash + h.shares * mid(h);
  const base = Math.max(1, h.traded / 2);
  return {
    by: (1e4 * (value - h.costs)) / base,
    gross: (1e4 * value) / base,
    fills: h.fills.length,
    dollars: (value - h.costs) / 1e4,
  };
};

export type OrderRule = (h: Hand, minutes: number) => void;

const maker =
  (qty: number, each: number, inside: number): OrderRule =>
  (h, minutes) => {
    for (let t = 0; t < minutes * MINUTE; t += each) {
      cancelAll(h);
      const q = quoteOf(h.m, h.symbol);
      if (q.bid && q.ask) {
        const tick = tickSize(q.bid);
        const room = q.ask - q.bid > 2 * inside * tick ? inside * tick : 0;
        if (h.shares < 5 * qty) send(h, 'buy', qty, q.bid + room);
        if (h.shares > -5 * qty) send(h, 'sell', qty, q.ask - room);
      }
      wait(h, each);
    }
    flat(h);
  };
/** One side at a time: a bid until it fills, then an offer. */
const alternate =
  (qty: number, each: number): OrderRule =>
  (h, minutes) => {
    for (let t = 0; t < minutes * MINUTE; t += each) {
      cancelAll(h);
      const q = quoteOf(h.m, h.symbol);
      if (q.bid && q.ask) {
        if (h.shares <= 0) send(h, 'buy', qty - h.shares, q.bid);
        else send(h, 'sell', h.shares, q.ask);
      }
      wait(h, each);
    }
    flat(h);
  };
const pump =
  (side: Side, total: number, pieces: number, pause: number, out: number, hold: number): OrderRule =>
  (h) => {
    for (let k = 0; k < pieces; k++) {
      send(h, side, Math.floor(total / pieces), null);
      if (pause > 0) wait(h, pause);
    }
    wait(h, hold);
    const away: Side = side === 'buy' ? 'sell' : 'buy';
    const each = Math.ceil(Math.abs(h.shares) / out);
    for (let k = 0; k < out && h.shares !== 0; k++) {
      send(h, away, Math.min(each, Math.abs(h.shares)), null);
      if (out > 1) wait(h, 300);
    }
    flat(h);
  };
/** Takes until the price is up, then offers what it has at the best offer. */
const leaveBehind =
  (total: number, pieces: number): OrderRule =>
  (h, minutes) => {
    for (let k = 0; k < pieces; k++) {
      send(h, 'buy', Math.floor(total / pieces), null);
      wait(h, 200);
    }
    for (let t = 0; t < minutes * MINUTE && h.shares > 0; t += 5 * SECOND) {
      cancelAll(h);
      const q = quoteOf(h.m, h.symbol);
      if (q.ask) send(h, 'sell', h.shares, q.ask);
      wait(h, 5 * SECOND);
    }
    flat(h);
  };
/** Collects at the bid, then sells all at once. */
const collect =
  (total: number, route: 'lit' | 'mid'): OrderRule =>
  (h, minutes) => {
    for (let t = 0; t < minutes * MINUTE && h.shares < total; t += 3 * SECOND) {
      cancelAll(h);
      const q = quoteOf(h.m, h.symbol);
      if (q.bid) send(h, 'buy', Math.min(500, total - h.shares), q.bid, route);
      wait(h, 3 * SECOND);
    }
    flat(h);
  };
/** Own offers a little above, then a push into them. */
const intoOwn: OrderRule = (h) => {
  send(h, 'buy', 2_000, null);
  const q = quoteOf(h.m, h.symbol);
  if (q.ask) send(h, 'sell', 2_000, q.ask);
  for (let k = 0; k < 40; k++) {
    send(h, 'buy', 50, null);
    wait(h, 100);
  }
  flat(h);
};

export const ORDER_RULES: Readonly<Record<string, OrderRule>> = {
  'bid and offer of 200 by turns, every 3 s': alternate(200, 3 * SECOND),
  'bid and offer of 100 at once, every 5 s': maker(100, 5 * SECOND, 0),
  'bid and offer of 100 a tick inside, every 2 s': maker(100, 2 * SECOND, 1),
  '1,500 orders of one share, then a dump': pump('buy', 1_500, 1_500, 20, 1, 500),
  '3,000 in 300 pieces, then a dump': pump('buy', 3_000, 300, 300, 1, SECOND),
  '10,000 at once, out in 100 pieces': pump('buy', 10_000, 1, 0, 100, SECOND),
  '10,000 in 100 pieces, out at once after 2 min': pump('buy', 10_000, 100, 500, 1, 2 * MINUTE),
  '10,000 short in 100 pieces, back at once': pump('sell', 10_000, 100, 500, 1, SECOND),
  '2,000 in 40 pieces, left behind at the offer': leaveBehind(2_000, 40),
  '2,000 collected at the bid, then a dump': collect(2_000, 'lit'),
  '2,000 collected at the midpoint, then a dump': collect(2_000, 'mid'),
  'a push into one’s own offers': intoOwn,
};

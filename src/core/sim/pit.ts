// Where options trade: makers who requote after the underlying, the crowd that trades now and then, and the trader's orders.
import { isOption, rootOf } from '../instruments/index.ts';
import type { Listing, Quote } from '../market/index.ts';
import { chainMoment, doubtOf, type Pitch, pitchOf } from '../options/index.ts';
import {
  type Hours,
  keyOf,
  mix,
  onTick,
  type Price,
  REGULAR_OPEN,
  roundToTick,
  type Side,
  signOf,
  type Ticks,
  tickSize,
  type WireId,
} from '../units/index.ts';
import type { DepthLevel, Outcome, Request, VenueOrder, WireTerms } from '../venue/index.ts';
import type { Works } from './market-orders.ts';
import { pitTicks, unlisted } from './pit-listing.ts';

/** An order of the trader that rests: `ahead` are the contracts before it at its price. */
export interface Standing extends VenueOrder {
  filled: number;
  ahead: number;
}

/** What is kept of one option or vertical in which the trader has an order: everything else follows from the underlying and the time. */
export interface Stall {
  name: string;
  orders: Standing[];
  /** Session time at which its makers look at it again. */
  next: number;
  /** How often something was drawn for it. */
  draws: number;
  /** What the trader has taken of either side, in contracts, and when it was reckoned last: makers are shy of more for a while. */
  taken: { buy: number; sell: number; at: number };
}

/** Everything of the options market that has to be kept. */
export interface Pit {
  seed: number;
  stalls: Record<string, Stall>;
}

/** A market of options in which the trader has nothing. */
export const openPit = (seed: number): Pit => ({ seed, stalls: {} });

/** What the pit may see of the stock market. */
export interface Floorside {
  now: number;
  dayStart: number;
  date: string;
  hours: Hours;
  has(symbol: string): boolean;
  listing(symbol: string): Listing;
  quote(symbol: string): Quote;
  /** The underlying is halted, or paused. */
  stopped(symbol: string): boolean;
}

/** Half of what the trader took is forgotten after so many ms. */
const FORGOTTEN = 20_000;

const fade = (ms: number): number => {
  // 2^−x by halves, and a straight line between them.
  const x = ms / FORGOTTEN;
  let left = 1;
  for (let k = 0; k < Math.min(40, Math.floor(x)); k++) left /= 2;
  return left * (1 - (x - Math.floor(x)) / 2);
};

/** Makers work in quarters of a second: between two the time itself changes nothing. */
const BEAT = 250;

const beatOf = (s: Floorside): number => Math.floor((s.now - s.dayStart) / BEAT) * BEAT;

/** What was worked out last: it depends on nothing but what it is kept under. */
const PITCHES = new Map<
  string,
  { ms: number; bid: number; ask: number; listing: Listing; date: string; pitch: Pitch }
>();

/** What makers bid and offer now; nothing outside the session and while the underlying stands still. */
export function pitchNow(name: string, s: Floorside): Pitch {
  const root = rootOf(name);
  const nothing: Pitch = { bid: null, ask: null, bidSize: 0, askSize: 0, fair: 0 };
  if (!s.has(root)) return nothing;
  const q = s.quote(root);
  const x = s.listing(root);
  if (!x.options || q.bid === null || q.ask === null || s.stopped(root)) return nothing;
  const there = PITCHES.get(name);
  const ms = beatOf(s);
  if (
    there &&
    there.ms === ms &&
    there.bid === q.bid &&
    there.ask === q.ask &&
    there.listing === x &&
    there.date === s.date
  )
    return there.pitch;
  const pitch = pitchOf(name, chainMoment({ listing: x, date: s.date, ms, bid: q.bid, ask: q.ask }));
  if (PITCHES.size > 500) PITCHES.clear();
  PITCHES.set(name, { ms, bid: q.bid, ask: q.ask, listing: x, date: s.date, pitch });
  return pitch;
}

/** What a contract or vertical is worth to makers at any hour, by where its underlying stands; null where that is not known. */
export function worthNow(name: string, s: Floorside): number | null {
  const root = rootOf(name);
  if (!s.has(root)) return null;
  const [x, q] = [s.listing(root), s.quote(root)];
  if (!x.options || q.bid === null || q.ask === null) return null;
  const m = chainMoment({ listing: x, date: s.date, ms: beatOf(s), bid: q.bid, ask: q.ask });
  return pitchOf(name, m).fair;
}

/** So many levels of what is bid and offered: the makers' that the trader has not taken lately, and the trader's own orders among them. */
export function pitDepth(
  p: Pit,
  name: string,
  s: Floorside,
  levels: number,
): { bids: DepthLevel[]; asks: DepthLevel[] } {
  const q = pitchNow(name, s);
  const st = p.stalls[name];
  const ticks = pitTicks(name, s.listing(rootOf(name)));
  const side = (taker: Side): DepthLevel[] => {
    const at = new Map<Price, number>();
    const far = (taker === 'buy' ? Number.MAX_SAFE_INTEGER : 0) as Price;
    if ((taker === 'buy' ? q.ask : q.bid) !== null)
      for (const l of levelsOf(st ? takenBy(st, s)[taker] : 0, q, taker, far, ticks)) at.set(l.price, l.size);
    for (const o of st?.orders ?? [])
      if (o.life === 'day' && o.side !== taker)
        at.set(o.limit as Price, (at.get(o.limit as Price) ?? 0) + o.qty - o.filled);
    return [...at]
      .sort(([a], [b]) => signOf(taker) * (a - b))
      .slice(0, levels)
      .map(([price, qty]) => ({ price, qty }));
  };
  return { bids: side('sell'), asks: side('buy') };
}

/** The best of it. */
export function pitQuote(p: Pit, name: string, s: Floorside): Quote {
  // Without the trader it is what makers show.
  if (!p.stalls[name]) {
    const { bid, ask, bidSize, askSize } = pitchNow(name, s);
    return { bid, ask, bidSize, askSize };
  }
  const { bids, asks } = pitDepth(p, name, s, 1);
  return {
    bid: bids[0]?.price ?? null,
    ask: asks[0]?.price ?? null,
    bidSize: bids[0]?.qty ?? 0,
    askSize: asks[0]?.qty ?? 0,
  };
}

/** When makers next look at something; null when the trader has no order. */
export function nextLook(p: Pit): { at: number; name: string } | null {
  let due: { at: number; name: string } | null = null;
  for (const name in p.stalls) {
    const { next } = p.stalls[name] as Stall;
    if (due === null || next < due.at || (next === due.at && name < due.name)) due = { at: next, name };
  }
  return due;
}

/** How many contracts are before an order at its price; null when it does not rest. */
export const pitAhead = (p: Pit, name: string, id: WireId): number | null =>
  p.stalls[name]?.orders.find((o) => o.id === id)?.ahead ?? null;

/** The trader's orders that rest. */
export const pitOrders = (p: Pit): Works[] =>
  Object.values(p.stalls).flatMap((st) =>
    st.orders.map(({ id, qty, limit }) => ({ id, symbol: st.name, qty, limit })),
  );

export const draw = (p: Pit, st: Stall): number =>
  mix(mix(p.seed, keyOf(41, st.name)), st.draws++) / 4294967296;

/** Carries out a request for an option or a vertical. @returns the answers and executions, in their order. */
export function carryOutInPit(p: Pit, s: Floorside, command: Request): Outcome[] {
  const { symbol, id } = command;
  const head = { id, symbol, at: s.now };
  const root = rootOf(symbol);
  const there = p.stalls[symbol]?.orders.find((o) => o.id === id);
  const wrong = (terms: WireTerms): string | null => {
    if (!isOption(symbol) || !s.has(root)) return `${symbol} does not trade today`;
    const x = s.listing(root);
    const none = unlisted(symbol, x, s.date);
    if (none) return none;
    if (!Number.isSafeInteger(terms.qty) || terms.qty < 1)
      return `a quantity must be a whole number from 1 on, not ${terms.qty}`;
    if (terms.limit === null || !onTick(terms.limit, pitTicks(symbol, x)))
      return `${terms.limit} is not a price on a tick`;
    const ms = s.now - s.dayStart;
    // The session is told of in the millisecond before its first.
    return ms < REGULAR_OPEN - 1 || ms >= s.hours.close ? 'options trade in the regular session' : null;
  };
  if (command.kind === 'cancel') {
    if (!there) return [{ kind: 'refused', ...head, request: 'cancel', why: 'too late' }];
    leaveStall(p, symbol, id);
    return [{ kind: 'out', ...head, why: 'canceled' }];
  }
  const why = wrong(command);
  if (command.kind === 'replace') {
    if (why) return [{ kind: 'refused', ...head, request: 'replace', why }];
    if (!there) return [{ kind: 'refused', ...head, request: 'replace', why: 'too late' }];
    return replaceIn(p, s, there, command);
  }
  if (why) return [{ kind: 'rejected', ...head, why }];
  if (command.route !== 'lit')
    return [{ kind: 'rejected', ...head, why: 'options trade in the lit book only' }];
  const { kind: _, symbol: __, ...order } = command;
  const st = stallOf(p, s, symbol);
  return [{ kind: 'new', ...head }, ...enterStall(s, st, { ...order, filled: 0, ahead: 0 })];
}

function stallOf(p: Pit, s: Floorside, name: string): Stall {
  let st = p.stalls[name];
  if (!st) {
    st = {
      name,
      orders: [],
      next: s.now,
      draws: Math.floor(s.now / 1_000),
      taken: { buy: 0, sell: 0, at: s.now },
    };
    p.stalls[name] = st;
    lookLater(p, s, st);
  }
  return st;
}

/** Makers look again within a second or two in what trades much, within ten in what does not. */
export function lookLater(p: Pit, s: Floorside, st: Stall): void {
  const slow = Math.max(900, Math.min(4_000, doubtOf(s.listing(rootOf(st.name))) * 60_000));
  st.next = s.now + Math.ceil(slow * (0.4 + 1.2 * draw(p, st)));
}

export function leaveStall(p: Pit, name: string, id: WireId): void {
  const st = p.stalls[name];
  if (!st) return;
  st.orders = st.orders.filter((o) => o.id !== id);
}

function replaceIn(p: Pit, s: Floorside, o: Standing, to: WireTerms): Outcome[] {
  const st = p.stalls[Object.keys(p.stalls).find((n) => p.stalls[n]?.orders.includes(o)) as string] as Stall;
  const head = { id: o.id, symbol: st.name, at: s.now };
  if (to.qty <= o.filled) {
    leaveStall(p, st.name, o.id);
    return [{ kind: 'replaced', ...head, qty: o.filled, limit: to.limit }];
  }
  const keeps = to.limit === o.limit && to.qty <= o.qty;
  const out: Outcome[] = [{ kind: 'replaced', ...head, ...{ qty: to.qty, limit: to.limit } }];
  Object.assign(o, { qty: to.qty, limit: to.limit });
  if (keeps) return out;
  st.orders = st.orders.filter((x) => x !== o);
  return [...out, ...enterStall(s, st, o)];
}

/** What comes in takes what is there at its price or better, level by level, and rests with what is left. */
export function enterStall(s: Floorside, st: Stall, o: Standing): Outcome[] {
  const q = pitchNow(st.name, s);
  const ticks = pitTicks(st.name, s.listing(rootOf(st.name)));
  const limit = o.limit as Price;
  const touch = o.side === 'buy' ? q.ask : q.bid;
  const crosses = touch !== null && signOf(o.side) * (limit - touch) >= 0;
  const head = { id: o.id, symbol: st.name, at: s.now };
  if (o.postOnly && crosses)
    return [{ kind: 'out', ...head, why: 'would take liquidity, and was post only' }];
  settle(st, s);
  const levels = crosses ? levelsOf(st.taken[o.side], q, o.side, limit, ticks) : [];
  const within = levels.reduce((a, l) => a + l.size, 0);
  if (o.life === 'fok' && within < o.qty - o.filled)
    return [{ kind: 'out', ...head, why: 'not all could fill at once' }];
  const out: Outcome[] = [];
  for (const l of levels) {
    const qty = Math.min(l.size, o.qty - o.filled);
    if (qty <= 0) break;
    o.filled += qty;
    st.taken[o.side] += qty;
    out.push(fill(st, s, o, { price: l.price, qty, liquidity: 'removed', touch: touch as Price }));
  }
  if (o.filled >= o.qty) return out;
  // What takes what there is waits while nothing is quoted.
  const waits = o.life === 'take' && q.ask === null;
  if (o.life !== 'day' && !waits) return [...out, { kind: 'out', ...head, why: 'unfilled rest' }];
  const best = o.side === 'buy' ? q.bid : q.ask;
  o.ahead = best === limit ? (o.side === 'buy' ? q.bidSize : q.askSize) : 0;
  st.orders.push(o);
  return out;
}

/** What makers offer (or bid) up to a limit: what is shown, less what was taken lately, and more of it at each worse step. */
function levelsOf(
  already: number,
  q: Pitch,
  side: Side,
  limit: Price,
  ticks: Ticks,
): { price: Price; size: number }[] {
  const first = (side === 'buy' ? q.ask : q.bid) as Price;
  const shown = side === 'buy' ? q.askSize : q.bidSize;
  let taken = already;
  const out: { price: Price; size: number }[] = [];
  let price: Price = first;
  for (let k = 0; k < 12 && signOf(side) * (limit - price) >= 0; k++) {
    const whole = Math.round(shown * (1 + 0.7 * k));
    const size = Math.max(0, whole - Math.floor(taken));
    taken = Math.max(0, taken - whole);
    if (size > 0) out.push({ price, size });
    const next = price + signOf(side) * tickSize(side === 'buy' ? price : price - 1, ticks);
    if (next < 1) break;
    price = roundToTick(next, side === 'buy' ? 'up' : 'down', ticks);
  }
  return out;
}

/** What of it makers still count by now. */
function takenBy({ taken }: Stall, s: Floorside): Stall['taken'] {
  const f = fade(s.now - taken.at);
  return { buy: taken.buy * f, sell: taken.sell * f, at: s.now };
}

export function settle(st: Stall, s: Floorside): void {
  st.taken = takenBy(st, s);
}

interface Executed {
  price: Price;
  qty: number;
  liquidity: 'added' | 'removed';
  /** The best price that there was; null where the order stood at its own. */
  touch: Price | null;
}

export function fill(
  st: Stall,
  s: Floorside,
  o: Standing,
  { price, qty, liquidity, touch }: Executed,
): Outcome {
  const from = touch ?? price;
  return {
    kind: 'fill',
    id: o.id,
    symbol: st.name,
    at: s.now,
    price,
    qty,
    liquidity,
    venue: 'LIT',
    better: Math.max(0, signOf(o.side) * (from - price)),
  };
}

/** The session is over: nothing rests over the night. */
export function closePit(p: Pit, now: number): Outcome[] {
  const out = Object.values(p.stalls).flatMap((st) =>
    st.orders.map(
      (o): Outcome => ({ kind: 'out', id: o.id, symbol: st.name, at: now, why: 'the day has ended' }),
    ),
  );
  p.stalls = {};
  return out;
}

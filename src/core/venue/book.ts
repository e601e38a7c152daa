import type { Price, Side } from '../units/index.ts';
import { cover, createLadder, type Ladder, nextDown, nextUp, priceOfTick, tickOf } from './ladder.ts';

/** Who entered an order: 0 is the simulated crowd, 1 the trader. */
export type Owner = 0 | 1;

/** What matching reports while it happens, in order. */
export interface MatchSink {
  /** One execution; `aggressor` took liquidity. `makerLeft` is what remains of the resting order (0: it is gone). */
  trade(aggressor: Side, at: Price, qty: number, maker: number, makerOwner: Owner, makerLeft: number): void;
  /** A resting order of the same owner was taken out of the book instead of trading with itself. */
  selfTrade(maker: number): void;
}

/**
 * One symbol's limit order book with price–time priority. All fields are flat, so that a book
 * is copied by structured clone. Resting orders live in a pool of rows joined by next/prev into
 * one queue a level; both sides share one ladder because the book is never crossed.
 */
export interface Book {
  ladder: Ladder;
  /** Slots of the best levels, −1 when a side is empty. */
  bid: number;
  ask: number;
  /** The id of what rests in each row, or that the next order in it will get. */
  ids: Float64Array;
  /** Id that the last {@link submit} gave to what rests of its order; 0 when nothing rests. */
  placed: number;
  /** {@link WIDTH} numbers a row, side by side because they are used together. */
  pool: Int32Array;
  free: number;
}

/** Layout of a row of the pool: tick, open shares, next and previous row of its queue, flags (bit 0: sells, bit 1: the trader's). */
const WIDTH = 8;
const TICK = 0;
const QTY = 1;
const NEXT = 2;
const PREV = 3;
const FLAGS = 4;

/**
 * The book names what rests in it: a row's number plus a whole multiple of this, one more each time
 * the row is used again. So an id leads to its row without a search, and an old id to nothing.
 */
const REUSE = 0x1000000;

/** Row of an id, or −1 when it is not in the book. */
function rowOf(b: Book, id: number): number {
  const row = id & (REUSE - 1);
  return b.ids[row] === id ? row : -1;
}

/** An empty book whose window is laid around a price. */
export function createBook(around: Price): Book {
  const rows = 64;
  const book: Book = {
    ladder: createLadder(tickOf(around)),
    bid: -1,
    ask: -1,
    ids: Float64Array.from({ length: rows }, (_, row) => REUSE + row),
    placed: 0,
    pool: new Int32Array(rows * WIDTH),
    free: 0,
  };
  for (let i = 0; i < rows; i++) book.pool[i * WIDTH + NEXT] = i + 1 < rows ? i + 1 : -1;
  return book;
}

/** Best bid, or null on an empty side. */
export const bestBid = (b: Book): Price | null => (b.bid < 0 ? null : priceOfTick(b.ladder.base + b.bid));
/** Best ask, or null on an empty side. */
export const bestAsk = (b: Book): Price | null => (b.ask < 0 ? null : priceOfTick(b.ladder.base + b.ask));
/** Shares at the best bid and ask. */
export const bidSize = (b: Book): number => (b.bid < 0 ? 0 : (b.ladder.total[b.bid] as number));
/** Shares at the best offer. */
export const askSize = (b: Book): number => (b.ask < 0 ? 0 : (b.ladder.total[b.ask] as number));

export interface DepthLevel {
  price: Price;
  qty: number;
}

/** The best `count` levels of a side, best first. */
export function depth(b: Book, side: Side, count: number): DepthLevel[] {
  const out: DepthLevel[] = [];
  const buy = side === 'buy';
  let slot = buy ? b.bid : b.ask;
  while (slot >= 0 && out.length < count) {
    out.push({ price: priceOfTick(b.ladder.base + slot), qty: b.ladder.total[slot] as number });
    slot = buy ? nextDown(b.ladder, slot - 1) : nextUp(b.ladder, slot + 1);
  }
  return out;
}

/** Open shares of a resting order, 0 when it is not in the book. */
export function openQty(b: Book, id: number): number {
  const row = rowOf(b, id);
  return row < 0 ? 0 : (b.pool[row * WIDTH + QTY] as number);
}

/** Shares that stand before a resting order at its price, or null when it is not in the book. */
export function queueAhead(b: Book, id: number): number | null {
  const row = rowOf(b, id);
  if (row < 0) return null;
  let ahead = 0;
  for (let r = b.pool[row * WIDTH + PREV] as number; r >= 0; r = b.pool[r * WIDTH + PREV] as number)
    ahead += b.pool[r * WIDTH + QTY] as number;
  return ahead;
}

/** A limit order as it comes in; `rest`: what is left of it stays in the book. */
export interface Submitted {
  side: Side;
  limit: Price;
  qty: number;
  owner: Owner;
  rest: boolean;
}

/**
 * Takes a limit order: it trades level by level at the resting prices, never worse than `limit`,
 * and what is left rests (`rest`) or is dropped. Price–time priority; a meeting with an order of
 * the same trader takes the resting one out instead (common practice).
 * The id of what rests is left in {@link Book.placed}; {@link openQty}, {@link cancel} and {@link reduce} go by it.
 * @returns shares left unfilled, or −1 when nothing was done: the price lies too far away to be held, or the quantity is not a whole number from 1 on.
 */
// biome-ignore lint/complexity/noExcessiveCognitiveComplexity: the hot loop of matching
export function submit(b: Book, { side, limit, qty, owner, rest }: Submitted, sink: MatchSink): number {
  const tick = tickOf(limit);
  b.placed = 0;
  if (!(qty > 0) || !Number.isInteger(qty)) return -1;
  if (rest && !widen(b, tick)) return -1;
  const buy = side === 'buy';
  let left = qty;
  for (;;) {
    const slot = buy ? b.ask : b.bid;
    if (left === 0 || slot < 0) break;
    const levelTick = b.ladder.base + slot;
    if (buy ? levelTick > tick : levelTick < tick) break;
    const at = priceOfTick(levelTick);
    let row = b.ladder.head[slot] as number;
    while (row >= 0 && left > 0) {
      const following = b.pool[row * WIDTH + NEXT] as number;
      const makerOwner = ((b.pool[row * WIDTH + FLAGS] as number) >> 1) as Owner;
      const maker = b.ids[row] as number;
      if (owner !== 0 && makerOwner === owner) {
        unlink(b, row);
        sink.selfTrade(maker);
      } else {
        const open = b.pool[row * WIDTH + QTY] as number;
        const fill = open < left ? open : left;
        left -= fill;
        if (fill === open) unlink(b, row);
        else {
          b.pool[row * WIDTH + QTY] = open - fill;
          b.ladder.total[slot] = (b.ladder.total[slot] as number) - fill;
        }
        sink.trade(side, at, fill, maker, makerOwner, open - fill);
      }
      row = following;
    }
  }
  if (rest && left > 0) append(b, side, tick, left, owner);
  return left;
}

/** Shares that an order of `owner` could take at once at `limit` or better; its own resting orders do not count. */
export function available(b: Book, side: Side, limit: Price, owner: Owner): number {
  const tick = tickOf(limit);
  const buy = side === 'buy';
  let sum = 0;
  let slot = buy ? b.ask : b.bid;
  while (slot >= 0 && (buy ? b.ladder.base + slot <= tick : b.ladder.base + slot >= tick)) {
    for (let row = b.ladder.head[slot] as number; row >= 0; row = b.pool[row * WIDTH + NEXT] as number)
      if (owner === 0 || (b.pool[row * WIDTH + FLAGS] as number) >> 1 !== owner)
        sum += b.pool[row * WIDTH + QTY] as number;
    slot = buy ? nextUp(b.ladder, slot + 1) : nextDown(b.ladder, slot - 1);
  }
  return sum;
}

/** Shares of the crowd that rest at a price. */
export function crowdAt(b: Book, price: Price): number {
  const slot = tickOf(price) - b.ladder.base;
  let sum = 0;
  for (let row = b.ladder.head[slot] ?? -1; row >= 0; row = b.pool[row * WIDTH + NEXT] as number)
    if ((b.pool[row * WIDTH + FLAGS] as number) >> 1 === 0) sum += b.pool[row * WIDTH + QTY] as number;
  return sum;
}

/** Takes shares of the crowd out of a price level, from the front or the back of its queue; the trader's orders stay. */
export function trimCrowd(b: Book, price: Price, shares: number, fromFront: boolean): void {
  const slot = tickOf(price) - b.ladder.base;
  let left = shares;
  let row = (fromFront ? b.ladder.head[slot] : b.ladder.tail[slot]) ?? -1;
  while (row >= 0 && left > 0) {
    const following = (fromFront ? b.pool[row * WIDTH + NEXT] : b.pool[row * WIDTH + PREV]) as number;
    if ((b.pool[row * WIDTH + FLAGS] as number) >> 1 === 0) {
      const open = b.pool[row * WIDTH + QTY] as number;
      if (open <= left) unlink(b, row);
      else {
        b.pool[row * WIDTH + QTY] = open - left;
        b.ladder.total[slot] = (b.ladder.total[slot] as number) - left;
      }
      left -= Math.min(open, left);
    }
    row = following;
  }
}

/** Takes an order out. @returns the shares that were open, 0 when it is not in the book. */
export function cancel(b: Book, id: number): number {
  const row = rowOf(b, id);
  if (row < 0) return 0;
  const open = b.pool[row * WIDTH + QTY] as number;
  unlink(b, row);
  return open;
}

/**
 * Lowers the open shares of a resting order, which keeps its place in the queue (common practice).
 * @returns false when it is not in the book or `qty` is not smaller than what is open.
 */
export function reduce(b: Book, id: number, qty: number): boolean {
  const row = rowOf(b, id);
  if (row < 0) return false;
  const open = b.pool[row * WIDTH + QTY] as number;
  if (qty <= 0 || qty >= open) return false;
  b.pool[row * WIDTH + QTY] = qty;
  const slot = (b.pool[row * WIDTH + TICK] as number) - b.ladder.base;
  b.ladder.total[slot] = (b.ladder.total[slot] as number) - (open - qty);
  return true;
}

function widen(b: Book, tick: number): boolean {
  const shift = cover(b.ladder, tick);
  if (shift === null) return false;
  if (b.bid >= 0) b.bid += shift;
  if (b.ask >= 0) b.ask += shift;
  return true;
}

function append(b: Book, side: Side, tick: number, qty: number, owner: Owner): void {
  if (b.free < 0) growRows(b);
  const row = b.free;
  b.free = b.pool[row * WIDTH + NEXT] as number;
  const l = b.ladder;
  const slot = tick - l.base;
  const tail = l.tail[slot] as number;
  b.placed = b.ids[row] as number;
  b.pool[row * WIDTH + TICK] = tick;
  b.pool[row * WIDTH + QTY] = qty;
  b.pool[row * WIDTH + FLAGS] = (side === 'sell' ? 1 : 0) | (owner << 1);
  b.pool[row * WIDTH + NEXT] = -1;
  b.pool[row * WIDTH + PREV] = tail;
  if (tail >= 0) b.pool[tail * WIDTH + NEXT] = row;
  else {
    l.head[slot] = row;
    l.bits[slot >> 5] = (l.bits[slot >> 5] as number) | (1 << (slot & 31));
  }
  l.tail[slot] = row;
  l.total[slot] = (l.total[slot] as number) + qty;
  if (side === 'buy') {
    if (slot > b.bid) b.bid = slot;
  } else if (b.ask < 0 || slot < b.ask) b.ask = slot;
}

function unlink(b: Book, row: number): void {
  const l = b.ladder;
  const slot = (b.pool[row * WIDTH + TICK] as number) - l.base;
  const before = b.pool[row * WIDTH + PREV] as number;
  const after = b.pool[row * WIDTH + NEXT] as number;
  if (before >= 0) b.pool[before * WIDTH + NEXT] = after;
  else l.head[slot] = after;
  if (after >= 0) b.pool[after * WIDTH + PREV] = before;
  else l.tail[slot] = before;
  l.total[slot] = (l.total[slot] as number) - (b.pool[row * WIDTH + QTY] as number);
  if (before < 0 && after < 0) {
    l.bits[slot >> 5] = (l.bits[slot >> 5] as number) & ~(1 << (slot & 31));
    if (slot === b.bid) b.bid = nextDown(l, slot - 1);
    else if (slot === b.ask) b.ask = nextUp(l, slot + 1);
  }
  b.ids[row] = (b.ids[row] as number) + REUSE;
  b.pool[row * WIDTH + NEXT] = b.free;
  b.free = row;
}

function growRows(b: Book): void {
  const old = b.ids.length;
  const size = old * 2;
  const ids = new Float64Array(size);
  ids.set(b.ids);
  const pool = new Int32Array(size * WIDTH);
  pool.set(b.pool);
  for (let row = old; row < size; row++) {
    ids[row] = REUSE + row;
    pool[row * WIDTH + NEXT] = row + 1 < size ? row + 1 : -1;
  }
  b.ids = ids;
  b.pool = pool;
  b.free = old;
}

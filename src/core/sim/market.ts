import { createTape, type Print, type Quote, record, type Tape } from '../market/index.ts';
import { PRE_OPEN, type Price, type Side } from '../units/index.ts';
import { askSize, bestAsk, bestBid, bidSize, cancel, type DepthLevel, depth, type MatchSink, type Owner, queueAhead, reduce, submit } from '../venue/index.ts';
import { act, type Crowd, createCrowd } from './crowd.ts';
import type { Scenario } from './scenario.ts';

/** What the trader's own orders hear from the exchange. `id` is the number the trader gave. */
export type TraderReport =
  | { kind: 'fill'; id: number; symbol: string; at: number; price: Price; qty: number; left: number; liquidity: 'added' | 'removed' }
  | { kind: 'out'; id: number; symbol: string; at: number; why: 'self trade' | 'unfilled rest' | 'too far' };

/**
 * The simulated exchange: one crowd and one book a symbol, and the tape of each. Plain data, so
 * that a session saves it whole; its functions are the only way to change it.
 */
export interface Market {
  scenario: Scenario;
  now: number;
  crowds: Crowd[];
  tapes: Tape[];
  index: Map<string, number>;
  /** Filled while something happens, emptied by whoever reads it. */
  reports: TraderReport[];
  /** Symbols that printed in the last step. */
  printed: number;
}

/** A market at 04:00 of the scenario's day. */
export function createMarket(scenario: Scenario): Market {
  const market: Market = {
    scenario,
    now: PRE_OPEN,
    crowds: [],
    tapes: scenario.symbols.map((s) => createTape(s.instrument.symbol)),
    index: new Map(scenario.symbols.map((s, i) => [s.instrument.symbol, i])),
    reports: [],
    printed: -1,
  };
  market.crowds = scenario.symbols.map((plan, i) => createCrowd(plan, scenario.seed, PRE_OPEN, sinkFor(market, i)));
  return market;
}

/**
 * Lets the next due deed of the crowd happen, if it is due by `until`.
 * @returns the symbol's number, or −1 (and the clock stands at `until`) when nothing is due.
 */
export function stepMarket(market: Market, until: number): number {
  const { crowds } = market;
  let due = -1;
  let first = until + 1;
  for (let i = 0; i < crowds.length; i++) {
    const t = (crowds[i] as Crowd).nextAt;
    if (t < first) {
      first = t;
      due = i;
    }
  }
  if (due < 0) {
    market.now = Math.max(market.now, until);
    return -1;
  }
  market.now = Math.max(market.now, first);
  market.printed = -1;
  act(crowds[due] as Crowd, sinkFor(market, due));
  return due;
}

/** Sends a trader's limit order; executions and an unfilled end go to `market.reports`. Ids are odd. */
export function sendOrder(market: Market, o: { id: number; symbol: string; side: Side; limit: Price; qty: number; rest: boolean }): void {
  const i = numberOf(market, o.symbol);
  const crowd = market.crowds[i] as Crowd;
  const sink = sinkFor(market, i, o);
  const left = submit(crowd.book, o.id, o.side, o.limit, o.qty, 1, o.rest, sink);
  if (left < 0) market.reports.push({ kind: 'out', id: o.id, symbol: o.symbol, at: market.now, why: 'too far' });
  else if (left > 0 && !o.rest) market.reports.push({ kind: 'out', id: o.id, symbol: o.symbol, at: market.now, why: 'unfilled rest' });
}

/** Takes a trader's order out of the book. @returns whether it was still there. */
export function pullOrder(market: Market, symbol: string, id: number): boolean {
  return cancel((market.crowds[numberOf(market, symbol)] as Crowd).book, id) > 0;
}

/** Lowers a resting order of the trader in place. @returns whether it could be done. */
export function shrinkOrder(market: Market, symbol: string, id: number, qty: number): boolean {
  return reduce((market.crowds[numberOf(market, symbol)] as Crowd).book, id, qty);
}

export function quoteOf(market: Market, symbol: string): Quote {
  const { book } = market.crowds[numberOf(market, symbol)] as Crowd;
  return { bid: bestBid(book), ask: bestAsk(book), bidSize: bidSize(book), askSize: askSize(book) };
}

export function depthOf(market: Market, symbol: string, levels: number): { bids: DepthLevel[]; asks: DepthLevel[] } {
  const { book } = market.crowds[numberOf(market, symbol)] as Crowd;
  return { bids: depth(book, 'buy', levels), asks: depth(book, 'sell', levels) };
}

/** Shares before the trader's resting order at its price; null when it does not rest. */
export function aheadOf(market: Market, symbol: string, id: number): number | null {
  return queueAhead((market.crowds[numberOf(market, symbol)] as Crowd).book, id);
}

export function tapeOf(market: Market, symbol: string): Tape {
  return market.tapes[numberOf(market, symbol)] as Tape;
}

export const hasSymbol = (market: Market, symbol: string): boolean => market.index.has(symbol);

function numberOf(market: Market, symbol: string): number {
  const i = market.index.get(symbol);
  if (i === undefined) throw new Error(`no such symbol: ${symbol}`);
  return i;
}

function sinkFor(market: Market, i: number, taker?: { id: number; qty: number }): MatchSink {
  const tape = market.tapes[i] as Tape;
  const symbol = tape.symbol;
  let left = taker?.qty ?? 0;
  return {
    trade(aggressor: Side, at: Price, qty: number, maker: number, makerOwner: Owner, makerLeft: number) {
      const print: Print = { at: market.now, symbol, price: at, qty, aggressor };
      record(tape, print);
      market.printed = i;
      if (makerOwner === 1) market.reports.push({ kind: 'fill', id: maker, symbol, at: market.now, price: at, qty, left: makerLeft, liquidity: 'added' });
      if (taker) {
        left -= qty;
        market.reports.push({ kind: 'fill', id: taker.id, symbol, at: market.now, price: at, qty, left, liquidity: 'removed' });
      }
    },
    selfTrade(maker: number) {
      market.reports.push({ kind: 'out', id: maker, symbol, at: market.now, why: 'self trade' });
    },
  };
}

import type { Quote, Tape } from '../market/index.ts';
import type { Price, WireId } from '../units/index.ts';
import { type DepthLevel, depth, queueAhead } from '../venue/index.ts';
import { STATUS } from './columns.ts';
import { look } from './floor.ts';
import { auctionOf as auctionOn } from './floor-auctions.ts';
import type { AuctionView } from './floor-types.ts';
import { contextOf, floorOf, freshen, planOf } from './market.ts';
import type { Market } from './market-state.ts';
import { numberOf } from './market-symbols.ts';

/** Best bid and offer of a symbol. */
export function quoteOf(m: Market, symbol: string): Quote {
  const { board: b } = m;
  const i = numberOf(m, symbol);
  freshen(m, i);
  return {
    bid: (b.bid[i] || null) as Price | null,
    ask: (b.ask[i] || null) as Price | null,
    bidSize: b.bidSize[i] as number,
    askSize: b.askSize[i] as number,
  };
}

/** So many levels of a symbol’s book. */
export function depthOf(
  m: Market,
  symbol: string,
  levels: number,
): { bids: DepthLevel[]; asks: DepthLevel[] } {
  const f = floorOf(m, symbol);
  freshen(m, f.i);
  look(f, contextOf(m, f));
  const { book } = f;
  return { bids: depth(book, 'buy', levels), asks: depth(book, 'sell', levels) };
}

/** The auction of a symbol that is forming now, or null. */
export function auctionOf(m: Market, symbol: string): AuctionView | null {
  const f = floorOf(m, symbol);
  return auctionOn(f, contextOf(m, f));
}

/** Shares before the trader's resting order at its price; null when it does not rest in the lit book. */
export function aheadOf(m: Market, symbol: string, id: WireId): number | null {
  const f = floorOf(m, symbol);
  const o = f.orders.get(id);
  return o?.where === 'book' ? queueAhead(f.book, o.place) : null;
}

/** The tape of a symbol; asks for its full book. */
export const tapeOf = (m: Market, symbol: string): Tape => floorOf(m, symbol).tape;

/** Why a symbol does not trade now and until when (session time), or null while it does. */
export function haltOf(m: Market, symbol: string): { reason: string; until: number } | null {
  const i = numberOf(m, symbol);
  const status = m.board.status[i] as number;
  if (status < STATUS.pause) return null;
  const planned = planOf(m, i).halts[(m.sketches.halt[i] as number) - 1];
  return {
    reason:
      status === STATUS.halted
        ? `regulatory halt: ${planned?.reason ?? 'not stated'}`
        : 'limit up–limit down: 15 seconds at the price band',
    until: m.dayStart + (m.sketches.until[i] as number),
  };
}

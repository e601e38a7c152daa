// The trades of the day as cards: in the order in which they need the eye, each with what half a second has to tell.
import { averageEntry, netNow, positionOf, type Trade } from '@/core/orders';
import type { AccountId } from '@/core/units';
import type { BookSlice } from '@/worker/session/slices';
import { type OrderLine, tradeOf } from './trade-view';

export interface Card {
  id: number;
  symbol: string;
  state: 'bare' | 'near stop' | 'open' | 'waits' | 'finished';
  /** `long 200 at 7.43`, `buy waits`, `long 200, out`. */
  side: 'long' | 'short';
  shares: number;
  entry: number | null;
  /** Net of all that it has cost so far, as of what is over. */
  result: number;
  r: number | null;
  /** Shares that no stop covers. */
  bare: number;
  sleeping: boolean;
  /** Where things stand between the farthest exits, 0 to 1; null without an entry. */
  ruler: {
    from: number;
    to: number;
    entry: number;
    last: number;
    exits: { at: number; line: OrderLine }[];
  } | null;
}

/** How near its stop, in parts of its first risk, a trade has to be seen first. */
const NEAR = 0.25;
const ORDER: readonly Card['state'][] = ['bare', 'near stop', 'open', 'waits', 'finished'];

/** Every open and waiting trade of an account, and those that have ended since a session time; `last` are the prices of what is held. */
export function cardsOf(
  book: BookSlice | null,
  account: AccountId | undefined,
  last: Readonly<Record<string, number | null>>,
  since: number,
): Card[] {
  if (!book) return [];
  const live = book.trades
    .filter((t) => t.account === account && (t.status === 'open' || t.status === 'pending'))
    .map((t) => liveCard(book, t, last[t.symbol] ?? null));
  const done = book.reviews
    .filter((r) => r.closedAt !== null && r.closedAt >= since)
    .map(
      (r): Card => ({
        id: r.id,
        symbol: r.symbol,
        state: 'finished',
        side: r.direction,
        shares: r.shares,
        entry: r.averageEntry,
        result: r.net,
        r: r.r,
        bare: 0,
        sleeping: false,
        ruler: null,
      }),
    );
  const place = (c: Card) => ORDER.indexOf(c.state);
  // Of the same kind: what stands worst first, of what is over the newest.
  return [...live, ...done].sort(
    (a, b) => place(a) - place(b) || (a.state === 'finished' ? b.id - a.id : (a.r ?? 0) - (b.r ?? 0)),
  );
}

function liveCard(book: BookSlice, trade: Trade, last: number | null): Card {
  const lines = tradeOf(book, trade.symbol, trade.account)?.lines ?? [];
  const entry = averageEntry(trade);
  const shares = positionOf(trade);
  const result = netNow(trade, last) ?? 0;
  const stops = lines.filter((l) => l.protects);
  const bare = Math.max(0, shares - stops.reduce((a, l) => a + l.open, 0));
  const stop = stops[0];
  const perShare = trade.risk && trade.entered ? trade.risk / trade.entered : null;
  const near =
    stop !== undefined &&
    last !== null &&
    perShare !== null &&
    trade.sign * (last - stop.price) < NEAR * perShare;
  const open = trade.status === 'open';
  return {
    id: trade.id,
    symbol: trade.symbol,
    state: !open ? 'waits' : bare > 0 ? 'bare' : near ? 'near stop' : 'open',
    side: trade.sign === 1 ? 'long' : 'short',
    shares,
    entry,
    result,
    r: trade.risk ? result / trade.risk : null,
    bare: open ? bare : 0,
    sleeping: stops.some((l) => l.sleeping),
    ruler: entry === null || last === null ? null : rulerOf(trade.sign, entry, last, lines),
  };
}

/** Prices on one line, the losing side left. */
function rulerOf(
  sign: 1 | -1,
  entry: number,
  last: number,
  lines: readonly OrderLine[],
): NonNullable<Card['ruler']> {
  const all = [entry, last, ...lines.map((l) => l.price)];
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const span = Math.max(high - low, 1);
  const at = (p: number) => (sign === 1 ? (p - low) / span : (high - p) / span);
  const [from, to] = sign === 1 ? [low, high] : [high, low];
  return {
    from,
    to,
    entry: at(entry),
    last: at(last),
    exits: lines.map((line) => ({ at: at(line.price), line })),
  };
}

import { type Costs, totalOf } from '../account/index.ts';
import { multiplierOfSymbol } from '../instruments/index.ts';
import { averageEntry, type Fill, profitOf, type Trade } from '../orders/index.ts';

/** A trade as the journal shows it. Money and prices in 1/10,000 dollar, times in ms after midnight. */
export interface TradeReview {
  id: number;
  symbol: string;
  direction: 'long' | 'short';
  shares: number;
  averageEntry: number;
  averageExit: number | null;
  openedAt: number;
  closedAt: number | null;
  gross: number;
  costs: Costs;
  net: number;
  /** Net result in multiples of what the first stop would have lost; null without a stop. */
  r: number | null;
  /** Most favourable and adverse excursion while open, as dollars a share times the largest size. */
  mfe: number;
  mae: number;
  sentence: string;
  fills: Fill[];
}

/** Sums up a trade that has been entered; null for one without a fill. Gross is what is realized. */
export function reviewTrade(trade: Trade, allFills: readonly Fill[]): TradeReview | null {
  const entry = averageEntry(trade);
  if (entry === null || trade.openedAt === null) return null;
  const gross = profitOf(trade, null).realized;
  const net = gross - totalOf(trade.costs);
  const excursion = (p: number | null) =>
    p === null ? 0 : trade.sign * (p - entry) * trade.entered * multiplierOfSymbol(trade.symbol);
  return {
    id: trade.id,
    symbol: trade.symbol,
    direction: trade.sign === 1 ? 'long' : 'short',
    shares: trade.entered,
    averageEntry: entry,
    averageExit: trade.exited === 0 ? null : trade.exitNotional / trade.exited,
    openedAt: trade.openedAt,
    closedAt: trade.closedAt,
    gross,
    costs: trade.costs,
    net,
    r: trade.risk ? net / trade.risk : null,
    mfe: Math.max(0, excursion(trade.best)),
    mae: Math.min(0, excursion(trade.worst)),
    sentence: trade.sentence,
    fills: allFills.filter((f) => f.tradeId === trade.id),
  };
}

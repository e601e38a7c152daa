import type { Costs } from '../account/index.ts';
import type { PrintVenue } from '../market/index.ts';
import type { AccountId, Money, OrderId, Price, Side, Sign, TradeId } from '../units/index.ts';
import type { Role } from './order-terms.ts';

/** What one entry order brought into a trade. `risk` in price units × shares, measured on so many shares; settled once the order has ended. */
export interface Lot {
  qty: number;
  notional: number;
  risk: number | null;
  measured: number;
  settled: boolean;
}

type TradeStatus = 'pending' | 'open' | 'closed' | 'canceled';

/** From flat to flat in one symbol: the unit that the trader thinks in. */
export interface Trade {
  id: TradeId;
  account: AccountId;
  symbol: string;
  sign: Sign;
  status: TradeStatus;
  entered: number;
  entryNotional: number;
  exited: number;
  exitNotional: number;
  costs: Costs;
  /** What its entries risked: the trade's 1R in 1/10,000 dollar, null where no stop says it (see risk.ts). */
  risk: Money | null;
  lots: Readonly<Record<number, Lot>>;
  /** What the first stop risked that was put on a trade that came without any, in price units × shares. */
  laterRisk?: number;
  openedAt: number | null;
  closedAt: number | null;
  /** Most favourable and most adverse price seen while open. */
  best: Price | null;
  worst: Price | null;
  /** The sentence that opened it. */
  sentence: string;
}

export interface Fill {
  id: number;
  orderId: OrderId;
  tradeId: TradeId;
  account: AccountId;
  symbol: string;
  side: Side;
  role: Role;
  at: number;
  price: Price;
  qty: number;
  liquidity: 'added' | 'removed';
  /** The exchange's wire and its cumulative quantity: what tells an execution from one that is told twice (FIX 4.4, ExecID, tag 17). */
  exec?: string;
  venue: PrintVenue;
  /** Price units a share better than the other side's quote, or than its own limit where that was nearer. */
  better: number;
  costs: Costs;
}

/** Shares of a trade that are open. */
export const positionOf = (t: Trade): number => t.entered - t.exited;

/** Average entry in price units, not rounded; null before the first fill. */
export const averageEntry = (t: { entered: number; entryNotional: number }): number | null =>
  t.entered === 0 ? null : t.entryNotional / t.entered;

/** An option or a vertical on the evening of its last day. */
export interface Expired {
  symbol: string;
  root: string;
  /** Where its underlying closed, and what one share's worth of it comes to there. */
  spot: Price;
  worth: number;
  /** Shares that one share's worth of it, held long, gets (above zero) or gives: of each leg in the money by a cent or more. */
  shares: number;
}

import type { PrintVenue } from '../market/index.ts';
import type { Seen } from '../triggers/index.ts';
import type { AccountId, Money, OrderId, Price, Side, TradeId } from '../units/index.ts';
import type { OrderType, OrdStatus, Role, Terms, TimeInForce } from './order-terms.ts';
import type { Why } from './refusal.ts';

/** What happened, by the names of FIX 5.0 SP2 (ExecType, tag 150). */
export const EXEC_TYPES = [
  'New',
  'Trade',
  'Canceled',
  'Replaced',
  'Rejected',
  'Suspended',
  'Expired',
  'TriggeredOrActivatedBySystem',
  'OrderStatus',
] as const;

export type ExecType = (typeof EXEC_TYPES)[number];

/** What an event is about: the order as it stood then. `nth` is a target's number from 1. */
export interface About {
  orderId: OrderId | null;
  role: Role | null;
  nth: number | null;
  side: Side | null;
  open: number;
}

/** One thing that happened to an order or a trade. The wording is in `wording.ts`. */
export type OrderEvent = {
  id: number;
  at: number;
  account: AccountId;
  symbol: string;
  tradeId: TradeId;
  status: OrdStatus | null;
} & About &
  (
    | {
        exec: 'New';
        kind: 'working';
        type: OrderType;
        limit: Price | null;
        stop: Price | null;
        route: Terms['route'];
        timeInForce: TimeInForce;
      }
    | { exec: 'Suspended'; kind: 'asleep'; until: 'regular' | 'next' | 'flat' }
    | {
        exec: 'Trade';
        kind: 'fill';
        price: Price;
        qty: number;
        better: number;
        venue: PrintVenue;
        liquidity: 'added' | 'removed';
      }
    | { exec: 'TriggeredOrActivatedBySystem'; kind: 'triggered'; on: Seen; seen: Price; stop: Price }
    | { exec: 'Replaced'; kind: 'moved'; from: Price; to: Price; why: Why }
    | { exec: 'Replaced'; kind: 'resized'; from: number; to: number }
    | {
        exec: 'Replaced';
        kind: 'retyped';
        type: OrderType;
        limit: Price | null;
        stop: Price | null;
        route: Terms['route'];
        timeInForce: TimeInForce;
      }
    | { exec: 'Canceled'; kind: 'canceled'; why: Why; bare: number }
    | { exec: 'Expired'; kind: 'expired'; why: Why; bare: number }
    | { exec: 'Rejected'; kind: 'rejected'; why: Why; bare: number }
    | { exec: 'Canceled'; kind: 'thrown out'; why: string }
    | { exec: 'OrderStatus'; kind: 'request refused'; request: 'replace' | 'cancel'; why: string }
    | {
        exec: 'OrderStatus';
        kind: 'trade over';
        gross: number;
        costs: Money;
        risk: Money | null;
        averageExit: number;
      }
    | { exec: 'OrderStatus'; kind: 'turned'; shares: number }
    /** Options came to their end: what each was worth, and the shares that were bought (above zero) or sold for it. */
    | {
        exec: 'OrderStatus';
        kind: 'settled';
        worth: Price;
        contracts: number;
        shares: number;
        root: string;
        spot: Price;
      }
    | { exec: 'OrderStatus'; kind: 'split'; contracts: number }
    /** What was to be out by a time is still held: nobody takes it, or the exchange refuses it. */
    | { exec: 'OrderStatus'; kind: 'not out'; shares: number; until: 'quote' | 'session' }
    /** The exchange dropped the rest of a flatten: nobody took it, and nothing closes it now. */
    | { exec: 'OrderStatus'; kind: 'left over'; shares: number }
    /** The exchange counts more of an order as filled than it has told of; it was asked for the rest. */
    | { exec: 'OrderStatus'; kind: 'fills asked for'; shares: number }
    /** What it was asked for does not exist: the order goes by what has been told. */
    | { exec: 'OrderStatus'; kind: 'no such fills'; shares: number }
    /** Broker and exchange answered one another without end; the rest is left for the next moment. */
    | { exec: 'OrderStatus'; kind: 'restless' }
    | { exec: 'OrderStatus'; kind: 'line'; up: boolean }
    /** The daily loss locks new risk. */
    | { exec: 'OrderStatus'; kind: 'locked'; loss: Money; most: Money }
    | { exec: 'OrderStatus'; kind: 'located'; shares: number; fee: Money }
  );

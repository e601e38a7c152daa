import type { Seen } from '../triggers/index.ts';
import type { AccountId, OrderId, Price, Side } from '../units/index.ts';
import type { ExitPlan } from './exit-plan.ts';
import type { Works } from './order.ts';
import type { OrderType, Terms } from './order-terms.ts';

type Worked = Pick<Works, 'to' | 'within'>;

/** Sent by what waited, not by hand. */
type ByItself = { byItself?: true };

/** The yes that takes the last stop of shares away: so many of each symbol were named when it was asked for. */
type Bare = { bare?: readonly { symbol: string; shares: number }[] };

/** What the trader asks for, every number decided. Made by the script room, obeyed by the broker. */
export type Intent =
  /** Two orders of which a fill of one takes as much from the other. */
  | { kind: 'pair'; of: readonly [NewIntent, NewIntent] }
  | ({
      kind: 'entry';
      account: AccountId;
      symbol: string;
      side: Side;
      type: OrderType;
      qty: number;
      limit: Price | null;
      stop: Price | null;
      /** The price that triggers its stop; the last one where it is not said. */
      on?: Seen;
      extended: boolean;
      plan: ExitPlan | null;
      /** Its shares join the newest scope of the position, where it has no plan of its own. */
      joins?: boolean;
      /** It turns the position: it waits until a flatten is done. */
      afterFlat?: boolean;
      works?: Worked;
      sentence: string;
    } & Terms &
      ByItself)
  | ({
      kind: 'close';
      account: AccountId;
      symbol: string;
      type: OrderType;
      qty: number;
      limit: Price | null;
      stop: Price | null;
      on?: Seen;
      extended: boolean;
      works?: Worked;
      /** The vertical that what is closed is a leg of: so many of it come apart first. */
      apart?: string;
    } & Terms &
      ByItself)
  /** Exits for what is held: for all of it with what joins it, or for so many shares, the unprotected ones first. */
  | { kind: 'attach'; account: AccountId; symbol: string; over: 'all' | { shares: number }; plan: ExitPlan }
  | { kind: 'move'; orderId: OrderId; to: Price }
  /** Another kind, price, size, life or route at once: it is called back from the exchange and goes anew under its own number, with its exits. */
  | ({
      kind: 'retype';
      orderId: OrderId;
      type: OrderType;
      qty: number;
      limit: Price | null;
      stop: Price | null;
      on: Seen;
      extended: boolean;
      works?: Worked;
    } & Terms &
      Bare)
  /** So many shares in all, those that have filled included. A smaller size keeps its place in the queue. */
  | ({ kind: 'resize'; orderId: OrderId; qty: number } & Bare)
  /** A stop or target that was taken away stands again. */
  | { kind: 'put back'; orderId: OrderId }
  | ({
      kind: 'cancel';
      /** With `keepStops`, what protects shares stays. */
      what:
        | { kind: 'orders'; ids: readonly OrderId[] }
        | { kind: 'symbol'; account: AccountId; symbol: string; keepStops?: boolean }
        | { kind: 'everything'; account: AccountId; keepStops?: boolean };
    } & Bare)
  /** Asks a lender to set shares aside for the day, for a fee. */
  | { kind: 'locate'; account: AccountId; symbol: string; shares: number }
  /** Out of a symbol: entries and closes end, exits give way, all shares go, at market or within `limit`. */
  | { kind: 'flatten'; account: AccountId; symbol: string; limit: Price | null };

/** An order to be sent. */
export type NewIntent = Extract<Intent, { kind: 'entry' | 'close' }>;

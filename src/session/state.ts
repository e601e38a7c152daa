import { MAIN } from '../core/account/index.ts';
import type { Alerts } from '../core/alerts/index.ts';
import type { DrawnLevel } from '../core/market/index.ts';
import type { Broker, OrderEvent } from '../core/orders/index.ts';
import {
  type Chain,
  PLAIN_PLANS,
  type PlanBook,
  type Staged,
  type TicketSize,
  type Waiting,
} from '../core/reading/index.ts';
import type { AccountId, Price, SessionKind, TradeId } from '../core/units/index.ts';

/** A note of the trader, beside the trade that was open then. */
export interface Note {
  at: number;
  symbol: string;
  tradeId: TradeId | null;
  text: string;
}

/** How the waiting of an order ended. */
export interface Waited {
  seq: number;
  /** Of a condition its number, of a chained order the number of the order that it belonged to. */
  id: number;
  of: 'condition' | 'chain';
  symbol: string;
  at: number;
  text: string;
  how: 'fired' | 'refused' | 'over' | 'cancelled';
  /** What was seen when it fired. */
  seen: string;
  /** What came of it. */
  came: string;
}

/** How far the quote of an underlying went in a minute of the session in which options on it were held. */
export interface Reach {
  minute: number;
  bid: readonly [low: number, high: number];
  ask: readonly [low: number, high: number];
}

/** What sentences about the desk have set. */
export interface DeskState {
  /** The account that sentences act in. */
  account: AccountId;
  plans: PlanBook;
  ticket: TicketSize | null;
  staged: readonly Staged[];
  /** Above every number on the strip, so that the two never stand for each other. */
  nextStaged: number;
  /** Numbers of the strip that have become free since it was last empty, the longest free first. */
  freePlaces: readonly number[];
  waiting: readonly Waiting[];
  nextWaiting: number;
  chains: readonly Chain[];
  /** Newest last; the oldest fall off. */
  waited: readonly Waited[];
  /** Named prices by symbol. */
  levels: Readonly<Record<string, Readonly<Record<string, DrawnLevel>>>>;
  notes: readonly Note[];
}
export const EMPTY_DESK: DeskState = {
  account: MAIN,
  plans: PLAIN_PLANS,
  ticket: null,
  staged: [],
  nextStaged: 11,
  freePlaces: [],
  waiting: [],
  nextWaiting: 1,
  chains: [],
  waited: [],
  levels: {},
  notes: [],
};

/** The trader's side of a session. The market's side is behind its port. */
export interface State {
  seq: number;
  session: SessionKind;
  broker: Broker;
  alerts: Alerts;
  desk: DeskState;
  /** Bid and ask of symbols that are waited for, as their conditions were last told. */
  told: Readonly<Record<string, { bid: Price | null; ask: Price | null }>>;
  /** Of underlyings on which options are held, how far their quote went in the minute that is on. */
  reach: Readonly<Record<string, Reach>>;
  /** Newest last; kept short, the log has them all. */
  events: OrderEvent[];
}

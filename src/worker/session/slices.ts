// What the session tells of itself, piece by piece: the answers to the questions of questions.ts.
import type { AccountRules, AccountView, FeeTable } from '../../core/account/index.ts';
import type { Alert, Fired } from '../../core/alerts/index.ts';
import type { Purpose } from '../../core/language/index.ts';
import type {
  Bar,
  DailyBar,
  DrawnLevel,
  Listing,
  Print,
  Quote,
  TradingStatus,
} from '../../core/market/index.ts';
import type { Measured } from '../../core/options/index.ts';
import type { Order, OrderEvent, Scope, Trade } from '../../core/orders/index.ts';
import type {
  Question as AskedBack,
  Named,
  OrderFacts,
  RunProblem,
  TicketSize,
} from '../../core/reading/index.ts';
import type { TradeReview } from '../../core/review/index.ts';
import type { ClauseAnswer, ClauseCount, Ranking } from '../../core/scan/index.ts';
import type { AuctionView, Latency } from '../../core/sim/index.ts';
import type { AccountId, Hours, Price, SessionKind } from '../../core/units/index.ts';
import type { DepthLevel } from '../../core/venue/index.ts';
import type { Note, Waited } from '../../session/state.ts';

/** What becomes of a position by its underlying's price: in dollars for all of it, today, half way, and at its end. Prices in price units. */
export interface PayoffSlice {
  name: string;
  sign: 1 | -1;
  spot: number;
  /** Within which the price ends in two of three cases, as the market reckons. */
  expected: [low: number, high: number];
  even: number[];
  days: number;
  lines: { spot: number; now: number; half: number; end: number }[];
  /** Today, after so many percent of the price and points of implied volatility. */
  grid: { moves: number[]; shifts: number[]; values: number[][] };
}

/** A call or a put of a chain. */
export interface ChainSide extends Quote, Measured {
  name: string;
  /** Open interest, and what has traded today, in contracts. */
  open: number;
  volume: number;
}
export interface ChainRow {
  strike: Price;
  call: ChainSide;
  put: ChainSide;
}
/** What positions come to: delta in shares, theta in dollars a day, vega in dollars a point; delta in dollars beside it. */
export interface Exposure {
  delta: number;
  gamma: number;
  theta: number;
  vega: number;
  dollars: number;
}
export interface ChainSlice {
  symbol: string;
  date: string;
  spot: number;
  /** Options trade now. */
  open: boolean;
  expiry: string;
  /** Each with the days to it, and how far the market reckons the price to move until then (one deviation, as a part of it). */
  expiries: { date: string; days: number; move: number; iv: number }[];
  /** Implied volatility of a month, and its rank in 52 weeks. */
  iv: number;
  rank: number;
  /** The date of the next report that is scheduled, and the days to it; null where none is. */
  reports: { date: string; days: number } | null;
  /** The same over the 52 weeks before, each week's, oldest first: days before today and volatility. */
  year: { ago: number; iv: number }[];
  rows: ChainRow[];
  mine: Exposure;
  all: Exposure;
}

/** What a script would do now. */
export interface Peeked {
  text: string;
  /** The symbol that it speaks of where it names none. */
  focus: string;
  sayBack: string[];
  /** Of each line, which orders it is about. */
  about: string[];
  /** Of each line, whether it depends on fills of those before it. */
  guesses: boolean[];
  warnings: string[];
  /** Prices written by name, with their numbers as of now; they are fixed when it is sent. */
  named: Named[];
  problem: string | null;
  /** Sentences that would go instead. */
  fixes: readonly string[];
  /** They say what the text means at any time, and in whole: they may be kept in its key. */
  lasting: boolean;
  /** Written in forms of an earlier version of the language. */
  retired: boolean;
  /** What kind of problem, where it is one of this moment. */
  code: RunProblem['reason']['code'] | null;
  facts: OrderFacts | null;
  /** The symbol that the facts are of. */
  of: string;
  addsRisk: boolean;
  /** What is to be answered before it goes, whatever the confirmations are set to. */
  asks: readonly AskedBack[];
  /** What it is for, for its look. */
  purpose: Purpose;
}

export interface ClockSlice {
  now: number;
  session: SessionKind;
  /** Simulated seconds a second; 0 is paused. */
  speed: number;
  date: string;
  /** Dates of the session's trading days so far, this one last. */
  dates: readonly string[];
  title: string;
  character: string;
  hours: Hours;
  /** Session time of the day's midnight. */
  dayStart: number;
  attempt: number;
  /** The attempt that is only watched again, and what of it is still to come; null: the trader acts. */
  watching: { attempt: number; coming: number } | null;
  /** Time being run up to, while a jump is under way. */
  jumpingTo: number | null;
}

export interface SymbolSlice {
  symbol: string;
  instrument: Listing;
  quote: Quote;
  last: number | null;
  change: number | null;
  status: TradingStatus;
  halt: { reason: string; until: number } | null;
  restricted: boolean;
  auction: AuctionView | null;
  /** Halts and resumptions of the day so far. */
  stops: { at: number; stopped: boolean }[];
  /** Prints of the day so far. */
  count: number;
  vwap: number | null;
  premarketHigh: number | null;
  premarketLow: number | null;
  bids: DepthLevel[];
  asks: DepthLevel[];
  prints: Print[];
  /** The minute that is forming, null before it trades. */
  forming: Bar | null;
}

/** Finished one-minute candles of a symbol. */
export interface BarsSlice {
  symbol: string;
  bars: Bar[];
  /** Milliseconds after midnight at which the minute that is forming began. */
  formingFrom: number;
}

/** Finished days of a symbol, oldest first. */
export interface DaysSlice {
  symbol: string;
  daily: readonly DailyBar[];
}

/** One-minute candles of the session's last days before this one. */
export interface EarlierSlice {
  symbol: string;
  bars: readonly Bar[];
}

/** The book of a symbol, best prices first. */
export interface DepthSlice {
  symbol: string;
  bids: DepthLevel[];
  asks: DepthLevel[];
}

/** Who is to be on the table, in what order, with which fields. */
export interface TableAsked {
  source:
    | {
        kind: 'scan';
        rule: string;
        ranking: Ranking;
        from: number;
        to: number;
        limit: number;
        hidden: readonly string[];
      }
    | { kind: 'list'; symbols: readonly string[] };
  columns: readonly string[];
  /** A field, or `symbol`, to sort by instead of the scan's ranking or the list's own order. */
  sort: { field: string; down: boolean } | null;
}

export interface TableSlice {
  /** Which request it answers, so that the columns are read as they were asked for. */
  asked: TableAsked;
  /** Stocks looked at, and how many pass. */
  total: number;
  passing: number;
  /** The scan works at another time of day. */
  closed: boolean;
  /** Numbers of the symbols in order; of a list only those that trade today. */
  who: Int32Array;
  /** Values of each column asked for, in the order of `who`; NaN is not known. */
  columns: Float64Array[];
  clauses: ClauseCount[];
}

/** Why a symbol is on a table or not; `place` counts from 1. */
export interface WhySlice {
  symbol: string;
  clauses: ClauseAnswer[];
  place: number | null;
  passing: number;
  hidden: boolean;
}

export interface AlertsSlice {
  list: readonly Alert[];
  /** Newest last. */
  fired: readonly Fired[];
}

/** What of the trader's orders and trades has changed: records to be put in place of those with the same id. */
export interface BookSlice {
  /** The first of a session: what was known before is to be forgotten. */
  whole: boolean;
  trades: Trade[];
  orders: Order[];
  scopes: Scope[];
  reviews: TradeReview[];
  /** New ones, newest last. */
  events: OrderEvent[];
}

/** How the line to the exchange stands. */
export interface LineSlice {
  up: boolean;
  latency: Latency | null;
}

/** What sentences about the desk have set. */
export interface DeskSlice {
  account: AccountId;
  accounts: { id: AccountId; rules: AccountRules; next: AccountRules | null; fees: readonly FeeTable[] }[];
  ticket: TicketSize | null;
  /** The sentence that would load the ticket with the size that it has; '' where it has none. */
  loaded: string;
  staged: { id: number; symbol: string; text: string; at: number; place: number | null }[];
  levels: Readonly<Record<string, Readonly<Record<string, DrawnLevel>>>>;
  notes: readonly Note[];
}

/** One order that waits, as it stands now. */
export interface WaitingNow {
  id: number;
  symbol: string;
  /** The sentence. */
  text: string;
  paused: boolean;
  /** Session time at which the waiting ends; null: when it is cancelled. */
  until: number | null;
  /** What is seen and what is missing, in words. */
  near: string;
  /** How much of the way from where it was set it has come, 0 to 1; null where that is not known. */
  way: number | null;
  /** Prices that it waits for, for the charts of their symbols. */
  prices: { symbol: string; price: number }[];
}
export interface WaitsSlice {
  waiting: WaitingNow[];
  /** Those that have ended, newest last. */
  ended: readonly Waited[];
}

/** The account in use. */
export interface AccountSlice extends AccountView {
  id: AccountId;
  riskUnit: number;
  name: string;
  kind: 'margin' | 'cash';
  multiple: number;
  /** What all its stops together would lose. */
  openRisk: number;
}

/** Last price of each symbol with a trade, for the cards; and shares ahead of resting orders. */
export interface MarksSlice {
  last: Record<string, number | null>;
  ahead: Record<number, number>;
}

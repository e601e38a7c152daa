import type { AccountView } from '../core/account/index.ts';
import type { Bar, Instrument, NewsItem, Print, Quote, TradingStatus } from '../core/market/index.ts';
import type { ExitGroup, Order, OrderEvent, Trade } from '../core/orders/index.ts';
import type { TradeReview } from '../core/review/index.ts';
import type { ScanRow } from '../core/scan/index.ts';
import type { OrderFacts, RunProblem } from '../core/script/index.ts';
import type { AuctionView, OwnDay } from '../core/sim/index.ts';
import type { Hours, SessionKind } from '../core/units/index.ts';
import type { DepthLevel } from '../core/venue/index.ts';
import type { DayRef } from '../session/day-ref.ts';
import type { RunResult } from '../session/engine.ts';
import type { AttemptInfo } from '../session/log.ts';

/** Everything the interface may ask. Each request carries an id and gets exactly one answer. */
export type Request =
  | { kind: 'run'; text: string }
  | { kind: 'peek'; text: string }
  | { kind: 'focus'; symbol: string }
  | { kind: 'scan'; rule: string; rankBy: string }
  | { kind: 'speed'; speed: number }
  | { kind: 'jump'; to: number }
  | { kind: 'risk unit'; dollars: number }
  | { kind: 'rack'; scripts: string[] }
  | { kind: 'step'; what: 'print' | 'second' | 'bar' }
  /** Runs on until something of interest happens to one of these symbols or to the trader's orders. */
  | { kind: 'next event'; symbols: string[] }
  | { kind: 'next day' }
  /** Sets aside what was done after a time and starts another attempt from there. */
  | { kind: 'go back'; to: number }
  | { kind: 'start day'; day: DayRef }
  | { kind: 'days' }
  | { kind: 'keep own day'; day: OwnDay }
  | { kind: 'drop own day'; id: string }
  /** One-minute bars or prints of a symbol, as rows for a file. */
  | { kind: 'history'; symbol: string; what: 'bars' | 'prints' }
  /** Ends long work that is under way; nothing has changed then. */
  | { kind: 'stop work' };

/** What the trader can choose to practise on. */
export interface DayChoice {
  practice: { id: string; title: string; character: string; date: string; startAt: number }[];
  own: { id: string; title: string; symbols: number; dates: string[] }[];
  attempts: (AttemptInfo & { title: string })[];
  current: number;
}

/** What a script would do now. */
export interface Peeked {
  text: string;
  sayBack: string[];
  warnings: string[];
  problem: string | null;
  /** What kind of problem, where it is one of this moment. */
  code: RunProblem['code'] | null;
  facts: OrderFacts | null;
  addsRisk: boolean;
  staged: boolean;
}

/** What each question is answered with; a request that is not here is answered with `done`. */
export interface Answers {
  run: { kind: 'run'; result: RunResult };
  peek: { kind: 'peek'; peeked: Peeked };
  days: { kind: 'days'; days: DayChoice };
  history: { kind: 'history'; date: string; bars: Bar[]; prints: Print[] };
  scan: { kind: 'scan'; ok: true; tidy: string } | { kind: 'scan'; ok: false; problem: string; from: number; to: number };
}
export interface Done {
  kind: 'done';
}
export type Answer = Answers[keyof Answers] | Done;

/** The answer that belongs to a request; anything else is refused by the compiler. */
export type AnswerTo<K extends Request['kind']> = K extends keyof Answers ? Answers[K] : Done;

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
  /** Time being run up to, while a jump is under way. */
  jumpingTo: number | null;
}

export interface FocusSlice {
  symbol: string;
  instrument: Instrument;
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

export interface ScanSlice {
  total: number;
  /** How many pass; `rows` has the best of them. */
  passing: number;
  rows: ScanRow[];
  /** For each clause how many symbols pass it alone. */
  clauses: { from: number; to: number; passing: number }[];
}

export interface BookSlice {
  trades: Trade[];
  orders: Order[];
  groups: ExitGroup[];
  events: OrderEvent[];
  reviews: TradeReview[];
}

/** Last price of each symbol with a trade, for the cards; and shares ahead of resting orders. */
export interface MarksSlice {
  last: Record<string, number | null>;
  ahead: Record<number, number>;
}

/** What the worker tells without being asked: only the slices that changed. */
export interface Update {
  clock?: ClockSlice;
  focus?: FocusSlice;
  bars?: BarsSlice;
  scan?: ScanSlice;
  book?: BookSlice;
  marks?: MarksSlice;
  account?: AccountView & { riskUnit: number; name: string };
  rack?: Peeked[];
  news?: NewsItem[];
}

export type ToWorker = { id: number; request: Request };
export type FromWorker =
  | { kind: 'update'; update: Update }
  | { kind: 'answer'; id: number; answer: Answer }
  | { kind: 'failed'; id: number; message: string }
  | { kind: 'waiting'; why: 'another tab' }
  | { kind: 'ready' }
  /** Long work: how far it has come on its way. */
  | { kind: 'working'; what: string; at: number; from: number; to: number }
  | { kind: 'worked' }
  | { kind: 'broken'; message: string };

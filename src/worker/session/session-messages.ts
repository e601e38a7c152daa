import type { AccountRules, AccountView, FeeTable } from '../../core/account/index.ts';
import type { Alert, AlertChange, Fired } from '../../core/alerts/index.ts';
import type { JournalLine } from '../../core/formats/index.ts';
import type { Purpose } from '../../core/language/index.ts';
import type {
  Bar,
  DailyBar,
  DrawnLevel,
  Listing,
  MarketContext,
  NewsItem,
  Print,
  Quote,
  TradingStatus,
} from '../../core/market/index.ts';
import type { Measured } from '../../core/options/index.ts';
import type { Order, OrderEvent, Scope, Trade } from '../../core/orders/index.ts';
import type {
  Named,
  OrderFacts,
  PlanBook,
  Question,
  RunProblem,
  TicketSize,
} from '../../core/reading/index.ts';
import type { TradeReview } from '../../core/review/index.ts';
import type { ClauseAnswer, ClauseCount, Ranking } from '../../core/scan/index.ts';
import type { AuctionView, Latency, LineChange, OwnDay } from '../../core/sim/index.ts';
import type { AccountId, Hours, Price, SessionKind } from '../../core/units/index.ts';
import type { DepthLevel } from '../../core/venue/index.ts';
import type { DayRef, DaySource, DayStart } from '../../session/day-ref.ts';
import type { AttemptInfo, PastSession, PressedBy } from '../../session/log.ts';
import type { RunResult } from '../../session/scripts.ts';
import type { Note, Waited } from '../../session/state.ts';
import type { RoomTold } from '../../store/room.ts';
import type { NamedNow } from './names.ts';
import type { PlanSeen } from './plan.ts';
import type { Sheet } from './sheet.ts';

/** What a run over many sessions runs up to. */
export type RunUntil = { kind: 'fill' } | { kind: 'date'; date: string };

/** Everything the interface may ask. Each request carries an id and gets exactly one answer. */
export type Request =
  /**
   * `cursor`: where the pointer stands on the chart of the focus, in price units. `seen`: the focus
   * that the trader saw; where another one is in focus by now, nothing is done.
   */
  | { kind: 'run'; text: string; cursor?: number | null; seen?: string; by?: PressedBy }
  /** As `run`, but what adds risk is answered with a proposal that waits for a yes. */
  /** `asks`: what waits for a yes: everything, what adds risk, nothing. */
  | {
      kind: 'act';
      text: string;
      asks: 'always' | 'risk' | 'never';
      cursor?: number | null;
      seen?: string;
      by?: PressedBy;
    }
  /** What a text would do now: a proposal that can be sent as it is. */
  | { kind: 'peek'; text: string; cursor?: number | null; seen?: string }
  /** Sends a proposal: the symbol and the text that were shown. Refused when the focus has changed since. */
  | { kind: 'send'; proposal: number }
  | { kind: 'alert'; id: number; change: AlertChange }
  | { kind: 'focus'; symbol: string }
  /** What a view looks at from now on, under a name of its own; it comes with the updates. */
  | { kind: 'watch'; id: string; query: Query }
  | { kind: 'unwatch'; id: string }
  /** A plan in the focus, at an example price and size; `from` is the minute of the day of its entry today. */
  | { kind: 'plan'; text: string; price: number | null; qty: number | null; from: number }
  /** The day journal of the attempt under way. */
  | { kind: 'journal' }
  /** Prices by their names, plans and levels of the focus, for editors and the reference page. */
  | { kind: 'names' }
  /** For a symbol: what of the scan on the table it passes, and what keeps it out. */
  | { kind: 'why'; symbol: string }
  /** Companies whose options are dear against their year, each with the vertical that would be sold. */
  | { kind: 'find verticals'; asked: VerticalsAsked }
  /** Every field of a symbol, in the order of the registry; NaN is not known. */
  | { kind: 'values'; symbol: string }
  /** Prices of the day so far, one each ten minutes, for the symbols with these numbers. */
  | { kind: 'sparks'; who: number[] }
  /** What the day can be run again from, beside the session. */
  | { kind: 'day start' }
  /** What a sheet about a symbol shows. */
  | { kind: 'sheet'; symbol: string }
  | { kind: 'speed'; speed: number }
  | { kind: 'jump'; to: number }
  | { kind: 'risk unit'; dollars: number }
  /** The trader's plans and usual distances, as they are from now on. */
  | { kind: 'plans'; book: PlanBook }
  /** Makes an account, or changes its rules, guards and fees. */
  | { kind: 'account'; id: AccountId; rules: AccountRules; fees: readonly FeeTable[] }
  /** Cuts the line to the exchange, mends it, or gives it another latency. */
  | { kind: 'line'; change: LineChange }
  | { kind: 'step'; what: 'print' | 'second' | 'bar' }
  /** Runs on until something of interest happens to one of these symbols or to the trader's orders. */
  | { kind: 'next event'; symbols: string[] }
  | { kind: 'next day' }
  /** Runs on, session after session, to the next own fill or to 04:00 of a date. */
  | { kind: 'run on'; until: RunUntil }
  /** Sets aside what was done after a time and starts another attempt from there. */
  | { kind: 'go back'; to: number }
  /** Takes the day of an attempt again from a moment of it on: as it was until then, or, watched, on and on until the trader takes over. */
  | { kind: 'take again'; attempt: number; at: number; watch: boolean }
  | { kind: 'take over' }
  /** `known`: the session of it up to which the trader knows it already. */
  | { kind: 'start day'; day: DayRef; known?: number }
  | { kind: 'days' }
  /** Keeps imported data under an id of its own; the same data twice is kept once. */
  | { kind: 'keep own day'; day: Omit<OwnDay, 'id'> }
  | { kind: 'drop own day'; id: string }
  | { kind: 'own day'; id: string }
  /** One-minute bars or prints of a symbol, as rows for a file. */
  | { kind: 'history'; symbol: string; what: 'bars' | 'prints' }
  /** Ends long work that is under way. */
  | { kind: 'stop work' }
  /** What the trader chose for the interface, as it was kept; null when nothing was. */
  | { kind: 'settings' }
  | { kind: 'keep settings'; settings: unknown }
  /** Sessions of an earlier version, to be read. */
  | { kind: 'past' };

/** What a hand does to the market, to time or to money: refused until the session is ready, and never played later. What is only looked at waits. */
const BY_HAND: ReadonlySet<Request['kind']> = new Set([
  'run',
  'act',
  'send',
  'peek',
  'alert',
  'speed',
  'jump',
  'step',
  'next event',
  'next day',
  'run on',
  'go back',
  'take again',
  'take over',
  'start day',
  'line',
  'risk unit',
  'account',
]);
export const isByHand = (r: Request): boolean => BY_HAND.has(r.kind);
/** Long work during which nothing is sent: what is pressed meanwhile is refused, not kept. */
const LONG: ReadonlySet<Request['kind']> = new Set([
  'next day',
  'run on',
  'go back',
  'take again',
  'start day',
]);
export const takesLong = (r: Request): boolean => LONG.has(r.kind);
const DEEDS: ReadonlySet<Request['kind']> = new Set(['run', 'act', 'send', 'peek', 'alert']);
/** What a hand does that may not be played later than it was pressed. */
export const isPress = (r: Request): boolean => DEEDS.has(r.kind);

/** What the trader can choose to practise on. */
export interface DayChoice {
  practice: { id: string; title: string; character: string; date: string; startAt: number }[];
  own: { id: string; title: string; symbols: number; dates: string[] }[];
  attempts: (AttemptInfo & { title: string })[];
  current: number;
}

/** What can be looked at. Symbol null: the focus, whatever it is. */
export type Query =
  | { kind: 'table'; table: TableAsked }
  | { kind: 'peeks'; texts: readonly { text: string; symbol: string | null }[]; every?: number }
  | { kind: 'symbol'; symbol: string | null }
  | { kind: 'bars'; symbol: string | null }
  /** Days of a symbol before this one. */
  | { kind: 'days'; symbol: string | null }
  /** Minutes of the session's last days before this one. */
  | { kind: 'earlier'; symbol: string | null }
  /** So many price levels of each side of the book of the focus, or of a contract. */
  | { kind: 'depth'; levels: number; contract: string | null }
  /** The option chain of the focus, or of a symbol; of an expiry, or of the one that is shown first. */
  | { kind: 'chain'; symbol: string | null; expiry: string | null }
  /** What may come of the option or vertical that a sentence opens. */
  | { kind: 'payoff'; text: string }
  /** Orders that wait for a condition, the nearest first. */
  | { kind: 'waits' };

/** What a watch tells. */
export type Seen =
  | { kind: 'table'; table: TableSlice }
  | { kind: 'peeks'; peeks: Peeked[] }
  | { kind: 'symbol'; symbol: SymbolSlice }
  | { kind: 'bars'; bars: BarsSlice }
  | { kind: 'days'; days: DaysSlice }
  | { kind: 'earlier'; earlier: EarlierSlice }
  | { kind: 'depth'; depth: DepthSlice }
  | { kind: 'chain'; chain: ChainSlice | null }
  | { kind: 'payoff'; payoff: PayoffSlice | null }
  | { kind: 'waits'; waits: WaitsSlice };

/** What verticals are looked for: IV rank from, price in dollars, a sector or none, and which one to sell of each. */
export interface VerticalsAsked {
  rank: number;
  from: number;
  to: number;
  sector: string;
  days: number;
  delta: number;
  width: string;
  right: 'call' | 'put';
}
export interface VerticalFound {
  symbol: string;
  sector: string;
  spot: number;
  iv: number;
  rank: number;
  /** As a sentence names it, and the one that it comes to now. */
  text: string;
  name: string;
  mid: number;
  /** What one can lose, and the power that it needs; in 1/10,000 dollar. */
  least: number;
  needs: number;
  /** What one can lose, in the account's R. */
  r: number;
  profit: number;
  affordable: boolean;
  /** Options of the company are held already. */
  held: boolean;
}

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
  asks: readonly Question[];
  /** What it is for, for its look. */
  purpose: Purpose;
}

/** What was worked out and a yes will send. */
export interface Proposal extends Peeked {
  id: number;
}

/** What each question is answered with; a request that is not here is answered with `done`. */
export interface Answers {
  run: { kind: 'run'; result: RunResult };
  act: { kind: 'run'; result: RunResult } | { kind: 'peek'; peeked: Proposal };
  peek: { kind: 'peek'; peeked: Proposal };
  send: { kind: 'run'; result: RunResult };
  days: { kind: 'days'; days: DayChoice };
  'own day': { kind: 'own day'; day: OwnDay | null };
  history: { kind: 'history'; date: string; bars: Bar[]; prints: Print[] };
  watch:
    | { kind: 'watch'; ok: true }
    | { kind: 'watch'; ok: false; problem: string; from: number; to: number };
  names: { kind: 'names'; symbol: string; names: NamedNow[]; plans: string[]; levels: string[] };
  'find verticals': { kind: 'find verticals'; rows: VerticalFound[]; fit: number };
  why: { kind: 'why'; clauses: ClauseAnswer[]; place: number | null; passing: number; hidden: boolean };
  values: { kind: 'values'; values: Float64Array };
  sparks: { kind: 'sparks'; lines: Int32Array[] };
  sheet: { kind: 'sheet'; sheet: Sheet };
  plan: { kind: 'plan'; seen: PlanSeen };
  journal: { kind: 'journal'; lines: JournalLine[] };
  settings: { kind: 'settings'; settings: unknown };
  past: { kind: 'past'; sessions: PastSession[] };
  /** What a run over many sessions came to, in words. */
  'run on': { kind: 'came'; text: string };
  'day start': { kind: 'day start'; source: DaySource; start: DayStart };
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

/** What the worker tells without being asked: only the slices that changed. */
export interface Update {
  clock?: ClockSlice;
  /** What watches have to tell, by their names. */
  watched?: Record<string, Seen>;
  /** The symbol in focus. */
  focusOn?: string;
  /** Every symbol of the day, by number. */
  symbols?: readonly string[];
  context?: MarketContext;
  alerts?: AlertsSlice;
  book?: BookSlice;
  line?: LineSlice;
  marks?: MarksSlice;
  account?: AccountSlice;
  desk?: DeskSlice;
  news?: NewsItem[];
}

export interface WorkingNow {
  what: string;
  part: number;
  words: string;
  ending: 'as before' | 'here' | null;
}

export type ToWorker = { id: number; request: Request };
export type FromWorker =
  | { kind: 'update'; update: Update }
  | { kind: 'answer'; id: number; answer: Answer }
  | { kind: 'failed'; id: number; message: string }
  | { kind: 'waiting'; why: 'another tab' }
  /** An archive is taken in before the session starts; a share from 0 to 1. */
  | { kind: 'taking in'; part: number }
  | { kind: 'ready' }
  /** Long work: which part of its way it has come, in words too, and what ending it early leaves; null: it has to come to its end. */
  | ({ kind: 'working' } & WorkingNow)
  /** Something that the trader has to know once. */
  | { kind: 'notice'; text: string }
  | { kind: 'worked' }
  /** There is no room on disk, or there is again. */
  | RoomTold
  /** The browser keeps nothing: the app runs in memory. */
  | { kind: 'not kept'; why: string }
  | { kind: 'broken'; message: string };

import type {
  Bar,
  Board,
  DailyBar,
  Listing,
  NewsItem,
  Print,
  Quote,
  Tape,
  TradingStatus,
} from '../core/market/index.ts';
import type { TradeRecord } from '../core/review/index.ts';
import type { AuctionView, Line, LineChange, OwnDay } from '../core/sim/index.ts';
import type { Hours, WireId } from '../core/units/index.ts';
import type { DepthLevel, VenueCommand, VenueReport } from '../core/venue/index.ts';
import type { DayStart } from './day-ref.ts';
import type { AttemptInfo, LogEntry, PastSession, SavedSession } from './log.ts';

/**
 * Where market data comes from, one trading day at a time. Times are session times (see core/units). Quotes, status and listings are known of
 * options and verticals by their names, too (see core/instruments); their listing and status are those of the underlying.
 */
export interface Feed {
  readonly instruments: readonly Listing[];
  readonly news: readonly NewsItem[];
  readonly title: string;
  readonly character: string;
  readonly date: string;
  /** The dates of the session's trading days so far, this one last. */
  readonly dates: readonly string[];
  readonly hours: Hours;
  /** Where the trader comes in, in session time. */
  readonly startAt: number;
  /** Session time of this day's midnight. */
  readonly dayStart: number;
  /** What is public of every symbol at snapshot depth, in the order of `instruments`. */
  readonly board: Board;
  now(): number;
  /**
   * Lets the next thing happen that is due by `until` among the symbols with a full book; when
   * nothing is, all others run up to `until`.
   * @returns the symbol it concerns and whether it traded, or null when nothing more is due.
   */
  next(until: number): { symbol: string; traded: boolean } | null;
  /** Happenings so far that concern the trader's symbols: the same whoever looks at what. */
  happened(): number;
  /** Goes on to the next trading day, at 04:00. Nothing that rests at the exchange survives the night. */
  nextDay(): void;
  /** From now on symbols of which nothing special is told, and that nobody looks at, stand still; where they close is known all the same. */
  standStill(): void;
  readonly still: boolean;
  /** Brings those that stand still up to now: so many, from a number on; with the last of them all go on. */
  catchUp(from?: number, count?: number): void;
  /** From now on only the others go on: for who follows a few through the day and keeps nothing of it. */
  leaveOut(who: (i: number) => boolean): void;
  has(symbol: string): boolean;
  /** Place of a symbol in `instruments` and on the board. */
  number(symbol: string): number;
  instrument(symbol: string): Listing;
  last(symbol: string): number | null;
  quote(symbol: string): Quote;
  /** What an option or a vertical is worth by its underlying, at any hour; null where that is not known. */
  worth(name: string): number | null;
  /** Why an option or a vertical cannot be traded; null when it can. */
  unlisted(name: string): string | null;
  status(symbol: string): TradingStatus;
  restricted(symbol: string): boolean;
  /** These ask for a full book: it is there from then on, with the whole of its day so far. */
  tape(symbol: string): Tape;
  depth(symbol: string, levels: number): { bids: DepthLevel[]; asks: DepthLevel[] };
  /** Keeps a symbol's full book for the rest of the day: `next` then tells each of its trades. */
  watch(symbol: string): void;
  /** The auction that is forming now, or null. */
  auction(symbol: string): AuctionView | null;
  /** Halts and resumptions of the day so far. */
  stops(): { symbol: string; at: number; stopped: boolean }[];
  /** Why a symbol does not trade now and until when, or null while it does. */
  halt(symbol: string): { reason: string; until: number } | null;
  /** Finished days of a symbol before this one, oldest first. */
  daily(symbol: string): DailyBar[];
  /** One-minute candles of a symbol's last days of this session before today, oldest first: as they went without the trader. */
  earlier(symbol: string, days: number): Bar[];
  /** Every print of a symbol's day up to now, as planned: without what the trader did to it. */
  history(symbol: string): Print[];
}

/**
 * Where orders go, over a line that may take its time or be cut. Requests are carried out in their
 * order, and each is answered; `drain` hands over what has arrived since.
 */
export interface Exchange {
  carryOut(command: VenueCommand): void;
  drain(): VenueReport[];
  /** Shares before a resting order in its queue; null when it does not rest in the lit book. */
  ahead(symbol: string, id: WireId): number | null;
  line(): Readonly<Pick<Line, 'up' | 'latency'>>;
  changeLine(change: LineChange): void;
}

/** The simulated market is both, and can be saved and brought back. */
export interface DayMarket extends Feed, Exchange {
  /** What the same day can be run again from, without the trader. */
  start(): DayStart;
  save(): unknown;
}

/** Wall time for pacing only, in milliseconds; the core never sees it. */
export interface Clock {
  now(): number;
  every(ms: number, task: () => void): () => void;
  /** Lets other things happen before long work goes on. */
  breathe(): Promise<void>;
}

/**
 * Durable memory. A call that has resolved survives a crash. A session is kept as attempts: each
 * has its own log; one of them is under way.
 */
export interface Store {
  /** The attempt under way: its last whole state, the log after the start, and the time it had reached. */
  load(): Promise<{
    attempt: AttemptInfo | null;
    saved: SavedSession | null;
    log: LogEntry[];
    heartbeat: number | null;
  }>;
  /** Adds to the log, and keeps the trades that changed with it: both or neither. */
  append(attempt: number, entries: readonly LogEntry[], trades?: readonly TradeRecord[]): Promise<void>;
  /** Keeps a whole state; log entries up to its number are then only history. */
  save(state: SavedSession): Promise<void>;
  beat(now: number): Promise<void>;
  /** Makes an attempt the one under way, with the log it starts from; whatever was under way stays readable. */
  begin(attempt: AttemptInfo, log: readonly LogEntry[]): Promise<void>;
  note(attempt: AttemptInfo): Promise<void>;
  attempts(): Promise<AttemptInfo[]>;
  log(attempt: number): Promise<LogEntry[]>;
  ownDays(): Promise<OwnDay[]>;
  keepOwnDay(day: OwnDay): Promise<void>;
  dropOwnDay(id: string): Promise<void>;
  /** What the trader chose for the interface, as it was kept; whoever reads it checks it. */
  settings(): Promise<unknown>;
  keepSettings(settings: unknown): Promise<void>;
  /** Sessions of an earlier version that cannot be gone on with: their trades and what happened, to be read. */
  past(): Promise<PastSession[]>;
  /** Sessions that were put aside since it was last asked, so that it is said once. */
  putAside(): Promise<PastSession[]>;
  /** Puts the session under way aside: what can be read of it is kept, and none is under way. */
  setAside(what: Omit<PastSession, 'told'>): Promise<void>;
  /** Whether a write waits for room on disk. */
  waits?(): boolean;
}

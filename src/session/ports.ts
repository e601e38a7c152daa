import type { Instrument, NewsItem, Quote, Tape } from '../core/market/index.ts';
import type { VenueCommand } from '../core/orders/index.ts';
import type { TraderReport } from '../core/sim/index.ts';
import type { DepthLevel } from '../core/venue/index.ts';
import type { LogEntry, SavedSession } from './log.ts';

/** Where market data comes from. Time in milliseconds after midnight, New York. */
export interface Feed {
  readonly instruments: readonly Instrument[];
  readonly news: readonly NewsItem[];
  readonly date: string;
  now(): number;
  /**
   * Lets the next thing happen that is due by `until`.
   * @returns the symbol it concerns and whether it traded, or null when nothing more is due.
   */
  next(until: number): { symbol: string; traded: boolean } | null;
  tape(symbol: string): Tape;
  quote(symbol: string): Quote;
  depth(symbol: string, levels: number): { bids: DepthLevel[]; asks: DepthLevel[] };
  has(symbol: string): boolean;
}

/** Where orders go. Commands are carried out in their order; reports are drained after each. */
export interface Exchange {
  carryOut(command: VenueCommand): void;
  drain(): TraderReport[];
  /** Shares before a resting order in its queue; null when it does not rest. */
  ahead(symbol: string, venueId: number): number | null;
}

/** The simulated market is both, and can be saved and brought back. */
export interface DayMarket extends Feed, Exchange {
  save(): unknown;
}

/** Wall time for pacing only, in milliseconds; the core never sees it. */
export interface Clock {
  now(): number;
  every(ms: number, task: () => void): () => void;
}

/** Durable memory. A call that has resolved survives a crash. */
export interface Store {
  load(): Promise<{ saved: SavedSession | null; log: LogEntry[]; heartbeat: number | null }>;
  append(entries: readonly LogEntry[]): Promise<void>;
  /** Keeps a whole state; log entries up to its number are then only history. */
  save(state: SavedSession): Promise<void>;
  beat(now: number): Promise<void>;
  clear(): Promise<void>;
}

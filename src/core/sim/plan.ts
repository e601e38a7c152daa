import type { Listing, NewsItem } from '../market/index.ts';
import type { Hours } from '../units/index.ts';
import type { BarRow } from './replay.ts';

/**
 * A stretch of a symbol's day, from a time of day until the next stretch. `drift` is the expected
 * change a minute as a fraction of price; `vol` and `pace` multiply the symbol's own.
 */
export interface Phase {
  from: number;
  drift: number;
  vol: number;
  pace: number;
}

/** A step in what a symbol is worth, as a fraction of price; most of it comes within two minutes. */
export interface Jump {
  at: number;
  by: number;
}

/** A regulatory halt: trading stops for a stated reason, worth moves by `gap`, an auction reopens it. */
interface PlannedHalt {
  at: number;
  until: number;
  reason: string;
  gap: number;
}

/** All that decides one symbol's day but the seed. */
export interface SymbolPlan {
  instrument: Listing;
  /** Worth at 04:00 as a fraction above the prior close. */
  overnight: number;
  /** Half the usual spread as a fraction of price, in the regular session. */
  halfSpread: number;
  /** How much of the index's and of its sector's moves it follows. */
  beta: number;
  /** Typical change a minute (one standard deviation) as a fraction of price, where a phase says 1. */
  vol: number;
  /** Things that happen a second (quotes and prints) where a phase says 1. */
  rate: number;
  /** Mean shares of a print. */
  lot: number;
  /** Mean round lots shown at the best price. */
  depth: number;
  /** Shares in the opening cross; the closing one is twice as large. */
  cross: number;
  phases: readonly Phase[];
  jumps: readonly Jump[];
  halts: readonly PlannedHalt[];
  /** Under the short-sale restriction from the day before. */
  restricted: boolean;
  /** Imported minutes that the day must honour, instead of an invented course. */
  bars: readonly BarRow[] | null;
}

/** A whole practice day. The same scenario object gives the same prints on every machine. */
export interface Scenario {
  id: string;
  title: string;
  /** What kind of day it is, for the trader who chooses. */
  character: string;
  /** The made-up calendar date of the day, yyyy-mm-dd. */
  date: string;
  hours: Hours;
  seed: number;
  startAt: number;
  /** How the whole market goes: phases of the index stand-in. */
  mood: readonly Phase[];
  symbols: readonly SymbolPlan[];
  news: readonly NewsItem[];
}

import type { Listing, NewsItem } from '../market/index.ts';
import type { Hours } from '../units/index.ts';
import type { BarRow } from './replay.ts';

/**
 * A stretch of a symbol's day, from a time of day until the next stretch. `vol` and `pace` multiply
 * the symbol's own. No stretch has a direction: whatever is known of a day beforehand, nobody knows that.
 */
export interface Phase {
  from: number;
  vol: number;
  pace: number;
}

/** News: a step in what a symbol is worth, as a fraction of price. It comes at once. */
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

/**
 * Rushes: from `from` until `until` a one-sided flow may set in, so many times an hour. It pulls the
 * price along, trade by trade, and may end with any of them in a flush that takes back what on
 * average it has brought, so that neither following nor fading it pays.
 */
export interface Rushes {
  from: number;
  until: number;
  /** They go on after that while trading has not been paused. */
  untilPaused: boolean;
  perHour: number;
  /** How often it goes up, as a fraction. */
  up: number;
  /** Excess of one side, as a fraction of all trades, and trades that it lasts on average. */
  tilt: number;
  trades: number;
}

/**
 * A course of which the end is drawn before the day: how hot each stretch is, and where the course
 * stands at the close, from a normal with the variance of all of them. On the way there it is a walk
 * of that variance whose end nobody knows, so it can be told at once where a day ended that nobody
 * looked at, and be walked later.
 */
export interface Given {
  /** Variance of each stretch beside the usual. */
  heats: Float64Array;
  /** Variance that is left from the start of each stretch until the close, in squares of `vol`. */
  left: Float64Array;
  /** Where it stands at the close, as a fraction. */
  ends: number;
}

/** All that decides one symbol's day but the seed. */
export interface SymbolPlan {
  instrument: Listing;
  /** Worth at 04:00 as a fraction above where it stood when the day before ended. */
  overnight: number;
  /** Where it stood then, in price units; the prior close where that is all that is known. */
  stood: number;
  /** How much wider than its information alone would make it this symbol's spread is (1: no wider). */
  spread: number;
  /** Half a spread is never less than this fraction of price. */
  least: number;
  /** How much of the index's and of its sector's moves it follows. */
  beta: number;
  /** Typical change a minute (one standard deviation) as a fraction of price, where a phase says 1. */
  vol: number;
  /** Prints a second where a phase says 1. */
  rate: number;
  /** Mean shares of a print. */
  lot: number;
  /** Mean shares shown at a best price. */
  depth: number;
  /** Shares in the opening cross and in the closing one. */
  cross: number;
  close: number;
  phases: readonly Phase[];
  jumps: readonly Jump[];
  halts: readonly PlannedHalt[];
  rushes: Rushes | null;
  /** How many times as busy as usual it is only because of the day before. */
  busy: number;
  /** What is given of its own course (market and sector apart); null when nothing is. */
  given: Given | null;
  /** Under the short-sale restriction from the day before. */
  restricted: boolean;
  /** Imported minutes that the day must honour, instead of an invented course. */
  bars: readonly BarRow[] | null;
}

/** A whole practice day. The same scenario object gives the same prints on every machine. */
export interface Scenario {
  id: string;
  title: string;
  /** What kind of day it is, for the trader who chooses: never how it ends. */
  character: string;
  /** The made-up calendar date of the day, yyyy-mm-dd. */
  date: string;
  hours: Hours;
  seed: number;
  startAt: number;
  /** How lively the whole market is: phases of the index stand-in, `vol` as a fraction a minute. */
  mood: readonly Phase[];
  symbols: readonly SymbolPlan[];
  news: readonly NewsItem[];
}

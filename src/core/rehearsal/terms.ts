// What is rehearsed: keys that are pressed by a rule, over days.
import type { Ranking } from '../scan/index.ts';

/** One key: its script, the condition on which it is pressed each time it becomes true, and how often a day at most. */
export interface Press {
  when: string;
  script: string;
  most: number;
}

/** Hands that are compared: the keys that one trader would press. */
export interface Hand {
  name: string;
  presses: readonly Press[];
}

/** A day to rehearse: a practice day by its name and variation, or a date of imported data by its place. */
export type RehearsalDay =
  | { kind: 'practice'; id: string; seed: number }
  | { kind: 'own'; id: string; n: number; date: string };

/** Whose symbols: one by name, or the first so many of a scan at the minute of the press. */
export type RehearsalSymbols =
  | { kind: 'one'; symbol: string }
  | { kind: 'scan'; name: string; rule: string; ranking: Ranking; first: number };

/** Everything that holds for all days of a rehearsal. Times of day in minutes, waits in ms. */
export interface RehearsalTerms {
  hands: readonly Hand[];
  symbols: RehearsalSymbols;
  /** Ways in are pressed from here to there. */
  from: number;
  to: number;
  /** Whatever is still open then goes at market. */
  out: number;
  /** From what is seen to the key. */
  reaction: number;
  /** From the key to the exchange, and back again. */
  line: number;
}

/** Grows with each change to the market, the fields or the broker: what was kept of days before it is not gone on with. */
export const MARKET_VERSION = 3;

/** Variations of rehearsals begin here, so that a rehearsal gives away no day that the trader would come to by himself. */
export const FIRST_SEED = 10_001;

/** The first minute that a rehearsal may look at, and the last. */
export const EARLIEST = 4 * 60;
export const LATEST = 20 * 60;
/** Most days of one rehearsal. */
export const MOST_DAYS = 5_000;

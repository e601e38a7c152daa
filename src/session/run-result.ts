import type { Deed, DeskAct } from '../core/reading/index.ts';

/** What running a script came to. */
export interface RunResult {
  ok: boolean;
  /** What was done, one say-back a line. */
  done: string[];
  /** Of each line in `done`, which orders it was about. */
  about: string[];
  /** What was traded at once, one order a line, with the price it got. */
  got: string[];
  /** What trades that it ended came to. */
  ended: string[];
  /** Session time at which it ran. */
  at: number;
  /** Why it stopped, when it did. */
  problem: string | null;
  /** Sentences that would go instead. */
  fixes: readonly string[];
  /** They say what the text means at any time, and in whole: they may be kept in its key. */
  lasting: boolean;
  warnings: string[];
  /** Sentences that take back what it took away. */
  back: string[];
  /** It found nothing to do. */
  idle: boolean;
  /** What is left for the interface to do. */
  desk: DeskAct[];
}

/** What an input came to that needs no more words. */
export const DONE: RunResult = {
  ok: true,
  done: [],
  about: [],
  got: [],
  ended: [],
  at: 0,
  problem: null,
  fixes: [],
  lasting: false,
  warnings: [],
  back: [],
  idle: false,
  desk: [],
};

export interface Ran {
  result: RunResult;
  deeds: Deed[];
}

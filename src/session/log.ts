import type { AccountRules, AccountSetup, FeeTable } from '../core/account/index.ts';
import type { AlertChange } from '../core/alerts/index.ts';
import type { OrderEvent } from '../core/orders/index.ts';
import type { Deed, PlanBook, Question } from '../core/reading/index.ts';
import type { TradeReview } from '../core/review/index.ts';
import type { LineChange } from '../core/sim/index.ts';
import type { AccountId, Money } from '../core/units/index.ts';
import type { DayRef } from './day-ref.ts';
import type { State } from './state.ts';

/** What was pressed: the script, or the panel it came from; the scan that had the symbol, and the grade that the trader had given it. */
export interface PressedBy {
  script: string | null;
  scan: string | null;
  grade?: string;
}

/** What the trader did; everything else follows from it and from the day. */
export type SessionInput =
  /** `cursor`: where the pointer stands on the chart of the focus, in price units. `language`: the version that the text is written in. */
  | {
      kind: 'run';
      text: string;
      focus: string | null;
      cursor?: number | null;
      language?: number;
      by?: PressedBy;
      /** What was asked before it, and answered with a yes. */
      yes?: readonly Question[];
    }
  | { kind: 'alert'; id: number; change: AlertChange }
  | { kind: 'set risk unit'; dollars: number }
  | { kind: 'plans'; book: PlanBook }
  | { kind: 'account'; id: AccountId; rules: AccountRules; fees: readonly FeeTable[] }
  /** A daily loss that was reached on this day in another attempt: it holds across going back. */
  | { kind: 'lock'; account: AccountId; loss: Money }
  | { kind: 'line'; change: LineChange }
  | { kind: 'next day' }
  /** Symbols that nobody looks at stand still from now on, or are brought on and run again. */
  | { kind: 'others'; run: 'coarsely' | 'in full' };

/** One line of the one log: an input with what came of it, or events that the market brought about. */
export interface LogEntry {
  seq: number;
  at: number;
  /** Happenings in the trader's symbols before it: what a replay must have come to as well. */
  happened: number;
  input: SessionInput | null;
  /** Of a script: what it came to. A restore obeys this, not the text. */
  deeds?: Deed[];
  /** What waited and has fired, or whose time has run out; its deeds are obeyed by a restore. */
  fired?: { of: 'condition' | 'chain'; id: number; came: string; symbol?: string; seen?: string };
  /** Why the input was refused, or stopped where it did. */
  problem?: string;
  events: OrderEvent[];
}

/** A whole session at a moment: its state, the market, and the log number it has reached. */
export interface SavedSession {
  version: 7;
  seq: number;
  now: number;
  state: State;
  market: unknown;
}

/** A session of an earlier version, put aside: what can be read of it. */
export interface PastSession {
  id: number;
  day: DayRef;
  /** How far it had come, in session time. */
  reached: number;
  trades: TradeReview[];
  journal: { at: number; text: string }[];
  /** The trader has been told. */
  told: boolean;
}

/** One try at a day. Going back in time starts another one from there; the old one is kept. */
export interface AttemptInfo {
  id: number;
  day: DayRef;
  /** The attempt that this one went back in, and to what session time; null for a fresh start. */
  from: { attempt: number; at: number } | null;
  /** How far it has come, and how it stands: money in 1/10,000 dollar. */
  reached: number;
  net: number;
  r: number;
  trades: number;
  /** The attempt that it only watches again: its inputs come by themselves, until the trader takes over. */
  watches?: number;
  /** The session of its day up to which the trader knew it already when it was opened. */
  known?: number;
  /** What its accounts were set up from; those of a new trader where it is not said. */
  accounts?: readonly AccountSetup[];
}

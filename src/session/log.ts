import type { AlertChange } from '../core/alerts/index.ts';
import type { OrderEvent } from '../core/orders/index.ts';
import type { DayRef } from './day-ref.ts';
import type { State } from './state.ts';

/** What the trader did; everything else follows from it and from the day. */
export type SessionInput =
  /** `cursor`: where the pointer stands on the chart of the focus, in price units. */
  | { kind: 'run'; text: string; focus: string | null; cursor?: number | null }
  | { kind: 'alert'; id: number; change: AlertChange }
  | { kind: 'set risk unit'; dollars: number }
  | { kind: 'next day' };

/** One line of the one log: an input with what came of it, or events that the market brought about. */
export interface LogEntry {
  seq: number;
  at: number;
  input: SessionInput | null;
  events: OrderEvent[];
}

/** A whole session at a moment: its state, the market, and the log number it has reached. */
export interface SavedSession {
  version: 2;
  seq: number;
  now: number;
  state: State;
  market: unknown;
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
}

import type { OrderEvent } from '../core/orders/index.ts';
import type { State } from './state.ts';

/** What the trader did; everything else follows from it and from the day. */
export type SessionInput = { kind: 'run'; text: string; focus: string | null } | { kind: 'set risk unit'; dollars: number };

/** One line of the one log: an input with what came of it, or events that the market brought about. */
export interface LogEntry {
  seq: number;
  at: number;
  input: SessionInput | null;
  events: OrderEvent[];
}

/** A whole session at a moment: its state, the market, and the log number it has reached. */
export interface SavedSession {
  version: 1;
  seq: number;
  now: number;
  state: State;
  market: unknown;
}

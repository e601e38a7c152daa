'use client';

import { create } from 'zustand';
import type { DrawnLevel } from '@/core/market';
import type { OrderId, Price } from '@/core/units';
import type { QuestionAnswers, Reply, STANDING } from '@/worker/session/questions';
import type { WorkingNow } from '@/worker/session/session-messages';
import type { TableSlice } from '@/worker/session/slices';
import { afterHappening, type Happening, NOTHING_SAID, type SayBackState } from './say-back';

/** What is known at all times, by name; null until it was first told. */
type Standing = { [K in keyof typeof STANDING]: QuestionAnswers[(typeof STANDING)[K]['kind']] | null };
type Levels = Readonly<Record<string, DrawnLevel>>;

/** The session as this page knows it. */
export interface SessionState extends Standing, SayBackState {
  /** Replies to what else is asked, by the questions' keys. */
  replies: Readonly<Record<string, Reply>>;
  /** The table on screen: of a scan, or of a list. It stays when it is left. */
  table: TableSlice | null;
  phase: 'starting' | 'ready' | 'waiting' | 'broken';
  trouble: string;
  /** How far an archive has been taken in; null: none is. */
  takingIn: number | null;
  /** No room on disk: everything waits for it, or only what can be made again; null: there is room. */
  noRoom: 'waits' | 'late' | null;
  /** Why the browser keeps nothing; null: it does. */
  notKept: string | null;
  /** Long work of the worker, while it is under way. */
  working: WorkingNow | null;
  /** The view that a sentence asked for; null once it is shown. */
  opened: string | null;
  /** The form for exits: open, with a price of the chart or the depth, or without; null: closed. */
  exits: { price: Price | null } | null;
  /** Levels as they were before the desk was last told. */
  levelsBefore: Readonly<Record<string, Levels>>;
  /** The chart of a symbol was cleared by a sentence, with the levels that it had. */
  cleared: { symbol: string; levels: Levels } | null;
  /** An order line under the pointer: where it would go. */
  drag: { orderId: OrderId; price: Price } | null;
}

export const useSession = create<SessionState>(() => ({
  ...NOTHING_SAID,
  clock: null,
  focusOn: null,
  focus: null,
  bars: null,
  book: null,
  account: null,
  marks: null,
  desk: null,
  waits: null,
  alerts: null,
  line: null,
  symbols: null,
  context: null,
  news: null,
  replies: {},
  table: null,
  phase: 'starting',
  trouble: '',
  takingIn: null,
  noRoom: null,
  notKept: null,
  working: null,
  opened: null,
  exits: null,
  levelsBefore: {},
  cleared: null,
  drag: null,
}));

/** Tells the say-back what has happened. */
export const happened = (h: Happening): void => useSession.setState((s) => afterHappening(s, h));

/** Says something that has to be known once. */
export const notice = (text: string): void => happened({ kind: 'notice', text });

/** Says that something was not done, and why. */
export const refused = (text: string, problem: string): void => happened({ kind: 'refused', text, problem });

import type { Engine } from '../../session/engine.ts';
import type { ClockSlice } from './slices.ts';

/** The session as a question sees it. */
export interface Scene {
  engine: Engine;
  focus: string;
  /** Simulated seconds a second; 0 while time stands or runs to a goal. */
  speed: number;
  jumpingTo: number | null;
  attempt: number;
  watching: ClockSlice['watching'];
}

/** How one question is answered as long as somebody asks it. */
export interface Live<A> {
  /** What the answer is made from: it is made anew when one of these is another than before. */
  from(s: Scene): Source | null;
  /** The answer as of now; `wall` is wall time in ms. @throws Mistake for a question that cannot be answered. */
  make(s: Scene, wall: number): A;
  /** In ms of wall time: what changes `later` is told at most so often. */
  every?: number;
  /** Whether an answer says the same as the one before: then it is not told. */
  same?(before: A, now: A): boolean;
}

/** Changes of `now` are told at once, those of `later` when it is their time. Null: nothing can be told. */
export interface Source {
  now: readonly unknown[];
  later?: readonly unknown[];
}

/** What is wrong with a question, and where in its text. */
export class Mistake extends Error {
  constructor(
    message: string,
    readonly from = 0,
    readonly to = 0,
  ) {
    super(message);
  }
}

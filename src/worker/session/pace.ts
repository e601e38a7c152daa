import { SECOND } from '../../core/units/index.ts';

/** How time is run. Session times in ms; `speed` in simulated seconds a second. */
export type Pace =
  | { k: 'paused' }
  /** `owed`: the fraction of simulated time that has not been run yet; `wall`: when it was last looked at. */
  | { k: 'running'; speed: number; owed: number; wall: number }
  | { k: 'jumping'; to: number }
  /** On until something happens to the trader's orders, an alert, or one of these symbols stops or resumes. */
  | { k: 'seeking'; symbols: readonly string[] };

export const PAUSED: Pace = { k: 'paused' };

/** Most simulated time taken at once, so that a request never waits long. */
const SLICE = 5_000;
/** Most wall time that counts: a tab that slept does not race afterwards. */
const CATCH_UP = 250;

/** One turn of the clock: how far to run now, and how time is run after that. */
interface Turn {
  until: number;
  after: Pace;
}

/**
 * What a turn at wall time `wall` runs, from session time `now` on and never past the day's `end`.
 * A jump or a search comes in pieces: the turn is asked for again until it returns to paused.
 */
export function turn(p: Pace, wall: number, now: number, end: number): Turn {
  switch (p.k) {
    case 'paused':
      return { until: now, after: p };
    case 'running': {
      const owed = p.owed + Math.min(CATCH_UP, wall - p.wall) * p.speed;
      const step = Math.floor(Math.min(owed, SLICE));
      const until = Math.min(now + step, end);
      return { until, after: until >= end ? PAUSED : { ...p, owed: owed - step, wall } };
    }
    case 'jumping': {
      const to = Math.min(p.to, end);
      const until = Math.min(now + 10 * SECOND, to);
      return { until: Math.max(now, until), after: until >= to ? PAUSED : p };
    }
    case 'seeking': {
      const until = Math.min(now + 1_000, end);
      return { until, after: until >= end ? PAUSED : p };
    }
  }
}

/** Simulated seconds a second; 0 while time stands or runs to a goal. */
export const speedOf = (p: Pace): number => (p.k === 'running' ? p.speed : 0);
/** The time being run up to, while a jump or a search is under way. */
export const goalOf = (p: Pace, end: number): number | null =>
  p.k === 'jumping' ? p.to : p.k === 'seeking' ? end : null;

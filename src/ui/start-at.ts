import { DAY } from '@/core/units';
import type { DayRef } from '@/session/day-ref';
import { ask, focusOn } from './client';

/** Starts a day of practice, or the `n`-th date of one's own, at a time of day (ms after midnight), with a symbol in focus: what happens there is known, so it is hindsight. */
export async function startAt(
  day: DayRef,
  n: number,
  date: string,
  symbol: string,
  at: number,
): Promise<void> {
  await ask({ kind: 'start day', day, known: n });
  if (n > 0) await ask({ kind: 'run on', until: { kind: 'date', date } });
  await focusOn(symbol);
  await ask({ kind: 'jump', to: n * DAY + at });
}

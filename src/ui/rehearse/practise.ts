import type { RehearsalDay, RehearsedTrade } from '@/core/rehearsal';
import { DAY, SECOND } from '@/core/units';
import { ask, focusOn } from '../session';

/** How long before the key the trader comes in. */
const BEFORE = 10 * SECOND;

/** Starts the day of a rehearsed trade as a practice day, at the moment before its key, with its symbol in focus. */
export async function practise(day: RehearsalDay, t: RehearsedTrade): Promise<void> {
  const { kind, id } = day;
  await ask({ kind: 'start day', day: kind === 'practice' ? { kind, id, seed: day.seed } : { kind, id } });
  const n = day.kind === 'own' ? day.n : 0;
  if (day.kind === 'own' && n > 0) await ask({ kind: 'run on', until: { kind: 'date', date: day.date } });
  await focusOn(t.symbol);
  await ask({ kind: 'jump', to: n * DAY + t.pressedAt - BEFORE });
}

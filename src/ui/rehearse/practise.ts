import type { RehearsalDay, RehearsedTrade } from '@/core/rehearsal';
import { SECOND } from '@/core/units';
import { startAt } from '../start-at';

/** How long before the key the trader comes in. */
const BEFORE = 10 * SECOND;

/** Starts the day of a rehearsed trade as a practice day, at the moment before its key, with its symbol in focus. */
export async function practise(day: RehearsalDay, t: RehearsedTrade): Promise<void> {
  const { kind, id } = day;
  const ref = kind === 'practice' ? { kind, id, seed: day.seed } : { kind, id };
  await startAt(
    ref,
    kind === 'own' ? day.n : 0,
    kind === 'own' ? day.date : '',
    t.symbol,
    t.pressedAt - BEFORE,
  );
}

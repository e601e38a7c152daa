import { MINUTE } from '../core/units/index.ts';
import type { DayRef, KeptMarket } from './day-ref.ts';
import { simMarket } from './sim-market.ts';

const PIECE = 5 * MINUTE;

/**
 * What is kept of a practice day at the moment where the trader comes in: the same whoever makes it.
 * Yields between pieces of the work, so that others may go on meanwhile.
 */
export function* firstMoment(ref: Extract<DayRef, { kind: 'practice' }>): Generator<void, KeptMarket> {
  const market = simMarket({ ref, own: null });
  yield;
  while (market.now() < market.startAt) {
    market.next(Math.min(market.now() + PIECE, market.startAt));
    yield;
  }
  return market.save() as KeptMarket;
}

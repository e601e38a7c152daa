import { calls } from '../call/calls.ts';
import type { RanksAnswers, RanksRequest } from './ranks.ts';

/** A scan's leaders through the day; progress is the time of day that it has come to. */
export const ranksCalls = () =>
  calls<RanksRequest, RanksAnswers, number>(
    () => new Worker(new URL('./ranks.worker.ts', import.meta.url), { type: 'module' }),
  );

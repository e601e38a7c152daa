// Lives attempts through again, to tell what their plans would have made.
import type { Aftermath } from '../../core/review/index.ts';
import { aftermathsOf } from '../../session/left-alone.ts';
import { openReview } from '../../store/review.ts';
import type { Jobs } from '../call/serve.ts';

/** Which attempt; `current` is under way, and what its day has not told yet is not told here. */
export type LeftAloneRequest = { kind: 'live again'; attempt: number; current: boolean };
export interface LeftAloneAnswers {
  'live again': Aftermath[];
}

/** Progress: a share from 0 to 1. */
export const leftAloneJobs: Jobs<LeftAloneRequest, LeftAloneAnswers, number> = {
  async 'live again'({ attempt, current }, progress) {
    const store = await openReview();
    const info = (await store.attempts()).find((a) => a.id === attempt);
    if (!info) throw new Error(`Attempt ${attempt} is not there any more.`);
    const { day } = info;
    const own = day.kind === 'own' ? ((await store.ownDays()).find((d) => d.id === day.id) ?? null) : null;
    if (day.kind === 'own' && !own)
      throw new Error('The imported data of this day is gone. Import it again.');
    const log = await store.log(attempt);
    // Of an attempt that was left for another its days are over.
    const until = current ? info.reached : Number.POSITIVE_INFINITY;
    return aftermathsOf({ ref: day, own }, info, log, until, progress);
  },
};

import { type DayDone, type DayJob, rehearseDay } from '../../session/rehearse.ts';
import type { Jobs } from '../call/serve.ts';

export type RehearsalRequest = { kind: 'day'; job: DayJob };
export interface RehearsalAnswers {
  day: DayDone;
}

/** Rehearses days, one after another; several workers do that side by side. */
export const rehearsalJobs: Jobs<RehearsalRequest, RehearsalAnswers> = {
  day: ({ job }) => rehearseDay(job),
};

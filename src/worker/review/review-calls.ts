import { calls } from '../call/calls.ts';
import type { ReviewAnswers, ReviewRequest } from './review-messages.ts';

/** The worker of review. */
export const reviewCalls = () =>
  calls<ReviewRequest, ReviewAnswers>(
    () => new Worker(new URL('./review.worker.ts', import.meta.url), { type: 'module' }),
  );

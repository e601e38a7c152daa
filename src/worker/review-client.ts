import { createPending } from './pending.ts';
import type { FromReview, ToReview } from './review.worker.ts';
import type { ReviewAnswers, ReviewRequest } from './review-protocol.ts';

/** The interface's end of the worker of review. */
export interface ReviewClient {
  ask<K extends ReviewRequest['kind']>(
    request: Extract<ReviewRequest, { kind: K }>,
  ): Promise<ReviewAnswers[K]>;
}

/** Starts the worker of review. */
export function startReview(): ReviewClient {
  const worker = new Worker(new URL('./review.worker.ts', import.meta.url), { type: 'module' });
  const pending = createPending<ReviewAnswers[ReviewRequest['kind']]>();
  worker.onmessage = ({ data: m }: MessageEvent<FromReview>) => {
    if (m.kind === 'answer') pending.answer(m.id, m.answer);
    else pending.refuse(m.id, m.message);
  };
  worker.onerror = (e) =>
    pending.refuseAll(e.message || 'The worker of review stopped. Load the page again.');
  return {
    ask: <K extends ReviewRequest['kind']>(request: Extract<ReviewRequest, { kind: K }>) =>
      pending.add((id) => worker.postMessage({ id, request } satisfies ToReview)) as Promise<
        ReviewAnswers[K]
      >,
  };
}

// Review beside the session: its figures never keep an order waiting.
import { openReview } from '../store/review.ts';
import { storageWords } from '../store/room.ts';
import { createReviewDesk, type ReviewDesk } from './review.ts';
import type { ReviewAnswers, ReviewRequest } from './review-protocol.ts';

export type ToReview = { id: number; request: ReviewRequest };
export type FromReview =
  | { kind: 'answer'; id: number; answer: ReviewAnswers[ReviewRequest['kind']] }
  | { kind: 'failed'; id: number; message: string };

const tell = (m: FromReview) => postMessage(m);
let desk: Promise<ReviewDesk> | null = null;
let queue: Promise<void> = Promise.resolve();

self.onmessage = ({ data: { id, request } }: MessageEvent<ToReview>) => {
  queue = queue.then(async () => {
    try {
      desk ??= openReview().then(createReviewDesk);
      tell({ kind: 'answer', id, answer: await (await desk).answer(request) });
    } catch (error) {
      desk = null;
      tell({ kind: 'failed', id, message: storageWords(error) });
    }
  });
};

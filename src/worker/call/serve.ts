import type { Asked, Replied } from './calls.ts';

/** What a worker does for each kind of request. A job may tell how far it has come. */
export type Jobs<R extends { kind: string }, A extends Record<R['kind'], unknown>, P = never> = {
  [K in R['kind']]: (request: Extract<R, { kind: K }>, progress: (p: P) => void) => A[K] | Promise<A[K]>;
};

/** The worker's side of itself: `self`, or what stands for it in a test. */
interface Side {
  postMessage(m: unknown): void;
  onmessage: ((e: MessageEvent) => void) | null;
}

/**
 * Binds jobs to a worker: one request after another, each answered or refused.
 * @param words says a mistake in words
 */
export function serve<R extends { kind: string }, A extends Record<R['kind'], unknown>, P = never>(
  jobs: Jobs<R, A, P>,
  words: (e: unknown) => string = (e) => (e instanceof Error ? e.message : String(e)),
  side: Side = self,
): void {
  const send = (m: Replied<unknown, P>) => side.postMessage(m);
  let queue = Promise.resolve();
  side.onmessage = ({ data: { id, request } }: MessageEvent<Asked<R>>) => {
    const job = jobs[request.kind as R['kind']] as (r: R, progress: (p: P) => void) => unknown;
    queue = queue.then(async () => {
      try {
        const answer = await job(request, (progress) => send({ kind: 'progress', id, progress }));
        send({ kind: 'answer', id, answer });
      } catch (e) {
        send({ kind: 'failed', id, message: words(e) });
      }
    });
  };
}

/** A request to a worker, under a number that its answer bears. */
export interface Asked<R> {
  id: number;
  request: R;
}

/** What a worker sends back for a request: how far it has come, any number of times; then an answer or a refusal. */
export type Replied<A, P> =
  | { kind: 'progress'; id: number; progress: P }
  | { kind: 'answer'; id: number; answer: A }
  | { kind: 'failed'; id: number; message: string };

/** What is needed of a `Worker`. */
export interface Port {
  postMessage(m: unknown): void;
  terminate(): void;
  onmessage: ((e: MessageEvent) => void) | null;
  onerror: ((e: ErrorEvent) => void) | null;
}

/** The page's end of one worker. `R`: its requests by kind; `A`: the answer to each kind; `P`: what it tells of its progress. */
export interface Calls<R extends { kind: string }, A extends Record<R['kind'], unknown>, P> {
  /** Sends a request. @throws Error with the worker's words when it refuses, when it dies, or when it is stopped. */
  ask<K extends R['kind']>(request: Extract<R, { kind: K }>, progress?: (p: P) => void): Promise<A[K]>;
  /** Ends the worker, also in the middle of its work: that is how work is cancelled. Whoever waits is refused with `why`. The next request starts it anew. */
  stop(why?: string): void;
}

/** What a stopped worker's requests are refused with where nothing else is said. */
export const STOPPED = 'stopped';

/**
 * Calls to one worker, which starts with the first of them.
 *
 * @param start makes the worker; `new Worker(new URL(…))` has to stand where the bundler sees it
 * @param hear gets what the worker tells without being asked
 * @param died is told when the worker has ended by a mistake; its requests are refused with the same words
 * @example
 * const review = calls<ReviewRequest, ReviewAnswers>(() => new Worker(new URL('./review.worker.ts', import.meta.url)));
 * const { trades } = await review.ask({ kind: 'read' });
 */
export function calls<R extends { kind: string }, A extends Record<R['kind'], unknown>, P = never, T = never>(
  start: () => Port,
  hear: (told: T) => void = () => {},
  died: (message: string) => void = () => {},
): Calls<R, A, P> {
  interface Waiting {
    resolve(answer: never): void;
    reject(e: Error): void;
    progress(p: P): void;
  }
  const waiting = new Map<number, Waiting>();
  let worker: Port | null = null;
  let last = 0;
  const refuseAll = (message: string) => {
    const all = [...waiting.values()];
    waiting.clear();
    for (const w of all) w.reject(new Error(message));
  };
  const take = (m: Replied<never, P>) => {
    const w = waiting.get(m.id);
    if (m.kind === 'progress') return w?.progress(m.progress);
    waiting.delete(m.id);
    if (m.kind === 'answer') w?.resolve(m.answer);
    else w?.reject(new Error(m.message));
  };
  const started = (): Port => {
    if (worker) return worker;
    worker = start();
    worker.onmessage = ({ data }: MessageEvent<Replied<never, P> | T>) =>
      isReply(data) ? take(data) : hear(data);
    worker.onerror = (e) => {
      const message = e.message || 'A worker of the app stopped. Load the page again.';
      refuseAll(message);
      died(message);
    };
    return worker;
  };
  return {
    ask: (request, progress = () => {}) =>
      new Promise((resolve, reject) => {
        const id = ++last;
        waiting.set(id, { resolve, reject, progress });
        started().postMessage({ id, request } satisfies Asked<R>);
      }),
    stop(why = STOPPED) {
      worker?.terminate();
      worker = null;
      refuseAll(why);
    },
  };
}

function isReply<P, T>(m: Replied<never, P> | T): m is Replied<never, P> {
  return typeof m === 'object' && m !== null && 'id' in m;
}

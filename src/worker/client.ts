import { createPending } from './pending.ts';
import type { Answer, AnswerTo, FromWorker, Request, ToWorker } from './protocol.ts';

/** The interface's end of the worker. */
export interface Client {
  /** Sends a request; rejects when the worker refuses it or dies. */
  ask<K extends Request['kind']>(request: Extract<Request, { kind: K }>): Promise<AnswerTo<K>>;
  stop(): void;
}

/**
 * Starts the session's worker. `hear` gets everything that it tells unasked. When the worker
 * dies, every request under way is rejected and `hear` is told.
 */
export function startClient(hear: (m: Exclude<FromWorker, { kind: 'answer' | 'failed' }>) => void): Client {
  const worker = new Worker(new URL('./session.worker.ts', import.meta.url), { type: 'module' });
  const pending = createPending<Answer>();
  worker.onmessage = (e: MessageEvent<FromWorker>) => {
    const m = e.data;
    if (m.kind === 'answer') pending.answer(m.id, m.answer);
    else if (m.kind === 'failed') pending.refuse(m.id, m.message);
    else hear(m);
  };
  worker.onerror = (e) => {
    const message = e.message || 'The market worker stopped.';
    pending.refuseAll(message);
    hear({ kind: 'broken', message });
  };
  return {
    ask: <K extends Request['kind']>(request: Extract<Request, { kind: K }>) =>
      pending.add((id) => worker.postMessage({ id, request } satisfies ToWorker)) as Promise<AnswerTo<K>>,
    stop() {
      pending.refuseAll('The session was left.');
      worker.terminate();
    },
  };
}

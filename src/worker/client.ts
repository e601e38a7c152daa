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
  const waiting = new Map<number, { resolve: (a: Answer) => void; reject: (e: Error) => void }>();
  let nextId = 1;
  worker.onmessage = (e: MessageEvent<FromWorker>) => {
    const m = e.data;
    if (m.kind !== 'answer' && m.kind !== 'failed') return hear(m);
    const w = waiting.get(m.id);
    waiting.delete(m.id);
    if (m.kind === 'answer') w?.resolve(m.answer);
    else w?.reject(new Error(m.message));
  };
  const die = (message: string) => {
    for (const w of waiting.values()) w.reject(new Error(message));
    waiting.clear();
  };
  worker.onerror = (e) => {
    die(e.message || 'The market worker stopped.');
    hear({ kind: 'broken', message: e.message || 'The market worker stopped.' });
  };
  return {
    ask<K extends Request['kind']>(request: Extract<Request, { kind: K }>) {
      return new Promise<AnswerTo<K>>((resolve, reject) => {
        const id = nextId++;
        waiting.set(id, { resolve: (a) => resolve(a as AnswerTo<K>), reject });
        worker.postMessage({ id, request } satisfies ToWorker);
      });
    },
    stop() {
      die('The session was left.');
      worker.terminate();
    },
  };
}

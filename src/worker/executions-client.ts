import type { ExecutionsAnswer, ExecutionsRequest } from './executions-protocol.ts';

/** The interface's end of the worker that takes executions in. Stopping it cancels what it does; nothing has changed then. */
export interface ExecutionsClient {
  ask<K extends Exclude<ExecutionsAnswer['kind'], 'progress' | 'failed'>>(
    request: ExecutionsRequest,
    answer: K,
    progress?: (what: string, part: number) => void,
  ): Promise<Extract<ExecutionsAnswer, { kind: K }>>;
  stop(): void;
}

/** Starts it. */
export function startExecutions(): ExecutionsClient {
  const worker = new Worker(new URL('./executions.worker.ts', import.meta.url), { type: 'module' });
  let refuse: (e: Error) => void = () => {};
  worker.onerror = (e) => refuse(new Error(e.message || 'The worker of the import stopped.'));
  return {
    ask: (request, answer, progress = () => {}) =>
      new Promise((resolve, reject) => {
        refuse = reject;
        worker.onmessage = ({ data: m }: MessageEvent<ExecutionsAnswer>) => {
          if (m.kind === 'progress') progress(m.what, m.part);
          else if (m.kind === 'failed') reject(new Error(m.message));
          else if (m.kind === answer) resolve(m as never);
        };
        worker.postMessage(request);
      }),
    stop() {
      worker.terminate();
      refuse(new Error('The import was cancelled; nothing has changed.'));
    },
  };
}

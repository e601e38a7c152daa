import type { Aftermath } from '../core/review/index.ts';
import type { FromLeftAlone, ToLeftAlone } from './left-alone.worker.ts';

/** One attempt lived through again in a worker of its own; `cancel` ends it. */
export interface LeftAloneJob {
  result: Promise<Aftermath[]>;
  cancel(): void;
}

/** Starts it. `progress` gets a share from 0 to 1. */
export function startLeftAlone(asked: ToLeftAlone, progress: (part: number) => void): LeftAloneJob {
  const worker = new Worker(new URL('./left-alone.worker.ts', import.meta.url), { type: 'module' });
  let cancel = () => {};
  const result = new Promise<Aftermath[]>((resolve, reject) => {
    cancel = () => reject(new Error('stopped'));
    worker.onmessage = ({ data: m }: MessageEvent<FromLeftAlone>) => {
      if (m.kind === 'progress') progress(m.part);
      else if (m.kind === 'done') resolve(m.afters);
      else reject(new Error(m.message));
    };
    worker.onerror = (e) => reject(new Error(e.message || 'The worker stopped.'));
    worker.postMessage(asked);
  });
  return { result: result.finally(() => worker.terminate()), cancel: () => cancel() };
}

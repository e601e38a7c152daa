import type { FromArchive, ToArchive } from './archive.worker.ts';

type Answer = Exclude<FromArchive, { kind: 'progress' | 'failed' }>;

/** One piece of work on an archive in a worker of its own; `cancel` ends it, and nothing has changed. */
export function archiveJob<K extends Answer['kind']>(
  request: ToArchive,
  answer: K,
  progress: (part: number) => void,
): { result: Promise<Extract<Answer, { kind: K }>>; cancel(): void } {
  const worker = new Worker(new URL('./archive.worker.ts', import.meta.url), { type: 'module' });
  let cancel = () => {};
  const result = new Promise<Extract<Answer, { kind: K }>>((resolve, reject) => {
    cancel = () => reject(new Error('Cancelled; nothing has changed.'));
    worker.onmessage = ({ data: m }: MessageEvent<FromArchive>) => {
      if (m.kind === 'progress') progress(m.part);
      else if (m.kind === 'failed') reject(new Error(m.message));
      else if (m.kind === answer) resolve(m as Extract<Answer, { kind: K }>);
    };
    worker.onerror = (e) => reject(new Error(e.message || 'The worker of the archive stopped.'));
    worker.postMessage(request);
  });
  return { result: result.finally(() => worker.terminate()), cancel: () => cancel() };
}

import type { ColumnMap, ImportKind, ReadTable } from '../core/formats/index.ts';
import type { ImportAnswer, ImportRequest } from './import-protocol.ts';

/** One piece of import work in a worker of its own; `cancel` ends it and nothing has changed. */
export interface ImportJob<T> {
  result: Promise<T>;
  cancel(): void;
}

/** The heading and the first rows of a file. */
export const lookAt = (file: File): ImportJob<string[][]> =>
  start(
    { kind: 'look', file },
    () => {},
    (m) => (m.kind === 'looked' ? m.rows : null),
  );

/** Reads files into bars; rows that cannot be taken are listed in the result. `progress` gets a share from 0 to 1. */
export function readFiles(
  files: File[],
  map: ColumnMap,
  as: ImportKind,
  progress: (file: string, part: number) => void,
): ImportJob<ReadTable> {
  return start({ kind: 'read', files, map, as }, progress, (m) => (m.kind === 'read' ? m.table : null));
}

function start<T>(
  request: ImportRequest,
  progress: (file: string, part: number) => void,
  take: (m: ImportAnswer) => T | null,
): ImportJob<T> {
  const worker = new Worker(new URL('./import.worker.ts', import.meta.url), { type: 'module' });
  let cancel = () => {};
  const result = new Promise<T>((resolve, reject) => {
    cancel = () => reject(new Error('The import was cancelled; nothing has changed.'));
    worker.onmessage = (e: MessageEvent<ImportAnswer>) => {
      const m = e.data;
      if (m.kind === 'progress') return progress(m.file, m.of === 0 ? 1 : m.done / m.of);
      if (m.kind === 'failed') return reject(new Error(m.message));
      const taken = take(m);
      if (taken !== null) resolve(taken);
    };
    worker.onerror = (e) => reject(new Error(e.message || 'The import worker stopped.'));
    worker.postMessage(request);
  });
  return { result: result.finally(() => worker.terminate()), cancel: () => cancel() };
}

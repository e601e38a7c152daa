import { calls } from '../call/calls.ts';
import type { ArchiveAnswers, ArchiveRequest } from './archive.ts';

/** The worker of archives; progress is a share from 0 to 1. */
export const archiveCalls = () =>
  calls<ArchiveRequest, ArchiveAnswers, number>(
    () => new Worker(new URL('./archive.worker.ts', import.meta.url), { type: 'module' }),
  );

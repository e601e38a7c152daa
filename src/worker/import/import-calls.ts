import { calls } from '../call/calls.ts';
import type { ImportAnswers, ImportProgress, ImportRequest } from './import.ts';

/** The worker that reads the trader's own market data. */
export const importCalls = () =>
  calls<ImportRequest, ImportAnswers, ImportProgress>(
    () => new Worker(new URL('./import.worker.ts', import.meta.url), { type: 'module' }),
  );

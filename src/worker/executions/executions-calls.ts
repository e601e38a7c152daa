import { calls } from '../call/calls.ts';
import type { ExecutionsAnswers, ExecutionsProgress, ExecutionsRequest } from './executions.ts';

/** The worker that takes executions in. */
export const executionsCalls = () =>
  calls<ExecutionsRequest, ExecutionsAnswers, ExecutionsProgress>(
    () => new Worker(new URL('./executions.worker.ts', import.meta.url), { type: 'module' }),
  );

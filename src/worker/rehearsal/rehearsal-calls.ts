import { calls } from '../call/calls.ts';
import type { RehearsalAnswers, RehearsalRequest } from './rehearsal.ts';

/** One worker that rehearses days. */
export const rehearsalCalls = () =>
  calls<RehearsalRequest, RehearsalAnswers>(
    () => new Worker(new URL('./rehearsal.worker.ts', import.meta.url), { type: 'module' }),
  );

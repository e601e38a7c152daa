import { calls } from '../call/calls.ts';
import type { LeftAloneAnswers, LeftAloneRequest } from './left-alone.ts';

/** Attempts lived through again; progress is a share from 0 to 1. */
export const leftAloneCalls = () =>
  calls<LeftAloneRequest, LeftAloneAnswers, number>(
    () => new Worker(new URL('./left-alone.worker.ts', import.meta.url), { type: 'module' }),
  );

import type { ExecutionMap } from '@/core/formats';
import type { ReadSummary } from '@/worker/executions/executions';

/** Where taking a file of executions in stands. */
export type Step =
  | { at: 'choose'; trouble: string | null; done: string | null }
  | { at: 'map'; file: File; rows: string[][]; map: ExecutionMap }
  | { at: 'working'; what: string; part: number }
  | { at: 'agree'; file: File; rows: string[][]; map: ExecutionMap; summary: ReadSummary };

'use client';

import type { TableAsked } from '@/worker/session/slices';
import { useReply } from '../client';

export interface RuleProblem {
  problem: string;
  from: number;
  to: number;
}

/** Has a table worked out: it is the one on screen from then on. A rule that cannot be read is said, and the table goes on with the last one that could. */
export function useTable(asked: TableAsked): RuleProblem | null {
  const reply = useReply<'table'>({ kind: 'table', table: asked });
  return reply?.ok === false ? reply : null;
}

'use client';

import { useEffect, useState } from 'react';
import type { TableAsked } from '@/worker/session/session-messages';
import { watch } from '../session';

export interface RuleProblem {
  problem: string;
  from: number;
  to: number;
}

/**
 * Tells the worker what the table shows; it comes back with the session's updates. A rule that
 * cannot be read is said, and the table goes on with the last one that could.
 */
export function useTable(asked: TableAsked): RuleProblem | null {
  const [problem, setProblem] = useState<RuleProblem | null>(null);
  const key = JSON.stringify(asked);
  useEffect(() => {
    let current = true;
    void watch('table', { kind: 'table', table: JSON.parse(key) as TableAsked }).then((a) => {
      if (current && a) setProblem(a.ok ? null : a);
    });
    return () => {
      current = false;
    };
  }, [key]);
  return problem;
}

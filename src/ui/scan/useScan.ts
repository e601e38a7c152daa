'use client';

import { useEffect, useState } from 'react';
import { ask } from '../session';
import { useSettings } from '../settings';

export interface RuleProblem {
  problem: string;
  from: number;
  to: number;
}

/** Tells the worker which scan to run; the rows come back with the session's updates. */
export function useScan(): RuleProblem | null {
  const { rule, rankBy } = useSettings((s) => s.scan);
  const [problem, setProblem] = useState<RuleProblem | null>(null);
  useEffect(() => {
    let current = true;
    void ask({ kind: 'scan', rule, rankBy }).then((a) => {
      if (current && a) setProblem(a.ok ? null : a);
    });
    return () => {
      current = false;
    };
  }, [rule, rankBy]);
  return problem;
}

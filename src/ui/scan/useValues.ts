'use client';

import { useEffect, useRef, useState } from 'react';
import { ask, useSession } from '../session';

/** Every field of the focus, in the order of the registry, renewed each second; null before the first answer. */
export function useValues(): Float64Array | null {
  const symbol = useSession((s) => s.focus?.symbol);
  const second = useSession((s) => (s.clock ? Math.floor(s.clock.now / 1_000) : 0));
  const [got, setGot] = useState<{ symbol: string; values: Float64Array } | null>(null);
  const asked = useRef({ symbol: '', at: 0 });
  useEffect(() => {
    if (!symbol || (asked.current.symbol === symbol && performance.now() - asked.current.at < 1_000 && second > 0)) return;
    asked.current = { symbol, at: performance.now() };
    void ask({ kind: 'values', symbol }).then((a) => a && setGot({ symbol, values: a.values }));
  }, [symbol, second]);
  return got && got.symbol === symbol ? got.values : null;
}

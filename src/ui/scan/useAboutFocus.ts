'use client';

import { useEffect, useRef, useState } from 'react';
import type { AnswerTo } from '@/worker/session/session-messages';
import { ask, useSession } from '../session';

const EVERY = 1_000;
type About = 'values' | 'sheet' | 'why';

/**
 * What the worker says about the symbol in focus; null before its first answer. Asked anew for
 * another symbol or when `also` changes, and at most once a second while time runs.
 */
export function useAboutFocus<K extends About>(kind: K, also?: unknown): AnswerTo<K> | null {
  const symbol = useSession((s) => s.focus?.symbol);
  const second = useSession((s) => (s.clock ? Math.floor(s.clock.now / 1_000) : null));
  const [got, setGot] = useState<{ symbol: string; answer: AnswerTo<K> } | null>(null);
  const asked = useRef({ symbol: '', also: undefined as unknown, at: 0 });
  useEffect(() => {
    if (!symbol || second === null) return;
    const known = asked.current.symbol === symbol && asked.current.also === also;
    const wait = setTimeout(
      () => {
        asked.current = { symbol, also, at: performance.now() };
        const request = { kind, symbol } as Parameters<typeof ask<K>>[0];
        void ask<K>(request).then((answer) => answer && setGot({ symbol, answer }));
      },
      known ? Math.max(0, asked.current.at + EVERY - performance.now()) : 0,
    );
    return () => clearTimeout(wait);
  }, [kind, symbol, second, also]);
  return got && got.symbol === symbol ? got.answer : null;
}

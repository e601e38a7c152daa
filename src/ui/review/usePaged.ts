'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { type RefObject, useEffect, useState } from 'react';

const PAGE = 100;

/** Rows of a long list, fetched as they come into sight. `key` says what the list is of; another key fetches anew. */
export function usePaged<T>(
  box: RefObject<HTMLElement | null>,
  key: string,
  height: number,
  fetch: (from: number, count: number) => Promise<{ total: number; rows: T[] }>,
) {
  const [pages, setPages] = useState<{ key: string; total: number; rows: Map<number, T[]> }>({
    key: '',
    total: 0,
    rows: new Map(),
  });
  const [problem, setProblem] = useState<string | null>(null);
  const rows = useVirtualizer({
    count: pages.total,
    getScrollElement: () => box.current,
    estimateSize: () => height,
    overscan: 12,
  });
  const seen = rows.getVirtualItems();
  const first = Math.floor((seen[0]?.index ?? 0) / PAGE);
  const last = Math.floor((seen[seen.length - 1]?.index ?? 0) / PAGE);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for what is fetched
  useEffect(() => {
    let current = true;
    for (let page = first; page <= last; page++) {
      if (pages.key === key && pages.rows.has(page)) continue;
      fetch(page * PAGE, PAGE).then(
        (got) => {
          if (!current) return;
          setProblem(null);
          setPages((was) => ({
            key,
            total: got.total,
            rows: new Map([...(was.key === key ? was.rows : []), [page, got.rows]]),
          }));
        },
        (e: unknown) => current && setProblem(e instanceof Error ? e.message : String(e)),
      );
    }
    return () => {
      current = false;
    };
  }, [key, first, last, pages]);
  return {
    seen,
    height: rows.getTotalSize(),
    problem,
    row: (index: number): T | undefined => pages.rows.get(Math.floor(index / PAGE))?.[index % PAGE],
  };
}

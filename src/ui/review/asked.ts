'use client';

import { useEffect, useState } from 'react';
import { create } from 'zustand';
import { ALL, type DimensionId, type Filter, type Unit } from '@/core/review';
import { reviewCalls } from '@/worker/review/review-calls';
import type { ReviewAnswers, ReviewRequest } from '@/worker/review/review-messages';
import { useSession } from '../client';

/** Asks the worker of review, which starts when it is first needed. */
export const { ask: askReview } = reviewCalls();

/** What Review looks at: the filter, the unit that was chosen (null: whichever says more), and how often what is kept has been read anew. */
export const useLens = create<{ filter: Filter; unit: Unit | null; version: number }>(() => ({
  filter: ALL,
  unit: null,
  version: 0,
}));

export const setFilter = (change: Partial<Filter>): void =>
  useLens.setState(({ filter }) => ({ filter: { ...filter, ...change } }));

/** Looks at one group of a dimension only; null: at all of them. */
export function onlyGroup(id: DimensionId, name: string | null): void {
  const { groups } = useLens.getState().filter;
  const { [id]: _, ...others } = groups;
  setFilter({ groups: name === null ? others : { ...others, [id]: name } });
}

/** Reads everything anew. */
export async function readAgain(): Promise<void> {
  await askReview({ kind: 'read' });
  useLens.setState(({ version }) => ({ version: version + 1 }));
}

/** Puts trades into groups anew, after something has been said of them. */
export async function regroup(): Promise<void> {
  await askReview({ kind: 'regroup' });
  useLens.setState(({ version }) => ({ version: version + 1 }));
}

/** Reads what is kept when Review is opened, and again when a trade of this session has changed. */
export function useKeptRead(): void {
  const trades = useSession((s) => s.book?.reviews.filter((r) => r.closedAt !== null).length ?? 0);
  const attempt = useSession((s) => s.clock?.attempt);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is kept has changed with them
  useEffect(() => {
    void readAgain().catch(() => {});
  }, [trades, attempt]);
}

/** The answer to what is asked, and why there is none; the answer before stays until there is another. */
export function useAsked<K extends ReviewRequest['kind']>(
  request: Extract<ReviewRequest, { kind: K }>,
): { answer: ReviewAnswers[K] | null; problem: string | null } {
  const version = useLens((s) => s.version);
  const [got, setGot] = useState<{ answer: ReviewAnswers[K] | null; problem: string | null }>({
    answer: null,
    problem: null,
  });
  const key = JSON.stringify(request);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the version says when to ask again
  useEffect(() => {
    let current = true;
    askReview(JSON.parse(key) as Extract<ReviewRequest, { kind: K }>).then(
      (answer) => current && setGot({ answer, problem: null }),
      (e: unknown) =>
        current &&
        setGot((was) => ({ answer: was.answer, problem: e instanceof Error ? e.message : String(e) })),
    );
    return () => {
      current = false;
    };
  }, [key, version]);
  return got;
}

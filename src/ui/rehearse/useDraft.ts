'use client';

import { useEffect } from 'react';
import { create } from 'zustand';
import { type Draft, draftSchema, FIRST_DRAFT } from './draft';
import { keepDraft, keptDraft } from './rehearsals';

const useStore = create<{ draft: Draft; loaded: boolean }>(() => ({ draft: FIRST_DRAFT, loaded: false }));
let asked = false;

async function load(): Promise<void> {
  if (asked) return;
  asked = true;
  const kept = await draftSchema.validate(await keptDraft().catch(() => null)).catch(() => null);
  useStore.setState(kept && !useStore.getState().loaded ? { draft: kept, loaded: true } : { loaded: true });
}

/** Changes the form from elsewhere: a script, a plan, a candidate, an earlier rehearsal. What is kept does not come over it. */
export function changeDraft(change: Partial<Draft>): void {
  const draft = { ...useStore.getState().draft, ...change };
  useStore.setState({ draft, loaded: true });
  void keepDraft(draft);
}

/** What is written in the form of a rehearsal. */
export function useDraft(): Draft {
  const { draft } = useStore();
  useEffect(() => void load(), []);
  return draft;
}

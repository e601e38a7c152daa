'use client';

import { useEffect, useState } from 'react';
import {
  keyOf,
  type Question,
  type QuestionAnswers,
  type QuestionOf,
  type Reply,
} from '@/worker/session/questions';
import type { Peeked, SymbolSlice } from '@/worker/session/slices';
import { subscribe } from './link';
import { type SessionState, useSession } from './store';

/**
 * The reply to a question, kept up to date as long as the component is there. Until a question that has changed is
 * replied to, the reply before stays: answers say what they are of.
 * @param question null: nothing is asked, and there is no reply
 */
export function useReply<K extends Question['kind']>(question: QuestionOf<K> | null): Reply<K> | null {
  const key = question === null ? null : keyOf(question);
  useEffect(() => (key === null ? undefined : subscribe(JSON.parse(key) as Question)), [key]);
  const reply = useSession((s) => (key === null ? undefined : (s.replies[key] as Reply<K> | undefined)));
  const [last, setLast] = useState<Reply<K> | null>(null);
  if (reply !== undefined && reply !== last) setLast(reply);
  return key === null ? null : (reply ?? last);
}

/** The answer to a question, as `useReply` has it; null before there is one, or where there is a mistake in it. */
export function useLive<K extends Question['kind']>(
  question: QuestionOf<K> | null,
): QuestionAnswers[K] | null {
  const reply = useReply<K>(question);
  return reply?.ok ? reply.answer : null;
}

/** How a symbol stands, in focus or looked at beside it; null where nobody looks at it. */
export function sliceOf(
  { focus, replies }: Pick<SessionState, 'focus' | 'replies'>,
  symbol: string | undefined,
): SymbolSlice | null {
  if (symbol === undefined || focus?.symbol === symbol) return focus;
  const reply = replies[keyOf({ kind: 'symbol', symbol })] as Reply<'symbol'> | undefined;
  return reply?.ok ? reply.answer : null;
}

/** What texts would do now, as it stands on screen somewhere. */
export function peeksShown({ replies }: Pick<SessionState, 'replies'>): Peeked[] {
  return Object.entries(replies).flatMap(([key, reply]) =>
    reply.ok && (JSON.parse(key) as Question).kind === 'peeks' ? (reply.answer as Peeked[]) : [],
  );
}

/** What texts would do now, in a symbol or in the focus. */
export function usePeeks(texts: readonly { text: string; symbol: string | null }[]): Peeked[] | null {
  return useLive<'peeks'>(texts.length === 0 ? null : { kind: 'peeks', texts });
}

/** What a text would do now in the focus; null before that is known. */
export function usePeek(text: string): Peeked | null {
  const peeks = usePeeks(text.trim() === '' ? [] : [{ text, symbol: null }]);
  return peeks?.find((p) => p.text === text) ?? null;
}

/** How often the numbers of what waits for a yes are told anew, in ms. */
const WAITING_EVERY = 150;

/** What is peeked at, or waits for a yes with its numbers as they are; null where neither is. */
export function usePeeked(): Peeked | null {
  const sayBack = useSession((s) => s.sayBack);
  const waits = sayBack.kind === 'confirm' ? sayBack.proposal : null;
  const live = useLive<'peeks'>(
    waits && { kind: 'peeks', texts: [{ text: waits.text, symbol: waits.focus }], every: WAITING_EVERY },
  )?.[0];
  if (sayBack.kind === 'peek') return sayBack.peeked;
  return waits && live?.text === waits.text && live.focus === waits.focus ? live : waits;
}

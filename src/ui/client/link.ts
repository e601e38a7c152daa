'use client';

import { keyOf, type Question, type QuestionAnswers, type Reply, STANDING } from '@/worker/session/questions';
import { type SessionCalls, sessionCalls } from '@/worker/session/session-calls';
import type { AnswerTo, FromWorker, Request } from '@/worker/session/session-messages';
import { mergeBook } from './book';
import { happened, notice, refused, type SessionState, useSession } from './store';

type Replies = Record<string, Reply>;

/** Windows that show this session beside the page itself. */
export const screens = new Set<Window>();
/** Before the next paint of a window that is seen: a page behind others paints none. */
function beforePaint(task: () => void): void {
  const seen = [window, ...screens].find((w) => !w.document.hidden) ?? window;
  seen.requestAnimationFrame(task);
}

/** At once, before the page comes to life: the market takes longest. */
const worker: SessionCalls | null = typeof window === 'undefined' ? null : sessionCalls(hear);
/** Updates are put together and shown at most once a frame. */
let pending: Replies | null = null;
/** How many ask what, by the questions' keys. */
const askers = new Map<string, { question: Question; count: number }>();

function hear(m: FromWorker): void {
  const set = useSession.setState;
  switch (m.kind) {
    case 'update':
      if (!pending) beforePaint(show);
      pending = { ...pending, ...withBook(pending, m.replies) };
      return;
    case 'ready':
      return set({ phase: 'ready' });
    case 'taking in':
      return set({ takingIn: m.part < 1 ? m.part : null });
    case 'working':
      return set({ working: m });
    case 'worked':
      return set({ working: null });
    case 'no room':
      return set({ noRoom: m.waits ? 'waits' : 'late' });
    case 'room':
      return set({ noRoom: null });
    case 'not kept':
      return set({ notKept: m.why });
    case 'notice':
      return notice(m.text);
    case 'waiting':
      return set({ phase: 'waiting' });
    case 'broken':
      return set({ phase: 'broken', trouble: m.message });
  }
}

const BOOK = keyOf(STANDING.book);
/** Of the book changes are told, which add up; every other reply stands for itself. */
function withBook(before: Replies | null, next: Replies): Replies {
  const [a, b] = [before?.[BOOK] as Reply<'book'> | undefined, next[BOOK] as Reply<'book'> | undefined];
  return a?.ok && b?.ok ? { ...next, [BOOK]: { ok: true, answer: mergeBook(a.answer, b.answer) } } : next;
}

/** Shows what has been told since the last frame. */
function show(): void {
  const told = pending ?? {};
  pending = null;
  const before = useSession.getState();
  const change = standingIn(told);
  const book = change.book ? mergeBook(before.book, change.book) : before.book;
  useSession.setState({
    ...change,
    ...otherReplies(before, told),
    book,
    ...(change.desk && before.desk ? { levelsBefore: before.desk.levels } : {}),
  });
  if (change.book && before.book && !change.book.whole)
    happened({ kind: 'events', events: change.book.events });
  const { focus } = useSession.getState();
  if (focus) happened({ kind: 'focus', symbol: focus.symbol });
}

/** What is known at all times, as far as it was told. */
function standingIn(told: Replies): Partial<SessionState> {
  const out: Record<string, unknown> = {};
  for (const [name, question] of Object.entries(STANDING)) {
    const reply = told[keyOf(question)];
    if (reply?.ok) out[name] = reply.answer;
  }
  return out;
}

/** Replies to what views ask, and the table among them. */
function otherReplies({ replies }: SessionState, told: Replies): Partial<SessionState> {
  const mine = Object.entries(told).filter(([key]) => askers.has(key));
  if (mine.length === 0) return {};
  const table = mine.flatMap(([key, reply]) =>
    reply.ok && askers.get(key)?.question.kind === 'table' ? [reply.answer as QuestionAnswers['table']] : [],
  );
  return {
    replies: { ...replies, ...Object.fromEntries(mine) },
    ...(table[0] ? { table: table[0] } : {}),
  };
}

/** Asks the worker; a refusal is shown in the say-back and comes back as null. */
export async function ask<K extends Request['kind']>(
  request: Extract<Request, { kind: K }>,
): Promise<AnswerTo<K> | null> {
  try {
    return worker ? await worker.ask<K>(request) : null;
  } catch (e) {
    refused(request.kind, e instanceof Error ? e.message : String(e));
    return null;
  }
}

/** Has a question answered as long as somebody asks it. @returns how to stop asking. */
export function subscribe(question: Question): () => void {
  const key = keyOf(question);
  const one = askers.get(key) ?? { question, count: 0 };
  askers.set(key, { question, count: one.count + 1 });
  if (one.count === 0) void ask({ kind: 'subscribe', questions: [question] });
  return () => {
    const left = (askers.get(key)?.count ?? 1) - 1;
    if (left > 0) return void askers.set(key, { question, count: left });
    askers.delete(key);
    const { [key]: _, ...replies } = useSession.getState().replies;
    useSession.setState({ replies });
    void ask({ kind: 'unsubscribe', question });
  };
}

if (worker) void ask({ kind: 'subscribe', questions: Object.values(STANDING) });

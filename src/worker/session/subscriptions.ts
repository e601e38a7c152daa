import { LIVE } from './answers.ts';
import { type Live, Mistake, type Scene, type Source } from './live.ts';
import { keyOf, type Question, type Reply } from './questions.ts';

/** What is asked now. A question that nobody asks costs nothing. */
export interface Subscriptions {
  add(question: Question): void;
  remove(question: Question): void;
  /** Replies to the questions whose answer has changed, by their keys; null when none has. `wall` is wall time in ms. */
  changes(s: Scene, wall: number): Record<string, Reply> | null;
  /** The session is another one: everything is told anew. */
  startOver(): void;
}

interface Subscription {
  question: Question;
  live: Live<unknown>;
  source: Source | null;
  due: number;
  answer: unknown;
}

/** Nothing is asked at first. */
export function createSubscriptions(): Subscriptions {
  const open = new Map<string, Subscription>();
  return {
    add: (question) => void open.set(keyOf(question), subscription(question)),
    remove: (question) => void open.delete(keyOf(question)),
    startOver() {
      for (const [key, { question }] of open) open.set(key, subscription(question));
    },
    changes(s, wall) {
      const out: Record<string, Reply> = {};
      for (const [key, one] of open) {
        const reply = changed(one, s, wall);
        if (reply) out[key] = reply;
      }
      return Object.keys(out).length > 0 ? out : null;
    },
  };
}

const subscription = (question: Question): Subscription => ({
  question,
  live: (LIVE[question.kind] as (q: Question) => Live<unknown>)(question),
  source: null,
  due: 0,
  answer: undefined,
});

function changed(one: Subscription, s: Scene, wall: number): Reply | null {
  const { live, source: before } = one;
  const source = live.from(s);
  if (!source) return null;
  const atOnce = !before || !sameList(before.now, source.now);
  const later = atOnce || !sameList(before.later ?? [], source.later ?? []);
  if (!later || (!atOnce && wall < one.due)) return null;
  one.source = source;
  one.due = wall + (live.every ?? 0);
  try {
    const answer = live.make(s, wall);
    if (before && live.same?.(one.answer, answer)) return null;
    one.answer = answer;
    return { ok: true, answer } as Reply;
  } catch (e) {
    if (!(e instanceof Mistake)) throw e;
    return { ok: false, problem: e.message, from: e.from, to: e.to };
  }
}

const sameList = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((x, k) => x === b[k]);

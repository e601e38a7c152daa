import { type Calls, calls } from '../call/calls.ts';
import type { AnswerTo, FromWorker, Request } from './session-messages.ts';

type SessionAnswers = { [K in Request['kind']]: AnswerTo<K> };
export type SessionCalls = Calls<Request, SessionAnswers, never>;

/** The worker of the session. `hear` gets everything that it tells unasked, and `broken` when it dies. */
export const sessionCalls = (hear: (m: FromWorker) => void): SessionCalls =>
  calls<Request, SessionAnswers, never, FromWorker>(
    () => new Worker(new URL('./session.worker.ts', import.meta.url), { type: 'module' }),
    hear,
    (message) => hear({ kind: 'broken', message }),
  );

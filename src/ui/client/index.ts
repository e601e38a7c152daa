// The session as the page knows it, and everything that the page does to it.
export { act, actInstead, answerAhead, confirm, discard, peekAt, pointer, showMove } from './act';
export { focusOn } from './desk-acts';
export { ask, screens } from './link';
export { peeksShown, sliceOf, useLive, usePeek, usePeeked, usePeeks, useReply } from './live';
export type { Meant } from './say-back';
export { notice, refused, type SessionState, useSession } from './store';

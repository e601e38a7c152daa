import type { Store } from '../../session/ports.ts';
import type { FromWorker, ToWorker } from './session-messages.ts';

/**
 * Answers what concerns the trader's settings, past the session's own queue: they are there before the
 * day is set up, and a choice is kept while long work is under way. One write after another.
 * @returns a function that says whether a message was its own.
 */
export function createSettingsDesk(store: Store, tell: (m: FromWorker) => void): (m: ToWorker) => boolean {
  let queue: Promise<void> = Promise.resolve();
  return ({ id, request }) => {
    if (request.kind !== 'settings' && request.kind !== 'keep settings') return false;
    queue = queue
      .then(async () => {
        if (request.kind === 'settings')
          tell({
            kind: 'answer',
            id,
            answer: { kind: 'settings', settings: (await store.settings()) ?? null },
          });
        else {
          await store.keepSettings(request.settings);
          tell({ kind: 'answer', id, answer: { kind: 'done' } });
        }
      })
      .catch((e: unknown) =>
        tell({
          kind: 'failed',
          id,
          message: `Your choice could not be kept: ${e instanceof Error ? e.message : String(e)}`,
        }),
      );
    return true;
  };
}

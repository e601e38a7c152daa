// An archive is opened first as the app will open it: what would fail then fails here, where nothing has changed.
import { ALL } from '../../core/review/index.ts';
import { scenarioOf } from '../../session/day-ref.ts';
import type { Clock, Store } from '../../session/ports.ts';
import type { Names, Progress } from '../../store/archive-places.ts';
import { idbStore } from '../../store/idb-store.ts';
import { resultsOf } from '../../store/rehearsal-results.ts';
import { openRehearsals } from '../../store/rehearsals.ts';
import { openReview } from '../../store/review.ts';
import { readSettings } from '../../store/settings.ts';
import { reviewJobs } from '../review/review.ts';
import { host } from '../session/host.ts';
import type { Outside } from '../session/hosted.ts';
import { openKept } from '../session/opening.ts';
import { STANDING } from '../session/questions.ts';
import type { FromWorker } from '../session/session-messages.ts';

const CLOCK: Clock = {
  now: () => performance.now(),
  every: () => () => {},
  breathe: () => new Promise((done) => setTimeout(done, 0)),
};

/** Opens the session, and works out what the page is told first. */
async function openedAndShown(store: Store): Promise<void> {
  const outside: Outside = { store, clock: CLOCK, tell: () => {}, starts: async () => null };
  if (!(await openKept(outside))) return;
  await new Promise<void>((resolve, reject) => {
    const tell = (m: FromWorker) => {
      if (m.kind === 'answer') resolve();
      else if (m.kind === 'broken' || m.kind === 'failed') reject(new Error(m.message));
    };
    host({ ...outside, tell }).then(
      (hear) => hear({ id: 1, request: { kind: 'subscribe', questions: Object.values(STANDING) } }),
      reject,
    );
  });
}

/** Opens everything under some names to its end, by what will use it. @throws Error that says which part cannot be opened, and why. */
export async function tryToOpen(names: Names, progress: Progress = () => {}): Promise<void> {
  const store = await idbStore(names['keen-fox']);
  const review = await openReview(names['keen-fox']);
  const rehearsals = await openRehearsals(names['keen-fox-rehearsals']);
  const parts: readonly (readonly [what: string, open: () => Promise<unknown>])[] = [
    ['Its choices', async () => readSettings(await store.settings())],
    ['Its session', () => openedAndShown(store)],
    [
      'A day of its own data',
      async () => {
        for (const own of await store.ownDays())
          scenarioOf({ ref: { kind: 'own', id: own.id }, own }, 0, null);
      },
    ],
    [
      'Its trades',
      async () => {
        await reviewJobs(async () => review).overview(
          { kind: 'overview', filter: ALL, unit: null },
          () => {},
        );
      },
    ],
    [
      'A rehearsal',
      async () => {
        for (const r of await rehearsals.all()) resultsOf(r, await rehearsals.days(r.id));
      },
    ],
  ];
  try {
    for (const [k, [what, open]] of parts.entries()) {
      await open().catch((e: unknown) => {
        throw new Error(
          `${what} cannot be opened by this version of the app (${e instanceof Error ? e.message : String(e)}). Nothing has been changed.`,
        );
      });
      progress((k + 1) / parts.length);
    }
  } finally {
    // What is open cannot be taken away.
    await store.close();
    review.close();
    rehearsals.close();
  }
}

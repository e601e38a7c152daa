// Lives attempts through again to tell what their plans would have made; ending it is how it is cancelled.

import type { Aftermath } from '../core/review/index.ts';
import { aftermathsOf } from '../session/left-alone.ts';
import { openReview } from '../store/review.ts';

/** Which attempt; `current` is under way, and what its day has not told yet is not told here. */
export type ToLeftAlone = { attempt: number; current: boolean };
export type FromLeftAlone =
  | { kind: 'progress'; part: number }
  | { kind: 'done'; afters: Aftermath[] }
  | { kind: 'failed'; message: string };

const tell = (m: FromLeftAlone) => postMessage(m);

self.onmessage = async ({ data: { attempt, current } }: MessageEvent<ToLeftAlone>) => {
  try {
    const store = await openReview();
    const info = (await store.attempts()).find((a) => a.id === attempt);
    if (!info) throw new Error(`Attempt ${attempt} is not there any more.`);
    const own =
      info.day.kind === 'own' ? ((await store.ownDays()).find((d) => d.id === info.day.id) ?? null) : null;
    if (info.day.kind === 'own' && !own)
      throw new Error('The imported data of this day is gone. Import it again.');
    const log = await store.log(attempt);
    // Of an attempt that was left for another its days are over.
    const until = current ? info.reached : Number.POSITIVE_INFINITY;
    const afters = aftermathsOf({ ref: info.day, own }, info, log, until, (part) =>
      tell({ kind: 'progress', part }),
    );
    tell({ kind: 'done', afters });
  } catch (e) {
    tell({ kind: 'failed', message: e instanceof Error ? e.message : String(e) });
  }
};

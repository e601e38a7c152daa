import { createFollower, type RankPoint, type RanksAsked } from './ranks.ts';

export type FromRanks =
  | { kind: 'at'; clock: number }
  | { kind: 'points'; id: number; points: RankPoint[] }
  | { kind: 'failed'; id: number; message: string };
export type ToRanks = { id: number; asked: RanksAsked };

const follower = createFollower();
const tell = (m: FromRanks) => postMessage(m);

self.onmessage = (e: MessageEvent<ToRanks>) => {
  const { id, asked } = e.data;
  try {
    const work = follower.follow(asked);
    for (;;) {
      const step = work.next();
      if (step.done) return tell({ kind: 'points', id, points: step.value });
      tell({ kind: 'at', clock: step.value });
    }
  } catch (error) {
    tell({ kind: 'failed', id, message: error instanceof Error ? error.message : String(error) });
  }
};

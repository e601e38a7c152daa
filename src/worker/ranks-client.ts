import { createPending } from './pending.ts';
import type { RankPoint, RanksAsked } from './ranks.ts';
import type { FromRanks, ToRanks } from './ranks.worker.ts';

/** The interface's end of the worker that follows a scan's leaders. Stopping it is how its work is cancelled. */
export interface RanksClient {
  /** The leaders from 04:00 to `asked.until`; `at` hears how far it has come, as a time of day. */
  follow(asked: RanksAsked, at: (clock: number) => void): Promise<RankPoint[]>;
  stop(): void;
}

/** Starts the worker of rank lines. */
export function startRanks(): RanksClient {
  const worker = new Worker(new URL('./ranks.worker.ts', import.meta.url), { type: 'module' });
  const pending = createPending<RankPoint[]>();
  let hear: (clock: number) => void = () => {};
  worker.onmessage = ({ data: m }: MessageEvent<FromRanks>) => {
    if (m.kind === 'at') hear(m.clock);
    else if (m.kind === 'points') pending.answer(m.id, m.points);
    else pending.refuse(m.id, m.message);
  };
  worker.onerror = (e) => pending.refuseAll(e.message || 'The picture’s worker stopped.');
  return {
    follow(asked, at) {
      hear = at;
      return pending.add((id) => worker.postMessage({ id, asked } satisfies ToRanks));
    },
    stop() {
      pending.refuseAll('stopped');
      worker.terminate();
    },
  };
}

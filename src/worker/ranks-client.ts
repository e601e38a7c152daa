import type { RankPoint, RanksAsked } from './ranks.ts';
import type { FromRanks, ToRanks } from './ranks.worker.ts';

/** The interface's end of the worker that follows a scan's leaders. Stopping it is how its work is cancelled. */
export interface RanksClient {
  /** The leaders from 04:00 to `asked.until`; `at` hears how far it has come, as a time of day. */
  follow(asked: RanksAsked, at: (clock: number) => void): Promise<RankPoint[]>;
  stop(): void;
}

export function startRanks(): RanksClient {
  const worker = new Worker(new URL('./ranks.worker.ts', import.meta.url), { type: 'module' });
  const waiting = new Map<number, { resolve(p: RankPoint[]): void; reject(e: Error): void }>();
  let hear: (clock: number) => void = () => {};
  let next = 1;
  const settle = (id: number, how: (w: { resolve(p: RankPoint[]): void; reject(e: Error): void }) => void) => {
    const w = waiting.get(id);
    waiting.delete(id);
    if (w) how(w);
  };
  worker.onmessage = ({ data: m }: MessageEvent<FromRanks>) => {
    if (m.kind === 'at') hear(m.clock);
    else if (m.kind === 'points') settle(m.id, (w) => w.resolve(m.points));
    else settle(m.id, (w) => w.reject(new Error(m.message)));
  };
  const die = (message: string) => {
    for (const w of waiting.values()) w.reject(new Error(message));
    waiting.clear();
  };
  worker.onerror = (e) => die(e.message || 'The picture’s worker stopped.');
  return {
    follow(asked, at) {
      hear = at;
      return new Promise((resolve, reject) => {
        const id = next++;
        waiting.set(id, { resolve, reject });
        worker.postMessage({ id, asked } satisfies ToRanks);
      });
    },
    stop() {
      die('stopped');
      worker.terminate();
    },
  };
}

import type { DayDone, DayJob } from '../session/rehearse.ts';
import { createPending } from './pending.ts';
import type { FromRehearsal, ToRehearsal } from './rehearsal.worker.ts';

/** The interface's end of one worker that rehearses days. */
interface RehearsalClient {
  rehearse(job: DayJob): Promise<DayDone>;
  /** Ends it, also in the middle of a day; whoever waits for it is told. */
  stop(): void;
}

/** Starts a worker that rehearses days. */
export function startRehearsalWorker(): RehearsalClient {
  const worker = new Worker(new URL('./rehearsal.worker.ts', import.meta.url), { type: 'module' });
  const pending = createPending<DayDone>();
  worker.onmessage = ({ data: m }: MessageEvent<FromRehearsal>) => {
    if (m.kind === 'day') pending.answer(m.id, m.done);
    else pending.refuse(m.id, m.message);
  };
  worker.onerror = (e) => pending.refuseAll(e.message || 'A worker of the rehearsal stopped.');
  return {
    rehearse: (job) => pending.add((id) => worker.postMessage({ id, job } satisfies ToRehearsal)),
    stop() {
      pending.refuseAll('stopped');
      worker.terminate();
    },
  };
}

// Rehearses days, one after another, as it is told; several of these work side by side.
import { type DayDone, type DayJob, rehearseDay } from '../session/rehearse.ts';

export type ToRehearsal = { id: number; job: DayJob };
export type FromRehearsal =
  | { kind: 'day'; id: number; done: DayDone }
  | { kind: 'failed'; id: number; message: string };

self.onmessage = ({ data: { id, job } }: MessageEvent<ToRehearsal>) => {
  const tell = (m: FromRehearsal) => postMessage(m);
  try {
    tell({ kind: 'day', id, done: rehearseDay(job) });
  } catch (error) {
    tell({ kind: 'failed', id, message: error instanceof Error ? error.message : String(error) });
  }
};

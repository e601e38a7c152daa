import { writeArchive } from '../../store/archive.ts';
import { REAL, type Taking } from '../../store/archive-places.ts';
import { type ArchiveSummary, checkArchive, layReady } from '../../store/archive-read.ts';
import type { Jobs } from '../call/serve.ts';
import { tryToOpen } from './trial.ts';

export type ArchiveRequest =
  /** `made`: when, as it is written into it. */
  | { kind: 'write'; made: string }
  | { kind: 'check'; file: File }
  /** Lays it beside what is here; the app takes it in when it starts again. */
  | { kind: 'lay ready'; file: File; how: Taking };
export interface ArchiveAnswers {
  write: Blob;
  check: ArchiveSummary;
  'lay ready': true;
}

/** Writes, checks and lays ready archives. Progress: a share from 0 to 1. */
export const archiveJobs: Jobs<ArchiveRequest, ArchiveAnswers, number> = {
  write: ({ made }, progress) => writeArchive(made, byHundredths(progress)),
  check: ({ file }, progress) => checkArchive(file, byHundredths(progress)),
  async 'lay ready'({ file, how }, progress) {
    await layReady(file, how, byHundredths(progress), REAL, tryToOpen);
    return true as const;
  },
};

/** Progress at each hundredth of the way only. */
function byHundredths(progress: (part: number) => void): (part: number) => void {
  let last = 0;
  return (part) => {
    if (part < last + 0.01) return;
    last = part;
    progress(part);
  };
}

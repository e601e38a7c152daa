// Writes, checks and lays ready archives; ending it is how that is cancelled.
import { writeArchive } from '../store/archive.ts';
import { REAL, type Taking } from '../store/archive-places.ts';
import { type ArchiveSummary, checkArchive, layReady } from '../store/archive-read.ts';
import { storageWords } from '../store/room.ts';
import { tryToOpen } from './trial.ts';

export type ToArchive =
  | { kind: 'write'; made: string }
  | { kind: 'check'; file: File }
  | { kind: 'lay ready'; file: File; how: Taking };
export type FromArchive =
  | { kind: 'progress'; part: number }
  | { kind: 'written'; blob: Blob }
  | { kind: 'checked'; summary: ArchiveSummary }
  | { kind: 'ready' }
  | { kind: 'failed'; message: string };

const tell = (m: FromArchive) => postMessage(m);
let told = 0;
/** Told at each hundredth. */
const progress = (part: number) => {
  if (part < told + 0.01) return;
  told = part;
  tell({ kind: 'progress', part });
};

self.onmessage = async ({ data: r }: MessageEvent<ToArchive>) => {
  try {
    if (r.kind === 'write') tell({ kind: 'written', blob: await writeArchive(r.made, progress) });
    else if (r.kind === 'check') tell({ kind: 'checked', summary: await checkArchive(r.file, progress) });
    else {
      await layReady(r.file, r.how, progress, REAL, tryToOpen);
      tell({ kind: 'ready' });
    }
  } catch (e) {
    tell({ kind: 'failed', message: storageWords(e) });
  }
};

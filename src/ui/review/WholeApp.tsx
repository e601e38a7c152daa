'use client';

import { useState } from 'react';
import type { ArchiveSummary } from '@/store/archive-read';
import { FREES } from '@/store/room';
import { archiveCalls } from '@/worker/archive/archive-calls';
import { ask } from '../client';
import { downloadFile } from '../download';
import { FileButton } from '../primitives/FileButton';
import { SureButton } from '../primitives/SureButton';
import { CANCELLED, Working } from '../primitives/Working';

type Step =
  | { at: 'rest'; told: string | null }
  | { at: 'working'; what: string; part: number }
  | { at: 'agree'; file: File; summary: ArchiveSummary; room: Room };

/** Bytes that taking an archive in needs for a while, and that the browser has; null where it does not say. */
interface Room {
  needs: number;
  has: number | null;
}

/** What comes lies apart while it is tried, what is here stays beside it until the new has started once. */
async function roomFor(size: number): Promise<Room> {
  const { usage = 0, quota } = (await navigator.storage?.estimate?.()) ?? {};
  return { needs: 2 * size + usage, has: quota === undefined ? null : Math.max(0, quota - usage) };
}

const mega = (bytes: number): string => `${Math.ceil(bytes / 1e6).toLocaleString('en-US')} MB`;

const NAMES: readonly (readonly [store: string, one: string, many: string])[] = [
  ['attempts', 'session', 'sessions'],
  ['entries', 'line of their logs', 'lines of their logs'],
  ['trades', 'trade', 'trades'],
  ['remarks', 'remark', 'remarks'],
  ['imports', 'file taken in', 'files taken in'],
  ['own', 'day of own data', 'days of own data'],
  ['rehearsals', 'rehearsal', 'rehearsals'],
  ['pages', 'page', 'pages'],
];

/** Everything there is (choices, scripts, plans, lists, days, sessions, trades) as one file, out and in. */
export function WholeApp() {
  const [step, setStep] = useState<Step>({ at: 'rest', told: null });
  const [worker] = useState(archiveCalls);
  const work = async <T,>(
    what: string,
    run: (progress: (part: number) => void) => Promise<T>,
  ): Promise<T | null> => {
    const progress = (part: number) => setStep({ at: 'working', what, part });
    progress(0);
    try {
      return await run(progress);
    } catch (e) {
      setStep({ at: 'rest', told: `⚠ ${e instanceof Error ? e.message : String(e)}` });
      return null;
    }
  };
  const out = async () => {
    await ask({ kind: 'speed', speed: 0 });
    const now = new Date().toISOString().slice(0, 16).replace('T', ' ');
    const blob = await work('Writing the archive', (p) => worker.ask({ kind: 'write', made: now }, p));
    if (!blob) return;
    downloadFile(`keen-fox-${now.slice(0, 10)}.archive.gz`, 'application/gzip', blob);
    setStep({ at: 'rest', told: `The archive has ${(blob.size / 1e6).toFixed(1)} MB.` });
  };
  const check = async (file: File) => {
    const summary = await work(`Checking ${file.name}`, (p) => worker.ask({ kind: 'check', file }, p));
    if (summary) setStep({ at: 'agree', file, summary, room: await roomFor(summary.size) });
  };
  const take = async (file: File, how: 'replace' | 'merge') => {
    const ready = await work('Laying it ready', (p) => worker.ask({ kind: 'lay ready', file, how }, p));
    // The app starts again and takes it in before anything else is read.
    if (ready) window.location.reload();
  };
  const tooLittle = step.at === 'agree' && step.room.has !== null && step.room.has < step.room.needs;
  return (
    <section className="panel px-3 py-2 text-[13px]" aria-label="The whole app as one file">
      <h2 className="heading">The whole app as one file</h2>
      {step.at === 'rest' && (
        <>
          <p className="my-1 text-quiet">
            Choices, scripts, plans, lists, days, sessions, trades and what is said of them.
          </p>
          {step.told && (
            <p className="my-1" role="status">
              {step.told}
            </p>
          )}
          <span className="flex gap-2">
            <button type="button" className="btn" onClick={() => void out()}>
              Write an archive
            </button>
            <FileButton label="Archive to take in" accept=".gz" take={(file) => void check(file)}>
              Take one in
            </FileButton>
          </span>
        </>
      )}
      {step.at === 'working' && (
        <Working what={step.what} part={step.part} end={() => worker.stop(CANCELLED)} />
      )}
      {step.at === 'agree' && (
        <>
          <p className="my-1" data-testid="archive-sum">
            Made {step.summary.made}. It holds{' '}
            {NAMES.flatMap(([store, one, many]) => {
              const n = step.summary.counts[store] ?? 0;
              return n > 0 ? [`${n.toLocaleString('en-US')} ${n === 1 ? one : many}`] : [];
            }).join(', ') || 'nothing but choices'}
            .
          </p>
          <p className="my-1">
            Until it has started once it takes up to {mega(step.room.needs)}, what is here now kept beside it
            {step.room.has === null ? '.' : `; there is room for ${mega(step.room.has)}.`}
            {tooLittle && <b> ⚠ That is too little. {FREES}.</b>}
          </p>
          <div className="flex flex-wrap gap-2">
            <SureButton
              label="Put it in place of everything here"
              sure="Really: all that is here now goes"
              disabled={tooLittle}
              act={() => void take(step.file, 'replace')}
            />
            <button
              type="button"
              className="btn"
              disabled={tooLittle}
              title="Its sessions, trades, files, days and rehearsals come beside those that are here; choices and the session under way stay"
              onClick={() => void take(step.file, 'merge')}
            >
              Put it beside what is here
            </button>
            <button type="button" className="btn" onClick={() => setStep({ at: 'rest', told: null })}>
              Neither
            </button>
          </div>
        </>
      )}
    </section>
  );
}

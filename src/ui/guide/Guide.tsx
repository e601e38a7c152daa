'use client';

import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { useEffect, useRef } from 'react';
import { keyOf } from '@/store/keys';
import { useSession } from '../client';
import { chordName } from '../hands/chords';
import { useHands } from '../hands/hands';
import { useSettings } from '../settings';
import { nextStep, STEPS } from './steps';

/** The first morning, a line at the foot of every view: what to do next and why. It takes no key and can be left. */
export function Guide() {
  const guide = useSettings((s) => s.guide);
  const set = useSettings((s) => s.set);
  const path = usePathname();
  const chosen = useSettings((s) => s.focus !== '');
  const looked = useSession((s) => s.sayBack.kind === 'peek' || s.sayBack.kind === 'confirm');
  const book = useSession((s) => s.book);
  const printed = useHands((s) => s.printed);
  const settings = useSettings.getState();
  const seen = useRef(false);
  seen.current ||= looked;
  const step = STEPS[guide.step];
  useEffect(() => {
    if (!guide.on) return;
    const at = nextStep(guide.step, { path, chosen, looked: seen.current, book });
    if (at !== guide.step) set({ guide: { on: true, step: at } });
  });
  if (!guide.on) return null;
  const leave = () => set({ guide: { on: false, step: step ? guide.step : 0 } });
  const key = (script: string) => chordName(keyOf(settings, script), printed) || 'its button on the rack';
  return (
    <aside
      className="flex h-[30px] items-center gap-3 overflow-hidden border-t border-line px-3 text-[13px] whitespace-nowrap"
      aria-label="First ten minutes"
    >
      {step ? (
        <>
          <span className="num text-quiet">
            {guide.step + 1} of {STEPS.length}
          </span>
          <b className="text-focus">{step.name}</b>
          <span className="min-w-0 truncate">{step.says(key)}</span>
          <span className="ml-auto flex shrink-0 gap-1.5">
            {path !== step.at && (
              <Link className="btn px-2 py-0" href={step.at} prefetch={false}>
                Go there
              </Link>
            )}
            <button
              type="button"
              className="btn px-2 py-0"
              onClick={() => set({ guide: { on: true, step: guide.step + 1 } })}
            >
              Skip
            </button>
            <button
              type="button"
              className="btn px-2 py-0"
              title="F2 and “First ten minutes” brings it back"
              onClick={leave}
            >
              Leave
            </button>
          </span>
        </>
      ) : (
        <>
          <b className="text-focus">That was a whole trade.</b>
          <span className="min-w-0 truncate">
            Keys holds the scripts, Plans the exits, Rehearse tries a script over many days; F2 finds
            everything.
          </span>
          <button type="button" className="btn ml-auto px-2 py-0" onClick={leave}>
            Done
          </button>
        </>
      )}
    </aside>
  );
}

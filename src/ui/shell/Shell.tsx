'use client';

import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { type ReactNode, useEffect } from 'react';
import { usePlanBook } from '../plans/usePlanBook';
import '../chart/drawn';
import { ask, focusOn, useSession } from '../client';
import { Guide } from '../guide/Guide';
import { useHands } from '../hands/hands';
import { useKeys } from '../hands/useKeys';
import { startSettings, useSettings } from '../settings';
import { StagedStrip } from '../waiting/StagedStrip';
import { Away } from './Away';
import { Part } from './Boundary';
import { FocusBar } from './FocusBar';
import { Kept } from './Kept';
import { Ribbon } from './Ribbon';
import { SayBackStrip } from './SayBackStrip';
import { ViewBoundary } from './ViewBoundary';
import { WaysOn } from './WaysOn';
import { Working } from './Working';

const SecondWindow = dynamic(() => import('./SecondWindow').then((m) => m.SecondWindow), {
  ssr: false,
});

/** What stands around every view: the day ribbon, the views and the focus, the sentence strip. */
export function Shell({ children }: { children: ReactNode }) {
  const phase = useSession((s) => s.phase);
  const loaded = useSettings((s) => s.loaded);
  const theme = useSettings((s) => s.theme);
  const second = useHands((s) => s.second);
  const opened = useSession((s) => s.opened);
  const router = useRouter();
  useKeys();
  usePlanBook();
  useEffect(() => {
    if (opened === null) return;
    router.push(opened);
    useSession.setState({ opened: null });
  }, [opened, router]);
  useEffect(() => {
    void startSettings(
      async () => (await ask({ kind: 'settings' }))?.settings,
      async (settings) => (await ask({ kind: 'keep settings', settings })) !== null,
    );
  }, []);
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
  }, [theme]);
  useEffect(() => {
    const { focus } = useSettings.getState();
    if (phase === 'ready' && loaded && focus) void focusOn(focus);
  }, [phase, loaded]);
  return (
    <div className="grid h-screen grid-rows-[auto_auto_auto_auto_1fr_auto_auto] overflow-hidden">
      <Kept />
      <Part name="The day and its time">
        <Ribbon />
      </Part>
      <FocusBar />
      <Part name="The strip of staged orders">
        <StagedStrip />
      </Part>
      <div className="min-h-0 overflow-auto">
        {phase === 'ready' ? <ViewBoundary>{children}</ViewBoundary> : <Phase />}
      </div>
      {phase === 'ready' && loaded ? (
        <Part name="The guide">
          <Guide />
        </Part>
      ) : (
        <span />
      )}
      <Part name="The say-back">
        <SayBackStrip />
      </Part>
      {phase === 'ready' && second && <SecondWindow />}
      {phase === 'ready' && <Working />}
      {phase === 'ready' && <Away />}
    </div>
  );
}

function Phase() {
  const phase = useSession((s) => s.phase);
  const trouble = useSession((s) => s.trouble);
  const work = useSession((s) => s.working);
  const takingIn = useSession((s) => s.takingIn);
  return (
    <main className="mx-auto max-w-xl px-6 pt-24" role="status">
      {phase === 'starting' && (
        <>
          <h1 className="mb-3 text-xl font-semibold">
            {takingIn === null ? 'The market is being set up' : 'The archive is being taken in'}
          </h1>
          <p className="text-quiet">
            {takingIn === null
              ? `Eight thousand symbols run up to the time where you come in. ${work ? `It is ${work.words}.` : 'This takes a moment.'}`
              : `${Math.round(takingIn * 100)} %. The market is set up afterwards.`}
          </p>
        </>
      )}
      {phase === 'waiting' && (
        <>
          <h1 className="mb-3 text-xl font-semibold">Keen Fox is open in another tab</h1>
          <p className="text-quiet">
            Orders are written from one tab only, so that none is sent twice. Close the other tab and this one
            takes over by itself.
          </p>
        </>
      )}
      {phase === 'broken' && (
        <>
          <h1 className="mb-3 text-xl font-semibold">The session stopped</h1>
          <p className="mb-3">{trouble}</p>
          <p className="mb-5 text-quiet">
            Everything that was acknowledged is kept. Load the page again to go on from there.
          </p>
          <WaysOn />
        </>
      )}
    </main>
  );
}

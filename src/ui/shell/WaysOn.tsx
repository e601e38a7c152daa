'use client';

import { useEffect, useState } from 'react';
import { SureButton } from '../primitives/SureButton';
import { DamagedRecords } from './DamagedRecords';

/** What can be done where the session does not start: load again, go back to what was here before an archive came, or put the session aside. */
export function WaysOn() {
  const [back, setBack] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    void import('@/store/incoming').then(({ canGiveBack }) => canGiveBack()).then(setBack, () => {});
  }, []);
  const tried = (work: () => Promise<void>) => async () => {
    try {
      await work();
      location.reload();
    } catch (e) {
      setTrouble(e instanceof Error ? e.message : String(e));
    }
  };
  const giveBack = tried(async () => (await import('@/store/incoming')).giveBack());
  const putAside = tried(async () => (await import('@/store/damaged')).putSessionAside());
  return (
    <>
      <span className="mb-4 flex flex-wrap gap-2">
        <button type="button" className="btn" onClick={() => location.reload()}>
          Load again
        </button>
        {back && (
          <button type="button" className="btn" onClick={() => void giveBack()}>
            Back to what was here before the archive
          </button>
        )}
        <SureButton
          label="Put this session aside and begin a new one"
          sure="Really: its trades and journal stay in Review"
          act={() => void putAside()}
        />
      </span>
      {trouble && <p role="alert">⚠ {trouble}</p>}
      <DamagedRecords />
    </>
  );
}

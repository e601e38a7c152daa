'use client';

import { FREES } from '@/store/room';
import { useSession } from '../client';

/** One line above everything, where what is done is not kept: no room on disk, or a browser that keeps nothing. */
export function Kept() {
  const noRoom = useSession((s) => s.noRoom);
  const notKept = useSession((s) => s.notKept);
  const text =
    noRoom === 'waits'
      ? `There is no room on disk. The market stands still: what was done last is kept as soon as there is some. ${FREES}. It is tried again every two seconds.`
      : noRoom === 'late'
        ? `There is no room on disk for the whole session; what you do is still kept, step by step. ${FREES}.`
        : notKept !== null
          ? 'Nothing is kept: this browser gives the app no storage (a private window, or it is blocked). Everything works until this page is closed or loaded again; Review and Rehearse stay empty.'
          : null;
  if (text === null) return <span />;
  return (
    <p
      role="alert"
      title={notKept ?? undefined}
      className="border-down border-b-2 bg-raised px-3 py-1 font-semibold text-[13px]"
    >
      ⚠ {text}
    </p>
  );
}

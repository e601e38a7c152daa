'use client';

import { useHands } from '../hands/hands';
import { useSettings } from '../settings';

/** Said large and at once while keys do not reach this page. */
export function Away() {
  const here = useHands((s) => s.here);
  const keysOn = useSettings((s) => s.keysOn);
  if (here || !keysOn) return null;
  return (
    <p
      role="alert"
      className="pointer-events-none fixed inset-x-0 bottom-0 z-50 border-t-4 border-focus bg-raised py-4 text-center text-xl font-bold"
    >
      The keyboard is elsewhere: no key does anything here until this window has it again. A click brings it
      back.
    </p>
  );
}

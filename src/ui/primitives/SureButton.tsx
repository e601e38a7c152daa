'use client';

import { useState } from 'react';

/** A button for what cannot be taken back: the first press asks, the second does it. */
export function SureButton({
  label,
  sure,
  act,
  disabled = false,
  className = 'btn',
}: {
  label: string;
  sure: string;
  act(): void;
  disabled?: boolean;
  className?: string;
}) {
  const [asked, setAsked] = useState(false);
  return (
    <button
      type="button"
      className={className}
      disabled={disabled}
      aria-live="polite"
      onBlur={() => setAsked(false)}
      onClick={() => (asked ? act() : setAsked(true))}
    >
      {asked ? sure : label}
    </button>
  );
}

'use client';

import { useEffect, useState } from 'react';
import { MINUTE } from '@/core/units';
import { clock, readTime } from '../format';

const [FIRST, LAST] = [4 * 60, 20 * 60];

/** Minutes after midnight of a time between 04:00 and 20:00; null for anything else. */
function minutesOf(text: string): number | null {
  const minutes = Math.floor((readTime(text) ?? -1) / MINUTE);
  return minutes >= FIRST && minutes <= LAST ? minutes : null;
}

/** A time of day between 04:00 and 20:00, in minutes after midnight. What is typed stays until it reads. */
export function TimeField({
  label,
  minutes,
  change,
}: {
  label: string;
  minutes: number;
  change(minutes: number): void;
}) {
  const [typed, setTyped] = useState(clock(minutes * MINUTE, 'minutes'));
  useEffect(() => setTyped(clock(minutes * MINUTE, 'minutes')), [minutes]);
  const fits = minutesOf(typed) !== null;
  return (
    <input
      className="field num w-16 py-0.5"
      aria-label={label}
      aria-invalid={!fits}
      title={fits ? undefined : 'A time from 04:00 to 20:00, such as 09:30'}
      value={typed}
      onChange={(e) => {
        setTyped(e.target.value);
        const value = minutesOf(e.target.value);
        if (value !== null) change(value);
      }}
    />
  );
}

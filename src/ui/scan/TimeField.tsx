'use client';

import { useEffect, useState } from 'react';

const text = (m: number): string => `${String(Math.floor(m / 60)).padStart(2, '0')}:${String(m % 60).padStart(2, '0')}`;

/** A time of day between 04:00 and 20:00, in minutes after midnight. What is typed stays until it reads. */
export function TimeField({ label, minutes, change }: { label: string; minutes: number; change(minutes: number): void }) {
  const [typed, setTyped] = useState(text(minutes));
  useEffect(() => setTyped(text(minutes)), [minutes]);
  const read = /^(\d{1,2}):(\d\d)$/.exec(typed.trim());
  const value = read ? Number(read[1]) * 60 + Number(read[2]) : Number.NaN;
  const fits = value >= 240 && value <= 1200 && Number(read?.[2]) < 60;
  return (
    <input
      className="field num w-16 py-0.5"
      aria-label={label}
      aria-invalid={!fits}
      title={fits ? undefined : 'A time from 04:00 to 20:00, such as 09:30'}
      value={typed}
      onChange={(e) => {
        setTyped(e.target.value);
        const m = /^(\d{1,2}):([0-5]\d)$/.exec(e.target.value.trim());
        const v = m ? Number(m[1]) * 60 + Number(m[2]) : Number.NaN;
        if (v >= 240 && v <= 1200) change(v);
      }}
    />
  );
}

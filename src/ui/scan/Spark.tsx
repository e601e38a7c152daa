'use client';

import { useEffect, useRef, useState } from 'react';
import { SECOND } from '@/core/units';
import { ask, useSession } from '../client';

const AGAIN_AFTER = 2_000;
const SCROLLED = 80;

/** Prices of the day so far for the rows in sight; asked for again every two seconds while time runs. */
export function useSparks(who: readonly number[]): Map<number, Int32Array> {
  const [lines, setLines] = useState<Map<number, Int32Array>>(new Map());
  const key = who.join();
  const wanted = useRef(key);
  useEffect(() => {
    wanted.current = key;
  });
  const turn = useSession((s) => (s.clock ? Math.floor(s.clock.now / (10 * SECOND)) : 0));
  const last = useRef({ key: '', turn: -1, at: 0 });
  useEffect(() => {
    const l = last.current;
    const known = l.key === key;
    if (key === '' || (known && l.turn === turn)) return;
    // Rows that are only scrolled past are not asked for.
    const wait = setTimeout(
      () => {
        last.current = { key, turn, at: performance.now() };
        const list = key.split(',').map(Number);
        void ask({ kind: 'sparks', who: list }).then((a) => {
          if (!a || wanted.current !== key) return;
          // A line that has not changed stays the same object, so that its row is not drawn again.
          setLines((old) => new Map(list.map((i, k) => [i, same(old.get(i), a.lines[k] as Int32Array)])));
        });
      },
      known ? Math.max(0, l.at + AGAIN_AFTER - performance.now()) : SCROLLED,
    );
    return () => clearTimeout(wait);
  }, [key, turn]);
  return lines;
}

const same = (old: Int32Array | undefined, now: Int32Array): Int32Array =>
  old && old.length === now.length && old.every((p, k) => p === now[k]) ? old : now;

/** A tiny price line of the day; rising and falling differ by colour and by where it ends. */
export function Spark({
  line,
  width,
  height,
}: {
  line: Int32Array | undefined;
  width: number;
  height: number;
}) {
  if (!line || line.length < 2) return null;
  const low = Math.min(...line);
  const span = Math.max(...line) - low || 1;
  const x = (k: number) => ((k / (line.length - 1)) * (width - 4) + 2).toFixed(1);
  const y = (p: number) => (height - 2 - ((p - low) / span) * (height - 4)).toFixed(1);
  const end = line[line.length - 1] as number;
  const up = end >= (line[0] as number);
  return (
    <svg width={width} height={height} aria-hidden className={up ? 'text-up' : 'text-down'}>
      <polyline
        points={[...line].map((p, k) => `${x(k)},${y(p)}`).join(' ')}
        fill="none"
        stroke="currentColor"
        strokeWidth={1.2}
      />
      <circle
        cx={x(line.length - 1)}
        cy={y(end)}
        r={1.8}
        fill={up ? 'none' : 'currentColor'}
        stroke="currentColor"
      />
    </svg>
  );
}

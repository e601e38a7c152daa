'use client';

import { useEffect, useRef, useState } from 'react';

/** The inner size of the element that `box` is put on, in whole pixels; 0 before it is known. */
export function useSize() {
  const box = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  useEffect(() => {
    const el = box.current;
    if (!el) return;
    const watch = new ResizeObserver(() =>
      setSize({ width: Math.floor(el.clientWidth), height: Math.floor(el.clientHeight) }),
    );
    watch.observe(el);
    return () => watch.disconnect();
  }, []);
  return { box, ...size };
}

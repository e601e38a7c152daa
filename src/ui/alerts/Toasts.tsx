'use client';

import { useEffect, useRef } from 'react';
import { Toaster, toast } from 'sonner';
import type { Fired } from '@/core/alerts';
import { rootOf } from '@/core/instruments';
import { focusOn } from '../client';
import { clock } from '../format';

/** Alerts as they come, at the lower right; pressing one brings its symbol into focus. */
export default function Toasts({ fired }: { fired: readonly Fired[] }) {
  const shown = useRef(0);
  useEffect(() => {
    for (const f of fired) {
      if (f.seq <= shown.current) continue;
      shown.current = f.seq;
      toast(f.text, {
        id: f.seq,
        description: `${clock(f.at)} · alert on ${f.kind}`,
        action: { label: `Focus ${rootOf(f.symbol)}`, onClick: () => void focusOn(rootOf(f.symbol)) },
      });
    }
  }, [fired]);
  return (
    <Toaster
      position="bottom-left"
      offset={{ bottom: 124, left: 14 }}
      duration={12_000}
      toastOptions={{
        style: {
          background: 'var(--raised)',
          color: 'var(--text)',
          border: '1px dotted var(--condition)',
          fontFamily: 'var(--font-sans)',
          whiteSpace: 'normal',
        },
        descriptionClassName: 'text-quiet!',
        actionButtonStyle: { background: 'var(--line)', color: 'var(--text)' },
      }}
    />
  );
}

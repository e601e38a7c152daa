'use client';

import { Bell, BellOff } from 'lucide-react';
import dynamic from 'next/dynamic';
import { useEffect, useRef, useState } from 'react';
import type { Fired } from '@/core/alerts';
import { useSession } from '../client';
import { useSettings } from '../settings';
import { play } from './sounds';

const AlertPanel = dynamic(() => import('./AlertPanel'), { ssr: false });
const Toasts = dynamic(() => import('./Toasts'), { ssr: false });

/** The alerts of the whole app: tells those that fire, in the page, by sound and by the browser; opens their list. */
export function AlertBell() {
  const [open, setOpen] = useState(false);
  const armed = useSession((s) => s.alerts?.list.filter((a) => a.status === 'armed').length ?? 0);
  const muted = useSettings((s) => s.alerts.muted);
  const fresh = useFresh();
  return (
    <>
      <button
        type="button"
        className="btn flex items-center gap-1 px-2"
        aria-expanded={open}
        aria-label={`Alerts: ${armed} set${fresh.length > 0 ? `, ${fresh.length} fired` : ''}`}
        onClick={() => setOpen((o) => !o)}
      >
        {muted ? <BellOff size={14} aria-hidden /> : <Bell size={14} aria-hidden />}
        <span className="num">{armed}</span>
      </button>
      {open && <AlertPanel close={() => setOpen(false)} />}
      {fresh.length > 0 && <Toasts fired={fresh} />}
    </>
  );
}

/** Alerts that fired since the page was opened; each is sounded and notified once. */
function useFresh(): readonly Fired[] {
  const fired = useSession((s) => s.alerts?.fired);
  const attempt = useSession((s) => s.clock?.attempt);
  const from = useRef<{ seq: number; attempt: number | undefined } | null>(null);
  const [fresh, setFresh] = useState<readonly Fired[]>([]);
  useEffect(() => {
    if (!fired || attempt === undefined) return;
    const newest = fired[fired.length - 1]?.seq ?? 0;
    // What fired before the page was opened, or in another attempt, is history.
    if (from.current === null || from.current.attempt !== attempt) {
      from.current = { seq: newest, attempt };
      setFresh([]);
      return;
    }
    const now = fired.filter((f) => f.seq > (from.current?.seq ?? 0));
    if (now.length === 0) return;
    from.current.seq = newest;
    setFresh((all) => [...all, ...now].slice(-50));
    const { volume, muted, notify } = useSettings.getState().alerts;
    // Of many at once, each kind is heard once.
    if (!muted) for (const kind of new Set(now.map((f) => f.kind))) play(kind, volume);
    if (notify && typeof Notification !== 'undefined' && Notification.permission === 'granted')
      for (const f of now.slice(-3))
        new Notification(`${f.symbol}: alert`, { body: f.text, tag: String(f.seq) });
  }, [fired, attempt]);
  return fresh;
}

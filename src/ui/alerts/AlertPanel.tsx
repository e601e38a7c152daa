'use client';

import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { Alert } from '@/core/alerts';
import { MINUTE } from '@/core/units';
import { ask, focusOn, useSession } from '../client';
import { clock } from '../format';
import { Tick } from '../primitives/Tick';
import { useSettings } from '../settings';
import { AlertForm } from './AlertForm';
import { play } from './sounds';

const SNOOZE = 5 * MINUTE;

/** Every alert that is set, and the log of those that fired; sound, mute and the browser's own notifications. */
export default function AlertPanel({ close }: { close(): void }) {
  const alerts = useSession((s) => s.alerts);
  const focus = useSession((s) => s.focus?.symbol ?? '');
  const [form, setForm] = useState(false);
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => e.code === 'Escape' && close();
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [close]);
  const list = alerts?.list ?? [];
  const fired = [...(alerts?.fired ?? [])].reverse();
  return (
    <aside
      className="panel fixed top-[104px] right-2 z-30 flex max-h-[70vh] w-[430px] flex-col bg-panel shadow-lg"
      aria-label="Alerts"
    >
      <div className="flex items-center gap-2 border-b border-line px-3 py-2">
        <h2 className="font-semibold">Alerts</h2>
        <button type="button" className="btn ml-auto py-0.5 text-[13px]" onClick={() => setForm(true)}>
          New alert on {focus}
        </button>
        <button type="button" aria-label="Close the alerts" onClick={close}>
          <X size={16} aria-hidden />
        </button>
      </div>
      <div className="min-h-0 overflow-y-auto px-3 py-2 text-[13px]">
        <h3 className="heading">Set</h3>
        {list.length === 0 && (
          <p className="text-quiet">
            None. N in the table, a key with “alert at last + 10c”, or the button above sets one.
          </p>
        )}
        <ul>
          {list.map((a) => (
            <One key={a.id} alert={a} />
          ))}
        </ul>
        <h3 className="heading mt-3">Fired</h3>
        {fired.length === 0 && <p className="text-quiet">None yet.</p>}
        <ul>
          {fired.map((f) => (
            <li key={f.seq} className="flex gap-2 py-0.5">
              <span className="num shrink-0 text-quiet">{clock(f.at)}</span>
              <button
                type="button"
                className="num shrink-0 font-bold hover:underline"
                onClick={() => void focusOn(f.symbol)}
              >
                {f.symbol}
              </button>
              <span>{f.text.replace(`${f.symbol} `, '')}</span>
            </li>
          ))}
        </ul>
      </div>
      <Sound />
      {form && <AlertForm symbol={focus} close={() => setForm(false)} />}
    </aside>
  );
}

function One({ alert: a }: { alert: Alert }) {
  const quiet = useSession((s) => s.clock !== null && a.quietUntil > s.clock.now);
  const change = (c: Parameters<typeof ask<'alert'>>[0]['change']) =>
    void ask({ kind: 'alert', id: a.id, change: c });
  const small = 'text-quiet underline hover:text-text';
  return (
    <li className="flex items-baseline gap-2 py-0.5">
      <span className={`num grow ${a.status === 'fired' ? 'text-quiet line-through' : 'text-condition'}`}>
        {a.text}
      </span>
      {quiet && <span className="text-quiet">quiet until {clock(a.quietUntil, 'minutes')}</span>}
      {a.status === 'fired' ? (
        <button type="button" className={small} onClick={() => change({ kind: 'arm' })}>
          again
        </button>
      ) : quiet ? (
        <button type="button" className={small} onClick={() => change({ kind: 'arm' })}>
          wake
        </button>
      ) : (
        <button
          type="button"
          className={small}
          title="Keeps quiet for five minutes of the session"
          onClick={() => change({ kind: 'quiet', until: (useSession.getState().clock?.now ?? 0) + SNOOZE })}
        >
          snooze
        </button>
      )}
      <button
        type="button"
        className={small}
        aria-label={`Remove: ${a.text}`}
        onClick={() => change({ kind: 'remove' })}
      >
        remove
      </button>
    </li>
  );
}

function Sound() {
  const { volume, muted, notify } = useSettings((s) => s.alerts);
  const set = useSettings((s) => s.set);
  const put = (part: Partial<{ volume: number; muted: boolean; notify: boolean }>) =>
    set({ alerts: { volume, muted, notify, ...part } });
  const [refused, setRefused] = useState(false);
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line px-3 py-2 text-[13px]">
      <label className="flex items-center gap-2">
        Volume
        <input
          type="range"
          min={0}
          max={1}
          step={0.05}
          value={volume}
          onChange={(e) => put({ volume: Number(e.target.value) })}
          onPointerUp={() => play('price', volume)}
        />
      </label>
      <Tick on={muted} change={(on) => put({ muted: on })}>
        mute
      </Tick>
      <Tick
        on={notify}
        change={async (want) => {
          const granted =
            want &&
            typeof Notification !== 'undefined' &&
            (await Notification.requestPermission()) === 'granted';
          setRefused(want && !granted);
          put({ notify: granted });
        }}
      >
        browser notifications
      </Tick>
      {refused && (
        <p className="w-full">
          ⚠ The browser does not allow notifications from this page. Allow them in its settings for this
          address.
        </p>
      )}
    </div>
  );
}

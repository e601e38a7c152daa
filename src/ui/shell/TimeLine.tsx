'use client';

import { type MouseEvent, useMemo } from 'react';
import { AFTER_CLOSE, dayOf, HOUR, MINUTE, PRE_OPEN, REGULAR_CLOSE, REGULAR_OPEN } from '@/core/units';
import { useSession } from '../client';
import { clock } from '../format';

/** The day from 04:00 to its end: sessions, now, halts, news of the focus and the trader's own fills. A click chooses a time. */
export function TimeLine({ pick }: { pick: (at: number) => void }) {
  // The minute is enough here; the mark of now moves by itself.
  const minute = useSession((s) => (s.clock === null ? null : Math.floor(s.clock.now / MINUTE) * MINUTE));
  const dayStart = useSession((s) => s.clock?.dayStart ?? 0);
  const end = useSession((s) => s.clock?.hours.end ?? AFTER_CLOSE);
  const close = useSession((s) => s.clock?.hours.close ?? REGULAR_CLOSE);
  const reviews = useSession((s) => s.book?.reviews);
  const news = useSession((s) => s.news);
  const focus = useSession((s) => s.focus?.symbol);
  const stops = useSession((s) => s.focus?.stops);
  const fired = useSession((s) => s.alerts?.fired);
  const alerts = useMemo(() => fired?.filter((a) => dayOf(a.at) === dayOf(dayStart)), [fired, dayStart]);
  const fills = useMemo(
    () => reviews?.flatMap((r) => r.fills).filter((f) => dayOf(f.at) === dayOf(dayStart)) ?? [],
    [reviews, dayStart],
  );
  const share = (t: number) => `${((t - PRE_OPEN) / (end - PRE_OPEN)) * 100}%`;
  const halts = (stops ?? []).flatMap((s, k, all) =>
    s.stopped ? [{ from: s.at - dayStart, to: (all[k + 1]?.at ?? minute ?? s.at) - dayStart }] : [],
  );
  const choose = (e: MouseEvent<HTMLButtonElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    const part = Math.max(0, Math.min(1, (e.clientX - box.left) / box.width));
    const minute = Math.round((PRE_OPEN + part * (end - PRE_OPEN)) / MINUTE) * MINUTE;
    pick(dayStart + Math.max(PRE_OPEN, Math.min(end - MINUTE, minute)));
  };
  return (
    <button
      type="button"
      className="relative h-10 min-w-0 grow cursor-crosshair max-[900px]:hidden"
      aria-label={`Time line from 04:00 to ${clock(end, 'minutes')}${minute === null ? '' : `, now ${clock(minute, 'minutes')}`}: choose a time to go to`}
      onClick={choose}
    >
      <span className="absolute inset-x-0 top-2 h-4 bg-raised" />
      <span
        className="absolute top-2 h-4 border-x border-quiet bg-line"
        style={{ left: share(REGULAR_OPEN), width: `calc(${share(close)} - ${share(REGULAR_OPEN)})` }}
      />
      {[4, 6, 8, 9.5, 12, 14, 16, 18]
        .filter((h) => h * HOUR < end)
        .map((h) => (
          <span
            key={h}
            className="num absolute top-6 text-[12px] leading-4 text-quiet"
            style={{ left: share(h * HOUR) }}
          >
            {clock(h * HOUR, 'minutes')}
          </span>
        ))}
      {halts.map((h) => (
        <span
          key={h.from}
          title={`${focus} did not trade from ${clock(h.from, 'minutes')} to ${clock(h.to, 'minutes')}`}
          className="absolute top-2 h-4 min-w-[3px] border-y-2 border-text bg-ground"
          style={{ left: share(h.from), width: `calc(${share(h.to)} - ${share(h.from)})` }}
        />
      ))}
      {news
        ?.filter((n) => n.symbol === focus)
        .map((n) => (
          <span
            key={`${n.symbol}${n.at}`}
            title={`${clock(n.at, 'minutes')} ${n.symbol}: ${n.headline}`}
            className="absolute top-1 h-2 w-2 rotate-45 bg-text"
            style={{ left: share(n.at - dayStart) }}
          />
        ))}
      {alerts?.map((a) => (
        <span
          key={a.seq}
          title={`${clock(a.at)} alert: ${a.text}`}
          className="absolute top-[26px] h-1.5 w-1.5 rounded-full border border-condition"
          style={{ left: share(a.at - dayStart) }}
        />
      ))}
      {fills.map((f) => (
        <span
          key={f.id}
          title={`${clock(f.at)} ${f.side} ${f.qty} ${f.symbol}`}
          className={`absolute top-2 h-4 w-[2px] ${f.side === 'buy' ? 'bg-up' : 'bg-down'}`}
          style={{ left: share(f.at - dayStart) }}
        />
      ))}
      <NowMark share={share} />
    </button>
  );
}

function NowMark({ share }: { share: (t: number) => string }) {
  const now = useSession((s) => (s.clock === null ? null : s.clock.now - s.clock.dayStart));
  return now === null ? null : (
    <span className="absolute top-0.5 h-7 w-[3px] bg-text" style={{ left: share(now) }} />
  );
}

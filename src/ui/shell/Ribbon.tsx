'use client';

import { FastForward, Pause, Play } from 'lucide-react';
import { useEffect, useMemo, useRef } from 'react';
import { clock } from '../format';
import { ask, useSession } from '../session';

const START = 4 * 3_600_000;
const END = 20 * 3_600_000;
const OPEN = 9.5 * 3_600_000;
const CLOSE = 16 * 3_600_000;
const SPEEDS = [1, 5, 20, 60];
const share = (t: number) => `${((t - START) / (END - START)) * 100}%`;

/** The day ribbon: the session as a time line, and how time is run. */
export function Ribbon() {
  const now = useSession((s) => s.clock?.now ?? null);
  const session = useSession((s) => s.clock?.session ?? 'closed');
  const speed = useSession((s) => s.clock?.speed ?? 0);
  const jumpingTo = useSession((s) => s.clock?.jumpingTo ?? null);
  const date = useSession((s) => s.clock?.date ?? '');
  const wanted = useRef(1);
  useEffect(() => {
    if (speed > 0) wanted.current = speed;
  }, [speed]);
  const set = (s: number) => void ask({ kind: 'speed', speed: s });
  return (
    <header className="panel flex items-center gap-3 border-x-0 border-t-0 px-3 py-1.5" aria-label="Day ribbon">
      <div className="w-40 shrink-0">
        <div className="num text-xl leading-6 font-semibold" data-testid="clock">
          {now === null ? '––:––:––' : clock(now)}
        </div>
        <div className="text-[12px] text-quiet">
          {session} · {date}
        </div>
      </div>
      <TimeLine now={now} />
      <div className="flex shrink-0 items-center gap-1" role="group" aria-label="Run time">
        <button
          type="button"
          className="btn flex items-center gap-1"
          disabled={now === null}
          onClick={() => set(speed > 0 || jumpingTo !== null ? 0 : wanted.current)}
        >
          {speed > 0 || jumpingTo !== null ? <Pause size={14} aria-hidden /> : <Play size={14} aria-hidden />}
          {speed > 0 || jumpingTo !== null ? 'Pause' : 'Run'}
        </button>
        {SPEEDS.map((s) => (
          <button
            key={s}
            type="button"
            className="btn num px-2"
            aria-pressed={speed === s}
            aria-label={`Run at ${s} times`}
            disabled={now === null}
            onClick={() => set(s)}
          >
            {s}×
          </button>
        ))}
        <button
          type="button"
          className="btn flex items-center gap-1"
          disabled={now === null || now >= OPEN || jumpingTo !== null}
          onClick={() => void ask({ kind: 'jump', to: OPEN })}
        >
          <FastForward size={14} aria-hidden />
          {jumpingTo !== null ? `Running to ${clock(jumpingTo, 'minutes')}` : 'To the open'}
        </button>
      </div>
    </header>
  );
}

function TimeLine({ now }: { now: number | null }) {
  const reviews = useSession((s) => s.book?.reviews);
  const news = useSession((s) => s.news);
  const focus = useSession((s) => s.focus?.symbol);
  const fills = useMemo(() => reviews?.flatMap((r) => r.fills) ?? [], [reviews]);
  return (
    <div className="relative h-9 min-w-0 grow" role="img" aria-label={`Time line from 04:00 to 20:00${now === null ? '' : `, now ${clock(now)}`}`}>
      <div className="absolute inset-x-0 top-2 h-4 bg-raised" />
      <div className="absolute top-2 h-4 border-x border-quiet bg-line" style={{ left: share(OPEN), width: `calc(${share(CLOSE)} - ${share(OPEN)})` }} />
      {[4, 6, 8, 9.5, 12, 14, 16, 18].map((h) => (
        <span key={h} className="num absolute top-6 text-[12px] leading-3 text-quiet" style={{ left: share(h * 3_600_000) }}>
          {clock(h * 3_600_000, 'minutes')}
        </span>
      ))}
      {news
        ?.filter((n) => n.symbol === focus)
        .map((n) => (
          <span
            key={`${n.symbol}${n.at}`}
            title={`${clock(n.at, 'minutes')} ${n.symbol}: ${n.headline}`}
            className="absolute top-1 h-2 w-2 rotate-45 bg-text"
            style={{ left: share(n.at) }}
          />
        ))}
      {fills.map((f) => (
        <span
          key={f.id}
          title={`${clock(f.at)} ${f.side} ${f.qty} ${f.symbol}`}
          className={`absolute top-2 h-4 w-[2px] ${f.side === 'buy' ? 'bg-up' : 'bg-down'}`}
          style={{ left: share(f.at) }}
        />
      ))}
      {now !== null && <span className="absolute top-0.5 h-7 w-[3px] bg-text" style={{ left: share(now) }} />}
    </div>
  );
}

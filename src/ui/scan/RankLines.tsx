'use client';

import { Pin } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { CartesianGrid, Line, LineChart, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { HOUR, MINUTE, PRE_OPEN } from '@/core/units';
import type { SavedScan } from '@/store/settings';
import { STOPPED } from '@/worker/call/calls';
import type { RankPoint } from '@/worker/ranks/ranks';
import { ranksCalls } from '@/worker/ranks/ranks-calls';
import { ask, focusOn, useSession } from '../client';
import { clock } from '../format';

const SHOWN = 14;
const STEP = 5 * MINUTE;
/** Room of the plot above and below its lines, in pixels. */
const TOP = 8;
const BOTTOM = 34;

/** The leaders of a scan through the day, from a market run beside the session: the trader's own trades do not move it. */
function usePoints(
  scan: SavedScan,
  hidden: readonly string[],
): { points: RankPoint[]; until: number; at: number | null; trouble: string; cancel(): void; again(): void } {
  const mark = useSession((s) => (s.clock ? Math.floor(s.clock.now / STEP) * STEP : null));
  const attempt = useSession((s) => s.clock?.attempt);
  const [points, setPoints] = useState<RankPoint[]>([]);
  const [at, setAt] = useState<number | null>(null);
  const [trouble, setTrouble] = useState('');
  const [turn, setTurn] = useState(0);
  const [worker] = useState(ranksCalls);
  useEffect(() => () => worker.stop(), [worker]);
  // What is asked for as text: only another question, not another object, asks again.
  const question = JSON.stringify({ rule: scan.rule, ranking: scan.ranking, hidden, attempt, turn });
  useEffect(() => {
    if (mark === null) return;
    let current = true;
    const {
      rule,
      ranking,
      hidden: without,
    } = JSON.parse(question) as Pick<SavedScan, 'rule' | 'ranking'> & { hidden: string[] };
    // Somebody who types is let finish.
    const wait = setTimeout(async () => {
      const day = await ask({ kind: 'day start' });
      if (!day || !current) return;
      setTrouble('');
      try {
        const asked = { source: day.source, start: day.start, rule, ranking, hidden: without, until: mark };
        const got = await worker.ask({ kind: 'follow', asked }, (c) => current && setAt(c));
        if (current) setPoints(got);
      } catch (e) {
        if (current) setTrouble(e instanceof Error ? e.message : String(e));
      }
      if (current) setAt(null);
    }, 400);
    return () => {
      current = false;
      clearTimeout(wait);
    };
  }, [mark, question, worker]);
  return {
    points,
    until: mark ?? 0,
    at,
    trouble,
    cancel: () => worker.stop(),
    again: () => setTurn((t) => t + 1),
  };
}

/** Who climbs and who fades: one line a leader, by its place in the scan every five minutes. */
export default function RankLines({ scan, hidden }: { scan: SavedScan; hidden: readonly string[] }) {
  const { points, until, at, trouble, cancel, again } = usePoints(scan, hidden);
  const focus = useSession((s) => s.focus?.symbol);
  const dayStart = useSession((s) => s.clock?.dayStart ?? 0);
  const [pinned, setPinned] = useState<readonly string[]>([]);
  const [hover, setHover] = useState<string | null>(null);
  const newest = points[points.length - 1];
  const leaders = useMemo(
    () => [...new Set([...(newest?.leaders.slice(0, SHOWN) ?? []), ...pinned])],
    [newest, pinned],
  );
  const data = useMemo(
    () =>
      points
        .filter((p) => p.leaders.length > 0)
        .map((p) => {
          const row: Record<string, number | null> = { at: p.at - dayStart };
          for (const s of leaders) {
            const k = p.leaders.indexOf(s);
            row[s] = k < 0 || k >= SHOWN + 6 ? null : k + 1;
          }
          return row;
        }),
    [points, leaders, dayStart],
  );
  const placeOf = (p: RankPoint | undefined, s: string): number | null => {
    const k = p?.leaders.indexOf(s) ?? -1;
    return k < 0 ? null : k + 1;
  };
  const before = points[points.length - 4];
  const tone = (s: string) =>
    s === focus ? 'var(--focus)' : s === hover || pinned.includes(s) ? 'var(--text)' : 'var(--quiet)';
  const hours = Array.from({ length: 17 }, (_, k) => PRE_OPEN + k * HOUR).filter(
    (t) => data.length > 0 && t >= (data[0]?.at as number) && t <= until - dayStart,
  );
  return (
    <section className="panel flex min-h-0 flex-col" aria-label="Rank lines">
      <p className="flex items-center gap-3 px-3 py-1 text-[13px] text-quiet" role="status">
        {at !== null ? (
          <>
            The day is run again beside the session: {clock(at, 'minutes')} of {clock(until, 'minutes')}.
            <button type="button" className="underline" onClick={cancel}>
              Stop
            </button>
          </>
        ) : trouble ? (
          <>
            {trouble === STOPPED ? 'Stopped before the picture was whole.' : `⚠ ${trouble}`}
            <button type="button" className="underline" onClick={again}>
              Run it again
            </button>
          </>
        ) : (
          'Place in the scan every five minutes. Point to single out a line, press a name to focus, pin to keep it in sight.'
        )}
      </p>
      <div className="grid min-h-0 grow grid-cols-[minmax(0,1fr)_132px]">
        <div className="min-h-0" data-testid="rank-lines">
          {data.length > 0 ? (
            <ResponsiveContainer width="100%" height="100%">
              <LineChart
                data={data}
                margin={{ top: TOP, right: 4, bottom: 4, left: 0 }}
                accessibilityLayer={false}
              >
                <CartesianGrid stroke="var(--line)" strokeOpacity={0.4} vertical={false} />
                <XAxis
                  dataKey="at"
                  type="number"
                  domain={['dataMin', 'dataMax']}
                  ticks={hours}
                  tickFormatter={(t: number) => clock(t, 'minutes')}
                  stroke="var(--line)"
                  tick={{ fill: 'var(--quiet)', fontSize: 12 }}
                />
                <YAxis
                  reversed
                  domain={[1, SHOWN]}
                  allowDataOverflow
                  ticks={[1, 5, 10, SHOWN]}
                  width={30}
                  stroke="var(--line)"
                  tick={{ fill: 'var(--quiet)', fontSize: 12 }}
                />
                {[...leaders]
                  .sort((a, b) => Number(a === focus || a === hover) - Number(b === focus || b === hover))
                  .map((s) => (
                    <Line
                      key={s}
                      dataKey={s}
                      type="monotone"
                      dot={false}
                      activeDot={false}
                      isAnimationActive={false}
                      stroke={tone(s)}
                      strokeWidth={s === focus || s === hover ? 3 : 1.4}
                      strokeOpacity={s === focus || s === hover || pinned.includes(s) ? 1 : 0.55}
                      className="cursor-pointer"
                      onMouseEnter={() => setHover(s)}
                      onMouseLeave={() => setHover(null)}
                      onClick={() => void focusOn(s)}
                    />
                  ))}
              </LineChart>
            </ResponsiveContainer>
          ) : (
            at === null &&
            !trouble && <p className="p-4 text-quiet">Nobody has passed this scan yet today.</p>
          )}
        </div>
        <ol className="num relative min-h-0 overflow-hidden text-[13px]" aria-label="Leaders now">
          {leaders.map((s) => {
            const [place, was] = [placeOf(newest, s), placeOf(before, s)];
            const moved = place !== null && was !== null ? was - place : null;
            return (
              <li
                key={s}
                className="absolute right-0 left-0 flex items-center gap-1 leading-[18px] hover:bg-raised"
                // Beside the end of its line.
                style={{
                  top: `calc(${TOP - 9}px + (100% - ${TOP + BOTTOM}px) * ${(Math.min(place ?? SHOWN + 1, SHOWN + 1) - 1) / (SHOWN - 1)})`,
                }}
                onPointerEnter={() => setHover(s)}
                onPointerLeave={() => setHover(null)}
              >
                <span className="w-5 text-right text-quiet">{place ?? '–'}</span>
                <button
                  type="button"
                  className={`grow text-left font-bold ${s === focus ? 'text-focus' : ''}`}
                  onClick={() => void focusOn(s)}
                >
                  {s}
                </button>
                <span className="text-[12px] text-quiet" title="Places won or lost in the last 15 minutes">
                  {moved === null ? 'new' : moved > 0 ? `▲${moved}` : moved < 0 ? `▼${-moved}` : '·'}
                </span>
                <button
                  type="button"
                  aria-label={pinned.includes(s) ? `Unpin ${s}` : `Pin ${s}`}
                  aria-pressed={pinned.includes(s)}
                  className={`px-1 ${pinned.includes(s) ? 'text-text' : 'text-line hover:text-text'}`}
                  onClick={() => setPinned((p) => (p.includes(s) ? p.filter((x) => x !== s) : [...p, s]))}
                >
                  <Pin size={12} aria-hidden />
                </button>
              </li>
            );
          })}
        </ol>
      </div>
    </section>
  );
}

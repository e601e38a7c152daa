'use client';

import { type PointerEvent, useRef } from 'react';
import { movedExit, type PictureExit, type PlanPicture } from '@/core/plans';
import type { PlanSeen, PlanSide } from '@/worker/session/plan';
import { clock, px, signed, usd } from '../format';
import { exitLines } from './exit-lines';
import { PlanParts } from './PlanParts';

const HEIGHT = 330;
const WIDTH = 330;
const RULER = 76;
const PAD = 26;
/** Least distance between two labels. */
const APART = 30;
const CENT = 100;

/** A plan long and short, side by side: the entry in the middle, its exits as handles, what each step is worth. */
export function PlanPictureView({
  seen,
  text,
  change,
}: {
  seen: PlanSeen;
  text: string;
  change(text: string): void;
}) {
  return (
    <div className="grid min-w-0 grid-cols-2 content-start gap-x-4">
      <PlanParts text={text} change={change} />
      <Side name="Long" seen={seen} side={seen.long} text={text} change={change} />
      <Side name="Short" seen={seen} side={seen.short} text={text} change={change} />
    </div>
  );
}

function Side({
  name,
  seen,
  side,
  text,
  change,
}: {
  name: 'Long' | 'Short';
  seen: PlanSeen;
  side: PlanSide;
  text: string;
  change(text: string): void;
}) {
  const p = side.picture;
  return (
    <section aria-label={`The plan ${name.toLowerCase()}`} className="min-w-0">
      <h2 className={`font-semibold ${name === 'Long' ? 'text-up' : 'text-down'}`}>
        {name} <span className="num font-normal text-text">{p ? `${p.qty} at ${px(p.entry)}` : ''}</span>
      </h2>
      {side.problem !== null && <p className="mt-2 text-[13px]">⚠ {side.problem}</p>}
      {p && (
        <>
          <Drawing p={p} seen={seen} text={text} change={change} />
          <Figures p={p} />
          <Today side={side} />
        </>
      )}
    </section>
  );
}

const WORD = {
  stop: 'stop',
  target: 'target',
  breakeven: 'breakeven from',
  trail: 'trail from',
  reach: 'trail stands at',
} as const;
const COLOUR = {
  stop: 'var(--down)',
  target: 'var(--up)',
  breakeven: 'var(--text)',
  trail: 'var(--text)',
  reach: 'var(--down)',
} as const;

/** Places labels so that none lies on another. */
function apart(ys: readonly number[]): number[] {
  const order = ys.map((y, k) => ({ y, k })).sort((a, b) => a.y - b.y);
  const out: number[] = [];
  let last = -APART;
  for (const { y, k } of order) {
    last = Math.max(y, last + APART);
    out[k] = last;
  }
  const over = Math.max(0, last - (HEIGHT - 14));
  return over === 0 ? out : out.map((y) => y - over * (y / last));
}

function Drawing({
  p,
  seen,
  text,
  change,
}: {
  p: PlanPicture;
  seen: PlanSeen;
  text: string;
  change(text: string): void;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const up = p.side === 'buy' ? 1 : -1;
  const reach = Math.max(...p.exits.map((e) => Math.abs(e.gain)), p.perShare ?? 0, CENT);
  const y = (gain: number) => HEIGHT / 2 - (up * gain * (HEIGHT / 2 - PAD)) / reach;
  const labels = apart([...p.exits.map((e) => y(e.gain)), HEIGHT / 2]);
  const move = (e: PictureExit, gain: number) => {
    const at = { price: p.entry, atr: seen.atr, perShare: p.perShare };
    const to = exitLines(text, (exits) => movedExit(exits, e.line, gain - e.base, at, e.kind === 'reach'));
    if (to !== text) change(to);
  };
  const gainAt = (clientY: number) => {
    const box = svg.current?.getBoundingClientRect();
    return box ? ((HEIGHT / 2 - (clientY - box.top)) * reach * up) / (HEIGHT / 2 - PAD) : 0;
  };
  const drag = (ev: PointerEvent<SVGGElement>, e: PictureExit) => {
    if (ev.buttons === 0) return;
    ev.currentTarget.setPointerCapture(ev.pointerId);
    const gain = gainAt(ev.clientY);
    // An exit stays on its own side of where its distance runs from.
    if (Math.sign(gain - e.base) === Math.sign(e.gain - e.base)) move(e, gain);
  };
  return (
    <svg
      ref={svg}
      width="100%"
      height={HEIGHT}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      preserveAspectRatio="xMinYMid meet"
      role="group"
      aria-label={`Picture ${p.side === 'buy' ? 'long' : 'short'}`}
      className="touch-none select-none"
    >
      <rect
        x={0}
        width={RULER}
        y={Math.min(y(reach), HEIGHT / 2)}
        height={HEIGHT / 2 - PAD}
        fill="var(--up)"
        opacity={0.1}
      />
      <rect
        x={0}
        width={RULER}
        y={Math.min(y(-reach), HEIGHT / 2)}
        height={HEIGHT / 2 - PAD}
        fill="var(--down)"
        opacity={0.1}
      />
      <line x1={0} x2={RULER} y1={HEIGHT / 2} y2={HEIGHT / 2} stroke="var(--text)" strokeDasharray="1 3" />
      <text x={RULER + 18} y={(labels[p.exits.length] ?? 0) + 4} fill="var(--quiet)" fontSize={12}>
        entry <tspan fontFamily="var(--font-mono)">{px(p.entry)}</tspan> · costs both ways {usd(p.costs)}
      </text>
      {p.exits.map((e, k) => {
        const at = labels[k] ?? 0;
        const nth = p.exits.filter((x, i) => x.kind === e.kind && i <= k).length;
        const several = p.exits.filter((x) => x.kind === e.kind).length > 1;
        const name = `${WORD[e.kind]}${several ? ` ${nth}` : ''}`;
        const key = `${e.kind} ${e.line}`;
        const body = (
          <>
            <rect x={0} y={y(e.gain) - 8} width={RULER + 14} height={16} fill="transparent" />
            <line
              x1={0}
              x2={RULER}
              y1={y(e.gain)}
              y2={y(e.gain)}
              stroke={COLOUR[e.kind]}
              strokeWidth={e.movable ? 2.2 : 1.2}
              strokeDasharray={e.shares > 0 ? undefined : '5 3'}
            />
            {e.movable && (
              <circle
                cx={RULER - 8}
                cy={y(e.gain)}
                r={6}
                fill="var(--panel)"
                stroke={COLOUR[e.kind]}
                strokeWidth={2}
              />
            )}
            <line x1={RULER} x2={RULER + 14} y1={y(e.gain)} y2={at} stroke="var(--line)" />
            <text x={RULER + 18} y={at - 2} fill={COLOUR[e.kind]} fontSize={13} fontWeight={600}>
              {name} <tspan fontFamily="var(--font-mono)">{px(e.price)}</tspan>
              {e.shares > 0 && <tspan fontWeight={400}> · {e.shares} sh</tspan>}
            </text>
            <text x={RULER + 18} y={at + 12} fill="var(--quiet)" fontSize={12} fontFamily="var(--font-mono)">
              {e.r === null ? '' : `${signed(e.r, 2, 'R')} `}
              {cents(e.gain)}
              {e.shares > 0 && `  net ${usd(e.net, true)}`}
            </text>
          </>
        );
        if (!e.movable) return <g key={key}>{body}</g>;
        return (
          <g
            key={key}
            role="slider"
            tabIndex={0}
            aria-label={`${name}, ${p.side === 'buy' ? 'long' : 'short'}`}
            aria-valuenow={Math.round(e.gain / CENT)}
            aria-valuetext={`${px(e.price)}, ${cents(e.gain)}`}
            className="cursor-ns-resize"
            onPointerDown={(ev) => drag(ev, e)}
            onPointerMove={(ev) => drag(ev, e)}
            onKeyDown={(ev) => {
              const way = ev.key === 'ArrowUp' ? 1 : ev.key === 'ArrowDown' ? -1 : 0;
              if (way === 0) return;
              ev.preventDefault();
              move(e, e.gain + way * up * stepOf(e, p));
            }}
          >
            {body}
          </g>
        );
      })}
    </svg>
  );
}

const cents = (units: number): string => `${units < 0 ? '−' : '+'}${Math.abs(Math.round(units / 10) / 10)}c`;
/** A tenth of an R, or a cent. */
const stepOf = (e: PictureExit, p: PlanPicture): number =>
  e.kind !== 'stop' && p.perShare !== null ? p.perShare / 10 : CENT;

function Figures({ p }: { p: PlanPicture }) {
  return (
    <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3 text-[13px]">
      <dt className="text-quiet">worst case, after costs</dt>
      <dd className="num font-semibold">{p.worst === null ? 'no stop: all of it' : usd(p.worst, true)}</dd>
      <dt className="text-quiet">every target, after costs</dt>
      <dd className="num">{usd(p.best, true)}</dd>
      <dt className="text-quiet">reward to risk, by shares</dt>
      <dd className="num">{p.rewardToRisk === null ? '–' : p.rewardToRisk.toFixed(2)}</dd>
      {p.rules.map((r) => (
        <dd key={r} className="num col-span-2 text-quiet">
          {r}
        </dd>
      ))}
    </dl>
  );
}

/** What it would have done from the chosen minute on, as a line of R and in words. */
function Today({ side }: { side: PlanSide }) {
  const t = side.today;
  if (!t) return <p className="mt-2 text-[13px] text-quiet">Today: no bar yet at that time.</p>;
  const most = Math.max(1, ...t.curve.map((c) => Math.abs(c.r)));
  const w = 300;
  const x = (k: number) => (t.curve.length < 2 ? 0 : (k * w) / (t.curve.length - 1));
  const y = (r: number) => 22 - (r * 20) / most;
  const path = t.curve
    .map((c, k) => `${k === 0 ? 'M' : 'L'}${x(k).toFixed(1)} ${y(c.r).toFixed(1)}`)
    .join('');
  return (
    <div className="mt-2 text-[13px]" data-testid="plan-today">
      <p>
        Today from <span className="num">{clock(t.from, 'minutes')}</span> at{' '}
        <span className="num">{px(t.entry)}</span>:{' '}
        <b className={`num ${t.r >= 0 ? 'text-up' : 'text-down'}`}>{signed(t.r, 2, 'R')}</b> before costs
      </p>
      <svg width="100%" height={44} viewBox={`0 0 ${w} 44`} preserveAspectRatio="none" aria-hidden>
        <line x1={0} x2={w} y1={22} y2={22} stroke="var(--line)" />
        <path d={path} fill="none" stroke={t.r >= 0 ? 'var(--up)' : 'var(--down)'} strokeWidth={1.5} />
      </svg>
      <ul className="text-quiet">
        {t.steps.slice(0, 6).map((s, k) => (
          <li key={`${k} ${s.at}`} className="num">
            {clock(s.at, 'minutes')} {s.what} {px(s.price)}
            {s.shares > 0 ? ` · ${s.shares}` : ''}
          </li>
        ))}
      </ul>
    </div>
  );
}
